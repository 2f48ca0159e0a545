#include "core/measure/shared.h"

#include <algorithm>

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto start = in.pointAtStart(0);
    if (!start || !in.point(0))
        return tl::unexpected(in.missing());
    double most = 0;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) { most = std::max(most, std::abs(p.x - start->x)); });
    return most;
}

void figure(const MeasureInput& whole, Figure& f)
{
    const auto origin = whole.pointAtStart(0);
    const auto extreme = instantOfMost(whole, [&](FramePosition, BodyPoint p) { return origin ? std::abs(p.x - origin->x) : 0; });
    if (!extreme)
        return;
    const MeasureInput in = whole.until(*extreme);
    f.frame = *extreme;
    const auto start = in.pointAtStart(0), now = in.point(0);
    if (!start || !now)
        return;
    const double reach = 0.5 * in.heightMetres().value_or(kUsualHeight);
    addGuide(f, in.toImage({start->x, now->y - reach}), in.toImage({start->x, now->y + reach}));
    addSegment(f, {in.toImage({start->x, now->y}), in.image(0)});
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kDriftAcross;
const MeasureKind kDriftAcross{"drift_across",
                               "How far the point leaves where it was at the start of the span across the target line, to either "
                               "side, at most; never negative.",
                               Quantity::Length,
                               1,
                               When::Span,
                               false,
                               viewsAcross(),
                               value,
                               figure};

} // namespace kestrel
