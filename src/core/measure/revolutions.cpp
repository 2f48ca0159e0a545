#include "core/measure/shared.h"

namespace kestrel {

namespace {

constexpr double kMostPerPicture = 90; // degrees

Outcome value(const MeasureInput& in)
{
    double turned = 0, most = 0;
    std::optional<double> last;
    Curve direction = curveAlong(in, 0, 1, [&](BodyPoint centre, BodyPoint mark) {
        const double now = Angle::radians(std::atan2(mark.y - centre.y, mark.x - centre.x)).asDegrees();
        const double step = last ? wrappedDegrees(now - *last) : 0;
        most = std::max(most, std::abs(step));
        turned += step;
        last = now;
        return turned;
    });
    if (direction.seconds.size() < 3)
        return tl::unexpected(noRate());
    const double rate = std::abs(turned) / (direction.seconds.back() - direction.seconds.front());
    if (most > kMostPerPicture)
        return tl::unexpected(NoReading{Verdict::TooFewFrames, "The ball turns more than a quarter between two pictures; four "
                                                               "pictures to a turn are needed to count its spin."});
    return rate;
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    addDot(f, in.image(1));
}

} // namespace

extern const MeasureKind kRevolutions;
const MeasureKind kRevolutions{
    "revolutions",
    "How fast the second point (a mark on the ball) goes round the first (its centre) over the span; never "
    "negative. Refused where it goes more than a quarter turn from picture to picture, since the turns cannot "
    "then be counted.",
    Quantity::Rate,
    2,
    When::Span,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
