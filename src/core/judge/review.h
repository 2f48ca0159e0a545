#pragma once

#include "core/judge/pain.h"
#include "core/pack/pack.h"
#include "core/read/reading.h"
#include "core/read/sequence.h"

#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <set>
#include <string>
#include <vector>

namespace kestrel {

/// Something the player does well.
struct Strength {
    std::string measure, text;
    bool operator==(const Strength&) const = default;
};

/// How much it matters, in the four words there are.
enum class Severity { Fine, CouldBeBetter, FixThis, StopAndLook };

/// In how many repetitions a fault shows.
struct Habit {
    int shown = 0, read = 0; ///< of those in which one of its conditions could be read
    bool operator==(const Habit&) const = default;
};

/// A fault of the pack as this film shows it.
struct FaultFinding {
    std::string fault;
    Verdict verdict = Verdict::OnTarget;
    std::vector<std::string> measures; ///< the conditions that hold (or would, for the other verdicts)
    std::vector<std::string> causedBy; ///< present faults that lead to this one
    std::vector<std::string> explains; ///< present faults that follow from this one, near or far
    double score = 0;                  ///< see calcReview; 0 unless off
    Severity severity = Severity::Fine;
    Habit habit;
    bool operator==(const FaultFinding&) const = default;
};

/// What has to be said with a fault that can hurt, whichever task was chosen.
struct FaultCaution {
    std::string fault, text;
    bool operator==(const FaultCaution&) const = default;
};

/// The main cue and the reasoning that chose it.
struct OneThing {
    std::string fault;
    Cue cue;
    std::vector<std::string> drills;
    std::string why;
    Severity severity = Severity::FixThis;
    bool operator==(const OneThing&) const = default;
};

/// What else a coach would say, each a sentence.
enum class RemarkKind {
    Seen,          ///< what the coach saw and no fault of the pack is about
    ByOutcome,     ///< what tells those that came off from those that did not
    Habit,         ///< how often the one thing shows, and whether that proves anything
    Repeatability, ///< how much it varies, and what change would be real
    CanDoIt,       ///< a repetition, or a shadow swing, in which it was right
    OtherKind,     ///< the kind of repetition that is missing
    School,        ///< a verdict another school would not give
    Rules,         ///< what the rules may say about it
    Growth,        ///< what growing does
    Equipment,     ///< whether the implement fits the hand
};
struct Remark {
    RemarkKind kind = RemarkKind::Habit;
    std::string text;
    bool operator==(const Remark&) const = default;
};

/// What the coach answered to an observation.
struct Observed {
    std::string observation, choice;
    Verdict verdict = Verdict::OnTarget;
    bool operator==(const Observed&) const = default;
};

struct Review {
    std::string pack, school;
    AthleteFacts athlete;
    std::vector<std::string> films; ///< by repetition judged: its film file; Reading::figureOf counts them
    std::set<BodyRegion> pain;      ///< noted for the day
    std::string stop;               ///< said instead of advice where there is pain; empty: none. Then there is no task
    std::vector<Reading> readings;
    std::vector<Strength> strengths;     ///< surest first
    std::vector<FaultFinding> faults;    ///< those off, near or too close to call; highest score first
    std::optional<OneThing> oneThing;    ///< empty: nothing to change on this film
    std::vector<OneThing> alsoNow;       ///< the second and third task, where the coach sends home more than one
    std::vector<std::string> later;      ///< at most two faults that wait: not on your own yet
    std::vector<std::string> next;       ///< called faults that are not yet taught at this age or by this coach
    std::vector<std::string> leaveAlone; ///< sentences about style
    std::vector<FaultCaution> cautions;  ///< of all called faults, the one thing's too
    std::vector<Remark> remarks;
    std::vector<Observed> observed;
    std::optional<Sequence> sequence; ///< of the first repetition that shows one
    int repetitions = 1;              ///< that were judged; shadow swings do not count beside live ones
    bool operator==(const Review&) const = default;

    const Reading* findReading(std::string_view measure) const;
};

/// One repetition with what was read from it.
struct ReadRepetition {
    Marking marking; ///< its marks may be left out: judging looks at the readings
    std::vector<Reading> readings;
    std::optional<Sequence> sequence;
    std::string label; ///< what the coach calls it: "clip 2, repetition 1"; empty: its number among those judged
};
/// Everything but the marks: what judging looks at besides readings.
Marking withoutMarks(const Marking&);
/// \param fromSecondCamera  as calcReadings
ReadRepetition readRepetition(const Pack&, const PreparedRepetition&, const ReadOptions&,
                              const PreparedRepetition* fromSecondCamera = nullptr);

/// What the coach chose for judging besides what reading needs.
struct JudgeOptions : ReadOptions {
    int tasks = 1;                         ///< how many cues go home: one, two or three
    std::vector<std::string> notYetTaught; ///< faults of the pack that are "next" and never blamed
    std::string lastTask;                  ///< fault that the last page was about; empty: none. Called again, it stays the task
    std::set<BodyRegion> pain;             ///< noted for the day
};

/// Judges repetitions, at least one: good things first, then the one thing to change.
///
/// A fault is called when one of its conditions is off on its side. Its score is
///   outside x sure x (1 + downstream) x risk x teachable
/// where outside is the distance from the band in margins (at most 3), sure the probability that the true value is
/// outside the band, downstream the number of other called faults it explains, directly or through others, and
/// teachable the pack's number for the age. Several repetitions are judged by the typical one of the live ones (see
/// calcTypical), or of the shadow swings when there are no others. Scores within 5 % tie and go by stage: base, eyes, legs,
/// trunk, arm.
///
/// A fault to stop and look at comes before any score, and then the task of the last page, if it is still called: one thing at a
/// time until it is there. Under ten years one thing goes home, whatever was asked for. Nothing is
/// praised about the joint that the one thing is about. Where pain was noted, what was seen stays and no advice is given.
Review calcReview(const Pack&, const std::vector<ReadRepetition>&, const JudgeOptions&);

std::string_view wordOf(Severity);
std::optional<Severity> findSeverity(std::string_view);
/// "stop and look"
std::string_view plainWordsOf(Severity);
std::string_view wordOf(RemarkKind);
std::optional<RemarkKind> findRemarkKind(std::string_view);

/// As on the command line; `format` "jolly-kestrel/review".
nlohmann::json toJson(const Review&, const Pack&);
nlohmann::json toJson(const std::vector<Reading>&);
Expected<Review> loadReview(const std::string& file);
/// \param file  for messages
Expected<Review> parseReview(const nlohmann::json&, const std::string& file);

} // namespace kestrel
