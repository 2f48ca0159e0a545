#include "core/scene/correlated_error.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

namespace kestrel {

namespace {

constexpr std::uint64_t kLastingKey = 6, kLimbKey = 7; // of random numbers, as in repetition.cpp
constexpr double kHalfWindow = 0.05;                   // seconds: over twice that movement is told from trembling

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
    std::partial_sum(steps.begin(), steps.end(), steps.begin());
    return steps;
}

/// A number for the arm or leg that a landmark belongs to; 0: none.
std::uint64_t limbOf(const Landmark& l)
{
    if (!isOfArm(l.part) && !isOfLeg(l.part))
        return 0;
    return 1 + (l.side == BodySide::Left ? 1U : 0U) + (isOfLeg(l.part) ? 2U : 0U);
}

} // namespace

std::uint64_t keyOf(const Landmark& l)
{
    return ErrorSample::mix(static_cast<std::uint64_t>(l.part) * 4 + static_cast<std::uint64_t>(l.side),
                            ErrorSample::keyOf(l.reference));
}

CorrelatedError::CorrelatedError(const Landmark& landmark, const Course& course)
{
    std::size_t end = 0;
    for (const double passed : course) {
        const double whole = std::floor(passed), phase = (passed - whole) * std::numbers::pi / 2;
        m_places.push_back({static_cast<std::size_t>(whole), std::cos(phase), std::sin(phase)});
        end = std::max(end, m_places.back().number + 2);
    }
    const auto own = keyOf(landmark), limb = limbOf(landmark);
    const double together = limb > 0 ? kLimbShare : 0;
    for (std::size_t number = 0; number < end; ++number)
        for (std::uint32_t n = 0; n <= kErrorSamples; ++n) {
            const auto normal = [&](std::uint64_t what) {
                const auto [right, down] = ErrorSample(n).normalPair(ErrorSample::mix(what, number * 8 + kLastingKey));
                return ImageVector{right, down};
            };
            ImageVector error = normal(own) * std::sqrt(1 - together);
            if (limb > 0)
                error = error + normal(ErrorSample::mix(kLimbKey, limb)) * std::sqrt(together);
            m_errors.push_back(error);
        }
}

ImageVector CorrelatedError::on(std::size_t picture, ErrorSample sample) const
{
    const Place& at = m_places[picture];
    const std::size_t earlier = at.number * (kErrorSamples + 1) + sample.number();
    return m_errors[earlier] * at.earlier + m_errors[earlier + kErrorSamples + 1] * at.later;
}

std::map<Landmark, CorrelatedError> lastingErrors(const std::map<Landmark, std::vector<Mark>>& marks, const FrameClock& clock,
                                                  FrameIndex first, std::size_t count, double height)
{
    struct Ways {
        std::vector<double> sum;
        int members = 0;
    };
    std::map<std::uint64_t, Ways> limbs;
    std::map<Landmark, std::vector<double>> ways;
    for (const auto& [landmark, list] : marks) {
        if (std::none_of(list.begin(), list.end(), [](const Mark& m) { return isByProgram(m.source); }))
            continue;
        const auto& way = ways[landmark] = wayOf(list, first, count, clock.meanInterval());
        Ways& limb = limbs[limbOf(landmark)];
        limb.sum.resize(count, 0);
        std::transform(way.begin(), way.end(), limb.sum.begin(), limb.sum.begin(), std::plus<>());
        ++limb.members;
    }
    std::map<Landmark, CorrelatedError> all;
    for (const auto& [landmark, own] : ways) {
        const auto limb = limbOf(landmark);
        CorrelatedError::Course course;
        for (std::size_t i = 0; i < count; ++i) {
            const double way = limb > 0 ? limbs[limb].sum[i] / limbs[limb].members : own[i];
            const auto time = clock.timeOf(FrameIndex(first.value + static_cast<std::int64_t>(i))).value_or(RealTime{});
            course.push_back(time.seconds / kErrorLasts + way / (kErrorReach * height));
        }
        all.emplace(landmark, CorrelatedError(landmark, course));
    }
    return all;
}

} // namespace kestrel
