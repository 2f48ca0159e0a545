#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace kestrel {

/// What radar guns say, one reading a line: "SPEED 31.4 m/s", ended by a line feed, with or without a carriage return.
/// The unit is m/s, km/h or mph. Other lines are left alone, so that a gun may say more.
///
/// Metres per second. Empty: not such a line, or a speed below 1 or above 120 m/s, which no ball or puck has.
std::optional<double> parseRadarLine(std::string_view line);

/// The line for a speed in metres per second, without its end.
std::string radarLine(double metresPerSecond);

} // namespace kestrel
