#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto from = in.pointAtStart(0), to = in.point(0);
    if (!from || !to || *from == *to)
        return tl::unexpected(in.missing());
    return Angle::radians(std::atan2(to->y - from->y, std::abs(to->x - from->x))).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto from = in.pointAtStart(0), to = in.point(0);
    if (!from || !to)
        return;
    addGuide(f, in.toImage(*from), in.toImage({to->x, from->y}));
    addSegment(f, {in.toImage(*from), in.toImage(*to)});
    addDot(f, in.toImage(*to));
}

} // namespace

extern const MeasureKind kWayElevation;
const MeasureKind kWayElevation{
    "way_elevation",
    "How steeply the straight way from the point's place at the start of the span to that at its end climbs, to whichever "
    "side: 90 straight up, 0 level, -90 straight down, degrees.",
    Quantity::Angle,
    1,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
