#include "app/judging.h"

#include "core/together.h"

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
    std::vector<const ToRead*> unread;
    for (const auto& [id, given] : work.unread)
        unread.push_back(&given);
    auto read = makeTogether(unread.size(),
                             [&](std::size_t n) { return readOf(work, *unread[n], Repetition(unread[n]->marking, work.clock)); });
    auto next = read.begin();
    for (const auto& [id, given] : work.unread)
        work.read[id] = std::move(*next++);
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
