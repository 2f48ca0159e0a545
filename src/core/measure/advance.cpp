#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.pointAtStart(1);
    if (!a || !b)
        return tl::unexpected(in.missing());
    return a->x - b->x;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.pointAtStart(1);
    if (!a || !b)
        return;
    addGuide(f, in.toImage(*b), in.toImage({b->x, a->y}));
    addSegment(f, {in.toImage({b->x, a->y}), in.image(0)});
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kAdvance;
const MeasureKind kAdvance{
    "advance",
    "How far the first point is, at the end of the span, ahead of where the second was at its start; positive "
    "toward the target.",
    Quantity::Length,
    2,
    When::Span,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
