#include "core/measure/shared.h"

#include <algorithm>
#include <limits>

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    std::optional<double> most;
    in.alongSpan(0, [&](FramePosition f, BodyPoint p) {
        if (const auto other = in.pointOn(1, f))
            most = std::max(most.value_or(other->x - p.x), other->x - p.x);
    });
    if (!most || !in.point(0) || !in.point(1))
        return tl::unexpected(in.missing());
    return *most;
}

void figure(const MeasureInput& whole, Figure& f)
{
    const auto extreme = instantOfMost(whole, [&](FramePosition at, BodyPoint p) {
        const auto other = whole.pointOn(1, at);
        return other ? other->x - p.x : std::numeric_limits<double>::lowest();
    });
    if (!extreme)
        return;
    const MeasureInput in = whole.until(*extreme);
    f.frame = *extreme;
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return;
    addGuide(f, in.toImage({b->x, std::min(a->y, b->y)}), in.toImage({b->x, std::max(a->y, b->y)}));
    addSegment(f, {in.image(0), in.toImage({b->x, a->y})});
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kFarthestBehind;
const MeasureKind kFarthestBehind{
    "farthest_behind",
    "The most by which the first point is behind the second during the span; positive away from the target.",
    Quantity::Length,
    2,
    When::Span,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
