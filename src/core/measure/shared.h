#pragma once

#include "core/measure/kind.h"

namespace kestrel {

/// Interior angle of three operands, degrees.
Outcome jointAngle(const MeasureInput&);
/// The joint's two arms and the arc between them.
void drawJoint(const MeasureInput&, Figure&);
/// The segment of operands 0 and 1, the level through its first point and the arc between.
void drawAgainstLevel(const MeasureInput&, Figure&);

/// Direction of the line from operand 0 to operand 1 against the target line, turned by \p sign, degrees.
Outcome directionAlong(const MeasureInput&, double sign);

/// The largest sign * (height now - height at the start) over the span, metres, at least 0.
Outcome largestClimb(const MeasureInput&, double sign);
/// The level operand 0 started from and the one it reached, on the frame where sign * climb is largest.
void drawLevels(const MeasureInput&, Figure&, double sign);

/// How far operand 0 is, at the end of the span, along x from where operand 1 was at its start, metres.
Outcome gapSinceStart(const MeasureInput&);
/// A plumb line where operand 1 was and the gap to operand 0.
void drawGapSinceStart(const MeasureInput&, Figure&);

/// The instant of the span at which a number of operand 0's place is largest. Empty: it is marked nowhere.
std::optional<FramePosition> instantOfMost(const MeasureInput&, const std::function<double(FramePosition, BodyPoint)>& number);

} // namespace kestrel
