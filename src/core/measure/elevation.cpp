#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b || *a == *b)
        return tl::unexpected(in.missing());
    const BodyVector d = *b - *a;
    return Angle::radians(std::atan2(d.y, std::abs(d.x))).asDegrees();
}

} // namespace

extern const MeasureKind kElevation;
const MeasureKind kElevation{
    "elevation",
    "Angle of the segment from the first to the second point above level, -90 (straight down) to 90 (straight up) degrees.",
    Quantity::Angle,
    2,
    When::At,
    false,
    viewsAny(),
    value,
    drawAgainstLevel};

} // namespace kestrel
