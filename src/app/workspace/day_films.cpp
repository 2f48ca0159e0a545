#include "app/workspace/day_films.h"

#include "app/workspace/repetition_film.h"
#include "core/base/parallel_for.h"

#include <algorithm>

#include <nlohmann/json.hpp>

namespace kestrel::app {

Expected<std::vector<report::RepetitionFilm>> filmsOf(const store::Library& library, const Pack& pack, store::DayId day)
{
    std::vector<report::RepetitionFilm> films;
    const auto clips = library.clips().of(day);
    if (!clips)
        return tl::unexpected(clips.error());
    for (const auto& clip : *clips) {
        const auto repetitions = library.repetitions().of(clip.id);
        if (!repetitions)
            return tl::unexpected(repetitions.error());
        for (const auto& r : *repetitions) {
            auto film = filmOf(library, r.id);
            if (!film)
                return tl::unexpected(film.error());
            if (!film->marking.events.empty())
                films.push_back(std::move(*film));
        }
    }
    if (std::any_of(films.begin(), films.end(), [](const auto& f) { return f.marking.isLive; }))
        std::erase_if(films, [](const auto& f) { return !f.marking.isLive; });
    const auto read = parallelMap(films.size(), [&](std::size_t n) {
        const auto& film = films[n];
        return film.readings.empty() ? calcReadings(pack, PreparedRepetition(film.marking, film.clock), {}) : film.readings;
    });
    for (std::size_t n = 0; n < films.size(); ++n)
        films[n].readings = read[n];
    return films;
}

Expected<std::vector<SentTask>> sentTasks(const store::Library& library, const store::FilmingDay& before)
{
    const auto days = library.days().of(before.athlete);
    if (!days)
        return tl::unexpected(days.error());
    const auto sent = library.sent().of(before.athlete);
    if (!sent)
        return tl::unexpected(sent.error());
    std::vector<SentTask> tasks;
    for (const auto& day : *days) { // newest first
        if (day.skill != before.skill || day.date >= before.date)
            continue;
        const auto row = std::find_if(sent->begin(), sent->end(),
                                      [&](const store::SentRow& r) { return r.day == day.id && r.kind == "page"; });
        if (row == sent->end())
            continue;
        const auto root = nlohmann::json::parse(row->review, nullptr, false);
        const auto review = parseReview(root, row->name);
        if (!review || !review->oneThing)
            continue;
        const std::string& fault = review->oneThing->fault;
        const auto finding = std::find_if(review->faults.begin(), review->faults.end(),
                                          [&](const FaultFinding& f) { return f.fault == fault && !f.measures.empty(); });
        const bool isKnown = std::any_of(tasks.begin(), tasks.end(), [&](const SentTask& t) { return t.task.fault == fault; });
        if (finding != review->faults.end() && !isKnown)
            tasks.push_back({day.id, day.date, {fault, finding->measures.front()}});
    }
    return tasks;
}

Expected<std::optional<FollowUp>> followUpOf(const store::Library& library, const Pack& pack, const store::FilmingDay& day,
                                             const std::vector<std::vector<Reading>>& after)
{
    const auto tasks = sentTasks(library, day);
    if (!tasks)
        return tl::unexpected(tasks.error());
    if (tasks->empty())
        return std::optional<FollowUp>();
    const SentTask& last = tasks->front();
    const auto films = filmsOf(library, pack, last.day);
    if (!films)
        return tl::unexpected(films.error());
    const DayChange change = calcChange(pack, readingsOf(*films), after, last.task.measure);
    const auto from = parseDate(last.date), to = parseDate(day.date);
    return calcFollowUp(pack, last.task.fault, last.task.measure, change, after, from && to ? daysBetween(*from, *to) : kDipDays);
}

std::vector<std::vector<Reading>> readingsOf(const std::vector<report::RepetitionFilm>& films)
{
    std::vector<std::vector<Reading>> readings;
    readings.reserve(films.size());
    for (const auto& film : films)
        readings.push_back(film.readings);
    return readings;
}

} // namespace kestrel::app
