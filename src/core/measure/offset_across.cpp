#include "core/measure/shared.h"

namespace kestrel {

extern const MeasureKind kOffsetAcross;
const MeasureKind kOffsetAcross{"offset_across",
                                "Where the first point is at the end of the span against where the second was at its start, "
                                "across the target line; positive toward the dominant side.",
                                Quantity::Length,
                                2,
                                When::Span,
                                false,
                                viewsAcross(),
                                gapSinceStart,
                                drawGapSinceStart};

} // namespace kestrel
