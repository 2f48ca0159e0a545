#pragma once

#include <string_view>

namespace kestrel {

/// What makes the stated uncertainty of a kind honest. The draws disturb every point by what any point of the body may have in
/// depth and add up errors as if nothing were known about the formula; a kind that compares neighbours is less sensitive than
/// that, one that picks the largest of many values, or whose value cannot be negative, more.
///
/// Set so that on simulated repetitions 1 to 48, 201 to 248, 301 to 348, 401 to 596 and 601 to 900 of every skill some 95 % of
/// the true values lie within 1.96 stated deviations; docs/accuracy.md shows what comes of it on others.
struct Calibration {
    double depth = 1;  ///< how much of the depth a point may have, and of the body's way in depth, counts
    double spread = 1; ///< what the spread of the draws is multiplied by
};
/// 1 and 1 for a kind that needs none.
Calibration calibrationOf(std::string_view kind);
/// Where it is read from two views.
Calibration calibrationFromTwo(std::string_view kind);

} // namespace kestrel
