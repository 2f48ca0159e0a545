#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto line = in.point(1);
    if (!line || !in.point(0) || !in.pointAtStart(0))
        return tl::unexpected(in.missing());
    const auto at = instantOfMost(in, [](FramePosition, BodyPoint p) { return p.x; });
    return in.pointOn(0, *at).value_or(*in.point(0)).x - line->x;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto line = in.point(1);
    const auto at = instantOfMost(in, [](FramePosition, BodyPoint p) { return p.x; });
    const auto p = at ? in.pointOn(0, *at) : std::nullopt;
    if (!line || !p)
        return;
    f.frame = *at;
    addGuide(f, in.toImage({line->x, p->y - 0.1}), in.toImage({line->x, p->y + 0.2}));
    addSegment(f, {in.toImage({line->x, p->y}), in.toImage(*p)});
    addDot(f, in.toImage(*p));
}

} // namespace

extern const MeasureKind kCrossing;
const MeasureKind kCrossing{
    "crossing",
    "How far the first point was beyond the upright through the second, toward the target, at the most during "
    "the span; negative: it stayed behind it throughout.",
    Quantity::Length,
    2,
    When::Span,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
