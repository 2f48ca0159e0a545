#include "core/scene/smooth_marks.h"

namespace kestrel {

std::vector<Mark> smoothedMarks(const std::vector<Mark>& marks, const FrameClock& clock, double reach, std::vector<double>* noise)
{
    Curve x, y;
    std::vector<Mark> smooth;
    for (const auto& m : marks)
        if (const auto time = clock.timeOf(m.frame)) {
            x.add(time->seconds, m.at.x);
            y.add(time->seconds, m.at.y);
            smooth.push_back(m);
        }
    const Curve sx = smoothed(x, reach, noise), sy = smoothed(y, reach);
    for (std::size_t i = 0; i < smooth.size(); ++i)
        smooth[i].at = {sx.values[i], sy.values[i]};
    return smooth;
}

} // namespace kestrel
