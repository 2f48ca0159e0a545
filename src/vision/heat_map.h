#pragma once

#include "core/base/geometry.h"

#include <cstddef>
#include <span>

namespace kestrel::vision {

/// The network's maps of where each of its points may be, square, all of one size. Places on them are in cells, across and down:
/// cell 3 of 64 is what the network says of the place 3/64 of the square from its edge.
struct HeatMaps {
    std::span<const float> logits; ///< row by row, in each cell one after the other for all points
    int side;                      ///< cells, each way
    std::size_t points;

    /// How much speaks for a point in a cell, 0 to 1.
    double at(int column, int row, std::size_t point) const;
};

/// The middle of what a point's map shows where it is highest around \p from, cells; \p from itself where the map shows nothing
/// there.
ImagePoint topNear(ImagePoint from, const HeatMaps&, std::size_t point);

} // namespace kestrel::vision
