#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return largestClimb(in, 1);
}

void figure(const MeasureInput& in, Figure& f)
{
    drawLevels(in, f, 1);
}

} // namespace

extern const MeasureKind kRise;
const MeasureKind kRise{"rise",
                        "How far the point climbs above where it was at the start of the span, at most; never negative.",
                        Quantity::Length,
                        1,
                        When::Span,
                        false,
                        viewsAny(),
                        value,
                        figure};

} // namespace kestrel
