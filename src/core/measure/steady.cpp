#include "core/measure/shared.h"

namespace kestrel {

namespace {

constexpr double kShare = 0.03;   // of standing height
constexpr double kShortest = 0.5; // seconds that have to be marked where the point does not leave
constexpr int kGap = 12;          // pictures without a mark after which the marks are over

Outcome value(const MeasureInput& in)
{
    const auto& clock = in.repetition().clock();
    const auto start = in.point(0);
    const auto since = clock.timeOf(in.at());
    if (!start || !since)
        return tl::unexpected(in.missing());
    const double reach = kShare * in.heightMetres().value_or(kUsualHeight);
    double lasted = 0;
    int unmarked = 0;
    for (auto f = in.at().nearest().value + 1; unmarked < kGap; ++f) {
        const auto p = in.pointOn(0, FramePosition(FrameIndex(f)));
        const auto now = clock.timeOf(FramePosition(FrameIndex(f)));
        if (!p || !now) {
            ++unmarked;
            continue;
        }
        unmarked = 0;
        lasted = *now - *since;
        if ((*p - *start).length() > reach)
            return lasted;
    }
    if (lasted < kShortest)
        return tl::unexpected(
            NoReading{Verdict::NotMarked, "The marks end too soon to read this; it takes half a second after the key position."});
    return lasted;
}

void figure(const MeasureInput& in, Figure& f)
{
    addDot(f, in.image(0));
}

} // namespace

extern const MeasureKind kSteady;
const MeasureKind kSteady{
    "steady",
    "For how long after the key position the point stays within 3 per cent of standing height of where it was then, real time; "
    "where it does not leave, until the last mark.",
    Quantity::Time,
    1,
    When::At,
    false,
    viewsAny(),
    value,
    figure};

} // namespace kestrel
