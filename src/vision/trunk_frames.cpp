#include "vision/trunk_frames.h"

namespace kestrel::vision {

std::optional<ImagePoint> TrunkFrame::hip() const
{
    return hips[0] && hips[1] ? std::optional(midpoint(*hips[0], *hips[1])) : std::nullopt;
}

std::optional<double> TrunkFrame::length() const
{
    const auto middle = hip();
    if (!middle || !shoulders[0] || !shoulders[1])
        return std::nullopt;
    return (midpoint(*shoulders[0], *shoulders[1]) - *middle).length();
}

std::map<std::int64_t, TrunkFrame> trunkFramesOf(const std::vector<Mark>& marks)
{
    std::map<std::int64_t, TrunkFrame> frames;
    for (const auto& m : marks) {
        const std::size_t side = m.landmark.side == BodySide::Left ? 0 : 1;
        if (m.landmark.part == Part::Shoulder)
            frames[m.frame.value].shoulders[side] = m.at;
        else if (m.landmark.part == Part::Hip)
            frames[m.frame.value].hips[side] = m.at;
        else if (m.landmark.part == Part::Wrist)
            frames[m.frame.value].wrists[side] = m.at;
    }
    return frames;
}

} // namespace kestrel::vision
