#include "core/measure/shared.h"

namespace kestrel {

namespace {

constexpr double kRingWidth = 0.45, kBallWidth = 0.24; // metres, inside the ring; the largest ball

Outcome value(const MeasureInput& in)
{
    return entryIntoRing(in).map([](Angle entry) { return kRingWidth * std::sin(entry.asRadians()) - kBallWidth; });
}

} // namespace

extern const MeasureKind kArcMargin;
const MeasureKind kArcMargin{"arc_margin",
                             "How much wider than the ball a ring of 0.45 m looks along the ball's way into it (entry_angle): "
                             "0.45 m times the sine of that "
                             "angle, less 0.24 m; negative when the ball cannot pass without touching.",
                             Quantity::Length,
                             2,
                             When::Span,
                             false,
                             viewsAlong(),
                             value,
                             drawStretch};

} // namespace kestrel
