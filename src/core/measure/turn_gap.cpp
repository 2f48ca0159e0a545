#include "core/measure/shared.h"

#include <algorithm>

namespace kestrel {

namespace {

// Widths between joint centres as shares of standing height. Hips: pelvis joint-centre spacing about 10 % of height;
// shoulders: biacromial breadth less the soft tissue over the joints, about 20 %. Both differ between people of one height by
// some 5 % of themselves (breadths vary by about that much in anthropometric surveys), which is drawn with the other errors and
// makes the estimate as wide as it deserves to be.
constexpr double kHipWidth = 0.110, kShoulderWidth = 0.200, kWidthSpread = 0.05;
constexpr std::uint64_t kHipKey = 0x7a11, kShoulderKey = 0x7a12;

double turnFromWidth(double seen, double full)
{
    return Angle::radians(std::asin(std::clamp(seen / full, -1.0, 1.0))).asDegrees();
}

Outcome value(const MeasureInput& in)
{
    const auto a = in.point(0), b = in.point(1), c = in.point(2), d = in.point(3);
    if (!a || !b || !c || !d)
        return tl::unexpected(in.missing());
    if (!in.heightMetres())
        return tl::unexpected(NoReading{Verdict::NotMarked, "Enter the athlete's height to read this."});
    const double hips = *in.heightMetres() * kHipWidth * (1 + kWidthSpread * in.sample().normal(kHipKey));
    const double shoulders = *in.heightMetres() * kShoulderWidth * (1 + kWidthSpread * in.sample().normal(kShoulderKey));
    return turnFromWidth(b->x - a->x, hips) - turnFromWidth(d->x - c->x, shoulders);
}

void figure(const MeasureInput& in, Figure& f)
{
    addSegment(f, {in.image(0), in.image(1)});
    addSegment(f, {in.image(2), in.image(3)});
}

std::optional<double> fromTwo(const TwoViews& in)
{
    const auto facing = [&](std::size_t off, std::size_t dom) {
        return in.leadIsDom ? facingFromTwo(in, off, dom) : facingFromTwo(in, dom, off);
    };
    const auto hips = facing(0, 1), shoulders = facing(2, 3);
    return hips && shoulders ? std::optional(wrappedDegrees(*hips - *shoulders)) : std::nullopt;
}

} // namespace

extern const MeasureKind kTurnGap;
const MeasureKind kTurnGap{
    "turn_gap",
    "Estimate of how far the pelvis has turned toward the target ahead of the shoulders, degrees, from "
    "the shortened widths of both seen from the front or rear; points: the hips, then the shoulders, each time the other side "
    "and then the dominant one.",
    Quantity::Angle,
    4,
    When::At,
    false,
    viewsAcross(),
    value,
    figure,
    fromTwo};

} // namespace kestrel
