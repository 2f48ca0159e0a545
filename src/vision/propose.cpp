#include "vision/propose.h"

#include <algorithm>

namespace kestrel::vision {

namespace {

constexpr double kLeavesDoubtMs = 100; // from anywhere but a side
// At least so much is doubted, half the width in seconds. On films that no sign was searched on, 19 of 20 positions that one sign
// tells from a side lay within 12 ms, 9 of 10 that several tell within 18. A stand-in (`otherwise`) says itself how far off it
// is.
constexpr double kDoubt = 0.02, kDoubtOfOneSign = 0.012, kDoubtFromEnd = 0.025, kDoubtFromAbove = 0.15;

/// Whether a detector that is made for a side means the same in that view. A height is seen as well from anywhere but above, and
/// a first move a little later; how fast or how far a point moves is not seen.
bool isSeenFrom(View view, const DetectorRule& d)
{
    const bool isHeight = d.kind == DetectorKind::Highest || d.kind == DetectorKind::Lowest;
    return d.kind == DetectorKind::Leaves || (isHeight && view != View::Overhead);
}

/// The pack with those detectors alone that say something in that view.
Pack asSeenFrom(View view, Pack pack)
{
    if (isFromSide(view))
        return pack;
    for (auto& k : pack.keyPositions) {
        if (ownDetector(k, view))
            continue;
        for (auto* d : {&k.detector, &k.fallback}) {
            if (*d && !isSeenFrom(view, **d))
                d->reset();
            if (!*d)
                continue;
            std::erase_if((*d)->votes, [view](const DetectorRule& s) { return !isSeenFrom(view, s); });
            if ((*d)->kind == DetectorKind::Leaves)
                (*d)->filmToleranceMs = std::max((*d)->filmToleranceMs.value_or((*d)->toleranceMs), kLeavesDoubtMs);
        }
        if (!k.detector)
            std::swap(k.detector, k.fallback);
    }
    return pack;
}

double leastDoubt(const KeyPosition& k, View view)
{
    if (view == View::Overhead)
        return kDoubtFromAbove;
    if (!isFromSide(view))
        return kDoubtFromEnd;
    return k.detector && k.detector->votes.empty() ? kDoubtOfOneSign : kDoubt;
}

} // namespace

std::vector<Detection> proposeKeyPositions(const Pack& pack, Marking marking, const FrameClock& clock)
{
    const View seenFrom = marking.scene.view;
    const Pack seen = asSeenFrom(seenFrom, pack);
    auto found =
        detectKeyPositions(seen, PreparedRepetition(smoothedForDetection(std::move(marking), clock), clock), kNetworkRoughness);
    for (auto& d : found) {
        const double doubt = leastDoubt(*pack.findKeyPosition(d.keyPosition), seenFrom);
        d.uncertaintyFrames = std::max(d.uncertaintyFrames, doubt / std::max(clock.meanInterval(), 1e-6));
    }
    for (const auto& k : pack.keyPositions) // in the pack's order those that this view does not show come last
        if (k.detector && std::none_of(found.begin(), found.end(), [&](const Detection& d) { return d.keyPosition == k.id; }))
            found.push_back({k.id, {}, 0.5, "From here nothing tells the program when this is; place it by hand."});
    return found;
}

} // namespace kestrel::vision
