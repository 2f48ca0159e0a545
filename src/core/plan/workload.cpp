#include "core/plan/workload.h"

#include "core/base/json_reader.h"
#include "core/base/word_table.h"
#include "core/pack/pack_folder.h"

#include <algorithm>
#include <set>

namespace kestrel {

namespace {

using nlohmann::json;
using std::chrono::days;

constexpr const char* kFormat = "jolly-kestrel/workload";
constexpr WordRow<WarningKind> kKinds[] = {
    {WarningKind::Limit, "limit"}, {WarningKind::Rest, "rest"},       {WarningKind::ThreeDays, "three_days"},
    {WarningKind::Ramp, "ramp"},   {WarningKind::Catcher, "catcher"}, {WarningKind::MonthsOff, "months_off"},
    {WarningKind::Pain, "pain"}};
constexpr int kOldest = 120;

std::string plural(int n, const char* one, const char* many)
{
    return std::to_string(n) + " " + (n == 1 ? one : many);
}

/// Works on the days up to one.
class Reckoning {
public:
    Reckoning(const WorkloadRule& rule, const Book& book, Date on, std::optional<int> age)
        : m_rule(rule), m_book(book), m_on(on), m_age(age)
    {
        if (!m_age && book.birthDate && *book.birthDate <= on)
            m_age = yearsBetween(*book.birthDate, on);
    }

    Workload calc()
    {
        m_done.count = pitchesOn(m_on);
        m_done.limit = m_rule.limitFor(m_age);
        checkLimit();
        const std::optional<Date> earlier = restFrom(m_on - days(1));
        for (const auto& until : {restFrom(m_on), restAfterRunning(m_on), restAfterRunning(m_on - days(1))})
            if (until && *until >= m_on)
                m_done.restUntil = std::max(m_done.restUntil.value_or(*until), *until);
        checkRest(earlier);
        checkDaysRunning();
        checkCatcher();
        checkMonthsOff();
        checkRamp();
        const bool isResting = earlier && *earlier >= m_on;
        if (m_done.limit)
            m_done.left = isResting || m_isThird ? 0 : std::max(0, *m_done.limit - m_done.count);
        const bool isUsedUp = m_done.left == 0 && m_done.count > 0;
        m_done.nextAllowed = m_done.restUntil ? *m_done.restUntil + days(1) : isUsedUp ? m_on + days(1) : m_on;
        checkPain();
        m_done.rule = ruleWords();
        return std::move(m_done);
    }

private:
    int pitchesOn(Date date) const
    {
        const BookDay* day = m_book.find(date);
        return day ? day->count(m_rule.pitchKinds) : 0;
    }

    /// On an earlier day; a year younger where a birthday lies between.
    std::optional<int> ageOn(Date date) const
    {
        const auto& born = m_book.birthDate;
        if (!m_age || !born || *born > date)
            return m_age;
        return *m_age - (yearsBetween(*born, m_on) - yearsBetween(*born, date));
    }

    void warn(WarningKind kind, std::string text) { m_done.warnings.push_back({kind, std::move(text)}); }

    /// The last day of rest that what was thrown up to a day asks for.
    std::optional<Date> restFrom(Date last) const
    {
        std::optional<Date> until;
        for (const auto& day : m_book.days) {
            if (day.date > last)
                break;
            const int rest = m_rule.restAfter(day.count(m_rule.pitchKinds), ageOn(day.date));
            if (rest > 0)
                until = std::max(until.value_or(day.date), day.date + days(rest));
        }
        return until;
    }

    /// The day after so many days of pitching that one more would be too many.
    std::optional<Date> restAfterRunning(Date last) const
    {
        return runningUpTo(last) >= m_rule.daysRunning ? std::optional(last + days(1)) : std::nullopt;
    }

    int runningUpTo(Date last) const
    {
        int running = 0;
        while (pitchesOn(last - days(running)) > 0)
            ++running;
        return running;
    }

    void checkLimit()
    {
        if (m_done.limit && m_done.count > *m_done.limit)
            warn(WarningKind::Limit, plural(m_done.count, "pitch", "pitches") + " on this day, " + std::to_string(*m_done.limit) +
                                         " is the most at " + ageWords() + ". " + m_rule.words);
    }

    void checkRest(const std::optional<Date>& earlier)
    {
        if (!earlier || *earlier < m_on)
            return;
        warn(WarningKind::Rest,
             (m_done.count > 0 ? plural(m_done.count, "pitch", "pitches") + " on a day of rest: " : "Resting: ") +
                 "what was thrown before asks for rest until " + textOf(*earlier) + ". " + m_rule.words);
    }

    void checkDaysRunning()
    {
        const int before = runningUpTo(m_on - days(1));
        m_isThird = before >= m_rule.daysRunning;
        const int running = before + (m_done.count > 0 ? 1 : 0);
        if (m_isThird && m_done.count > 0)
            warn(WarningKind::ThreeDays, "Pitching on " + std::to_string(running) + " days running; " +
                                             std::to_string(m_rule.daysRunning) + " are the most. " + m_rule.words);
        else if (m_isThird)
            warn(WarningKind::ThreeDays,
                 "Pitched on " + std::to_string(before) + " days running: not on this one. " + m_rule.words);
    }

    void checkCatcher()
    {
        const BookDay* day = m_book.find(m_on);
        if (!m_rule.mayCatchToo && day && day->isCatcher && m_done.count > 0)
            warn(WarningKind::Catcher, "Pitched and caught on one day: both load the same arm. " + m_rule.words);
    }

    /// Over the twelve months up to the day's own, where the book goes back that far or nearly every month was thrown in.
    void checkMonthsOff()
    {
        const std::chrono::year_month_day today(m_on);
        const std::chrono::year_month last = today.year() / today.month();
        std::set<int> thrown;
        for (const auto& day : m_book.days) {
            const std::chrono::year_month_day d(day.date);
            const auto back = (last - (d.year() / d.month())).count();
            if (day.date <= m_on && back < 12 && day.count(m_rule.pitchKinds) > 0)
                thrown.insert(static_cast<int>(back));
        }
        const int off = 12 - static_cast<int>(thrown.size());
        if (off < m_rule.monthsOff)
            warn(WarningKind::MonthsOff, "Pitched in " + std::to_string(thrown.size()) + " of the last twelve months; at least " +
                                             plural(m_rule.monthsOff, "month", "months") + " a year should be free of it. " +
                                             m_rule.words);
    }

    void checkRamp()
    {
        int acute = 0, before = 0;
        for (const auto& day : m_book.days) {
            const int ago = daysBetween(day.date, m_on);
            if (ago >= 0 && ago < 7)
                acute += day.count(m_rule.overheadKinds);
            else if (ago >= 7 && ago < 35)
                before += day.count(m_rule.overheadKinds);
        }
        const double usual = before / 4.0;
        if (usual > 0 && acute > (1 + m_rule.ramp) * usual + 1e-9)
            warn(WarningKind::Ramp, std::to_string(acute) + " serves and overhead strokes in seven days, " +
                                        std::to_string(static_cast<int>(usual + 0.5)) + " a week in the four before. " +
                                        m_rule.rampWords);
    }

    void checkPain()
    {
        const auto open = m_book.openPain(m_on);
        if (open.empty())
            return;
        if (m_done.left)
            m_done.left = 0;
        m_done.nextAllowed.reset();
        m_done.warnings.insert(m_done.warnings.begin(),
                               {WarningKind::Pain, "Pain was noted (" + wordsOf(open) +
                                                       "): no throwing and no serving until the coach notes that a licensed "
                                                       "clinician has cleared it."});
    }

    std::string ageWords() const
    {
        return m_age ? plural(*m_age, "year", "years") : std::string("an unknown age (the strictest)");
    }

    std::string ruleWords() const
    {
        std::string text = m_rule.name + ". ";
        if (!m_age)
            text += "The birth date is not known: the strictest table is used. ";
        text += m_done.limit ? "At " + ageWords() + " at most " + std::to_string(*m_done.limit) + " pitches a day"
                             : "Nothing is published for " + ageWords() + ": no limit a day is known";
        return text + ". " + m_rule.words;
    }

    const WorkloadRule& m_rule;
    const Book& m_book;
    Date m_on;
    std::optional<int> m_age;
    bool m_isThird = false; // a day on which the rule asks not to pitch, by days running
    Workload m_done;
};

} // namespace

std::optional<int> WorkloadRule::limitFor(std::optional<int> age) const
{
    if (limits.empty())
        return std::nullopt;
    if (!age)
        return std::min_element(limits.begin(), limits.end(),
                                [](const Limit& a, const Limit& b) { return a.pitches < b.pitches; })
            ->pitches;
    if (*age < limits.front().from)
        return limits.front().pitches;
    for (const auto& l : limits)
        if (*age <= l.to)
            return l.pitches;
    return std::nullopt;
}

int WorkloadRule::restAfter(int pitches, std::optional<int> age) const
{
    const auto by = [&](const Rest& rest) {
        int days = 0;
        for (const auto& step : rest.steps)
            if (pitches > step.over)
                days = std::max(days, step.days);
        return days;
    };
    int strictest = 0;
    for (const auto& rest : rests) {
        if (age && *age <= rest.to)
            return by(rest);
        strictest = std::max(strictest, by(rest));
    }
    return age ? (rests.empty() ? 0 : by(rests.back())) : strictest; // grown-ups rest as the oldest do
}

bool Workload::has(WarningKind kind) const
{
    return std::any_of(warnings.begin(), warnings.end(), [kind](const WorkloadWarning& w) { return w.kind == kind; });
}

std::string_view wordOf(WarningKind k)
{
    return wordIn(kKinds, k);
}

Workload calcWorkload(const WorkloadRule& rule, const Book& book, Date on, std::optional<int> age)
{
    return Reckoning(rule, book, on, age).calc();
}

Expected<WorkloadRule> parseWorkloadRule(const json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode n(root, "", problems);
    WorkloadRule rule;
    rule.name = n.at("name").words();
    rule.source = n.textOr("source", "");
    rule.words = n.at("words").words();
    const JsonNode pitching = n.at("pitching"), overhead = n.at("overhead");
    rule.pitchKinds = pitching.textsOf("kinds");
    for (const auto& x : pitching.at("limits").items()) {
        const WorkloadRule::Limit limit{static_cast<int>(x.at("from").integerIn(0, kOldest)),
                                        static_cast<int>(x.at("to").integerIn(0, kOldest)),
                                        static_cast<int>(x.at("pitches").integerIn(0, 1000))};
        if (limit.to < limit.from || (!rule.limits.empty() && limit.from <= rule.limits.back().to))
            x.wrong("ages have to rise");
        rule.limits.push_back(limit);
    }
    for (const auto& x : pitching.at("rest").items()) {
        WorkloadRule::Rest rest{static_cast<int>(x.at("to").integerIn(0, kOldest)), {}};
        if (!rule.rests.empty() && rest.to <= rule.rests.back().to)
            x.wrong("ages have to rise");
        for (const auto& step : x.at("steps").items())
            rest.steps.push_back(
                {static_cast<int>(step.at("over").integerIn(0, 1000)), static_cast<int>(step.at("days").integerIn(0, 30))});
        rule.rests.push_back(std::move(rest));
    }
    rule.daysRunning = static_cast<int>(pitching.at("daysRunning").integerIn(1, 7));
    rule.mayCatchToo = pitching.booleanOr("catcherToo", false);
    rule.monthsOff = static_cast<int>(pitching.at("monthsOff").integerIn(0, 12));
    rule.overheadKinds = overhead.textsOf("kinds");
    rule.ramp = overhead.at("ramp").numberIn(0, 10);
    rule.rampWords = overhead.textOr("words", "");
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return rule;
}

Expected<WorkloadRule> loadWorkloadRule(const std::string& file)
{
    return loadJson(file).and_then([&](const json& root) { return parseWorkloadRule(root, file); });
}

Expected<WorkloadRule> shippedWorkloadRule()
{
    return loadWorkloadRule(shippedFolder("data") + "/workload.json");
}

json toJson(const WorkloadRule& rule)
{
    json limits = json::array(), rests = json::array();
    for (const auto& l : rule.limits)
        limits.push_back({{"from", l.from}, {"to", l.to}, {"pitches", l.pitches}});
    for (const auto& r : rule.rests) {
        json steps = json::array();
        for (const auto& s : r.steps)
            steps.push_back({{"over", s.over}, {"days", s.days}});
        rests.push_back({{"to", r.to}, {"steps", steps}});
    }
    return {{"format", kFormat},
            {"version", 1},
            {"name", rule.name},
            {"source", rule.source},
            {"words", rule.words},
            {"pitching",
             {{"kinds", rule.pitchKinds},
              {"limits", limits},
              {"rest", rests},
              {"daysRunning", rule.daysRunning},
              {"catcherToo", rule.mayCatchToo},
              {"monthsOff", rule.monthsOff}}},
            {"overhead", {{"kinds", rule.overheadKinds}, {"ramp", rule.ramp}, {"words", rule.rampWords}}}};
}

} // namespace kestrel
