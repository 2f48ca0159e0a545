#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return entryIntoRing(in).map([](Angle entry) { return entry.asDegrees(); });
}

} // namespace

extern const MeasureKind kEntryAngle;
const MeasureKind kEntryAngle{
    "entry_angle",
    "How steeply the first point, flying on as thrown things do without air, comes down through the height of a ring 3.05 m "
    "above where the second point was at the start of the span: 90 straight down, degrees. Needs marks on the frames around.",
    Quantity::Angle,
    2,
    When::Span,
    false,
    viewsAlong(),
    value,
    drawStretch};

} // namespace kestrel
