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
    Clock,  ///< hours on a clock face from twelve, negative before it
    Speed,  ///< metres per second
    Rate,   ///< degrees per second
    Bend,   ///< of a path: one over its radius in metres
};

/// The unit in which a measure is read and its bands are written.
enum class Unit {
    Degree,
    PercentHeight,
    Metre,
    Centimetre,
    Millisecond,
    Ratio,
    ClockHour,
    MetrePerSecond,
    DegreePerSecond,
    TurnPerSecond,
    PerMetre,
};

Quantity quantityOf(Unit);
/// The word used in files: "deg", "percent_height", "m", "cm", "ms", "ratio", "clock", "m_per_s",
/// "deg_per_s", "turns_per_s", "per_m".
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
/// "82 % of height", "47°", "12:40" on the clock.
std::string withUnit(double value, Unit);
/// "±3", or "±6 min" on the clock: what stands behind a value with its unit.
std::string plusMinus(double reach, Unit);
/// A difference: as withUnit, but "20 min on the clock".
std::string differenceWithUnit(double value, Unit);

} // namespace kestrel
