#include "core/base/error_sample.h"

#include <array>

namespace kestrel {

namespace {

constexpr std::size_t kSteps = 4096; // a power of two; the table stays in a processor's nearest memory

/// The middles of so many equally likely steps of a normal number, scaled so that their deviation is 1.
std::array<float, kSteps> calcQuantiles()
{
    std::array<double, kSteps / 2> upper{};
    double x = 0, squares = 0;
    for (std::size_t n = 0; n < upper.size(); ++n) {
        const double share = (static_cast<double>(n) + 0.5) / kSteps; // between 0 and x
        for (int round = 0; round < 8; ++round) {                     // Newton's, from below
            const double density = std::exp(-x * x / 2) / std::sqrt(2 * std::numbers::pi);
            x += (share - std::erf(x / std::numbers::sqrt2) / 2) / density;
        }
        upper[n] = x;
        squares += x * x;
    }
    const double scale = 1 / std::sqrt(squares / static_cast<double>(upper.size()));
    std::array<float, kSteps> all{};
    for (std::size_t n = 0; n < upper.size(); ++n) {
        all[kSteps / 2 + n] = static_cast<float>(upper[n] * scale);
        all[kSteps / 2 - 1 - n] = -all[kSteps / 2 + n];
    }
    return all;
}

const std::array<float, kSteps> kQuantiles = calcQuantiles();

} // namespace

std::array<double, 2> ErrorSample::normalPair(std::uint64_t what) const
{
    if (isBestEstimate())
        return {};
    const std::uint64_t h = mixed(what);
    return {kQuantiles[h % kSteps], kQuantiles[h / kSteps % kSteps]};
}

} // namespace kestrel
