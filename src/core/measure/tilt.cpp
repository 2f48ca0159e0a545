#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b || *a == *b)
        return tl::unexpected(in.missing());
    BodyVector d = *b - *a;
    if (d.x < 0)
        d = d * -1;
    return Angle::radians(std::atan2(d.y, d.x)).asDegrees();
}

} // namespace

extern const MeasureKind kTilt;
const MeasureKind kTilt{
    "tilt",
    "Tilt of the line through two points from level, -90 to 90 degrees; positive when its end nearer the target is higher.",
    Quantity::Angle,
    2,
    When::At,
    false,
    viewsAny(),
    value,
    drawAgainstLevel};

} // namespace kestrel
