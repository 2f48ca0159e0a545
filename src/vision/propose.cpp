#include "vision/propose.h"

#include "core/smooth_marks.h"

#include <algorithm>
#include <map>

namespace kestrel::vision {

namespace {

constexpr double kReach = 0.05;        // seconds
constexpr double kRoughness = 2.5;     // of thresholds
constexpr double kDoubtSeconds = 0.03; // half the width

bool isOfHeight(const std::optional<Detector>& d)
{
    return d && (d->kind == DetectorKind::Highest || d->kind == DetectorKind::Lowest);
}

/// The pack with those detectors alone that go by heights. From the front or rear a height is seen as well as from a side; how
/// fast or how far a point moves is not.
Pack byHeights(Pack pack)
{
    for (auto& k : pack.keyPositions) {
        if (!isOfHeight(k.detector))
            k.detector = k.otherwise;
        k.otherwise.reset();
        if (!isOfHeight(k.detector))
            k.detector.reset();
    }
    return pack;
}

} // namespace

std::vector<Detection> proposeKeyPositions(const Pack& pack, Marking marking, const FrameClock& clock)
{
    const bool isFromSide = marking.scene.view == View::Side || marking.scene.view == View::SideBack;

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
    auto found = detectKeyPositions(isFromSide ? pack : byHeights(pack), Repetition(std::move(marking), clock), kRoughness);
    for (auto& d : found)
        d.uncertaintyFrames = std::max(d.uncertaintyFrames, kDoubtSeconds / std::max(clock.meanInterval(), 1e-6));
    for (const auto& k : pack.keyPositions) // in the pack's order those that this view does not show come last
        if (k.detector && std::none_of(found.begin(), found.end(), [&](const Detection& d) { return d.keyPosition == k.id; }))
            found.push_back({k.id, {}, 0.5, "From here the program proposes only what goes by heights; place this one by hand."});
    return found;
}

} // namespace kestrel::vision
