#include "core/base/radar_line.h"

#include <array>
#include <cmath>
#include <cstdio>
#include <cstdlib>

namespace kestrel {

namespace {

struct SpeedUnit {
    std::string_view word;
    double metresPerSecond;
};
constexpr std::array<SpeedUnit, 3> kUnits{{{"m/s", 1}, {"km/h", 1 / 3.6}, {"mph", 0.44704}}};
constexpr double kSlowest = 1, kFastest = 120;

std::string_view takeWord(std::string_view& rest)
{
    constexpr std::string_view kBlank = " \t\r\n";
    const auto begin = rest.find_first_not_of(kBlank);
    if (begin == std::string_view::npos)
        return rest = {};
    const auto end = rest.find_first_of(kBlank, begin);
    const auto word = rest.substr(begin, end == std::string_view::npos ? end : end - begin);
    rest = end == std::string_view::npos ? std::string_view() : rest.substr(end);
    return word;
}

} // namespace

std::optional<double> parseRadarLine(std::string_view line)
{
    if (takeWord(line) != "SPEED")
        return std::nullopt;
    const std::string number(takeWord(line));
    char* end = nullptr;
    const double value = std::strtod(number.c_str(), &end);
    if (number.empty() || *end != '\0' || !std::isfinite(value))
        return std::nullopt;
    const std::string_view unit = takeWord(line);
    if (!takeWord(line).empty())
        return std::nullopt;
    for (const auto& u : kUnits)
        if (unit == u.word) {
            const double speed = value * u.metresPerSecond;
            return speed >= kSlowest && speed <= kFastest ? std::optional(speed) : std::nullopt;
        }
    return std::nullopt;
}

std::string radarLine(double metresPerSecond)
{
    char text[48];
    std::snprintf(text, sizeof text, "SPEED %.1f m/s", metresPerSecond);
    return text;
}

} // namespace kestrel
