#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto peak = peakOf(turningAlong(in, 0, 1));
    if (!peak)
        return tl::unexpected(noRate());
    return peak->value;
}

void figure(const MeasureInput& in, Figure& f)
{
    drawFastestTurn(in, 0, 1, f);
}

} // namespace

extern const MeasureKind kPeakRate;
const MeasureKind kPeakRate{
    "peak_rate",
    "Largest turning rate over the span of the line from the first to the second point as this view shows it: "
    "the speed of its far end against the near one by the longest length seen.",
    Quantity::Rate,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
