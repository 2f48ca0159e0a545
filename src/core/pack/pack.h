#pragma once

#include "core/base/error.h"
#include "core/measure/kind.h"
#include "core/measure/verdict.h"

#include <array>
#include <cstdint>
#include <nlohmann/json_fwd.hpp>
#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// What a band rests on.
enum class Evidence {
    Geometry, ///< "G": follows from geometry or physics
    Papers,   ///< "P": a range commonly reported in sports-science papers
    Taught,   ///< "T": commonly taught by coaches; schools may differ
};

/// The stretch of values that is on target, for some ages and one school or for all.
struct Band {
    std::optional<double> low, high; ///< in the measure's unit; an absent end is open
    Evidence evidence = Evidence::Taught;
    std::string school;                   ///< empty: every school
    std::optional<double> minAge, maxAge; ///< years, inclusive
    std::vector<std::string> variants{};  ///< empty: every variant
    std::string of{};                     ///< whose range it is: "averages of school pitchers in studies"; may be empty
    bool operator==(const Band&) const = default;
};

/// A named way of teaching the skill.
struct School {
    std::string id, name, note;
    bool operator==(const School&) const = default;
};

/// What finds a key position on a marking (see detect.h). In the order of how many points they go by.
enum class DetectorKind {
    Highest, ///< the point is highest
    Lowest,  ///< the point is lowest
    Fastest, ///< the point moves fastest
    Still,   ///< the point first comes to rest
    Lands,   ///< the point comes down to where it then stays
    Leaves,  ///< the point first leaves where it was; from the film's beginning, where it stood then
    Ahead, ///< the point is furthest toward the target, or beyond a second one; not from the front or rear, as Behind and Crosses
    Behind,  ///< the point is furthest the other way
    Outward, ///< the point is furthest toward the dominant side, or beyond a second one; from the front or rear alone, as Inward
    Inward,  ///< the point is furthest toward the other side
    ComeApart, ///< two points first part
    Closest,   ///< two points are nearest each other
    Farthest,  ///< two points are farthest apart
    Crosses,   ///< the first point first passes the second toward the target
};
/// How many points a detector goes by, at least and at most.
struct PointCount {
    std::size_t least, most;
};
constexpr PointCount pointCountOf(DetectorKind k)
{
    if (k < DetectorKind::Ahead)
        return {1, 1};
    return k < DetectorKind::ComeApart ? PointCount{1, 2} : PointCount{2, 2};
}

/// A rule that finds an instant on a marking.
struct DetectorRule {
    DetectorKind kind = DetectorKind::Highest;
    std::vector<PointRole> points; ///< as many as pointCountOf says
    std::string after, before;     ///< key positions it is looked for between; empty: the film's ends
    double withinMs = 0;           ///< looked for no longer than that after `after`; 0: to the end
    double delayMs = 0;            ///< how much later the key position is than what is found
    double delayShare = 0;         ///< likewise, as a share of the movement's pace (see Pack::pace)
    double toleranceMs = 10;       ///< how far off it may be, to either side
    /// Instead of the two above where a network set the marks.
    std::optional<double> filmDelayShare{}, filmToleranceMs{};
    bool operator==(const DetectorRule&) const = default;
};

/// What finds a key position: a rule, and maybe further ones that vote on the same instant. The median of all that are found
/// counts.
struct Detector : DetectorRule {
    std::vector<DetectorRule> votes{};
    bool operator==(const Detector&) const = default;
};

struct KeyPosition {
    std::string id, name;
    std::string recognise; ///< how it is seen on the film, one sentence
    double holdsMs = 0;    ///< how long it lasts; a film needs a picture in that time. 0: long enough for any film
    std::optional<Detector> detector;
    std::optional<Detector> fallback;  ///< where the first one finds nothing, as on films on which no implement or ball is marked
    std::optional<Detector> fromEnd;   ///< from the front or rear, instead of the first two
    std::optional<Detector> fromAbove; ///< from overhead, likewise
    std::vector<std::string> anyOrderWith{}; ///< later ones that may come before it, as a jump's top and the release
    bool operator==(const KeyPosition&) const = default;
};
/// The one that is asked instead of the first two in that view. Null: none is.
const Detector* ownDetector(const KeyPosition&, View);

/// A kind applied to points at key positions, with what is expected of it.
struct Measure {
    std::string id;
    std::string name;      ///< plain words: "Stride"
    std::string technical; ///< what exactly is measured
    const MeasureKind* kind = nullptr;
    std::vector<PointRole> points;
    std::string at;   ///< key position; the end of the span for kinds over time
    std::string from; ///< start of the span; empty for kinds at an instant
    Unit unit = Unit::Degree;
    std::vector<View> views;
    std::vector<std::string> variants; ///< empty: all
    std::vector<Band> bands;           ///< empty only for one that is reported
    bool isReported = false;           ///< a value without a band: told, never judged
    double minRate = 0;                ///< pictures per second below which it says nothing; 0: any
    double margin = 0;                 ///< how far outside the band is still "near"
    std::string praise;                ///< what to say when it is well inside; empty: not a strength to mention
    std::string unjudged;              ///< why a value out of the band leads to no fault; empty: it does, or is praised
    std::string doubt;                 ///< where the band may be questioned; may be empty
    bool operator==(const Measure&) const = default;
};

/// What only eyes can see, asked of the coach at a key position.
struct Observation {
    struct Choice {
        std::string id, text;
        Verdict verdict = Verdict::OnTarget; ///< OnTarget, Near or Off
        std::string says;                    ///< what to tell the player; may be empty
        bool operator==(const Choice&) const = default;
    };
    std::string id, question, at;
    std::vector<View> views;           ///< from where it can be seen; empty: any
    std::vector<std::string> variants; ///< empty: all
    std::vector<Choice> choices;
    bool operator==(const Observation&) const = default;

    const Choice* findChoice(std::string_view) const;
};

/// Which way out of the band counts.
enum class Beyond { Below, Above, Either };

/// A measure out of its band on one side, or an observation answered with a choice that is off.
struct FaultCondition {
    std::string measure; ///< of a measure or an observation
    Beyond beyond = Beyond::Either;
    bool operator==(const FaultCondition&) const = default;
};

/// What to say, for a child (to about 10), a teenager, an adult.
struct Cue {
    std::string child, teen, adult;
    bool operator==(const Cue&) const = default;
};

/// What a fault takes from the player.
enum class Cost { Speed, Accuracy, Load, Rules };

/// Where in the body a fault sits: what is repaired first when scores tie.
enum class RepairStage { Base, Eyes, Legs, Trunk, Arm };

/// Other words for some variants.
struct VariantCue {
    std::vector<std::string> variants;
    Cue cue;
    bool operator==(const VariantCue&) const = default;
};

struct Fault {
    std::string id, name;
    std::string says;                            ///< to the player, a clause such as "your back knee bends too far"; may be empty
    std::string why;                             ///< what it costs, one sentence
    std::vector<FaultCondition> conditions;      ///< any one of them is enough
    std::vector<std::string> explains;           ///< faults that follow from this one
    double risk = 1;                             ///< 1 none, up to 2 where it adds load
    std::array<double, 4> teachable{1, 1, 1, 1}; ///< under 10, 10-13, 14-18, adult; 0 not yet, 1 well
    RepairStage stage = RepairStage::Legs;
    std::vector<Cost> costs;
    std::string caution; ///< shown with it where the movement can hurt; may be empty
    Cue cue;
    std::vector<VariantCue> variantCues;
    std::vector<std::string> drills;
    const Cue& cueFor(std::string_view variant) const;
    bool operator==(const Fault&) const = default;
};

struct Drill {
    std::string id, name, purpose, space, setup;
    std::vector<std::string> kit; ///< what has to be there, in the words of drills.json; empty: nothing
    std::vector<std::string> steps;
    std::string dose; ///< "3 x 6, slow"
    int daysAWeek = 3;
    int minutes = 5;                 ///< with the pauses
    double minAge = 3, maxAge = 120; ///< years, inclusive
    std::string feel, mistakes, easier, harder, caution;

    bool isForAge(std::optional<double> age) const { return !age || (*age >= minAge && *age < maxAge + 1); }
    std::string kitWords() const;  ///< "ball and glove"; "nothing"
    std::string doseWords() const; ///< "3 x 6, slow; 5 days a week, about 4 minutes"
    bool operator==(const Drill&) const = default;
};

/// How to film the skill from one side.
struct FilmingPlace {
    View view = View::Side;
    std::string where;  ///< the camera stands
    std::string height; ///< of the camera
    std::string frame;  ///< what has to be in the picture
    bool operator==(const FilmingPlace&) const = default;
};

/// Something of known length that lies or stands where this is played: what a scale is drawn along.
struct KnownLength {
    std::string name;
    double metres = 1;
    bool operator==(const KnownLength&) const = default;
};

/// Said to young players before technique is blamed.
struct EquipmentNote {
    double maxAge = 0; ///< years, inclusive
    std::string text;
    bool operator==(const EquipmentNote&) const = default;
};

/// Between which key positions the order of the segments is read.
struct SequenceSpan {
    std::string from, to;
    bool operator==(const SequenceSpan&) const = default;
};

/// Which hands hold something to hit with: both side by side, the dominant one, or both with a way between them, the dominant one
/// nearer its tip.
enum class Grip { Together, Dominant, Apart };

/// Something long and straight to hit with, which the program can find on film by itself. Shares of standing height; the film
/// says how long it really looks.
struct HeldImplement {
    double reach = 0.4;   ///< from the hand nearest its tip, or the middle of two side by side, to its tip, at most
    double behind = 0.06; ///< from there to its butt
    Grip grip = Grip::Together;
    double halfWidth = 0; ///< of its face; 0: it has none
    bool operator==(const HeldImplement&) const = default;
};

/// Which of an athlete's sides is the dominant one of a skill: the arm that throws, or the side that bats or holds the racket.
enum class HandUse { Throwing, Batting };
std::string_view wordOf(HandUse); ///< "throwing", "batting"
std::optional<HandUse> findHandUse(std::string_view);

/// Everything the product knows about one skill. Read from one JSON file.
struct Pack {
    std::string id, name, file;
    std::uint64_t digest = 0;          ///< another one for every other content, so that what was made with the pack can be told
    SideRole leadSide = SideRole::Off; ///< Dom: the dominant side is nearer the target, as in a backhand
    std::string domWord = "throwing", offWord = "glove"; ///< what coaches call the two arms
    HandUse handUse = HandUse::Throwing;
    std::string counts; ///< what the book counts of it: "pitch", "throw", "serve", "swing", "shot", "stroke"; empty: nothing
    std::string zero;   ///< key position from which time counts, and whose picture stands for a film; empty: the film's beginning
    std::vector<std::string> variants;
    std::vector<School> schools;           ///< the first is the one used when none is chosen
    std::vector<KeyPosition> keyPositions; ///< in time order
    std::vector<Measure> measures;
    std::vector<Observation> observations; ///< may be empty
    std::optional<SequenceSpan> sequence;
    /// Two key positions that are found without any delay. How long this person takes from one to the other is the pace of the
    /// movement, in shares of which delays are given.
    std::optional<SequenceSpan> pace;
    std::optional<HeldImplement> implement;
    double ballDiameter = 0;              ///< share of standing height, of a ball or puck to look for on film; 0: none
    std::vector<EquipmentNote> equipment; ///< youngest first; may be empty
    std::vector<Fault> faults;
    std::vector<Drill> drills;
    std::string caution;                   ///< shown on every page
    std::string filmNext;                  ///< how to film it next time
    std::vector<FilmingPlace> filming;     ///< best view first
    std::vector<KnownLength> knownLengths; ///< most useful first; may be empty

    bool hasEquipment() const { return implement || ballDiameter > 0; } ///< that is looked for on film
    bool leadIsDom() const { return leadSide == SideRole::Dom; }
    View usualView() const { return filming.empty() ? View::Side : filming.front().view; } ///< where to film it from first
    std::string usualVariant() const { return variants.empty() ? std::string() : variants.front(); }
    std::string usualSchool() const { return schools.empty() ? std::string() : schools.front().id; }
    const KeyPosition* findKeyPosition(std::string_view) const;
    const Measure* findMeasure(std::string_view) const;
    const Observation* findObservation(std::string_view) const;
    const Fault* findFault(std::string_view) const;
    const Drill* findDrill(std::string_view) const;
    const School* findSchool(std::string_view) const;
};

/// Every mistake in the pack, with its JSON pointer; empty when it is sound. A drill may be written out or named: the
/// named ones stand in drills.json beside the pack's file, or else among those shipped, so that one drill serves several
/// packs.
std::vector<Error> checkPack(const nlohmann::json& root, const std::string& file);
/// As a pack writes it.
nlohmann::json toJson(const Drill&);
/// The pack, or the first mistake.
Expected<Pack> parsePack(const nlohmann::json& root, const std::string& file);
Expected<Pack> loadPack(const std::string& file);

/// The band for that school, age and variant: the most particular one that fits, where a variant says more than a school and a
/// school more than an age. Null: for them the measure is only reported.
const Band* bandFor(const Measure&, const std::string& school, std::optional<double> age, const std::string& variant);

/// The drills of a fault for somebody of that age, in the pack's order; all of them when none is for that age.
std::vector<std::string> drillsFor(const Pack&, const Fault&, std::optional<double> age);

/// Whether what is for these variants is for that one. No variants: it is for all; no variant named: it is for any.
bool isForVariant(const std::vector<std::string>& variants, const std::string& variant);

/// Which points are asked for: those that a measure needs, or the whole body besides.
enum class MarkExtent { Measured, WholeBody };

/// Landmarks to mark at a key position so that every measure of this view and variant can be judged, in the order of
/// the body from head to feet. What is only reported asks for no click of its own; with the whole body, for none of ball or
/// reference points.
std::vector<Landmark> landmarksAt(const Pack&, std::string_view keyPosition, View, Hand, const std::string& variant,
                                  MarkExtent = MarkExtent::Measured);

/// 0 under 10, 1 from 10 to 13, 2 from 14 to 18 and for an unknown age, 3 for adults: the index into Fault::teachable.
std::size_t ageGroupOf(std::optional<double> age);

std::string_view wordOf(DetectorKind);
std::optional<DetectorKind> findDetectorKind(std::string_view);
/// "lead knee highest", for a coach; of several signs "the middle one of" all.
std::string sentenceOf(const DetectorRule&);
std::string sentenceOf(const Detector&);
std::string_view wordOf(Cost);
std::optional<Cost> findCost(std::string_view);

std::string_view letterOf(Evidence);
std::optional<Evidence> findEvidence(std::string_view letter);
/// "commonly reported in papers"
std::string_view plainWordsOf(Evidence);

} // namespace kestrel
