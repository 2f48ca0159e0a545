#include "core/measure/shared.h"

namespace kestrel {

namespace {

Outcome value(const MeasureInput& in)
{
    const auto s = stretchAround(in);
    if (!s)
        return tl::unexpected(noPath());
    return (s->to.x - s->from.x) / s->seconds;
}

} // namespace

extern const MeasureKind kVelocityAlong;
const MeasureKind kVelocityAlong{
    "velocity_along",
    "How fast the point moves toward the target, metres per second; negative away from it. Needs marks on the frames around.",
    Quantity::Speed,
    1,
    When::At,
    false,
    viewsAlong(),
    value,
    drawStretch};

} // namespace kestrel
