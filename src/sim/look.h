#pragma once

#include "sim/mesh.h"
#include "sim/skill.h"

namespace kestrel::sim {

/// How one made-up athlete looks.
struct Look {
    Colour skin, hair, shirt, stripe, trousers, socks, cap, shoes;
    bool hasCap = false, hasShorts = false, hasSkirt = false, hasLongHair = false;
};

/// One of many, the same for the same number, dressed for the place.
Look lookOf(std::uint32_t number, Setting, Sex);

} // namespace kestrel::sim
