#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto p = in.point(0), from = in.point(1), to = in.point(2);
    if (!p || !from || !to || from->x == to->x)
        return tl::unexpected(in.missing());
    return (p->x - from->x) / (to->x - from->x);
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto p = in.point(0), from = in.point(1), to = in.point(2);
    if (!p || !from || !to)
        return;
    addSegment(f, {in.image(1), in.image(2)});
    addGuide(f, *in.image(0), in.toImage({p->x, std::min(from->y, to->y)}));
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kShareAlong;
const MeasureKind kShareAlong{
    "share_along",
    "Where the first point stands between the second (0) and the third (1) along the target line; outside them "
    "below 0 or above 1.",
    Quantity::Ratio,
    3,
    When::At,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
