#include "core/measure/kind.h"

#include <algorithm>

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return tl::unexpected(in.missing());
    return a->x - b->x;
}

/// Two plumb lines, one through each point, and the gap between them.
void figure(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return;
    const double low = std::min(a->y, b->y), high = std::max(a->y, b->y);
    addGuide(f, in.toImage({a->x, low}), in.toImage({a->x, high}));
    addGuide(f, in.toImage({b->x, low}), in.toImage({b->x, high}));
    addSegment(f, {in.toImage({a->x, low}), in.toImage({b->x, low})});
    addDot(f, in.image(0));
    addDot(f, in.image(1));
}

} // namespace

extern const MeasureKind kOffsetAlong;
const MeasureKind kOffsetAlong{
    "offset_along",
    "How far the first point is ahead of the second along the target line; positive toward the target.",
    Quantity::Length,
    2,
    When::At,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
