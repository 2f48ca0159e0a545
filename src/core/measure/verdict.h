#pragma once

#include <optional>
#include <string_view>

namespace kestrel {

enum class Verdict {
    OnTarget,
    Near,            ///< outside the band by no more than the measure's margin
    Off,             ///< outside the band and its margin
    TooCloseToCall,  ///< the uncertainty lies across the band's edge
    NotFromThisView, ///< a camera there cannot show it
    NotMarked,       ///< a point, a key position, the scale or the height is missing
    TooFewFrames,    ///< the film is too slow for a time this short
};

/// The word used in files and on the command line: "on_target".
std::string_view wordOf(Verdict);
std::optional<Verdict> findVerdict(std::string_view);
/// The words a coach reads: "on target".
std::string_view plainWordsOf(Verdict);

/// True when there is a number behind the verdict.
constexpr bool hasValue(Verdict v)
{
    return v == Verdict::OnTarget || v == Verdict::Near || v == Verdict::Off || v == Verdict::TooCloseToCall;
}

} // namespace kestrel
