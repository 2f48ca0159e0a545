#pragma once

#include "core/base/date.h"
#include "core/base/error.h"

#include <optional>
#include <set>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

namespace kestrel {

/// How a drill is done: it begins easier, and gets harder once it held.
enum class DrillLevel { Easier, AsWritten, Harder };
std::string_view wordOf(DrillLevel); ///< "as_written"
std::optional<DrillLevel> findDrillLevel(std::string_view);

/// One drill of a session.
struct PlanItem {
    std::string drill; ///< id in the pack
    std::string fault; ///< that it is for
    int sets = 1, reps = 1;
    double minutes = 5;
    std::string why; ///< why this drill, and why now
    DrillLevel level = DrillLevel::AsWritten;
    bool operator==(const PlanItem&) const = default;
};

/// One day of practice.
struct PlanSession {
    Date date;
    std::string uid;       ///< holds for good, also when the session moves to another day
    std::string why;       ///< why this day
    bool isLocked = false; ///< the coach wants it to stay
    std::vector<PlanItem> items;
    bool operator==(const PlanSession&) const = default;

    double minutes() const;
};

/// A session that was dropped, so that calendars can take it out.
struct DroppedSession {
    Date date;
    std::string uid;
    bool operator==(const DroppedSession&) const = default;
};

/// What a plan was made for, so that it can be told when that has changed.
struct PlanIntake {
    std::set<unsigned> weekdays;              ///< 0 Sunday to 6 Saturday
    double minutes = 20;                      ///< a session, at most
    std::optional<std::set<std::string>> kit; ///< in the words of drills.json; empty: everything is there
    std::string space;                        ///< "garden"; empty: anywhere
    std::set<Date> notOn;                     ///< matches and other days that are not free
    bool operator==(const PlanIntake&) const = default;
};
/// "days, kit": what differs, in words. Empty: nothing.
std::string differenceWords(const PlanIntake&, const PlanIntake&);

/// What is practised until the player is filmed again.
struct Plan {
    std::string pack, player;
    std::vector<std::string> tasks; ///< faults
    Date start;
    int weeks = 1;
    int sequence = 0;                  ///< how often it was changed
    std::vector<PlanSession> sessions; ///< by date
    Date refilm;
    std::string refilmHow, refilmUid;
    std::vector<std::string> notes;      ///< what could not be had, a sentence each; found anew with every plan
    std::vector<std::string> coachNotes; ///< put there by the coach, such as what a match showed; kept when planned anew
    std::vector<DroppedSession> dropped;
    std::optional<PlanIntake> madeFor; ///< empty: an older plan, which does not say
    std::string intake;                ///< what the athlete said of days and kit when it was made
    bool operator==(const Plan&) const = default;
};

/// Errors: those of the JSON, with pointers.
Expected<Plan> parsePlan(const nlohmann::json&, const std::string& file);
Expected<Plan> loadPlan(const std::string& file);
nlohmann::json toJson(const Plan&); ///< `format` "jolly-kestrel/plan"

} // namespace kestrel
