#pragma once

#include "core/compare/follow_up.h"
#include "report/change_page.h"
#include "report/repetition_film.h"
#include "store/library.h"

namespace kestrel::app {

/// Every repetition of a day on which a key position is placed, with its readings: the live ones, or the shadow swings where
/// there are no others. Kept readings are used where there are any.
Expected<std::vector<report::RepetitionFilm>> filmsOf(const store::Library&, const Pack&, store::DayId);

/// What was the task on the pages that went out before a day, in the same skill: the latest first, each fault once.
struct SentTask {
    store::DayId day; ///< that was judged
    std::string date; ///< of it
    report::PractisedTask task;
};
Expected<std::vector<SentTask>> sentTasks(const store::Library&, const store::FilmingDay& before);

/// The task of the last page, looked at again. \param after  the day's readings, by repetition. Empty: no page went out before.
Expected<std::optional<FollowUp>> followUpOf(const store::Library&, const Pack&, const store::FilmingDay&,
                                             const std::vector<std::vector<Reading>>& after);

/// Readings of each, as comparing wants them.
std::vector<std::vector<Reading>> readingsOf(const std::vector<report::RepetitionFilm>&);

} // namespace kestrel::app
