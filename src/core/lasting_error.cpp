#include "core/lasting_error.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel {

namespace {

constexpr double kHalfWindow = 0.05; // seconds: over twice that movement is told from trembling

/// How far a landmark has come on each picture since the first, pixels.
std::vector<double> wayOf(const std::vector<Mark>& marks, FrameIndex first, std::size_t count, double interval)
{
    const auto reach = static_cast<std::ptrdiff_t>(interval > 0 ? std::max(1.0, std::round(kHalfWindow / interval)) : 1);
    const auto size = static_cast<std::ptrdiff_t>(marks.size());
    std::vector<double> steps(count, 0);
    for (std::ptrdiff_t i = 0; i < size; ++i) {
        const Mark &before = marks[static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, i - reach))],
                   &after = marks[static_cast<std::size_t>(std::min(size - 1, i + reach))];
        const auto frame = static_cast<std::size_t>(marks[static_cast<std::size_t>(i)].frame.value - first.value);
        if (after.frame.value > before.frame.value)
            steps[frame] = (after.at - before.at).length() / static_cast<double>(after.frame.value - before.frame.value);
    }
    double way = 0;
    for (double& s : steps)
        s = way += s;
    return steps;
}

} // namespace

LastingErrorAt LastingErrorAt::after(double passed)
{
    const double whole = std::floor(passed), phase = (passed - whole) * std::numbers::pi / 2;
    return {static_cast<std::int64_t>(whole), std::cos(phase), std::sin(phase)};
}

LastingErrors::LastingErrors(const std::map<Landmark, std::vector<Mark>>& marks, const FrameClock& clock, FrameIndex first,
                             std::size_t count, double height)
{
    const auto passedOn = [&](const std::vector<double>& way, double members) {
        std::vector<LastingErrorAt> all;
        for (std::size_t i = 0; i < count; ++i) {
            const auto time = clock.timeOf(FrameIndex(first.value + static_cast<std::int64_t>(i))).value_or(RealTime{});
            all.push_back(LastingErrorAt::after(time.seconds / kErrorLasts + way[i] / (members * kErrorReach * height)));
        }
        return all;
    };
    struct Ways {
        std::vector<double> sum;
        int members = 0;
    };
    std::map<std::uint64_t, Ways> limbs;
    for (const auto& [landmark, list] : marks) {
        if (std::none_of(list.begin(), list.end(), [](const Mark& m) { return hasLastingError(m.source); }))
            continue;
        const auto way = wayOf(list, first, count, clock.meanInterval());
        if (limbOf(landmark) == 0) {
            m_others[landmark] = passedOn(way, 1);
            continue;
        }
        Ways& limb = limbs[limbOf(landmark)];
        limb.sum.resize(count, 0);
        std::transform(way.begin(), way.end(), limb.sum.begin(), limb.sum.begin(), std::plus<>());
        ++limb.members;
    }
    for (const auto& [limb, ways] : limbs)
        m_limbs[limb] = passedOn(ways.sum, ways.members);
}

const std::vector<LastingErrorAt>* LastingErrors::of(const Landmark& l) const
{
    if (const auto limb = m_limbs.find(limbOf(l)); limb != m_limbs.end())
        return &limb->second;
    const auto other = m_others.find(l);
    return other != m_others.end() ? &other->second : nullptr;
}

} // namespace kestrel
