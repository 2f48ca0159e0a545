#include "vision/propose.h"

#include "core/smooth_marks.h"

#include <algorithm>
#include <map>

namespace kestrel::vision {

namespace {

constexpr double kReach = 0.05;        // seconds
constexpr double kRoughness = 2.5;     // of thresholds
constexpr double kDoubtSeconds = 0.03; // half the width

} // namespace

std::vector<Detection> proposeKeyPositions(const Pack& pack, Marking marking, const FrameClock& clock)
{
    if (marking.scene.view != View::Side && marking.scene.view != View::SideBack) {
        std::vector<Detection> none;
        for (const auto& k : pack.keyPositions)
            if (k.detector)
                none.push_back({k.id, {}, 0.5, "Key positions are proposed on films from the side; place this one by hand."});
        return none;
    }
    std::map<Landmark, std::vector<Mark>> byLandmark;
    for (const auto& m : marking.marks)
        byLandmark[m.landmark].push_back(m);
    std::erase_if(marking.marks, [](const Mark& m) { return m.source != Source::Coach; });
    for (auto& [landmark, marks] : byLandmark) {
        std::sort(marks.begin(), marks.end(), [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
        for (const auto& m : smoothedMarks(marks, clock, kReach))
            if (m.source != Source::Coach)
                marking.marks.push_back(m);
    }
    auto found = detectKeyPositions(pack, Repetition(std::move(marking), clock), kRoughness);
    for (auto& d : found)
        d.uncertaintyFrames = std::max(d.uncertaintyFrames, kDoubtSeconds / std::max(clock.meanInterval(), 1e-6));
    return found;
}

} // namespace kestrel::vision
