#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto trail = in.point(0), lead = in.point(1);
    if (!trail || !lead || *trail == *lead)
        return tl::unexpected(in.missing());
    const BodyVector d = *lead - *trail;
    return Angle::radians(std::atan2(d.y, d.x)).asDegrees();
}

} // namespace

extern const MeasureKind kFacing;
const MeasureKind kFacing{
    "facing",
    "How far the front of the line from the trail to the lead point is turned toward the target, seen from above: "
    "0 side-on, 90 square to it, degrees.",
    Quantity::Angle,
    2,
    When::At,
    true,
    viewsAbove(),
    value,
    drawAgainstLevel};

} // namespace kestrel
