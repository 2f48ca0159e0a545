#include "core/measure/kind.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.pointAtStart(1);
    if (!a || !b)
        return tl::unexpected(in.missing());
    return a->y - b->y;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.pointAtStart(1);
    if (!a || !b)
        return;
    addGuide(f, in.toImage({a->x, b->y}), in.toImage(*b));
    addSegment(f, {in.image(0), in.toImage({a->x, b->y})});
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kHeightAbove;
const MeasureKind kHeightAbove{"height_above",
                               "How far the first point is, at the end of the span, above where the second was at its start, as "
                               "a ball above the ground on which a foot stood.",
                               Quantity::Length,
                               2,
                               When::Span,
                               false,
                               viewsAny(),
                               value,
                               figure};

} // namespace kestrel
