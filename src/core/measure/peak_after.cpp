#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto peak = peakOf(turningAlong(in, 0, 1));
    const auto start = in.repetition().clock().timeOf(in.from());
    if (!peak || !start)
        return tl::unexpected(noRate());
    return peak->seconds - start->seconds;
}

void figure(const MeasureInput& in, Figure& f)
{
    drawFastestTurn(in, 0, 1, f);
}

} // namespace

extern const MeasureKind kPeakAfter;
const MeasureKind kPeakAfter{
    "peak_after",
    "Real time from the start of the span to the fastest turn of the line through the two points, as this view shows it.",
    Quantity::Time,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
