#include "core/measure/shared.h"

namespace kestrel {

namespace {

constexpr double kLevel = 10; // degrees

/// Calls with each stretch of the way on which the line is level.
void eachLevelStretch(const MeasureInput& in, const std::function<void(BodyPoint, BodyPoint)>& visit)
{
    std::optional<BodyPoint> last;
    in.alongSpan(1, [&](FramePosition at, BodyPoint tip) {
        const auto butt = in.pointOn(0, at);
        const bool isLevel =
            butt && std::abs(Angle::radians(std::atan2(tip.y - butt->y, std::abs(tip.x - butt->x))).asDegrees()) <= kLevel;
        if (isLevel && last)
            visit(*last, tip);
        last = isLevel ? std::optional(tip) : std::nullopt;
    });
}

Outcome value(const MeasureInput& in)
{
    if (!in.point(0) || !in.point(1) || !in.pointAtStart(0) || !in.pointAtStart(1))
        return tl::unexpected(in.missing());
    double length = 0;
    eachLevelStretch(in, [&](BodyPoint a, BodyPoint b) { length += (b - a).length(); });
    return length;
}

void figure(const MeasureInput& in, Figure& f)
{
    eachLevelStretch(in, [&](BodyPoint a, BodyPoint b) { addSegment(f, {in.toImage(a), in.toImage(b)}); });
}

} // namespace

extern const MeasureKind kDwell;
const MeasureKind kDwell{
    "dwell",
    "How far the second point travels while the line from the first to it stays within 10 degrees of level; never "
    "negative.",
    Quantity::Length,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
