#pragma once

#include "core/review.h"
#include "store/row_id.h"

#include <map>
#include <memory>
#include <optional>
#include <vector>

namespace kestrel::app {

/// A body marked on every picture rather than at key positions alone: more marks than that are judged on another thread.
inline constexpr std::size_t kManyMarks = 2000;

/// A repetition to read: its marking and the same one filmed from another side, if it was.
struct ToRead {
    Marking marking;
    std::shared_ptr<const Repetition> fromOtherSide; ///< null: filmed from one side only
};

/// Everything that judging the repetition on the bench takes, so that it can be done on another thread.
struct ToJudge {
    Pack pack;
    ReadOptions options;
    FrameClock clock; ///< of the clip
    ToRead shown;
    std::map<store::RepetitionId, ToRead> unread;       ///< of the clip's other repetitions
    std::map<store::RepetitionId, ReadRepetition> read; ///< those that have not changed since
    /// In the order of the film; the shown one is not among them.
    std::vector<store::RepetitionId> others;

    std::size_t marks() const; ///< that have to be gone through
};

struct Judged {
    Review review;
    std::vector<SegmentCurve> curves; ///< how fast each segment turns; empty without a sequence
    std::map<store::RepetitionId, ReadRepetition> read;
};

Judged judge(ToJudge);

} // namespace kestrel::app
