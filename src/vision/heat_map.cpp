#include "vision/heat_map.h"

#include "vision/sigmoid.h"

#include <algorithm>
#include <cmath>

namespace kestrel::vision {

namespace {

constexpr int kReach = 6;     // cells to look at around a point, each way
constexpr double kPeak = 0.2; // a map that nowhere there reaches this says nothing
// Cells count with that power. What a map shows weakly beside a point, the whole of its limb or another one, would otherwise draw
// it aside: with a power of 1, 3 cells and 0.5 points lay a tenth farther off on painted films (models/README.md).
constexpr double kPower = 6;

} // namespace

double HeatMaps::at(int column, int row, std::size_t point) const
{
    const auto cell = static_cast<std::size_t>(row) * static_cast<std::size_t>(side) + static_cast<std::size_t>(column);
    return sigmoid(logits[cell * points + point]);
}

ImagePoint topNear(ImagePoint from, const HeatMaps& maps, std::size_t point)
{
    if (!(from.x >= 0 && from.y >= 0 && from.x < maps.side && from.y < maps.side)) // nor what is no number
        return from;
    const int column = static_cast<int>(from.x), row = static_cast<int>(from.y);
    double weight = 0, x = 0, y = 0, peak = 0;
    for (int r = std::max(0, row - kReach); r <= std::min(maps.side - 1, row + kReach); ++r)
        for (int c = std::max(0, column - kReach); c <= std::min(maps.side - 1, column + kReach); ++c) {
            const double shown = maps.at(c, r, point), counts = std::pow(shown, kPower);
            weight += counts;
            x += counts * c;
            y += counts * r;
            peak = std::max(peak, shown);
        }
    return peak < kPeak ? from : ImagePoint{x / weight, y / weight};
}

} // namespace kestrel::vision
