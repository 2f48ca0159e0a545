#pragma once

#include "core/judge/day_review.h"
#include "store/library.h"

#include <map>
#include <memory>
#include <string>
#include <vector>

namespace kestrel::app {

/// Readings by repetition with the key they hold for.
struct CachedReadings {
    std::string key;
    std::shared_ptr<const RepetitionReadings> readings;
};
using ReadingCache = std::map<store::RepetitionId, CachedReadings>;

/// All repetitions of a filming day as judging wants them.
struct GatheredDay {
    std::vector<store::RepetitionId> ids;
    std::vector<store::ClipId> clips; ///< of each
    std::vector<std::string> keys;    ///< of everything the readings of each depend on
    std::vector<DayRepetition> repetitions;
    std::size_t marksToRead = 0; ///< of those that have no readings yet
};

/// When each picture of a clip appears, from its open film.
struct OpenTimes {
    store::ClipId clip;
    FrameClock clock;
};

/// Gathers the day: who counts, what each is called, and what has been read already, from the cache or as kept in the library.
/// \param open  of the film that is open; of the others the times are known by their kept index, or taken to be even
/// \param mostMarks  more than that to read: they come without their marks, to be read elsewhere
/// Errors: those of the library.
Expected<GatheredDay> gatherDay(const store::Library&, store::DayId, const Pack&, const ReadingCache&, std::size_t mostMarks,
                                const std::optional<OpenTimes>& open = {});

} // namespace kestrel::app
