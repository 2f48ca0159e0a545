#include "core/measure/shared.h"

namespace kestrel {

extern const MeasureKind kAdvance;
const MeasureKind kAdvance{
    "advance",
    "How far the first point is, at the end of the span, ahead of where the second was at its start; positive "
    "toward the target.",
    Quantity::Length,
    2,
    When::Span,
    false,
    viewsAlong(),
    gapSinceStart,
    drawGapSinceStart};

} // namespace kestrel
