#include "core/unit.h"

#include "core/word_table.h"

#include <cmath>
#include <cstdio>

namespace kestrel {

namespace {

constexpr WordRow<Unit> kWords[] = {
    {Unit::Degree, "deg"},     {Unit::PercentHeight, "percent_height"},
    {Unit::Metre, "m"},        {Unit::Centimetre, "cm"},
    {Unit::Millisecond, "ms"}, {Unit::Ratio, "ratio"},
};
constexpr WordRow<Unit> kSuffixes[] = {
    {Unit::Degree, "°"},        {Unit::PercentHeight, " % of height"},
    {Unit::Metre, " m"},        {Unit::Centimetre, " cm"},
    {Unit::Millisecond, " ms"}, {Unit::Ratio, ""},
};

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
    case Unit::Degree:
    case Unit::Metre:
    case Unit::Ratio:
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
    return shortNumber(v) + std::string(suffixOf(u));
}

} // namespace kestrel
