#pragma once

#include "core/marking.h"
#include "store/row_id.h"

#include <map>
#include <optional>
#include <set>
#include <string>
#include <utility>
#include <vector>

namespace kestrel::store {

struct Athlete {
    AthleteId id;
    std::string name;
    std::string birthDate; ///< "2012-05-30"; empty: not known
    Hand hand = Hand::Right;
    std::optional<double> heightMetres;
    bool guardianConsent = false; ///< a guardian agreed to filming
    /// Skill (pack id) and fault: what the coach has not taught this athlete yet. It is "next", and never blamed.
    std::set<std::pair<std::string, std::string>> notYetTaught;
    bool operator==(const Athlete&) const = default;
};

/// One athlete, one day, one skill.
struct FilmingDay {
    DayId id;
    AthleteId athlete;
    std::string date;   ///< "2026-04-11"
    std::string skill;  ///< pack id
    std::string school; ///< of the pack; empty: its first
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
struct Repetition {
    RepetitionId id;
    ClipId clip;
    FrameIndex first, last;          ///< both belong to it
    std::string name;                ///< may be empty
    std::string variant;             ///< of the skill: "windup"; may be empty
    std::string kind;                ///< of pitch, serve or shot, in the coach's words; may be empty
    bool isLive = true;              ///< false: a shadow swing, without a ball
    std::string outcome;             ///< where the ball went, in the coach's words; may be empty
    std::optional<double> ballSpeed; ///< metres per second, from a radar gun or typed
    RepetitionId otherSide;          ///< the same one on another clip, filmed from another side; see Library::otherSide
    bool operator==(const Repetition&) const = default;
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

struct RepetitionRecord {
    Repetition repetition;
    std::vector<Event> events;
    std::map<std::string, std::string> answers; ///< observation -> choice
    bool operator==(const RepetitionRecord&) const = default;
};
/// A clip with everything the coach did on it.
struct ClipRecord {
    Clip clip;
    std::vector<RepetitionRecord> repetitions;
    std::vector<Mark> marks;
    bool operator==(const ClipRecord&) const = default;
};
struct DayRecord {
    FilmingDay day;
    std::vector<ClipRecord> clips;
    bool operator==(const DayRecord&) const = default;
};
/// All there is about an athlete: what a removal takes and an undo gives back.
struct AthleteRecord {
    Athlete athlete;
    std::vector<DayRecord> days;
    bool operator==(const AthleteRecord&) const = default;
};

/// Whole and part years from birth to that day. Empty: one of the dates is not a date, or the order is wrong.
std::optional<double> ageOn(const std::string& birthDate, const std::string& day);

} // namespace kestrel::store
