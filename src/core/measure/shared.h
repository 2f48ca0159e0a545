#pragma once

#include "core/measure/kind.h"
#include "core/scene/curve.h"

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

/// A number of two operands' places over the span, on every frame where both are marked.
Curve curveAlong(const MeasureInput&, std::size_t a, std::size_t b, const std::function<double(BodyPoint, BodyPoint)>& number);
/// How fast an operand moves over the span, metres per second (see rateOf).
Curve speedAlong(const MeasureInput&, std::size_t operand);
/// How fast the line from operand a to operand b turns as this view shows it, degrees per second: the speed of b against a by
/// the longest length at which the line is seen. That is the true rate where the line turns in the picture plane, and
/// never more than it elsewhere; unlike the rate of its direction it stays smooth where the line points at the camera.
Curve turningAlong(const MeasureInput&, std::size_t a, std::size_t b);
/// Length of operand 0's way through the span, metres, along places that lie at least 12 ms apart: what noise adds grows with
/// every place that is joined. Empty: it is not marked at both ends.
std::optional<double> lengthOfWay(const MeasureInput&);
/// The way of operand 0 through the span, with a dot at its end.
void drawWay(const MeasureInput&, Figure&);
/// The frame position of a peak, for drawing.
FramePosition positionOf(const MeasureInput&, const Peak&);

/// How far the first operand lies inside the strip between the second and the third, measured along \p axis (any
/// length), metres; negative outside.
std::optional<double> insideStrip(BodyPoint p, BodyPoint a, BodyPoint b, BodyVector axis);

/// Where operand 0 lies in the strip between operands 1 and 2, as insideStrip. \param isLevel  the strip is measured along the
/// ground instead of along the way from one to the other
Outcome depthInStrip(const MeasureInput&, bool isLevel);

/// The line from operand a to operand b where it turns fastest; the figure moves there.
void drawFastestTurn(const MeasureInput&, std::size_t a, std::size_t b, Figure&);

/// Operand 0's way through the instant it is read at, as far as two pictures at 240 a second reach to either side.
struct Stretch {
    BodyPoint from, to;
    double seconds = 0; ///< it takes; positive
};
/// Empty: too few pictures are marked.
std::optional<Stretch> stretchAround(const MeasureInput&);
/// That way, and the level it started on.
void drawStretch(const MeasureInput&, Figure&);
/// Why there is no stretch.
NoReading noPath();

/// How steeply the first operand comes down into a ring: see entry_angle. Errors: no stretch; it never comes as high.
tl::expected<Angle, NoReading> entryIntoRing(const MeasureInput&);

/// A line counts as met within this distance, metres.
inline constexpr double kOnLine = 0.04;
/// First and last place of a ball, the given operand, on its way in during the span: before it turns back toward the target.
std::optional<std::pair<BodyPoint, BodyPoint>> incomingLine(const MeasureInput&, std::size_t ball);
double distanceToLine(BodyPoint, const std::pair<BodyPoint, BodyPoint>& line);
/// Why there is no such line.
NoReading noIncomingLine();

/// From two sides: how far the front of the line from operand \p trail to operand \p lead is turned toward the target, seen
/// from above: 0 side-on, 90 square to it, degrees.
/// \param atStart  of the span, instead of at its end
std::optional<double> facingFromTwo(const TwoViews&, std::size_t trail, std::size_t lead, bool atStart = false);

/// Why a rate has no value: too few marked frames in the span.
NoReading noRate();

} // namespace kestrel
