#include "core/judge/day_review.h"

#include "core/base/parallel_for.h"

#include <algorithm>

#include <nlohmann/json.hpp>

namespace kestrel {

void readDay(const Pack& pack, std::vector<DayRepetition>& day, const ReadOptions& options)
{
    std::vector<std::size_t> unread;
    for (std::size_t n = 0; n < day.size(); ++n)
        if (!day[n].read)
            unread.push_back(n);
    const auto read = parallelMap(unread.size(), [&](std::size_t n) {
        const DayRepetition& r = day[unread[n]];
        auto done = readRepetition(pack, PreparedRepetition(r.marking, r.clock), options, r.fromSecondCamera.get());
        return std::make_shared<const RepetitionReadings>(RepetitionReadings{std::move(done.readings), std::move(done.sequence)});
    });
    for (std::size_t n = 0; n < unread.size(); ++n)
        day[unread[n]].read = read[n];
}

bool showsAnything(const RepetitionReadings& r)
{
    return std::any_of(r.readings.begin(), r.readings.end(), [](const Reading& reading) { return hasValue(reading.verdict); });
}

namespace {

/// By their places; all that count where none shows anything.
std::vector<std::size_t> shown(const std::vector<DayRepetition>& day)
{
    const bool isAnyRead =
        std::any_of(day.begin(), day.end(), [](const DayRepetition& r) { return r.counts && showsAnything(*r.read); });
    std::vector<std::size_t> places;
    for (std::size_t n = 0; n < day.size(); ++n)
        if (day[n].counts && (!isAnyRead || showsAnything(*day[n].read)))
            places.push_back(n);
    return places;
}

} // namespace

std::vector<std::size_t> judgedTogether(const std::vector<DayRepetition>& day)
{
    std::vector<std::size_t> live, shadows;
    for (const std::size_t n : shown(day))
        (day[n].marking.isLive ? live : shadows).push_back(n);
    return live.empty() ? shadows : live;
}

Review reviewDay(const Pack& pack, const std::vector<DayRepetition>& day, const JudgeOptions& options)
{
    std::vector<ReadRepetition> read;
    for (const std::size_t n : shown(day))
        read.push_back({withoutMarks(day[n].marking), day[n].read->readings, day[n].read->sequence, day[n].label});
    return calcReview(pack, read, options);
}

} // namespace kestrel
