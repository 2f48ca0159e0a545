#pragma once

#include <chrono>
#include <optional>
#include <string>

namespace kestrel {

/// A day of the calendar, without a time and without a time zone.
using Date = std::chrono::sys_days;

/// "2026-04-11". Empty: another form, or no such day.
std::optional<Date> parseDate(const std::string&);
std::string textOf(Date);
/// "Sat 11 April 2026"
std::string wordsOf(Date);
/// From one to the other; negative when \p to is earlier.
inline int daysBetween(Date from, Date to)
{
    return static_cast<int>((to - from).count());
}
/// Completed years. Who was born on 29 February is a year older on 1 March where there is no such day.
int yearsBetween(Date born, Date on);

} // namespace kestrel
