#pragma once

#include "core/compare/change.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// What becomes of a task once it was practised.
enum class NextStep {
    Keep,       ///< it is not there yet
    MakeHarder, ///< it is there, not every time: the same cue at full speed, or with a ball
    GoOn        ///< it held: the next task's turn
};
std::string_view wordOf(NextStep); ///< "keep", "make_harder", "go_on"
/// "keep the task"
std::string_view plainWordsOf(NextStep);

/// The last task, looked at again.
struct FollowUp {
    std::string fault;   ///< of the pack
    std::string measure; ///< it is judged by
    NextStep step = NextStep::Keep;
    std::string reason; ///< sentences
    bool operator==(const FollowUp&) const = default;
};

/// A dip so long after a change is normal, days.
inline constexpr int kDipDays = 21;

/// \param fault    the one thing of the last page
/// \param measure  the condition it was called by
/// \param change   of the two days, with the measure as its one thing
/// \param after    the later day's readings, by repetition
/// \param days     between the two
/// Empty: the pack knows no such fault any more.
std::optional<FollowUp> calcFollowUp(const Pack&, const std::string& fault, const std::string& measure, const DayChange& change,
                                     const std::vector<std::vector<Reading>>& after, int days);

} // namespace kestrel
