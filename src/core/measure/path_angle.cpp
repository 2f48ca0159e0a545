#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto s = stretchAround(in);
    if (!s)
        return tl::unexpected(noPath());
    const BodyVector d = s->to - s->from;
    return Angle::radians(std::atan2(d.y, d.x)).asDegrees();
}

} // namespace

extern const MeasureKind kPathAngle;
const MeasureKind kPathAngle{
    "path_angle",
    "Direction in which the point travels, degrees above the target line: positive climbing (side views), 0 "
    "straight to the target. Needs marks on the frames around.",
    Quantity::Angle,
    1,
    When::At,
    true,
    viewsAlong(),
    value,
    drawStretch};

} // namespace kestrel
