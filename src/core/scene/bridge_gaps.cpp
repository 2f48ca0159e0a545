#include "core/scene/bridge_gaps.h"

#include <algorithm>
#include <array>

namespace kestrel {

namespace {

constexpr double kBridged = 0.05;   // seconds between the marks beside the gap
constexpr double kSlack = 1e-3;     // seconds more: clocks are not even
constexpr double kBendUnsure = 0.5; // of what the way bends

/// Two marks before a gap and two behind it, with their times.
struct Shores {
    std::array<ImagePoint, 4> at;
    std::array<double, 4> seconds;

    /// On the cubic through all four (Lagrange).
    ImagePoint along(double second) const
    {
        ImagePoint p;
        for (std::size_t i = 0; i < 4; ++i) {
            double weight = 1;
            for (std::size_t k = 0; k < 4; ++k)
                if (k != i)
                    weight *= (second - seconds[k]) / (seconds[i] - seconds[k]);
            p = p + ImageVector{at[i].x, at[i].y} * weight;
        }
        return p;
    }
};

/// Around the gap after that mark. Empty: there is none, or it stays.
std::optional<Shores> shoresOf(const std::vector<Mark>& marks, std::size_t before, const FrameClock& clock)
{
    if (before < 1 || before + 2 >= marks.size() || marks[before + 1].frame.value <= marks[before].frame.value + 1)
        return std::nullopt;
    Shores s;
    for (std::size_t i = 0; i < 4; ++i) {
        const Mark& m = marks[before - 1 + i];
        const auto time = clock.timeOf(m.frame);
        if (!time || !isByProgram(m.source))
            return std::nullopt;
        s.at[i] = m.at;
        s.seconds[i] = time->seconds;
        if (i > 0 && s.seconds[i] - s.seconds[i - 1] > kBridged + kSlack)
            return std::nullopt;
    }
    return s;
}

} // namespace

void bridgeGaps(std::vector<Mark>& marks, const FrameClock& clock)
{
    if (marks.empty() || marks.front().landmark.part == Part::Ball)
        return;
    std::vector<Mark> bridges;
    for (std::size_t i = 0; i + 1 < marks.size(); ++i)
        if (const auto shores = shoresOf(marks, i, clock))
            for (auto f = marks[i].frame.value + 1; f < marks[i + 1].frame.value; ++f) {
                const auto time = clock.timeOf(FrameIndex(f));
                if (!time)
                    continue;
                const double share = (time->seconds - shores->seconds[1]) / (shores->seconds[2] - shores->seconds[1]);
                Mark m = marks[i];
                m.frame = FrameIndex(f);
                m.at = shores->along(time->seconds);
                const double bend = (m.at - lerp(shores->at[1], shores->at[2], share)).length();
                m.sigma = std::hypot(std::max(m.sigma, marks[i + 1].sigma), kBendUnsure * bend);
                bridges.push_back(m);
            }
    const auto middle = static_cast<std::ptrdiff_t>(marks.size());
    marks.insert(marks.end(), bridges.begin(), bridges.end());
    std::inplace_merge(marks.begin(), marks.begin() + middle, marks.end(),
                       [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
}

} // namespace kestrel
