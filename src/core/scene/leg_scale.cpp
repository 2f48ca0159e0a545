#include "core/scene/leg_scale.h"

#include <algorithm>
#include <array>
#include <map>

namespace kestrel {

namespace {
constexpr double kLegShare = 0.491; // of standing height
}

std::optional<Scale> scaleFromHeight(const std::vector<Mark>& marks, View view, double heightMetres)
{
    if (view == View::Overhead)
        return std::nullopt;
    std::map<std::int64_t, std::array<const Mark*, 2>> legs[2];
    for (const auto& m : marks)
        if (m.landmark.part == Part::Hip || m.landmark.part == Part::Ankle)
            legs[m.landmark.side == BodySide::Left ? 0 : 1][m.frame.value][m.landmark.part == Part::Hip ? 0 : 1] = &m;
    std::vector<Scale> all;
    for (const auto& leg : legs)
        for (const auto& [frame, ends] : leg)
            if (ends[0] && ends[1])
                all.push_back({ends[0]->at, ends[1]->at, kLegShare * heightMetres});
    if (all.empty())
        return std::nullopt;
    // not the longest, which is the noise's, but nearly
    const auto at = all.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(all.size() - 1));
    std::nth_element(all.begin(), at, all.end(),
                     [](const Scale& a, const Scale& b) { return (a.to - a.from).length() < (b.to - b.from).length(); });
    return *at;
}

std::optional<double> standingHeight(const std::vector<Mark>& marks, View view)
{
    const auto leg = scaleFromHeight(marks, view, 1);
    return leg ? std::optional((leg->to - leg->from).length() / leg->metres) : std::nullopt;
}

} // namespace kestrel
