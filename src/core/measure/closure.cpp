#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    return directionAlong(in, -1);
}

/// Of a point on the lead side, whose chest is turned the other way than where the line faces.
std::optional<double> fromTwo(const TwoViews& in)
{
    const auto facing = facingFromTwo(in, 0, 1);
    return facing ? std::optional(-*facing) : std::nullopt;
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
    drawAgainstLevel,
    fromTwo};

} // namespace kestrel
