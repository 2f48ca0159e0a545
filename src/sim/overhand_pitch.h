#pragma once

#include "sim/skill.h"

namespace kestrel::sim {

/// A pitcher throwing overhand, "windup" or "stretch", "tall" or "low-drive".
/// Faults: head_drop, late_hands, open_landing, stiff_front_leg, glove_flies_out, short_stride.
Motion overhandPitch(const MotionOptions&);

} // namespace kestrel::sim
