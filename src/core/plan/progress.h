#pragma once

#include "core/compare/change.h"
#include "core/plan/book.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// A measure on one filming day.
struct ProgressPoint {
    Date date;
    int repetitions = 0;
    double mean = 0;
    double uncertainty = 0; ///< of the mean: spread, marks and that day's camera; one standard deviation
    bool operator==(const ProgressPoint&) const = default;
};

/// A measure over the filming days.
struct Progress {
    std::string measure;
    Unit unit = Unit::Degree;
    std::optional<double> low, high;   ///< the band
    std::vector<ProgressPoint> points; ///< by date; days on which it was read
    double smallestReal = 0;           ///< between the first day and the last; 0: one of them has a single repetition
    ChangeVerdict verdict = ChangeVerdict::NotComparable; ///< of the last day against the first
    std::optional<Date> realSince; ///< the first day from which on it differs from the first for real; empty: none
    std::string words;             ///< "6 days, from 61 to 44 degrees, changed for real since 2026-10-03"
};

/// A filming day's readings, by repetition.
struct ProgressDay {
    Date date;
    std::vector<std::vector<Reading>> readings;
};
/// \param days  by date
Progress calcProgress(const Pack&, const std::string& measure, const std::vector<ProgressDay>& days);

/// What a repetition's outcome in the coach's words means: "in", "strike", "made" came off, "out", "wide", "missed" did not.
/// Empty: neither can be told.
std::optional<bool> cameOff(const std::string& outcome);

/// How a body grows.
struct HeightOn {
    Date date;
    double metres = 0;
};
/// "1.58 m on 2026-10-03, 8.1 cm a year since 2026-04-11: fast growth, ..."; empty: no height is known. \param heights  by date
std::string growthWords(const std::vector<HeightOn>& heights);

/// The same as a row of dots, centimetres.
Progress calcGrowth(const std::vector<HeightOn>& heights);

/// "7 of 9 planned days were practised"; empty: nothing was planned up to that day.
std::string adherenceWords(const std::vector<Date>& planned, const Book&, Date today);

} // namespace kestrel
