#pragma once

#include "core/judge/review.h"
#include "core/plan/plan.h"
#include "core/plan/workload.h"

#include <set>

namespace kestrel {

/// Where can be practised.
enum class PracticeSpace { Indoors, Garden, Court };
std::optional<PracticeSpace> findPracticeSpace(std::string_view); ///< "indoors", "garden", "court"

/// What a plan is made for.
struct PlanWish {
    std::string player;
    std::vector<std::string> faults; ///< of the pack, the most important first: one to three
    std::optional<double> age;
    Date start;
    int weeks = 2; ///< one to six
    PlanIntake intake;
    Book book;
};

/// The days of practice with their drills, explained.
///
/// Every task is practised in each session as far as the minutes allow; the first one always, the others in turn. Drills are
/// those of the fault that fit kit, space and age, in the pack's order, changing from session to session; in a session those
/// without a ball come first. The first week is easier, the last of three or more harder "when it held". A drill that throws or
/// serves is never put on a day on which the workload rule asks for rest, nor at all while pain is open.
///
/// \param before  the plan it takes the place of, on the day \p today: what is past or locked stays as it is, other sessions keep
///                their uid where their day stays, and those that go are listed as dropped
/// Errors: BadArgument (no day, no task, weeks or minutes out of range, every day falls away), NotFound (a fault the pack lacks).
Expected<Plan> makePlan(const Pack&, const WorkloadRule&, const PlanWish&, const Plan* before = nullptr,
                        std::optional<Date> today = {});

/// The tasks of a review: the one thing and those after it.
std::vector<std::string> tasksOf(const Review&);

/// Whether a drill throws or serves for real, so that rest days are kept from it.
bool loadsTheArm(const Pack&, const Drill&);
/// Whether everything it needs is there.
bool fitsKit(const Drill&, const std::optional<std::set<std::string>>& kit);
bool fitsSpace(const Drill&, std::optional<PracticeSpace>);

/// "mon,wed,sat". Empty: none, or a word that is no day.
std::optional<std::set<unsigned>> parseWeekdays(const std::string&);

} // namespace kestrel
