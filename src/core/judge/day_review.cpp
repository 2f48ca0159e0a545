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

Review reviewDay(const Pack& pack, const std::vector<DayRepetition>& day, const JudgeOptions& options)
{
    const bool isAnyRead =
        std::any_of(day.begin(), day.end(), [](const DayRepetition& r) { return r.counts && showsAnything(*r.read); });
    std::vector<ReadRepetition> read;
    for (const auto& r : day)
        if (r.counts && (!isAnyRead || showsAnything(*r.read)))
            read.push_back({withoutMarks(r.marking), r.read->readings, r.read->sequence, r.label});
    return calcReview(pack, read, options);
}

} // namespace kestrel
