#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto start = in.pointAtStart(0);
    if (!start || !in.point(0))
        return tl::unexpected(in.missing());
    double most = 0;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) { most = std::max(most, (p - *start).length()); });
    return most;
}

void figure(const MeasureInput& whole, Figure& f)
{
    const auto origin = whole.pointAtStart(0);
    const auto extreme = instantOfMost(whole, [&](FramePosition, BodyPoint p) { return origin ? (p - *origin).length() : 0; });
    if (!extreme)
        return;
    f.frame = *extreme;
    addSegment(f, {whole.imageAtStart(0), whole.until(*extreme).image(0)});
    addDot(f, whole.imageAtStart(0));
}

} // namespace

extern const MeasureKind kDrift;
const MeasureKind kDrift{
    "drift",
    "How far the point gets from where it was at the start of the span, at most, in any direction; never negative.",
    Quantity::Length,
    1,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
