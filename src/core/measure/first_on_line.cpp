#include "core/measure/shared.h"

namespace kestrel {

namespace {

/// The instant at which the tip first comes near the ball's line.
std::optional<FramePosition> firstInstant(const MeasureInput& in, const std::pair<BodyPoint, BodyPoint>& line)
{
    std::optional<FramePosition> first;
    in.alongSpan(0, [&](FramePosition at, BodyPoint tip) {
        if (!first && distanceToLine(tip, line) <= kOnLine)
            first = at;
    });
    return first;
}

Outcome value(const MeasureInput& in)
{
    const auto line = incomingLine(in, 1);
    if (!line)
        return tl::unexpected(noIncomingLine());
    if (!in.point(0) || !in.pointAtStart(0))
        return tl::unexpected(in.missing());
    const auto first = firstInstant(in, *line);
    if (!first)
        return tl::unexpected(NoReading{Verdict::NotMarked, "The implement never comes onto the ball's line here."});
    const auto tip = in.pointOn(0, *first), other = in.pointOn(2, *first);
    if (!tip || !other)
        return tl::unexpected(in.missing());
    return tip->x - other->x;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto line = incomingLine(in, 1);
    const auto first = line ? firstInstant(in, *line) : std::nullopt;
    const auto tip = first ? in.pointOn(0, *first) : std::nullopt, other = first ? in.pointOn(2, *first) : std::nullopt;
    if (!tip || !other)
        return;
    f.frame = *first;
    addGuide(f, in.toImage(line->first), in.toImage(line->second));
    addSegment(f, {in.toImage(*tip), in.toImage({other->x, tip->y})});
    addDot(f, in.toImage(*tip));
}

} // namespace

extern const MeasureKind kFirstOnLine;
const MeasureKind kFirstOnLine{
    "first_on_line",
    "Where the first point (the implement's tip) first comes within 4 cm of the line on which the ball, the second point, came "
    "in during the span: how far ahead of the third point, positive toward the target.",
    Quantity::Length,
    3,
    When::Span,
    false,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
