#include "core/base/unit.h"

#include "core/base/word_table.h"

#include <cmath>
#include <cstdio>

namespace kestrel {

namespace {

constexpr WordRow<Unit> kWords[] = {
    {Unit::Degree, "deg"},
    {Unit::PercentHeight, "percent_height"},
    {Unit::Metre, "m"},
    {Unit::Centimetre, "cm"},
    {Unit::Millisecond, "ms"},
    {Unit::Ratio, "ratio"},
    {Unit::ClockHour, "clock"},
    {Unit::MetrePerSecond, "m_per_s"},
    {Unit::DegreePerSecond, "deg_per_s"},
    {Unit::TurnPerSecond, "turns_per_s"},
    {Unit::PerMetre, "per_m"},
};
constexpr WordRow<Unit> kSuffixes[] = {
    {Unit::Degree, "°"},
    {Unit::PercentHeight, " % of height"},
    {Unit::Metre, " m"},
    {Unit::Centimetre, " cm"},
    {Unit::Millisecond, " ms"},
    {Unit::Ratio, ""},
    {Unit::ClockHour, " on the clock"},
    {Unit::MetrePerSecond, " m/s"},
    {Unit::DegreePerSecond, "°/s"},
    {Unit::TurnPerSecond, " turns/s"},
    {Unit::PerMetre, " per m"},
};

/// Hours from twelve as the face shows them: -0.5 is "11:30".
std::string clockWords(double hours)
{
    const long minutes = std::lround(hours * 60);
    const long onFace = (minutes % 720 + 720) % 720;
    char text[16];
    std::snprintf(text, sizeof text, "%ld:%02ld", onFace < 60 ? 12 : onFace / 60, onFace % 60);
    return text;
}

/// A true minus sign, and none on zero.
std::string withMinus(std::string s)
{
    if (s == "-0")
        return "0";
    return s.front() == '-' ? "\u2212" + s.substr(1) : s;
}

} // namespace

Quantity quantityOf(Unit u)
{
    switch (u) {
    case Unit::Degree:
        return Quantity::Angle;
    case Unit::PercentHeight:
    case Unit::Metre:
    case Unit::Centimetre:
        return Quantity::Length;
    case Unit::Millisecond:
        return Quantity::Time;
    case Unit::ClockHour:
        return Quantity::Clock;
    case Unit::MetrePerSecond:
        return Quantity::Speed;
    case Unit::DegreePerSecond:
    case Unit::TurnPerSecond:
        return Quantity::Rate;
    case Unit::PerMetre:
        return Quantity::Bend;
    case Unit::Ratio:
        break;
    }
    return Quantity::Ratio;
}

std::string_view wordOf(Unit u)
{
    return wordIn(kWords, u);
}
std::optional<Unit> findUnit(std::string_view w)
{
    return findIn(kWords, w);
}
std::string_view suffixOf(Unit u)
{
    return wordIn(kSuffixes, u);
}

std::optional<double> convert(double base, Unit unit, std::optional<double> heightMetres)
{
    switch (unit) {
    case Unit::PercentHeight:
        if (!heightMetres || *heightMetres <= 0)
            return std::nullopt;
        return 100 * base / *heightMetres;
    case Unit::Centimetre:
        return 100 * base;
    case Unit::Millisecond:
        return 1000 * base;
    case Unit::TurnPerSecond:
        return base / 360;
    case Unit::Degree:
    case Unit::Metre:
    case Unit::Ratio:
    case Unit::ClockHour:
    case Unit::MetrePerSecond:
    case Unit::DegreePerSecond:
    case Unit::PerMetre:
        break;
    }
    return base;
}

std::string shortNumber(double v)
{
    const double size = std::abs(v);
    const int decimals = size >= 9.95 ? 0 : size >= 0.995 ? 1 : 2;
    char text[32];
    std::snprintf(text, sizeof text, "%.*f", decimals, v);
    std::string s(text);
    if (decimals > 0) { // 4.0 -> 4
        while (s.back() == '0')
            s.pop_back();
        if (s.back() == '.')
            s.pop_back();
    }
    return withMinus(std::move(s));
}

std::string exactNumber(double v)
{
    char text[32];
    std::snprintf(text, sizeof text, "%.6g", v);
    return withMinus(text);
}

std::string withUnit(double v, Unit u)
{
    if (u == Unit::ClockHour)
        return clockWords(v);
    return shortNumber(v) + std::string(suffixOf(u));
}

std::string differenceWithUnit(double v, Unit u)
{
    return u == Unit::ClockHour ? shortNumber(60 * v) + " min on the clock" : withUnit(v, u);
}

std::string plusMinus(double reach, Unit u)
{
    return "±" + (u == Unit::ClockHour ? shortNumber(60 * reach) + " min" : shortNumber(reach));
}

} // namespace kestrel
