#pragma once

#include "sim/mesh.h"
#include "sim/skill.h"

namespace kestrel::sim {

/// What stands still around the athlete.
struct Surroundings {
    Mesh mesh;
    std::function<Colour(const Vec3&)> beyond; ///< what is seen along a line of sight that meets nothing
};

/// The made-up place with lines, nets and goals of true size. \param eye  walls between it and the action are left out
/// \param mirrored  for an athlete whose lead foot is the right one
Surroundings surroundingsOf(Setting, bool mirrored, const Vec3& eye);

} // namespace kestrel::sim
