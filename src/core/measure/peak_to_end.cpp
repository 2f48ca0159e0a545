#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto peak = peakOf(turningAlong(in, 0, 1));
    const auto end = in.repetition().clock().timeOf(in.to());
    if (!peak || !end)
        return tl::unexpected(noRate());
    return end->seconds - peak->seconds;
}

void figure(const MeasureInput& in, Figure& f)
{
    drawFastestTurn(in, 0, 1, f);
}

} // namespace

extern const MeasureKind kPeakToEnd;
const MeasureKind kPeakToEnd{
    "peak_to_end",
    "Real time from the fastest turn of the line through the two points, as this view shows it, to the end of the span.",
    Quantity::Time,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
