#include "core/read/uncertain_mark.h"

#include <algorithm>
#include <cmath>

namespace kestrel {

std::vector<UncertainMark> findUncertainMarks(const Pack& pack, const Marking& marking)
{
    std::vector<UncertainMark> doubts;
    for (const auto& e : marking.events) {
        const FrameIndex frame(std::llround(e.frame.value));
        for (const auto& landmark : landmarksAt(pack, e.keyPosition, marking.scene.view, marking.athlete.hand, marking.variant)) {
            const Mark* m = findMark(marking, frame, landmark);
            if (m && m->source != Source::Coach &&
                std::find(doubts.begin(), doubts.end(), UncertainMark{frame, landmark, m->sigma}) == doubts.end())
                doubts.push_back({frame, landmark, m->sigma});
        }
    }
    std::stable_sort(doubts.begin(), doubts.end(), [](const UncertainMark& a, const UncertainMark& b) {
        return a.sigma != b.sigma ? a.sigma > b.sigma : a.frame < b.frame;
    });
    return doubts;
}

} // namespace kestrel
