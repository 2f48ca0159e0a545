#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto first = peakOf(turningAlong(in, 0, 1)), second = peakOf(turningAlong(in, 2, 3));
    if (!first || !second)
        return tl::unexpected(noRate());
    return second->seconds - first->seconds;
}

/// Both lines, each where it turns fastest.
void figure(const MeasureInput& in, Figure& f)
{
    for (const std::size_t line : {0U, 2U})
        drawFastestTurn(in, line, line + 1, f);
}

} // namespace

extern const MeasureKind kPeakGap;
const MeasureKind kPeakGap{
    "peak_gap",
    "Real time from the fastest turn of the line through points 1 and 2 to that of the line through points 3 "
    "and 4, as this view shows them; positive when the first line peaks first.",
    Quantity::Time,
    4,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
