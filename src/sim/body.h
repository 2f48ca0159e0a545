#pragma once

#include "sim/skeleton.h"

#include <vector>

namespace kestrel::sim {

/// What a stretch of body is covered with.
enum class Covering { Skin, Shirt, Trousers, Sock, Shoe, Glove };

/// A limb segment: two balls of different size and everything between them, metres.
struct Capsule {
    Vec3 a, b;
    double radiusA = 0, radiusB = 0;
    Covering covering = Covering::Skin;
    std::vector<Landmark> landmarks; ///< those that lie in it, so that it does not hide them
    bool isTrunk = false;            ///< painted as one with the other parts of the trunk
};

/// The flesh on the bones: limbs, trunk and neck as capsules (the head is drawn apart). The trunk's come as two sides,
/// left and right, from shoulder to hip.
/// \param throwing  the side of the ball; the other hand wears the glove
std::vector<Capsule> fleshOut(const Skeleton&, double heightMetres, Hand throwing);

} // namespace kestrel::sim
