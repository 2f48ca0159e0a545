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
    const double reach = 0.25 * in.heightMetres().value_or(kUsualHeight);
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

Curve curveAlong(const MeasureInput& in, std::size_t a, std::size_t b, const std::function<double(BodyPoint, BodyPoint)>& number)
{
    Curve c;
    in.eachMarked(b, [&](FramePosition at, BodyPoint second) {
        const auto first = a == b ? std::optional(second) : in.pointOn(a, at);
        const auto time = in.repetition().clock().timeOf(at);
        if (first && time && (c.isEmpty() || time->seconds > c.seconds.back()))
            c.add(time->seconds, number(*first, second));
    });
    return c;
}

namespace {

/// Both coordinates of operand b against operand a, or of b alone where they are the same, evaluated once a frame.
std::pair<Curve, Curve> coordinatesAlong(const MeasureInput& in, std::size_t a, std::size_t b)
{
    Curve y;
    Curve x = curveAlong(in, a, b, [&](BodyPoint p, BodyPoint q) {
        y.values.push_back(a == b ? q.y : q.y - p.y);
        return a == b ? q.x : q.x - p.x;
    });
    y.seconds = x.seconds;
    return {std::move(x), std::move(y)};
}

} // namespace

Curve speedAlong(const MeasureInput& in, std::size_t operand)
{
    const auto [x, y] = coordinatesAlong(in, operand, operand);
    return lengthOf(rateOf(x), rateOf(y));
}

Curve turningAlong(const MeasureInput& in, std::size_t a, std::size_t b)
{
    const auto [x, y] = coordinatesAlong(in, a, b);
    const Curve seen = lengthOf(x, y);
    const double longest = seen.isEmpty() ? 0 : *std::max_element(seen.values.begin(), seen.values.end());
    if (longest <= 0)
        return {};
    Curve turning = lengthOf(rateOf(x), rateOf(y));
    for (double& v : turning.values)
        v = Angle::radians(v / longest).asDegrees();
    return turning;
}

std::optional<double> lengthOfWay(const MeasureInput& in)
{
    constexpr double kStep = 0.012; // seconds
    if (!in.pointAtStart(0) || !in.point(0))
        return std::nullopt;
    double length = 0;
    std::optional<BodyPoint> last;
    double since = 0;
    in.alongSpan(0, [&](FramePosition at, BodyPoint p) {
        const double now = in.repetition().clock().timeOf(at).value_or(RealTime{}).seconds;
        if (last && now - since < kStep && at != in.to())
            return;
        length += last ? (p - *last).length() : 0;
        last = p;
        since = now;
    });
    return length;
}

void drawWay(const MeasureInput& in, Figure& f)
{
    std::optional<ImagePoint> last;
    in.alongSpan(0, [&](FramePosition, BodyPoint p) {
        const ImagePoint now = in.toImage(p);
        if (last)
            addSegment(f, {last, now});
        last = now;
    });
    addDot(f, in.image(0));
}

FramePosition positionOf(const MeasureInput& in, const Peak& peak)
{
    return in.repetition().clock().positionAt(RealTime{peak.seconds});
}

std::optional<double> insideStrip(BodyPoint p, BodyPoint a, BodyPoint b, BodyVector axis)
{
    const double length = axis.length();
    if (length == 0)
        return std::nullopt;
    const double at = dot(p - a, axis) / length, end = dot(b - a, axis) / length;
    return std::min(at - std::min(0.0, end), std::max(0.0, end) - at);
}

NoReading noRate()
{
    return {Verdict::NotMarked, "Mark the points on every frame between the two key positions to read this."};
}

Outcome depthInStrip(const MeasureInput& in, bool isLevel)
{
    const auto p = in.point(0), a = in.point(1), b = in.point(2);
    const auto depth = p && a && b ? insideStrip(*p, *a, *b, isLevel ? BodyVector{1, 0} : *b - *a) : std::nullopt;
    if (!depth)
        return tl::unexpected(in.missing());
    return *depth;
}

void drawFastestTurn(const MeasureInput& in, std::size_t a, std::size_t b, Figure& f)
{
    const auto peak = peakOf(turningAlong(in, a, b));
    if (!peak)
        return;
    f.frame = positionOf(in, *peak);
    if (const auto from = in.pointOn(a, f.frame), to = in.pointOn(b, f.frame); from && to)
        addSegment(f, {in.toImage(*from), in.toImage(*to)});
}

std::optional<Stretch> stretchAround(const MeasureInput& in)
{
    constexpr double kAround = 0.014; // seconds before and after: three pictures at 240 a second on each side
    const auto& clock = in.repetition().clock();
    const double frames = std::max(1.0, clock.meanInterval() > 0 ? kAround / clock.meanInterval() : 1.0);
    const FramePosition before(in.at().value - frames), after(in.at().value + frames);
    const auto a = in.pointOn(0, before), b = in.pointOn(0, after);
    const auto from = clock.timeOf(before), to = clock.timeOf(after);
    if (!a || !b || !from || !to || !(*to - *from > 0))
        return std::nullopt;
    return Stretch{*a, *b, *to - *from};
}

void drawStretch(const MeasureInput& in, Figure& f)
{
    const auto s = stretchAround(in);
    if (!s)
        return;
    addSegment(f, {in.toImage(s->from), in.toImage(s->to)});
    addGuide(f, in.toImage(s->from), in.toImage({s->to.x, s->from.y}));
}

NoReading noPath()
{
    return {Verdict::NotMarked, "Mark the point on the frames before and after as well to read its path."};
}

tl::expected<Angle, NoReading> entryIntoRing(const MeasureInput& in)
{
    constexpr double kRing = 3.05, kGravity = 9.81; // metres, metres per second squared
    const auto s = stretchAround(in);
    const auto floor = in.pointAtStart(1);
    if (!s)
        return tl::unexpected(noPath());
    if (!floor)
        return tl::unexpected(in.missing());
    const BodyVector velocity = (s->to - s->from) * (1 / s->seconds);
    const double toClimb = kRing - ((s->from.y + s->to.y) / 2 - floor->y);
    const double left = velocity.y * velocity.y - 2 * kGravity * toClimb; // of the upward speed, squared
    if (left <= 0)
        return tl::unexpected(NoReading{Verdict::NotMarked, "On this way the ball does not come as high as a ring 3.05 m up."});
    return Angle::radians(std::atan2(std::sqrt(left), std::abs(velocity.x)));
}

std::optional<std::pair<BodyPoint, BodyPoint>> incomingLine(const MeasureInput& in, std::size_t ball)
{
    std::optional<BodyPoint> first, last;
    bool hasTurned = false;
    in.alongSpan(ball, [&](FramePosition, BodyPoint p) {
        hasTurned = hasTurned || (last && p.x > last->x);
        if (hasTurned)
            return;
        first = first ? first : p;
        last = p;
    });
    if (!first || !last || *first == *last)
        return std::nullopt;
    return std::pair{*first, *last};
}

double distanceToLine(BodyPoint p, const std::pair<BodyPoint, BodyPoint>& line)
{
    const BodyVector along = line.second - line.first;
    return std::abs(cross(along, p - line.first)) / along.length();
}

NoReading noIncomingLine()
{
    return {Verdict::NotMarked, "Mark the ball on two frames before it is met, and the tip on all, to read this."};
}

std::optional<double> facingFromTwo(const TwoViews& in, std::size_t trail, std::size_t lead, bool atStart)
{
    const auto across = [&](const MeasureInput& view) -> std::optional<double> {
        const auto a = atStart ? view.pointAtStart(trail) : view.point(trail);
        const auto b = atStart ? view.pointAtStart(lead) : view.point(lead);
        return a && b ? std::optional(b->x - a->x) : std::nullopt;
    };
    const auto ahead = across(in.along), aside = across(in.across);
    if (!ahead || !aside || (*ahead == 0 && *aside == 0))
        return std::nullopt;
    // square to the target the lead side lies on the dominant side only where it is the dominant one
    return Angle::radians(std::atan2(in.leadIsDom ? *aside : -*aside, *ahead)).asDegrees();
}

} // namespace kestrel
