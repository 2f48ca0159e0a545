#include "core/measure/shared.h"

namespace kestrel {

namespace {

constexpr double kAround = 0.014; // seconds before and after: two pictures at 240 a second on each side

/// Where the point is shortly before and after, as far as pictures reach; the same place twice when there are too few.
std::optional<std::pair<BodyPoint, BodyPoint>> stretch(const MeasureInput& in)
{
    const auto& clock = in.repetition().clock();
    const auto now = clock.timeOf(in.at());
    if (!now)
        return std::nullopt;
    const double frames = std::max(1.0, clock.meanInterval() > 0 ? kAround / clock.meanInterval() : 1.0);
    const auto a = in.pointOn(0, FramePosition(in.at().value - frames)), b = in.pointOn(0, FramePosition(in.at().value + frames));
    if (!a || !b)
        return std::nullopt;
    return std::pair{*a, *b};
}

Outcome value(const MeasureInput& in)
{
    const auto s = stretch(in);
    if (!s)
        return tl::unexpected(
            NoReading{Verdict::NotMarked, "Mark the point on the frames before and after as well to read its path."});
    const BodyVector d = s->second - s->first;
    return Angle::radians(std::atan2(d.y, d.x)).asDegrees();
}

void figure(const MeasureInput& in, Figure& f)
{
    const auto s = stretch(in);
    if (!s)
        return;
    addSegment(f, {in.toImage(s->first), in.toImage(s->second)});
    addGuide(f, in.toImage(s->first), in.toImage({s->second.x, s->first.y}));
}

} // namespace

extern const MeasureKind kPathAngle;
const MeasureKind kPathAngle{
    "path_angle",
    "Direction in which the point travels, degrees above the target line: positive climbing (side views), 0 "
    "straight to the target. Needs marks on the frames around.",
    Quantity::Angle,
    1,
    When::At,
    true,
    viewsAlong(),
    value,
    figure};

} // namespace kestrel
