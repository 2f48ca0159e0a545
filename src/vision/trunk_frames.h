#pragma once

#include "core/scene/marking.h"

#include <array>
#include <cstdint>
#include <map>
#include <optional>
#include <vector>

namespace kestrel::vision {

/// The trunk and the hands on one picture, each left, right.
struct TrunkFrame {
    std::array<std::optional<ImagePoint>, 2> shoulders, hips, wrists;

    /// The middle of the hips. Empty: one of them is not known.
    std::optional<ImagePoint> hip() const;
    /// From there to the middle of the shoulders, pixels. Empty: one of the four is not known.
    std::optional<double> length() const;
};

/// By picture, those on which one of them is marked.
std::map<std::int64_t, TrunkFrame> trunkFramesOf(const std::vector<Mark>&);

} // namespace kestrel::vision
