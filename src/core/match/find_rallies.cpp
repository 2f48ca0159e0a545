#include "core/match/find_rallies.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kestrel {

namespace {

constexpr int kBins = 64;
constexpr double kLeastRatio = 2; // play moves at least so many times as much as pause

double levelOf(double share)
{
    return std::log10(std::max(share, 1e-6));
}

} // namespace

std::vector<FoundRally> findRallies(const std::vector<MovementSample>& samples, double join, double least)
{
    if (samples.size() < 10)
        return {};
    // calmed over three samples: one picture that the coder renewed is no movement
    std::vector<double> level(samples.size());
    for (std::size_t i = 0; i < samples.size(); ++i) {
        std::array<double, 3> near{};
        for (int k = -1; k <= 1; ++k)
            near[static_cast<std::size_t>(k + 1)] =
                samples[static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(static_cast<std::ptrdiff_t>(i) + k, 0,
                                                                            static_cast<std::ptrdiff_t>(samples.size()) - 1))]
                    .share;
        std::sort(near.begin(), near.end());
        level[i] = levelOf(near[1]);
    }
    const auto [low, high] = std::minmax_element(level.begin(), level.end());
    const double width = (*high - *low) / kBins;
    if (width <= 0)
        return {};
    std::array<double, kBins> count{};
    for (const double v : level)
        ++count[static_cast<std::size_t>(std::min<double>(kBins - 1, (v - *low) / width))];
    double sum = 0, all = 0;
    for (int b = 0; b < kBins; ++b) {
        sum += b * count[static_cast<std::size_t>(b)];
        all += count[static_cast<std::size_t>(b)];
    }
    double below = 0, belowSum = 0, best = -1, cut = 0, calm = 0, busy = 0;
    for (int b = 0; b + 1 < kBins; ++b) {
        below += count[static_cast<std::size_t>(b)];
        belowSum += b * count[static_cast<std::size_t>(b)];
        if (below == 0 || below == all)
            continue;
        const double m1 = belowSum / below, m2 = (sum - belowSum) / (all - below);
        const double between = below * (all - below) * (m1 - m2) * (m1 - m2);
        if (between > best) {
            best = between;
            cut = *low + (b + 1) * width;
            calm = *low + (m1 + 0.5) * width;
            busy = *low + (m2 + 0.5) * width;
        }
    }
    if (busy - calm < std::log10(kLeastRatio))
        return {};
    std::vector<FoundRally> found;
    for (std::size_t i = 0; i < samples.size(); ++i) {
        if (level[i] < cut)
            continue;
        const double from = i > 0 ? samples[i - 1].seconds : samples[i].seconds;
        if (!found.empty() && from - found.back().to <= join)
            found.back().to = samples[i].seconds;
        else
            found.push_back({from, samples[i].seconds});
    }
    std::erase_if(found, [&](const FoundRally& r) { return r.to - r.from < least; });
    return found;
}

} // namespace kestrel
