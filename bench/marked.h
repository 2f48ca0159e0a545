#pragma once

#include "core/draw.h"
#include "core/marking.h"

namespace kestrel::bench {

inline constexpr double kNoise = 2; // pixels at 1280x720

/// What an attentive marker has: every point on every frame, each a little off.
inline Marking marked(const Marking& truth, std::uint32_t seed)
{
    Marking m = truth;
    const Draw draw(seed + 100);
    for (std::size_t i = 0; i < m.marks.size(); ++i) {
        m.marks[i].at.x += kNoise * draw.normal(2 * i);
        m.marks[i].at.y += kNoise * draw.normal(2 * i + 1);
        m.marks[i].sigma = kNoise;
    }
    return m;
}

} // namespace kestrel::bench
