#pragma once

#include "core/base/date.h"
#include "core/compare/follow_up.h"
#include "report/document.h"
#include "report/page.h"

#include <string>
#include <vector>

namespace kestrel::report {

/// One of the two days.
struct ChangeDay {
    std::string date;                           ///< "2026-04-11"
    std::vector<std::vector<Reading>> readings; ///< by repetition, with their errors
    FrameSource frames;                         ///< of those repetitions; empty: line drawings stand in for the stills
};

/// A measure before and after, with its pictures.
struct ChangeRow {
    std::string name;
    ChangeVerdict verdict = ChangeVerdict::NotComparable;
    bool isPractised = false; ///< it was the one thing of a page
    std::string why;
    Still before, after; ///< the caption has the date and the value
};

/// What has changed between two filming days: the few measures that matter, on one side of A4.
struct ChangePage {
    std::string title, subtitle;
    std::string sentence; ///< for the player
    std::string next;     ///< keep, make harder or go on, and why; may be empty
    std::vector<ChangeRow> rows;
    std::vector<std::string> others; ///< the other measures, a sentence for each verdict
    std::vector<std::string> unfair; ///< what the two days do not have in common
    std::string honesty;             ///< how much this rests on
    std::string caution;             ///< at the foot
    std::vector<std::string> warnings;
};

/// What was the task, on pages that were sent: the latest first.
struct PractisedTask {
    std::string fault, measure;
    bool operator==(const PractisedTask&) const = default;
};

/// \param unfair  as unfairness()
ChangePage makeChangePage(const Pack&, const std::string& player, const ChangeDay& before, const ChangeDay& after,
                          const std::vector<PractisedTask>&, const std::vector<std::string>& unfair, Voice);

/// One side of A4, upright.
Document documentOf(const ChangePage&);

} // namespace kestrel::report
