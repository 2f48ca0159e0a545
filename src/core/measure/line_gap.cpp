#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto line = incomingLine(in, 1);
    if (!line)
        return tl::unexpected(noIncomingLine());
    const auto s = stretchAround(in);
    if (!s)
        return tl::unexpected(noPath());
    const BodyVector way = s->to - s->from, came = line->second - line->first;
    return Angle::radians(std::atan2(std::abs(cross(way, came)), std::abs(dot(way, came)))).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    if (const auto line = incomingLine(in, 1))
        addGuide(f, in.toImage(line->first), in.toImage(line->second));
    drawStretch(in, f);
}

} // namespace

extern const MeasureKind kLineGap;
const MeasureKind kLineGap{
    "line_gap",
    "Angle between the way of the first point (the implement's tip) at the end of the span and the line on which the ball, the "
    "second point, came in during it, 0 to 90 degrees; 0 along the same line.",
    Quantity::Angle,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
