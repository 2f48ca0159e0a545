#include "vision/find_repetitions.h"

#include "core/scene/curve.h"
#include "vision/trunk_frames.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <map>
#include <optional>

namespace kestrel::vision {

namespace {

constexpr double kReach = 0.04;   // seconds that a speed looks to either side
constexpr double kOfTop = 0.5;    // of the film's top speed: a hand that is as fast does it
constexpr double kLeastSpeed = 4; // trunk lengths a second; a hand that waves is slower
constexpr double kPlainlyFaster = 1.6;
constexpr double kApart = 1.5;    // seconds between the fastest instants of two repetitions
constexpr double kAtRest = 0.1;   // of that repetition's own top speed
constexpr double kRestsFor = 0.2; // seconds
constexpr double kMostBefore = 3, kMostAfter = 2, kLeastBefore = 0.8, kLeastAfter = 0.6; // seconds from the fastest instant
constexpr double kMargin = 0.15;                                                         // seconds

/// The hands' speeds against the hips, left and right, trunk lengths a second, on the pictures where they are known.
std::array<Curve, 2> speedsOfHands(const std::vector<Mark>& marks, const FrameClock& clock)
{
    double trunk = 0;
    std::array<Curve, 2> xs, ys;
    for (const auto& [frame, t] : trunkFramesOf(marks)) {
        const auto time = clock.timeOf(FrameIndex(frame));
        const auto hip = t.hip();
        if (!time || !hip)
            continue;
        trunk = std::max(trunk, t.length().value_or(0));
        for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
            if (t.wrists[side]) {
                xs[side].add(time->seconds, t.wrists[side]->x - hip->x);
                ys[side].add(time->seconds, t.wrists[side]->y - hip->y);
            }
    }
    std::array<Curve, 2> speeds;
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}}) {
        const Curve x = rateOf(xs[side], kReach), y = rateOf(ys[side], kReach);
        for (std::size_t i = 0; i < x.values.size() && trunk > 0; ++i)
            speeds[side].add(x.seconds[i], std::hypot(x.values[i], y.values[i]) / trunk);
    }
    return speeds;
}

Curve fasterOf(const std::array<Curve, 2>& speeds)
{
    std::map<double, double> fastest;
    for (const Curve& hand : speeds)
        for (std::size_t i = 0; i < hand.values.size(); ++i) {
            double& most = fastest[hand.seconds[i]];
            most = std::max(most, hand.values[i]);
        }
    Curve speed;
    for (const auto& [second, value] : fastest)
        speed.add(second, value);
    return speed;
}

/// The instants at which a hand is fastest, each the top of its surroundings.
std::vector<std::size_t> peaksOf(const Curve& speed)
{
    std::multimap<double, std::size_t, std::greater<>> fastestFirst;
    for (std::size_t i = 0; i < speed.values.size(); ++i)
        fastestFirst.emplace(speed.values[i], i);
    std::vector<std::size_t> peaks;
    for (const auto& [value, i] : fastestFirst) {
        if (value < std::max(kLeastSpeed, kOfTop * fastestFirst.begin()->first))
            break;
        const double at = speed.seconds[i];
        if (std::none_of(peaks.begin(), peaks.end(), [&](std::size_t p) { return std::abs(speed.seconds[p] - at) < kApart; }))
            peaks.push_back(i);
    }
    std::sort(peaks.begin(), peaks.end());
    return peaks;
}

/// From the peak that way to where the hands have rested long enough, within bounds.
double edgeOf(const Curve& speed, std::size_t peak, int step, double least, double most)
{
    const double at = speed.seconds[peak];
    double restsSince = at;
    for (auto i = static_cast<std::ptrdiff_t>(peak); i >= 0 && i < static_cast<std::ptrdiff_t>(speed.values.size()); i += step) {
        const auto n = static_cast<std::size_t>(i);
        const double away = std::abs(speed.seconds[n] - at);
        if (away > most)
            break;
        if (speed.values[n] > kAtRest * speed.values[peak] || away < least)
            restsSince = speed.seconds[n];
        else if (std::abs(speed.seconds[n] - restsSince) >= kRestsFor)
            break;
    }
    return restsSince + step * kMargin;
}

} // namespace

std::vector<FrameRange> findRepetitions(const std::vector<Mark>& marks, const FrameClock& clock)
{
    const Curve speed = fasterOf(speedsOfHands(marks, clock));
    const auto peaks = peaksOf(speed);
    std::vector<std::pair<double, double>> spans;
    for (const std::size_t p : peaks) {
        spans.emplace_back(edgeOf(speed, p, -1, kLeastBefore, kMostBefore), edgeOf(speed, p, 1, kLeastAfter, kMostAfter));
        if (spans.size() > 1 && spans.back().first < spans[spans.size() - 2].second) // they meet half-way
            spans.back().first = spans[spans.size() - 2].second = (spans.back().first + spans[spans.size() - 2].second) / 2;
    }
    std::vector<FrameRange> stretches;
    for (const auto& [from, to] : spans) {
        const double interval = std::max(clock.meanInterval(), 1e-6), start = clock.timeOf(FrameIndex(0))->seconds;
        const auto frameAt = [&](double seconds) {
            return std::clamp<std::int64_t>(std::llround((seconds - start) / interval), 0, clock.frames() - 1);
        };
        std::int64_t first = frameAt(from);
        if (!stretches.empty())
            first = std::max(first, stretches.back().last.value + 1);
        if (const std::int64_t last = frameAt(to); last > first)
            stretches.push_back({FrameIndex(first), FrameIndex(last)});
    }
    return stretches;
}

std::optional<BodySide> fasterHand(const std::vector<Mark>& marks, const FrameClock& clock)
{
    double top[2] = {};
    const auto speeds = speedsOfHands(marks, clock);
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}})
        for (const double v : speeds[side].values)
            top[side] = std::max(top[side], v);
    if (std::max(top[0], top[1]) < kLeastSpeed || std::max(top[0], top[1]) < kPlainlyFaster * std::min(top[0], top[1]))
        return std::nullopt;
    return top[0] > top[1] ? BodySide::Left : BodySide::Right;
}

} // namespace kestrel::vision
