#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return directionAlong(in, 1);
}

std::optional<double> fromTwo(const TwoViews& in)
{
    return facingFromTwo(in, 0, 1);
}

} // namespace

extern const MeasureKind kFacing;
const MeasureKind kFacing{
    "facing",
    "How far the front of the line from the trail to the lead point is turned toward the target, seen from above: "
    "0 side-on, 90 square to it, degrees.",
    Quantity::Angle,
    2,
    When::At,
    true,
    viewsAbove(),
    value,
    drawAgainstLevel,
    fromTwo};

} // namespace kestrel
