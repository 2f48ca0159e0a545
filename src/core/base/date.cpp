#include "core/base/date.h"

#include <array>
#include <cstdio>

namespace kestrel {

namespace {

constexpr std::array kDays{"Sun", "Mon", "Tue", "Wed", "Thu", "Fri", "Sat"};
constexpr std::array kMonths{"January", "February", "March",     "April",   "May",      "June",
                             "July",    "August",   "September", "October", "November", "December"};

} // namespace

std::optional<Date> parseDate(const std::string& text)
{
    if (text.size() != 10 || text[4] != '-' || text[7] != '-')
        return std::nullopt;
    int parts[3] = {};
    std::size_t at = 0;
    for (int n = 0; n < 3; ++n, ++at)
        for (const std::size_t end = at + (n == 0 ? 4 : 2); at < end; ++at) {
            if (text[at] < '0' || text[at] > '9')
                return std::nullopt;
            parts[n] = 10 * parts[n] + (text[at] - '0');
        }
    const std::chrono::year_month_day day{std::chrono::year(parts[0]), std::chrono::month(static_cast<unsigned>(parts[1])),
                                          std::chrono::day(static_cast<unsigned>(parts[2]))};
    return day.ok() ? std::optional<Date>(day) : std::nullopt;
}

std::string textOf(Date date)
{
    const std::chrono::year_month_day day(date);
    char text[24];
    std::snprintf(text, sizeof text, "%04d-%02u-%02u", static_cast<int>(day.year()), static_cast<unsigned>(day.month()),
                  static_cast<unsigned>(day.day()));
    return text;
}

std::string wordsOf(Date date)
{
    const std::chrono::year_month_day day(date);
    return std::string(kDays[std::chrono::weekday(date).c_encoding()]) + " " + std::to_string(static_cast<unsigned>(day.day())) +
           " " + kMonths[static_cast<unsigned>(day.month()) - 1] + " " + std::to_string(static_cast<int>(day.year()));
}

int yearsBetween(Date born, Date on)
{
    const std::chrono::year_month_day a(born), b(on);
    const int years = static_cast<int>(b.year()) - static_cast<int>(a.year());
    const bool isBefore = b.month() < a.month() || (b.month() == a.month() && b.day() < a.day());
    return isBefore ? years - 1 : years;
}

} // namespace kestrel
