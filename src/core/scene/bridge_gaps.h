#pragma once

#include "core/base/time.h"
#include "core/scene/marking.h"

#include <vector>

namespace kestrel {

/// Fills gaps of up to 50 ms that a program left between its own marks: a joint that slipped, a bat that swings past the camera.
/// The way across is the cubic through the two marks on either side; what it bends away from the straight line counts as
/// uncertain by half. Where there are not two on either side, each at most as far off, the gap stays.
/// \param marks  of one landmark, frames rising. A ball's are left alone, since its way has corners.
void bridgeGaps(std::vector<Mark>& marks, const FrameClock&);

} // namespace kestrel
