#include "app/judging.h"

#include <utility>

namespace kestrel::app {

namespace {

ReadRepetition readOf(const ToJudge& work, const ToRead& given, const Repetition& repetition)
{
    return readRepetition(work.pack, repetition, work.options, given.fromOtherSide.get());
}

} // namespace

std::size_t ToJudge::marks() const
{
    std::size_t count = shown.marking.marks.size();
    for (const auto& [id, given] : unread)
        count += given.marking.marks.size();
    return count;
}

Judged judge(ToJudge work)
{
    Judged done;
    for (const auto& [id, given] : work.unread)
        work.read[id] = readOf(work, given, Repetition(given.marking, work.clock));
    const Repetition shown(work.shown.marking, work.clock);
    std::vector<ReadRepetition> all{readOf(work, work.shown, shown)};
    for (const auto& id : work.others)
        if (const auto other = work.read.find(id); other != work.read.end())
            all.push_back(other->second);
    done.review = calcReview(work.pack, all, work.options, 0);
    done.curves = segmentCurves(work.pack, shown);
    done.read = std::move(work.read);
    return done;
}

} // namespace kestrel::app
