#pragma once

#include "core/base/unit.h"
#include "core/measure/figure.h"
#include "core/measure/verdict.h"
#include "core/pack/pack.h"
#include "core/scene/prepared_repetition.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// Which of a pack's bands hold. It does not change what was seen.
struct ReadOptions {
    std::string school;        ///< empty: the pack's first
    std::optional<double> age; ///< years; empty: the marking's
    bool operator==(const ReadOptions&) const = default;
};

/// How much a measure differs between repetitions: its repeatability.
struct Spread {
    int repetitions = 0;     ///< that have a value, at least two
    double mean = 0, sd = 0; ///< in the reading's unit; the deviation of one repetition, the error of measuring it included
    /// The least difference between the means of two such sets of repetitions that is more than chance (95 %):
    /// 1.96 sqrt(2) sd / sqrt(repetitions).
    double smallestRealChange = 0;
    bool operator==(const Spread&) const = default;
};

/// A measured value, how sure it is and what it means.
struct Reading {
    std::string measure;               ///< id in the pack
    std::string keyPosition;           ///< where it is read; the end of a span
    std::optional<double> value;       ///< in `unit`; empty when there is no reading
    std::optional<double> uncertainty; ///< one standard deviation, in `unit`
    Unit unit = Unit::Degree;
    std::optional<double> low, high; ///< the band; an absent end is open
    Verdict verdict = Verdict::NotMarked;
    std::string why;              ///< a sentence with the numbers it rests on
    Figure figure;                ///< how to show it on the film; empty without a value
    std::size_t figureOf = 0;     ///< on whose film: the repetition's place in what was judged together
    int repetitions = 1;          ///< how many it is the typical value of
    std::optional<Spread> spread; ///< over the repetitions judged with it; empty: only one has a value
    bool isFromTwoViews = false;  ///< the true value, from two films of the repetition; else what one camera shows
    /// By draw of the errors, how far it moves the value; NaN where it has none. Two repetitions under the same draw have the
    /// same camera. Not written to files, and empty once judged.
    std::vector<float> errors;
    bool operator==(const Reading&) const = default;

    /// Too close to call, with a whisker as long as everything the value could be: the number is not shown.
    bool saysNothing() const;

    /// How far outside the band, in `unit`; positive above, negative below, 0 inside or without a value.
    double beyondBand() const;
};

/// Reads every measure of the pack that applies to the repetition's variant, in pack order.
/// Same marking, same pack: same readings to the last digit.
///
/// \param fromSecondCamera  the same repetition on another film, with its own marks, key positions and scale, or null. Where one
/// of the two is seen from a side and the other from the front or rear, what turns about the plumb line has its true value.
std::vector<Reading> calcReadings(const Pack&, const PreparedRepetition&, const ReadOptions&,
                                  const PreparedRepetition* fromSecondCamera = nullptr);

/// Whether two views together show what neither shows alone: one from a side, one from the front or rear.
bool seeTogether(View, View);

/// The typical repetition: for each measure the median value over the repetitions that have one, with the standard
/// error of the mean of both kinds of spread (between repetitions, and each reading's own), judged anew. What the camera, its
/// scale and the body's depth put into every repetition alike does not average out.
/// A figure comes from the repetition whose value is the median, and `figureOf` says which that is.
/// \param perRepetition  not empty; each as calcReadings gave it for the same pack and options
std::vector<Reading> calcTypical(const Pack&, const std::vector<std::vector<Reading>>& perRepetition);

/// Over the values among them. Empty: fewer than two.
std::optional<Spread> calcSpread(const Measure&, const std::vector<const Reading*>&);

/// Sets verdict and why from value, uncertainty and band, both of which are there.
/// \param margin  how far outside the band is still near
void judgeAgainstBand(Reading&, double margin);

/// Whiskers and "too close to call" reach this many standard deviations to either side: 80 % of a normal error. Longer ones hide
/// faults that are there, shorter ones call off what is not: docs/architecture.md has what was measured.
inline constexpr double kWhisker = 1.28;

} // namespace kestrel
