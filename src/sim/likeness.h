#pragma once

#include "sim/simulate.h"

namespace kestrel::sim {

/// The body that was marked: limbs and breadth as far as the marks are sure of them, else what is usual at that height and age.
/// A limb is as long as it is seen on the pictures that show it longest, since it is seen shorter when it points at the camera.
Person personOf(const Marking&);

/// The same action of the faultless athlete with the player's body and hand, as the camera of the player's film sees it: its
/// view, and where the ground was marked also its distance and height.
SimulateOptions optionsLike(const Marking& player, const std::string& skill, const std::string& school);

} // namespace kestrel::sim
