#pragma once

#include "report/page.h"

/// What stands on a page around its parts, said once for the printed one and the one for a telephone.
namespace kestrel::report {

inline constexpr const char* kAlreadyGood = "Already good";

inline constexpr const char* kSinceLastPage = "Since your last page";

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
