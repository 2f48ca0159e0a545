#include "core/measure/calibration.h"

#include <algorithm>
#include <span>

namespace kestrel {

namespace {

struct Row {
    std::string_view kind;
    Calibration calibration;
};

constexpr Row kRows[]{
    {"advance", {0.75, 0.88}},
    {"angle_change", {0.7, 1}},
    {"arc_margin", {1, 1.4}},
    {"clock", {0.5, 0.87}},
    {"closure", {0.8, 0.93}},
    {"crossing", {0.3, 1}},
    {"distance", {0.5, 1}},
    {"distance_ratio", {0.45, 1}},
    {"drift", {1.35, 0.75}},
    {"drift_across", {1.1, 0.9}},
    {"drop", {0.7, 1}},
    {"dwell", {1.15, 0.86}},
    {"elevation", {0.65, 1}},
    {"entry_angle", {1, 1.25}},
    {"face", {0.6, 1}},
    {"facing", {0.25, 0.93}},
    {"fall", {0.55, 1.12}},
    {"farthest_behind", {0.3, 0.75}},
    {"first_on_line", {0.6, 1.3}},
    {"flexion", {1.2, 1}},
    {"inside", {0.5, 1}},
    {"joint_angle", {0.75, 1}},
    {"lean", {0.7, 1}},
    {"lean_change", {1, 0.68}},
    {"least_up", {1.05, 1.3}},
    {"line_gap", {1, 1.08}},
    {"line_up", {0.3, 1}},
    {"offset_across", {0.75, 1}},
    {"offset_along", {0.95, 1}},
    {"offset_up", {0.8, 1}},
    {"path_angle", {1, 1.02}},
    {"path_straightness", {1, 0.89}},
    {"peak_after", {1, 0.88}},
    {"peak_gap", {1, 0.7}},
    {"peak_speed", {0.9, 1}},
    {"peak_to_end", {1, 0.76}},
    {"plane_overlap", {0.6, 0.8}},
    {"rise", {0.8, 0.9}},
    {"separation", {0.95, 1.08}},
    {"share_along", {0.3, 1}},
    {"speed_share", {1.3, 1.15}},
    {"support", {0.25, 0.85}},
    {"sync", {1, 1.05}},
    {"tilt", {0.85, 1}},
    {"travel", {0.9, 1}},
    {"triangle", {0.2, 1.16}},
    {"turn_gap", {1, 0.38}},
    {"turned", {0.9, 0.8}},
    {"velocity_along", {1, 1.15}},
};

/// From two films.
constexpr Row kRowsOfTwo[]{
    {"closure", {1, 1.12}},
    {"facing", {1, 1.55}},
    {"turn_gap", {1, 0.74}},
};

Calibration calibrationIn(std::span<const Row> rows, std::string_view kind)
{
    const auto found = std::find_if(rows.begin(), rows.end(), [kind](const Row& r) { return r.kind == kind; });
    return found == rows.end() ? Calibration{} : found->calibration;
}

} // namespace

Calibration calibrationOf(std::string_view kind)
{
    return calibrationIn(kRows, kind);
}

Calibration calibrationFromTwo(std::string_view kind)
{
    return calibrationIn(kRowsOfTwo, kind);
}

} // namespace kestrel
