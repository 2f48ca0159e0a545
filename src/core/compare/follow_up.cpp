#include "core/compare/follow_up.h"

#include "core/base/word_table.h"

#include <algorithm>

namespace kestrel {

namespace {

constexpr WordRow<NextStep> kSteps[] = {
    {NextStep::Keep, "keep"}, {NextStep::MakeHarder, "make_harder"}, {NextStep::GoOn, "go_on"}};
constexpr WordRow<NextStep> kPlain[] = {
    {NextStep::Keep, "keep the task"}, {NextStep::MakeHarder, "make it harder"}, {NextStep::GoOn, "go on to the next one"}};
constexpr int kHeld = 3; // repetitions that have to be right before it is called held

std::string whyKept(const MeasureChange* change, int days)
{
    switch (change ? change->verdict : ChangeVerdict::NotComparable) {
    case ChangeVerdict::Better:
        return "It is coming: " + change->why + " It is not there yet.";
    case ChangeVerdict::Worse:
        return days <= kDipDays
                   ? "It got worse. A dip in the first three weeks after a change is normal; worrying would be pain, "
                     "or no way back after that. " +
                         change->why
                   : "It got worse over more than three weeks: say the cue in other words, or take the other drill. " +
                         change->why;
    case ChangeVerdict::NoChange:
    case ChangeVerdict::NeedMore:
    case ChangeVerdict::Changed:
        return change->why;
    case ChangeVerdict::NotComparable:
        break;
    }
    return "It cannot be compared with the day of the last page.";
}

} // namespace

std::string_view wordOf(NextStep s)
{
    return wordIn(kSteps, s);
}
std::string_view plainWordsOf(NextStep s)
{
    return wordIn(kPlain, s);
}

std::optional<FollowUp> calcFollowUp(const Pack& pack, const std::string& fault, const std::string& measure,
                                     const DayChange& change, const std::vector<std::vector<Reading>>& after, int days)
{
    const Fault* known = pack.findFault(fault);
    const Measure* read = pack.findMeasure(measure);
    if (!known || !read)
        return std::nullopt;
    int off = 0, good = 0, all = 0;
    for (const auto& repetition : after)
        for (const auto& r : repetition)
            if (r.measure == measure && hasValue(r.verdict)) {
                ++all;
                off += r.verdict == Verdict::Off;
                good += r.verdict == Verdict::OnTarget;
            }
    FollowUp next{fault, measure, NextStep::Keep, {}};
    const std::string of = std::to_string(good) + " of " + std::to_string(all) + (all == 1 ? " repetition" : " repetitions");
    if (all == 0) {
        next.reason = read->name + " could not be read on this day: film it so that it can, and keep the task until then.";
    } else if (2 * off >= all || 2 * good < all) {
        next.reason = whyKept(change.find(measure), days);
    } else if (good == all && all >= kHeld) {
        next.step = NextStep::GoOn;
        next.reason = "It held: " + read->name + " was on target in " + of + ".";
    } else {
        next.step = NextStep::MakeHarder;
        next.reason = read->name + " was on target in " + of +
                      (all < kHeld ? "; three would show that it holds." : ": the same cue at full speed, or with a ball.");
    }
    return next;
}

} // namespace kestrel
