#include "vision/propose.h"

#include "core/smooth_marks.h"

#include <algorithm>
#include <map>

namespace kestrel::vision {

namespace {

constexpr double kReach = 0.05;        // seconds
constexpr double kRoughness = 2.5;     // of thresholds
constexpr double kDoubtSeconds = 0.03; // half the width
constexpr double kLeavesDoubtMs = 100; // from the front or rear

bool isSeenFromAnEnd(const std::optional<Detector>& d)
{
    return d && (d->kind == DetectorKind::Highest || d->kind == DetectorKind::Lowest || d->kind == DetectorKind::Leaves);
}

/// The pack with those detectors alone that mean the same from the front or rear. A height is seen as well as from a side, and a
/// first move a little later; how fast or how far a point moves is not seen.
Pack asSeenFromAnEnd(Pack pack)
{
    for (auto& k : pack.keyPositions) {
        if (!isSeenFromAnEnd(k.detector))
            k.detector = k.otherwise;
        k.otherwise.reset();
        if (!isSeenFromAnEnd(k.detector))
            k.detector.reset();
        else if (k.detector->kind == DetectorKind::Leaves)
            k.detector->doubtMs = std::max(k.detector->doubtMs, kLeavesDoubtMs);
    }
    return pack;
}

} // namespace

std::vector<Detection> proposeKeyPositions(const Pack& pack, Marking marking, const FrameClock& clock)
{
    const bool isSideFilm = isFromSide(marking.scene.view);

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
    auto found = detectKeyPositions(isSideFilm ? pack : asSeenFromAnEnd(pack), Repetition(std::move(marking), clock), kRoughness);
    for (auto& d : found)
        d.uncertaintyFrames = std::max(d.uncertaintyFrames, kDoubtSeconds / std::max(clock.meanInterval(), 1e-6));
    for (const auto& k : pack.keyPositions) // in the pack's order those that this view does not show come last
        if (k.detector && std::none_of(found.begin(), found.end(), [&](const Detection& d) { return d.keyPosition == k.id; }))
            found.push_back(
                {k.id,
                 {},
                 0.5,
                 "From here the program proposes only what goes by heights and by the first move; place this one by hand."});
    return found;
}

} // namespace kestrel::vision
