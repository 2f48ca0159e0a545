#include "app/workspace/repetition_film.h"

#include "media/film.h"

#include <algorithm>

#include <nlohmann/json.hpp>

namespace kestrel::app {

Expected<report::RepetitionFilm> filmOf(const store::Library& library, store::RepetitionId id,
                                        const std::shared_ptr<const RepetitionReadings>& read)
{
    const auto row = library.repetitions().find(id);
    if (!row)
        return tl::unexpected(row.error());
    const auto clip = library.clips().find(row->clip);
    if (!clip)
        return tl::unexpected(clip.error());
    auto marking = library.marking(id);
    if (!marking)
        return tl::unexpected(marking.error());
    const auto drawings = library.drawings().seenOn(id);
    if (!drawings)
        return tl::unexpected(drawings.error());
    report::RepetitionFilm film;
    film.file = library.filmPath(*clip);
    film.marking = std::move(*marking);
    for (const auto& d : *drawings)
        film.marking.drawings.push_back(d.drawing);
    film.repetition = {row->first, row->last};
    if (const auto known = library.films().known(clip->contentHash); known && *known)
        film.knownIndex = (*known)->index;
    auto shown = media::shownTimes(film.knownIndex);
    film.clock = static_cast<std::int64_t>(shown.size()) == clip->film.frames
                     ? FrameClock(std::move(shown), clip->clock.slowFactor())
                     : evenClock(clip->film.frames, std::max(1.0, clip->clock.capture));
    if (read) {
        film.readings = read->readings;
    } else if (const auto kept = library.readings().kept(id); kept && *kept) {
        if (auto parsed = parseReadings(nlohmann::json::parse((*kept)->readings, nullptr, false)))
            film.readings = std::move(parsed->readings);
    }
    return film;
}

} // namespace kestrel::app
