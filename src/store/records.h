#pragma once

#include "core/judge/pain.h"
#include "core/pack/pack.h"
#include "core/scene/marking.h"
#include "store/db/row_id.h"

#include <map>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

namespace kestrel::store {

/// Standing height on a day: children grow.
struct Height {
    std::string date; ///< "2026-04-11"
    double metres = 0;
    bool operator==(const Height&) const = default;
};

/// Who is filmed, as asked once and changed at any time.
struct Athlete {
    AthleteId id;
    std::string name;
    std::string birthDate;        ///< "2012-05-30"; empty: not known
    Hand hand = Hand::Right;      ///< that throws and shoots
    std::vector<Height> heights;  ///< by date; empty: not known
    bool guardianConsent = false; ///< a guardian agreed to filming
    /// Skill (pack id) and fault: what the coach has not taught this athlete yet. It is "next", and never blamed.
    std::set<std::pair<std::string, std::string>> notYetTaught;
    Hand batHand = Hand::Right; ///< side that bats, or holds the racket or the stick's lower end
    std::string consentDate;    ///< when the guardian agreed; empty: not known
    std::string level, goal;    ///< in the coach's words
    std::string kit, space;     ///< at home, in the coach's words
    std::string practiceDays;   ///< "mon,wed,sat"; empty: not known
    std::string team;           ///< in the coach's words; may be empty
    bool operator==(const Athlete&) const = default;
};

/// One athlete, one day, one skill.
struct FilmingDay {
    DayId id;
    AthleteId athlete;
    std::string date;                    ///< "2026-04-11"
    std::string skill;                   ///< pack id
    std::string school;                  ///< of the pack; empty: its first
    HandUse handUse = HandUse::Throwing; ///< of the skill's pack: which of the athlete's sides is the dominant one
    std::optional<Hand> side;            ///< of that day, when not the athlete's usual one, as of a switch hitter
    std::string kind;                    ///< of practice, in the coach's words: "match", "machine", "after a break"
    std::string note;                    ///< the coach's own
    std::set<BodyRegion> pain;           ///< what the athlete said on the day
    bool operator==(const FilmingDay&) const = default;
};

/// A film and what has to be known to read it. The film itself stays where it is.
struct Clip {
    ClipId id;
    DayId day;
    std::string file;        ///< absolute, or relative to the library's folder when it lies inside
    std::string contentHash; ///< SHA-256, hexadecimal
    FilmFacts film;          ///< `file` here stays empty
    Rates clock;
    Scene scene;
    bool operator==(const Clip&) const = default;
};

/// One time the athlete does it: a stretch of a clip. Every clip has at least one.
struct RepetitionRow {
    RepetitionId id;
    ClipId clip;
    FrameIndex first, last;          ///< both belong to it
    std::string name;                ///< may be empty
    std::string variant;             ///< of the skill: "windup"; may be empty
    std::string kind;                ///< of pitch, serve or shot, in the coach's words; may be empty
    bool isLive = true;              ///< false: a shadow swing, without a ball
    std::string outcome;             ///< where the ball went, in the coach's words; may be empty
    std::optional<double> ballSpeed; ///< metres per second, from a radar gun or typed
    RepetitionId secondCamera;       ///< the same one on another clip, filmed from another side; see Library::secondCamera
    bool operator==(const RepetitionRow&) const = default;
};

/// What the coach drew on a repetition.
struct DrawingRow {
    DrawingId id;
    RepetitionId repetition;
    Drawing drawing;
    bool operator==(const DrawingRow&) const = default;
};

/// Something that left the program for a player or family, as it was.
struct SentRow {
    SentId id;
    DayId day;
    std::string date;    ///< it left, "2026-04-11"
    std::string kind;    ///< "page", "sheet", "checklist", "walk"
    std::string name;    ///< of the file
    std::string review;  ///< what was judged then, JSON
    std::string content; ///< the file's bytes; of a walk-through its script
    bool operator==(const SentRow&) const = default;
};

/// What is known about a film file, found by its content.
struct KnownFilm {
    std::int64_t bytes = 0;    ///< of the file
    std::int64_t modified = 0; ///< milliseconds since 1970, when its content was last seen to be this
    std::string index;         ///< media::Film::indexBytes(); empty: not indexed yet
    bool operator==(const KnownFilm&) const = default;
};

/// What a program made of a stretch of a clip.
struct ProgramWork {
    FrameIndex first, last;                             ///< both belong to it
    std::vector<Mark> marks;                            ///< all of the stretch's; none by a coach
    std::map<std::string, std::optional<Event>> events; ///< by key position; empty: none any more
    std::optional<Clip> clip;                           ///< with what it found out about the scene
    /// The one point that was followed from the coach's marks. Empty: the body; what was followed stays then.
    std::optional<Landmark> landmark;
};

/// A repetition with what was placed and answered for the day's skill.
struct RepetitionRecord {
    RepetitionRow repetition;
    std::vector<Event> events;
    std::map<std::string, std::string> answers; ///< observation -> choice
    bool operator==(const RepetitionRecord&) const = default;
};
/// What a list of films shows of one clip, without its marks.
struct ClipSummary {
    Clip clip;
    int repetitions = 0;
    std::string variant;       ///< of the first repetition
    std::vector<Event> events; ///< of the first repetition, for the day's skill
};

/// Whole and part years from birth to that day. Empty: one of the dates is not a date, or the order is wrong.
std::optional<double> ageOn(const std::string& birthDate, const std::string& day);

/// The athlete as readings of that day want it: the hand that the skill uses, height and age on the day.
AthleteFacts athleteOn(const Athlete&, const FilmingDay&);

/// Standing height on a day: between two measurements on the straight line, before the first and after the last as these say.
/// \param heights  by date. Empty: none was measured.
std::optional<double> heightOn(const std::vector<Height>& heights, const std::string& day);

} // namespace kestrel::store
