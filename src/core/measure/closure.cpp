#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return directionAlong(in, -1);
}

} // namespace

extern const MeasureKind kClosure;
const MeasureKind kClosure{
    "closure",
    "How far the line from the first to the second point is turned from the target line to the chest's side, seen "
    "from above: 0 points at the target, 90 across, degrees.",
    Quantity::Angle,
    2,
    When::At,
    true,
    viewsAbove(),
    value,
    drawAgainstLevel};

} // namespace kestrel
