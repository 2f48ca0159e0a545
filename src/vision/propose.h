#pragma once

#include "core/detect/detect.h"

namespace kestrel::vision {

/// Key positions that a pack's detectors find on marks of which the network made most. Those marks tremble from picture to
/// picture: for this they are smoothed over 50 ms to either side, and the detectors' thresholds are wider. From the front or rear
/// only those that go by heights or by a first move (docs/accuracy.md).
std::vector<Detection> proposeKeyPositions(const Pack&, Marking, const FrameClock&);

} // namespace kestrel::vision
