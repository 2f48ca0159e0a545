#include "core/plan/due.h"

#include "core/base/word_table.h"

#include <algorithm>

namespace kestrel {

namespace {

using std::chrono::days;

constexpr WordRow<DueKind> kKinds[] = {
    {DueKind::Pain, "pain"},        {DueKind::RestEnds, "rest_ends"}, {DueKind::FilmAgain, "film_again"},
    {DueKind::NotSent, "not_sent"}, {DueKind::Consent, "consent"},    {DueKind::AgeBand, "age_band"}};
constexpr int kFilmAgainAfter = 28, kAskFor = 60, kBirthdayAhead = 14; // days
constexpr int kBandAges[] = {10, 14, 18};                              // from which packs teach otherwise

} // namespace

std::string_view wordOf(DueKind k)
{
    return wordIn(kKinds, k);
}

std::vector<DueItem> dueOf(const DueFacts& facts, const WorkloadRule& rule, Date today)
{
    std::vector<DueItem> due;
    const auto add = [&](DueKind kind, std::string text) { due.emplace_back(kind, std::move(text)); };
    if (facts.book) {
        if (const auto open = facts.book->openPain(today); !open.empty())
            add(DueKind::Pain, "Pain to look at: " + wordsOf(open));
        const auto until = calcWorkload(rule, *facts.book, today).restUntil;
        if (until && *until <= today + days(1))
            add(DueKind::RestEnds, *until == today ? "Rest ends today" : "Rest ends tomorrow");
    }
    if (facts.plan && facts.plan->refilm <= today && (!facts.lastFilmed || *facts.lastFilmed < facts.plan->refilm))
        add(DueKind::FilmAgain, "Film again: planned for " + wordsOf(facts.plan->refilm));
    else if (!facts.plan && facts.lastFilmed && daysBetween(*facts.lastFilmed, today) >= kFilmAgainAfter &&
             daysBetween(*facts.lastFilmed, today) <= 2 * kFilmAgainAfter + kAskFor)
        add(DueKind::FilmAgain, "Film again: last filmed on " + wordsOf(*facts.lastFilmed));
    if (facts.lastFilmed && (!facts.lastSent || *facts.lastSent < *facts.lastFilmed) &&
        daysBetween(*facts.lastFilmed, today) <= kAskFor)
        add(DueKind::NotSent, "No page has left for " + wordsOf(*facts.lastFilmed));
    if (facts.isConsentMissing && facts.lastFilmed)
        add(DueKind::Consent, "A guardian's consent is missing");
    if (facts.book && facts.book->birthDate) {
        const Date born = *facts.book->birthDate;
        const int now = yearsBetween(born, today), then = yearsBetween(born, today + days(kBirthdayAhead));
        const bool isBand = then > now && (std::find(std::begin(kBandAges), std::end(kBandAges), then) != std::end(kBandAges) ||
                                           rule.limitFor(then) != rule.limitFor(now));
        if (isBand)
            add(DueKind::AgeBand, "Turns " + std::to_string(then) + " soon: other bands and limits");
    }
    return due;
}

} // namespace kestrel
