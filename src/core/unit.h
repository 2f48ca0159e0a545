#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace kestrel {

/// What a kind of measure yields, in the base unit its formula works in.
enum class Quantity {
    Angle,  ///< degrees
    Length, ///< metres
    Time,   ///< seconds of real time
    Ratio,  ///< no unit
};

/// The unit in which a measure is read and its bands are written.
enum class Unit { Degree, PercentHeight, Metre, Centimetre, Millisecond, Ratio };

Quantity quantityOf(Unit);
/// The word used in files: "deg", "percent_height", "m", "cm", "ms", "ratio".
std::string_view wordOf(Unit);
std::optional<Unit> findUnit(std::string_view);
/// What a coach reads after the number: "°", " % of height", " ms".
std::string_view suffixOf(Unit);

/// From the base unit of the quantity. Empty: percent of height without a height.
std::optional<double> convert(double base, Unit, std::optional<double> heightMetres);

/// At most three digits, no sign on zero: "82", "4.2", "0.94".
std::string shortNumber(double value);
/// Every digit that was written: "1.45", "\u22126".
std::string exactNumber(double value);
/// "82 % of height", "47°".
std::string withUnit(double value, Unit);

} // namespace kestrel
