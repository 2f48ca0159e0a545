#include "core/measure/shared.h"

#include <algorithm>

namespace kestrel {

Outcome jointAngle(const MeasureInput& in)
{
    const auto a = in.point(0), vertex = in.point(1), b = in.point(2);
    const auto angle = a && vertex && b ? angleAt(*a, *vertex, *b) : std::nullopt;
    if (!angle)
        return tl::unexpected(in.missing());
    return angle->asDegrees();
}

void drawJoint(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1), in.image(2)});
    addArc(f, in.image(0), in.image(1), in.image(2));
}

void drawAgainstLevel(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b)
        return;
    addSegment(f, {in.image(0), in.image(1)});
    const ImagePoint level = in.toImage({b->x, a->y});
    addGuide(f, *in.image(0), level);
    addArc(f, level, in.image(0), in.image(1));
}

Outcome directionAlong(const MeasureInput& in, double sign)
{
    const auto a = in.point(0), b = in.point(1);
    if (!a || !b || *a == *b)
        return tl::unexpected(in.missing());
    const BodyVector d = *b - *a;
    return Angle::radians(std::atan2(sign * d.y, d.x)).asDegrees();
}

Outcome largestClimb(const MeasureInput& in, double sign)
{
    const auto start = in.pointAtStart(0);
    if (!start || !in.point(0))
        return tl::unexpected(in.missing());
    double most = 0;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) { most = std::max(most, sign * (p.y - start->y)); });
    return most;
}

void drawLevels(const MeasureInput& whole, Figure& f, double sign)
{
    const auto extreme = instantOfMost(whole, [sign](FramePosition, BodyPoint p) { return sign * p.y; });
    if (!extreme)
        return;
    const MeasureInput in = whole.until(*extreme);
    const auto start = in.pointAtStart(0), now = in.point(0);
    if (!start || !now)
        return;
    f.frame = *extreme;
    const double reach = 0.25 * in.heightMetres().value_or(1.6);
    const double left = std::min(start->x, now->x) - reach, right = std::max(start->x, now->x) + reach;
    addGuide(f, in.toImage({left, start->y}), in.toImage({right, start->y}));
    addGuide(f, in.toImage({left, now->y}), in.toImage({right, now->y}));
    addSegment(f, {in.toImage({now->x, start->y}), in.image(0)});
    addDot(f, in.image(0));
}

Outcome gapSinceStart(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.pointAtStart(1);
    if (!a || !b)
        return tl::unexpected(in.missing());
    return a->x - b->x;
}

void drawGapSinceStart(const MeasureInput& in, Figure& f)
{
    const auto a = in.point(0), b = in.pointAtStart(1);
    if (!a || !b)
        return;
    addGuide(f, in.toImage(*b), in.toImage({b->x, a->y}));
    addSegment(f, {in.toImage({b->x, a->y}), in.image(0)});
    addDot(f, in.image(0));
}

std::optional<FramePosition> instantOfMost(const MeasureInput& in, const std::function<double(FramePosition, BodyPoint)>& number)
{
    std::optional<FramePosition> best;
    double most = 0;
    in.alongSpan(0, [&](FramePosition f, BodyPoint p) {
        if (const double n = number(f, p); !best || n > most) {
            best = f;
            most = n;
        }
    });
    return best;
}

} // namespace kestrel
