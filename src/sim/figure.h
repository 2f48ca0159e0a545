#pragma once

#include "sim/ball.h"
#include "sim/look.h"

#include <vector>

namespace kestrel::sim {

/// A limb as two balls of different size and everything between them, metres: what can hide a landmark.
struct Capsule {
    Vec3 a, b;
    double radiusA = 0, radiusB = 0;
    std::vector<Landmark> landmarks; ///< those that lie in it, so that it does not hide them
};

/// The flesh on the bones, the head included.
std::vector<Capsule> fleshOut(const Skeleton&, const Build&);

/// The dressed athlete with what is held, to be painted.
Mesh figureOf(const Skeleton&, const Build&, const Look&, bool hasGlove, bool holdsBall);

/// \param turned  rotation vector, radians: the seams show how it spins
Mesh ballMesh(BallKind, const Vec3& centre, const Vec3& turned);

} // namespace kestrel::sim
