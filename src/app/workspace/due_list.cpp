#include "app/workspace/due_list.h"

#include "app/workspace/consent.h"

#include <algorithm>
#include <filesystem>

namespace kestrel::app {

WorkloadRule workloadRuleOf(const store::Library& library)
{
    const std::string own = library.folder() + "/workload.json";
    std::error_code ec;
    if (std::filesystem::exists(own, ec))
        if (auto rule = loadWorkloadRule(own))
            return std::move(*rule);
    return shippedWorkloadRule().value_or(WorkloadRule());
}

std::string leftWords(const store::Library& library, store::AthleteId athlete, Date today)
{
    constexpr int kRecent = 28; // days
    const auto book = library.books().of(athlete);
    if (!book)
        return {};
    const WorkloadRule rule = workloadRuleOf(library);
    const bool isRecent = std::any_of(book->days.begin(), book->days.end(), [&](const BookDay& d) {
        return d.date <= today && daysBetween(d.date, today) < kRecent && d.count(rule.pitchKinds) > 0;
    });
    const Workload load = calcWorkload(rule, *book, today);
    if (load.has(WarningKind::Pain))
        return "pain noted: no throwing, no serving";
    if (!isRecent)
        return {};
    if (load.restUntil && *load.restUntil >= today && load.left == 0)
        return "rest until " + textOf(*load.restUntil);
    return load.left ? std::to_string(*load.left) + " pitches left today" : std::string();
}

Expected<std::map<store::AthleteId, std::vector<DueItem>>> dueList(const store::Library& library,
                                                                   const std::vector<store::Athlete>& athletes, Date today)
{
    constexpr int kRestReaches = 40; // days: nothing older asks for rest
    auto books = library.books().since(today - std::chrono::days(kRestReaches));
    const auto plans = library.plans().latest();
    const auto filmed = library.days().lastFilmed(), sent = library.sent().lastPages();
    for (const Error* e : std::initializer_list<const Error*>{books ? nullptr : &books.error(), plans ? nullptr : &plans.error(),
                                                              filmed ? nullptr : &filmed.error(), sent ? nullptr : &sent.error()})
        if (e)
            return tl::unexpected(*e);
    const WorkloadRule rule = workloadRuleOf(library);
    std::map<store::AthleteId, std::vector<DueItem>> list;
    for (const auto& a : athletes) {
        Book& book = (*books)[a.id];
        book.birthDate = parseDate(a.birthDate);
        const auto plan = plans->find(a.id);
        const auto dateIn = [&](const std::map<store::AthleteId, std::string>& dates) {
            const auto it = dates.find(a.id);
            return it == dates.end() ? std::nullopt : parseDate(it->second);
        };
        DueFacts facts{&book, plan == plans->end() ? nullptr : &plan->second, dateIn(*filmed), dateIn(*sent), false};
        facts.isConsentMissing =
            isConsentMissing(a, book.birthDate ? std::optional<double>(yearsBetween(*book.birthDate, today)) : std::nullopt);
        if (auto due = dueOf(facts, rule, today); !due.empty())
            list[a.id] = std::move(due);
    }
    return list;
}

} // namespace kestrel::app
