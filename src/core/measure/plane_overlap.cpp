#include "core/measure/shared.h"

namespace kestrel {

namespace {

/// Calls with each stretch of the tip's way near the line.
void eachStretchOnLine(const MeasureInput& in, const std::pair<BodyPoint, BodyPoint>& line,
                       const std::function<void(BodyPoint, BodyPoint)>& visit)
{
    std::optional<BodyPoint> last;
    in.alongSpan(0, [&](FramePosition, BodyPoint tip) {
        const bool isOn = distanceToLine(tip, line) <= kOnLine;
        if (isOn && last)
            visit(*last, tip);
        last = isOn ? std::optional(tip) : std::nullopt;
    });
}

Outcome value(const MeasureInput& in)
{
    const auto line = incomingLine(in, 1);
    if (!line)
        return tl::unexpected(noIncomingLine());
    if (!in.point(0) || !in.pointAtStart(0))
        return tl::unexpected(in.missing());
    double length = 0;
    eachStretchOnLine(in, *line, [&](BodyPoint a, BodyPoint b) { length += (b - a).length(); });
    return length;
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto line = incomingLine(in, 1);
    if (!line)
        return;
    addGuide(f, in.toImage(line->first), in.toImage(line->second));
    eachStretchOnLine(in, *line, [&](BodyPoint a, BodyPoint b) { addSegment(f, {in.toImage(a), in.toImage(b)}); });
}

} // namespace

extern const MeasureKind kPlaneOverlap;
const MeasureKind kPlaneOverlap{
    "plane_overlap",
    "How far the first point (the implement's tip) travels within 4 cm of the line on which the ball, the "
    "second point, came in during the span; never negative.",
    Quantity::Length,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
