#include "core/measure/shared.h"

namespace kestrel {

namespace {

constexpr double kRingWidth = 0.45, kBallWidth = 0.24; // metres, inside the ring; the largest ball

Outcome value(const MeasureInput& in)
{
    const auto entry = entryIntoRing(in);
    if (!entry)
        return tl::unexpected(entry.error());
    return kRingWidth * std::sin(entry->asRadians()) - kBallWidth;
}

void figure(const MeasureInput& in, Figure& f)
{
    drawStretch(in, f);
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
                             figure};

} // namespace kestrel
