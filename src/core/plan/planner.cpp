#include "core/plan/planner.h"

#include "core/base/word_table.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <cstdint>

namespace kestrel {

namespace {

using std::chrono::days;

constexpr WordRow<PracticeSpace> kSpaces[] = {
    {PracticeSpace::Indoors, "indoors"}, {PracticeSpace::Garden, "garden"}, {PracticeSpace::Court, "court"}};
constexpr std::array kWeekdays{"sun", "mon", "tue", "wed", "thu", "fri", "sat"};
constexpr std::array kWeekdayNames{"Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"};
constexpr int kMostWeeks = 6, kMostTasks = 3, kMostRounds = 3;
constexpr double kLeastMinutes = 5, kMostMinutes = 180;
constexpr double kShort = 0.6; // of the minutes that were asked for

bool holdsAny(const std::string& text, std::initializer_list<const char*> words)
{
    return std::any_of(words.begin(), words.end(), [&](const char* w) { return text.find(w) != std::string::npos; });
}

std::string lower(std::string s)
{
    std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return s;
}

/// "3 x 6, slow": 3 and 6. Other doses: once, ten.
std::pair<int, int> doseOf(const Drill& d)
{
    int numbers[2] = {0, 0};
    std::size_t n = 0;
    for (std::size_t i = 0; i < d.dose.size() && n < 2; ++i)
        if (std::isdigit(static_cast<unsigned char>(d.dose[i]))) {
            int value = 0;
            for (; i < d.dose.size() && std::isdigit(static_cast<unsigned char>(d.dose[i])); ++i)
                value = std::min(1000, 10 * value + (d.dose[i] - '0'));
            numbers[n++] = value;
        }
    if (n < 2)
        return {1, n == 1 ? std::max(1, numbers[0]) : 10};
    return {std::clamp(numbers[0], 1, 100), std::max(1, numbers[1])};
}

/// A name that is the same whenever it is made from the same words (FNV-1a, 64 bits).
std::string nameFrom(const std::string& words)
{
    std::uint64_t hash = 1469598103934665603ull;
    for (const unsigned char c : words)
        hash = (hash ^ c) * 1099511628211ull;
    constexpr const char* kDigits = "0123456789abcdef";
    std::string name;
    for (int i = 0; i < 16; ++i, hash >>= 4)
        name += kDigits[hash & 15];
    return name + "@jolly-kestrel";
}

/// The drills of one task that can be done.
struct TaskDrills {
    const Fault* fault = nullptr;
    std::vector<const Drill*> drills;
};

class Planner {
public:
    Planner(const Pack& pack, const WorkloadRule& rule, const PlanWish& wish, const Plan* before, std::optional<Date> today)
        : m_pack(pack), m_rule(rule), m_wish(wish), m_before(before), m_today(today.value_or(wish.start))
    {
    }

    Expected<Plan> make()
    {
        if (auto e = check())
            return tl::unexpected(*e);
        m_plan.pack = m_pack.id;
        m_plan.player = m_wish.player;
        m_plan.tasks = m_wish.faults;
        m_plan.start = m_wish.start;
        m_plan.weeks = m_wish.weeks;
        m_plan.madeFor = m_wish.intake;
        m_plan.sequence = m_before ? m_before->sequence + 1 : 0;
        if (auto e = chooseDrills())
            return tl::unexpected(*e);
        keepWhatStays();
        addSessions();
        if (m_plan.sessions.empty())
            return fail(ErrorCode::BadArgument, "No day is left to practise on: choose other days, or start later.");
        std::sort(m_plan.sessions.begin(), m_plan.sessions.end(),
                  [](const PlanSession& a, const PlanSession& b) { return a.date < b.date; });
        noteShortSessions();
        addRefilm();
        addDropped();
        return std::move(m_plan);
    }

private:
    std::optional<Error> check() const
    {
        const auto bad = [](const std::string& message) { return Error{ErrorCode::BadArgument, message, {}, {}}; };
        if (m_wish.faults.empty())
            return bad("There is nothing to practise: the review has no task.");
        if (m_wish.faults.size() > kMostTasks)
            return bad("A plan has at most three tasks.");
        if (m_wish.intake.weekdays.empty())
            return bad("No day of the week is chosen: name one at least, such as mon,wed,sat.");
        if (m_wish.weeks < 1 || m_wish.weeks > kMostWeeks)
            return bad("A plan is for one to six weeks.");
        if (!(m_wish.intake.minutes >= kLeastMinutes && m_wish.intake.minutes <= kMostMinutes))
            return bad("A session has 5 to 180 minutes.");
        return std::nullopt;
    }

    std::optional<Error> chooseDrills()
    {
        for (const auto& id : m_wish.faults) {
            const Fault* fault = m_pack.findFault(id);
            if (!fault)
                return Error{ErrorCode::NotFound, "The pack has no fault \"" + id + "\".", m_pack.file, {}};
            TaskDrills task{fault, {}};
            const Drill* nearest = nullptr;
            for (const auto& d : fault->drills) {
                const Drill* drill = m_pack.findDrill(d);
                if (!drill || !drill->isForAge(m_wish.age))
                    continue;
                if (drill->minutes > m_wish.intake.minutes) {
                    m_tooLong = true;
                    continue;
                }
                if (fitsKit(*drill, m_wish.intake.kit) && fitsSpace(*drill, findPracticeSpace(m_wish.intake.space)))
                    task.drills.push_back(drill);
                else if (!nearest || drill->kit.size() < nearest->kit.size())
                    nearest = drill;
            }
            if (task.drills.empty() && nearest) {
                m_plan.notes.push_back("For \"" + fault->name + "\" no drill fits the kit and space: the nearest is \"" +
                                       nearest->name + "\", which needs " + nearest->kitWords() + " and " + nearest->space +
                                       ". It is planned all the same.");
                task.drills.push_back(nearest);
            } else if (task.drills.empty()) {
                m_plan.notes.push_back("For \"" + fault->name + "\" the pack has no drill for this age" +
                                       (m_tooLong ? " that takes no longer than a session" : "") + ".");
            }
            m_tasks.push_back(std::move(task));
        }
        if (std::all_of(m_tasks.begin(), m_tasks.end(), [](const TaskDrills& t) { return t.drills.empty(); }))
            return Error{ErrorCode::BadArgument, m_plan.notes.front() + " Give more minutes, or choose another task.", {}, {}};
        return std::nullopt;
    }

    /// What is past or locked, and what the coach wrote.
    void keepWhatStays()
    {
        if (!m_before)
            return;
        m_plan.coachNotes = m_before->coachNotes;
        for (const auto& s : m_before->sessions)
            if (s.isLocked || s.date < m_today) {
                m_plan.sessions.push_back(s);
                m_taken.insert(s.date);
            }
    }

    std::string uidFor(Date date) const
    {
        if (m_before)
            for (const auto& s : m_before->sessions)
                if (s.date == date)
                    return s.uid;
        return nameFrom(m_pack.id + "|" + m_wish.player + "|" + textOf(m_wish.start) + "|" + textOf(date));
    }

    void addSessions()
    {
        int n = 0;
        for (int day = 0; day < 7 * m_wish.weeks; ++day) {
            const Date date = m_wish.start + days(day);
            if (!m_wish.intake.weekdays.count(std::chrono::weekday(date).c_encoding()))
                continue;
            if (m_taken.count(date) || date < m_today) {
                ++n;
                continue;
            }
            if (m_wish.intake.notOn.count(date)) {
                m_plan.notes.push_back("Nothing on " + wordsOf(date) + ": the day is not free.");
                continue;
            }
            const int week = day / 7;
            const DrillLevel level = m_wish.weeks >= 2 && week == 0                  ? DrillLevel::Easier
                                     : m_wish.weeks >= 3 && week == m_wish.weeks - 1 ? DrillLevel::Harder
                                                                                     : DrillLevel::AsWritten;
            PlanSession session = makeSession(date, n++, week, level);
            if (!session.items.empty())
                m_plan.sessions.push_back(std::move(session));
        }
    }

    PlanSession makeSession(Date date, int n, int week, DrillLevel level)
    {
        PlanSession s;
        s.date = date;
        s.uid = uidFor(date);
        const Workload load =
            calcWorkload(m_rule, m_wish.book, date, m_wish.age ? std::optional(static_cast<int>(*m_wish.age)) : std::nullopt);
        const bool isResting = load.has(WarningKind::Pain) || (load.restUntil && *load.restUntil >= date);
        const std::string name = kWeekdayNames[std::chrono::weekday(date).c_encoding()];
        s.why = load.has(WarningKind::Pain) ? name + ": pain is noted, so nothing is thrown or served."
                : isResting
                    ? name + ": a day of rest for the arm until " + textOf(*load.restUntil) + ", so nothing is thrown or served."
                    : name + ", one of the chosen days.";
        double left = m_wish.intake.minutes;
        // the first task always; the others in turn, so that each gets its share where the minutes are few
        std::vector<std::size_t> order{0};
        for (std::size_t k = 1; k < m_tasks.size(); ++k)
            order.push_back(1 + (k - 1 + static_cast<std::size_t>(n)) % (m_tasks.size() - 1));
        if (m_tasks.size() > 1 && n % 3 == 2 && !fitsAll()) // now and then another one leads
            std::swap(order[0], order[1]);
        // a drill of each, and then as many more as the minutes and the week's other sessions leave
        for (int round = 0; round < kMostRounds; ++round)
            for (const std::size_t k : order) {
                const Drill* drill = round < roundsFor(k) ? nextDrill(k, week, left, isResting, s.items) : nullptr;
                if (!drill)
                    continue;
                s.items.push_back(itemOf(*drill, *m_tasks[k].fault, level));
                left -= drill->minutes;
                ++m_uses[{drill->id, week}];
            }
        std::stable_sort(s.items.begin(), s.items.end(), [this](const PlanItem& a, const PlanItem& b) {
            return loadsTheArm(m_pack, *m_pack.findDrill(a.drill)) < loadsTheArm(m_pack, *m_pack.findDrill(b.drill));
        });
        return s;
    }

    void noteShortSessions()
    {
        double sum = 0;
        for (const auto& s : m_plan.sessions)
            sum += s.minutes();
        const double usual = sum / static_cast<double>(m_plan.sessions.size());
        if (usual < kShort * m_wish.intake.minutes)
            m_plan.notes.push_back("The drills take about " + std::to_string(std::lround(usual)) + " of the " +
                                   std::to_string(std::lround(m_wish.intake.minutes)) +
                                   " minutes: few and good is enough. Let play fill the rest.");
    }

    PlanItem itemOf(const Drill& drill, const Fault& fault, DrillLevel level) const
    {
        const auto [sets, reps] = doseOf(drill);
        PlanItem item{drill.id, fault.id, sets, reps, static_cast<double>(drill.minutes), {}, level};
        if ((level == DrillLevel::Easier && drill.easier.empty()) || (level == DrillLevel::Harder && drill.harder.empty()))
            item.level = DrillLevel::AsWritten;
        item.why = whyOf(fault, drill, item.level);
        return item;
    }

    /// How many of a task's drills a session may have, so that every session of the week has one.
    int roundsFor(std::size_t task) const
    {
        const int sessions = static_cast<int>(m_wish.intake.weekdays.size());
        int uses = 0;
        for (const Drill* d : m_tasks[task].drills)
            uses += std::min(d->daysAWeek, sessions);
        return std::max(1, uses / sessions);
    }

    /// Whether one drill of each task goes into one session.
    bool fitsAll() const
    {
        double sum = 0;
        for (const auto& t : m_tasks) {
            double most = 0;
            for (const Drill* d : t.drills)
                most = std::max(most, static_cast<double>(d->minutes));
            sum += most;
        }
        return sum <= m_wish.intake.minutes;
    }

    /// The task's next drill that fits the minutes left, is not overdone this week, and spares a resting arm.
    const Drill* nextDrill(std::size_t task, int week, double left, bool isResting, const std::vector<PlanItem>& chosen)
    {
        const auto& drills = m_tasks[task].drills;
        std::size_t& turn = m_turn[task];
        for (std::size_t i = 0; i < drills.size(); ++i) {
            const Drill* d = drills[(turn + i) % drills.size()];
            const bool isChosen =
                std::any_of(chosen.begin(), chosen.end(), [d](const PlanItem& item) { return item.drill == d->id; });
            if (isChosen || d->minutes > left || m_uses[{d->id, week}] >= d->daysAWeek || (isResting && loadsTheArm(m_pack, *d)))
                continue;
            turn += i + 1;
            return d;
        }
        return nullptr;
    }

    std::string whyOf(const Fault& fault, const Drill& drill, DrillLevel level) const
    {
        std::string why = "For \"" + fault.name + "\"";
        why += drill.kit.empty() ? ", needs nothing" : ", with " + drill.kitWords();
        if (loadsTheArm(m_pack, drill))
            why += "; two slow ones without a ball before it";
        if (level == DrillLevel::Easier)
            why += ". Easier at first: " + drill.easier;
        else if (level == DrillLevel::Harder)
            why += ". Harder, when it held the week before: " + drill.harder;
        if (why.back() != '.')
            why += ".";
        return why;
    }

    /// After the last week, on a chosen day on which the arm may work.
    void addRefilm()
    {
        const Date end = m_wish.start + days(7 * m_wish.weeks);
        m_plan.refilm = end;
        for (int day = 0; day < 14; ++day) {
            const Date date = end + days(day);
            const auto load = calcWorkload(m_rule, m_wish.book, date);
            if (m_wish.intake.weekdays.count(std::chrono::weekday(date).c_encoding()) && !m_wish.intake.notOn.count(date) &&
                !load.restUntil) {
                m_plan.refilm = date;
                break;
            }
        }
        m_plan.refilmHow = "From the same spot, height and zoom as last time, with the same picture rate. " + m_pack.filmNext;
        m_plan.refilmUid = m_before && !m_before->refilmUid.empty()
                               ? m_before->refilmUid
                               : nameFrom(m_pack.id + "|" + m_wish.player + "|" + textOf(m_wish.start) + "|refilm");
    }

    void addDropped()
    {
        if (!m_before)
            return;
        m_plan.dropped = m_before->dropped;
        for (const auto& s : m_before->sessions)
            if (std::none_of(m_plan.sessions.begin(), m_plan.sessions.end(),
                             [&](const PlanSession& now) { return now.uid == s.uid; }))
                m_plan.dropped.push_back({s.date, s.uid});
        std::erase_if(m_plan.dropped, [&](const DroppedSession& d) {
            return std::any_of(m_plan.sessions.begin(), m_plan.sessions.end(),
                               [&](const PlanSession& now) { return now.uid == d.uid; });
        });
    }

    const Pack& m_pack;
    const WorkloadRule& m_rule;
    const PlanWish& m_wish;
    const Plan* m_before;
    Date m_today;
    std::vector<TaskDrills> m_tasks;
    std::map<std::size_t, std::size_t> m_turn;         // by task: whose drill is next
    std::map<std::pair<std::string, int>, int> m_uses; // of a drill in a week
    std::set<Date> m_taken;
    bool m_tooLong = false;
    Plan m_plan;
};

} // namespace

std::optional<PracticeSpace> findPracticeSpace(std::string_view word)
{
    return findIn(kSpaces, word);
}

Expected<Plan> makePlan(const Pack& pack, const WorkloadRule& rule, const PlanWish& wish, const Plan* before,
                        std::optional<Date> today)
{
    return Planner(pack, rule, wish, before, today).make();
}

std::vector<std::string> tasksOf(const Review& review)
{
    std::vector<std::string> tasks;
    if (review.oneThing)
        tasks.push_back(review.oneThing->fault);
    for (const auto& also : review.alsoNow)
        if (tasks.size() < kMostTasks)
            tasks.push_back(also.fault);
    return tasks;
}

bool loadsTheArm(const Pack& pack, const Drill& drill)
{
    const bool isOverhead = pack.counts == "pitch" || pack.counts == "serve" || pack.counts == "throw";
    return isOverhead && std::any_of(drill.kit.begin(), drill.kit.end(),
                                     [](const std::string& k) { return k.find("ball") != std::string::npos; });
}

bool fitsKit(const Drill& drill, const std::optional<std::set<std::string>>& kit)
{
    return !kit || std::all_of(drill.kit.begin(), drill.kit.end(), [&](const std::string& k) { return kit->count(k) > 0; });
}

bool fitsSpace(const Drill& drill, std::optional<PracticeSpace> space)
{
    if (!space || *space != PracticeSpace::Indoors)
        return true;
    const std::string needs = lower(drill.space);
    return !holdsAny(needs, {"garden", "outdoors", "driveway", "hoop", "fence", "grass", "lawn"}) ||
           holdsAny(needs, {"floor", "wall", "carpet", "hallway", "ceiling"});
}

std::optional<std::set<unsigned>> parseWeekdays(const std::string& words)
{
    std::set<unsigned> found;
    std::string word;
    const auto end = [&]() -> bool {
        if (word.empty())
            return true;
        for (unsigned n = 0; n < kWeekdays.size(); ++n)
            if (word == kWeekdays[n] || word == lower(kWeekdayNames[n])) {
                found.insert(n);
                word.clear();
                return true;
            }
        return false;
    };
    for (const char c : lower(words)) {
        if (c != ',' && c != ' ' && c != ';')
            word += c;
        else if (!end())
            return std::nullopt;
    }
    return end() && !found.empty() ? std::optional(found) : std::nullopt;
}

} // namespace kestrel
