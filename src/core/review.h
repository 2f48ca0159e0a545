#pragma once

#include "core/pack.h"
#include "core/reading.h"

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// Something the player does well.
struct Strength {
    std::string measure, text;
    bool operator==(const Strength&) const = default;
};

/// A fault of the pack as this film shows it.
struct FaultFinding {
    std::string fault;
    Verdict verdict = Verdict::OnTarget;
    std::vector<std::string> measures; ///< the conditions that hold (or would, for the other verdicts)
    std::vector<std::string> causedBy; ///< present faults that lead to this one
    std::vector<std::string> explains; ///< present faults that follow from this one, near or far
    double score = 0;                  ///< see calcReview; 0 unless off
    bool operator==(const FaultFinding&) const = default;
};

/// The main cue and the reasoning that chose it.
struct OneThing {
    std::string fault;
    Cue cue;
    std::vector<std::string> drills;
    std::string why;
    bool operator==(const OneThing&) const = default;
};

struct Review {
    std::string pack, school;
    AthleteFacts athlete;
    std::string filmFile; ///< of the repetition the figures belong to
    std::vector<Reading> readings;
    std::vector<Strength> strengths;     ///< surest first
    std::vector<FaultFinding> faults;    ///< those off, near or too close to call; highest score first
    std::optional<OneThing> oneThing;    ///< empty: nothing to change on this film
    std::vector<std::string> later;      ///< at most two faults that wait
    std::vector<std::string> leaveAlone; ///< sentences about style
    bool operator==(const Review&) const = default;

    const Reading* findReading(std::string_view measure) const;
};

/// Judges readings: good things first, then the one thing to change.
///
/// A fault is called when one of its conditions is off on its side. Its score is
///   outside x sure x (1 + downstream) x risk x teachable
/// where outside is the distance from the band in margins (at most 3), sure the probability that the true value is
/// outside the band, downstream the number of other called faults it explains, directly or through others, and
/// teachable the pack's number for the age. Scores within 5 % tie and go by stage: base, eyes, legs, trunk, arm.
Review calcReview(const Pack&, std::vector<Reading>, const Marking& shown, const ReadOptions&);

/// As on the command line; `format` "jolly-kestrel/review".
nlohmann::json toJson(const Review&, const Pack&);
nlohmann::json toJson(const std::vector<Reading>&);
Expected<Review> loadReview(const std::string& file);

} // namespace kestrel
