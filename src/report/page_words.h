#pragma once

#include "core/base/date.h"
#include "report/page.h"

/// What stands on a page around its parts, said once for the printed one and the one for a telephone.
namespace kestrel::report {

inline constexpr const char* kAlreadyGood = "Already good";

inline constexpr const char* kSinceLastPage = "Since your last page";

/// The day of filming as on paper: "Sat 11 April 2026" for "2026-04-11".
inline std::string filmedOn(const std::string& date)
{
    const auto day = parseDate(date);
    return day ? kestrel::wordsOf(*day) : date;
}
inline std::string headOf(const PageTask& t)
{
    return "The one thing · " + t.severity;
}
inline std::string practiceOf(const Drill& d)
{
    return "Practise: " + d.name;
}
inline std::string needsOf(const Drill& d)
{
    return "You need: " + d.kitWords() + ". Where: " + d.space + ".";
}
inline std::string feelOf(const Drill& d)
{
    return "Feel: " + d.feel + " Avoid: " + d.mistakes;
}
inline std::string thenOf(const std::string& also)
{
    return "Then: " + also;
}
inline std::string laterOf(const Page& p)
{
    return "Not yet, later: " + p.later + ".";
}
inline std::string filmNextOf(const Page& p)
{
    return "Film next: " + p.filmNext;
}

} // namespace kestrel::report
