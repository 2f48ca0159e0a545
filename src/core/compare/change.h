#pragma once

#include "core/pack/pack.h"
#include "core/read/reading.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// What two filming days say about a measure.
enum class ChangeVerdict {
    Better,       ///< for real, toward its band
    Worse,        ///< for real, away from its band
    Changed,      ///< for real, within its band, or without one
    NoChange,     ///< none that can be told from noise, though one that matters would have been seen
    NeedMore,     ///< one that matters could hide in the noise: more repetitions would tell
    NotComparable ///< read on one of the days only
};
std::string_view wordOf(ChangeVerdict); ///< "better", "need_more"
/// "better for real"
std::string_view plainWordsOf(ChangeVerdict);

/// A measure before and after.
struct MeasureChange {
    std::string measure;
    Unit unit = Unit::Degree;
    int before = 0, after = 0; ///< repetitions with a value
    double meanBefore = 0, meanAfter = 0;
    double change = 0;        ///< after - before; of directions the short way round
    double uncertainty = 0;   ///< one standard deviation of the change
    double freedom = 0;       ///< degrees of freedom of that
    double low = 0, high = 0; ///< its 95 % interval
    double smallestReal = 0;  ///< the least change that is called real here
    ChangeVerdict verdict = ChangeVerdict::NotComparable;
    std::optional<int> needed; ///< repetitions a day that would settle it; empty: settled, or the cameras hide it
    std::string why;           ///< a sentence
    bool operator==(const MeasureChange&) const = default;
};

/// The whole comparison.
struct DayChange {
    std::vector<MeasureChange> measures; ///< the one thing first, then real changes, then the others in the pack's order
    std::string answer;                  ///< the few sentences that matter
    bool operator==(const DayChange&) const = default;

    const MeasureChange* find(std::string_view measure) const;
};

/// The share of changes called real that may be chance, over all measures but the one thing (Benjamini and Hochberg, 1995); the
/// one thing stands for itself, at 5 %.
inline constexpr double kFalseDiscoveries = 0.10;
inline constexpr double kChance = 0.05;

/// Compares two days of the same skill, measure by measure.
///
/// Repetition differs from repetition, and each is measured with an error of its own: both are in the spread within a day, which
/// is pooled over the two days and never taken to be less than the marks say. What a camera, its scale and the body's depth put
/// into every repetition of a day alike does not average out: it is taken from the readings' common errors, once for each day,
/// since the camera is set up anew. Few repetitions are judged by Student's t, with degrees of freedom after Welch and
/// Satterthwaite.
///
/// \param before, after  readings of each repetition, with their errors, as calcReadings gave them
/// \param oneThing       the measure that was practised; may be empty
DayChange calcChange(const Pack&, const std::vector<std::vector<Reading>>& before, const std::vector<std::vector<Reading>>& after,
                     const std::string& oneThing = {});

/// Why two days should not be compared, a sentence each: other view, other variant, another hand, a body that has grown.
std::vector<std::string> unfairness(const Marking& before, const Marking& after);

} // namespace kestrel
