#include "core/measure/shared.h"

#include <algorithm>

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto velocity = [&](std::size_t operand, double BodyPoint::*axis) {
        // both operands have to be marked, so that the two velocities stand on the same frames
        return rateOf(curveAlong(in, 1 - operand, operand, [axis](BodyPoint, BodyPoint p) { return p.*axis; }));
    };
    const Curve endX = velocity(1, &BodyPoint::x), endY = velocity(1, &BodyPoint::y);
    const Curve pivotX = velocity(0, &BodyPoint::x), pivotY = velocity(0, &BodyPoint::y);
    const auto speed = lengthOf(endX, endY).values;
    if (speed.empty() || pivotX.seconds != endX.seconds)
        return tl::unexpected(noRate());
    const auto fastest = static_cast<std::size_t>(std::max_element(speed.begin(), speed.end()) - speed.begin());
    if (speed[fastest] <= 0)
        return tl::unexpected(noRate());
    const BodyVector end{endX.values[fastest], endY.values[fastest]};
    const BodyVector turning = end - BodyVector{pivotX.values[fastest], pivotY.values[fastest]};
    return dot(turning, end) / dot(end, end);
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kSpeedShare;
const MeasureKind kSpeedShare{
    "speed_share",
    "How much of the second point's speed, where it is fastest during the span, comes from turning about the first: 1 all of "
    "it, 0 none, when both move alike.",
    Quantity::Ratio,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
