#include "core/measure/shared.h"

namespace kestrel {

namespace {

/// The instant at which operand 0 is lowest against operand 1.
std::optional<FramePosition> lowestInstant(const MeasureInput& in)
{
    std::optional<FramePosition> lowest;
    double least = 0;
    in.alongSpan(0, [&](FramePosition at, BodyPoint p) {
        const auto other = in.pointOn(1, at);
        if (other && (!lowest || p.y - other->y < least)) {
            lowest = at;
            least = p.y - other->y;
        }
    });
    return lowest;
}

Outcome value(const MeasureInput& in)
{
    if (!in.point(0) || !in.point(1) || !in.pointAtStart(0) || !in.pointAtStart(1))
        return tl::unexpected(in.missing());
    const auto lowest = lowestInstant(in);
    const auto a = lowest ? in.pointOn(0, *lowest) : std::nullopt, b = lowest ? in.pointOn(1, *lowest) : std::nullopt;
    if (!a || !b)
        return tl::unexpected(in.missing());
    return a->y - b->y;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto lowest = lowestInstant(in);
    const auto a = lowest ? in.pointOn(0, *lowest) : std::nullopt, b = lowest ? in.pointOn(1, *lowest) : std::nullopt;
    if (!a || !b)
        return;
    f.frame = *lowest;
    addGuide(f, in.toImage(*b), in.toImage({a->x, b->y}));
    addSegment(f, {in.toImage({a->x, b->y}), in.toImage(*a)});
    addDot(f, in.toImage(*a));
}

} // namespace

extern const MeasureKind kLeastUp;
const MeasureKind kLeastUp{"least_up",
                           "The least height of the first point above the second during the span; negative: it was below.",
                           Quantity::Length,
                           2,
                           When::Span,
                           false,
                           viewsAny(),
                           value,
                           figure};

} // namespace kestrel
