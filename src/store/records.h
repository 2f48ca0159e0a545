#pragma once

#include "core/marking.h"
#include "store/row_id.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel::store {

struct Athlete {
    AthleteId id;
    std::string name;
    std::string birthDate; ///< "2012-05-30"; empty: not known
    Hand hand = Hand::Right;
    std::optional<double> heightMetres;
    bool guardianConsent = false; ///< a guardian agreed to filming
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
    std::string variant;     ///< of the skill; may be empty
    FilmFacts film;          ///< `file` here stays empty
    Rates clock;
    Scene scene;
    bool operator==(const Clip&) const = default;
};

/// A clip with everything the coach did on it.
struct ClipRecord {
    Clip clip;
    std::vector<Event> events;
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
