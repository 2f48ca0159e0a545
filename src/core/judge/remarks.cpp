#include "core/judge/remarks.h"

#include "core/judge/conditions.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace kestrel {

namespace {

constexpr int kFewRepetitions = 3; // fewer prove no habit
constexpr int kFewOfAnOutcome = 6;
constexpr double kTellingDifference = 2.5;                 // standard errors, since the largest of many is said
constexpr double kFastGrowthFrom = 11, kFastGrowthTo = 16; // years: usual ages of the growth spurt, girls' and boys' together

/// The id as it is said.
std::string plainVariant(std::string id)
{
    std::replace(id.begin(), id.end(), '-', ' ');
    return id;
}

class Remarker {
public:
    /// \param live  those that were judged
    Remarker(const Pack& pack, Review& review, const std::vector<const ReadRepetition*>& live,
             const std::vector<const ReadRepetition*>& shadows)
        : m_pack(pack), m_review(review), m_live(live), m_shadows(shadows)
    {
    }

    void run()
    {
        for (auto& f : m_review.faults)
            f.habit = habitOf(*m_pack.findFault(f.fault));
        for (auto& r : m_review.readings)
            r.spread = spreadOf(r.measure);
        if (m_review.oneThing) {
            aboutHabit();
            aboutRepeatability();
            aboutAbility();
        }
        aboutWhatWasSeen();
        aboutOutcome();
        aboutOtherKind();
        aboutSchools();
        aboutRules();
        aboutTheAthlete();
    }

private:
    void say(RemarkKind kind, std::string text) { m_review.remarks.push_back({kind, std::move(text)}); }

    static const Reading* findIn(const ReadRepetition& repetition, const std::string& measure)
    {
        for (const auto& r : repetition.readings)
            if (r.measure == measure)
                return &r;
        return nullptr;
    }

    static std::string nameOf(const ReadRepetition& repetition, std::size_t place)
    {
        return repetition.label.empty() ? "repetition " + std::to_string(place + 1) : repetition.label;
    }

    std::optional<Spread> spreadOf(const std::string& measure) const
    {
        std::vector<const Reading*> all;
        for (const auto* repetition : m_live)
            if (const Reading* r = findIn(*repetition, measure))
                all.push_back(r);
        return calcSpread(*m_pack.findMeasure(measure), all);
    }

    Habit habitOf(const Fault& fault) const
    {
        Habit habit;
        for (const auto* repetition : m_live) {
            bool isRead = false, isShown = false;
            for (const auto& c : fault.conditions)
                if (const auto* choice = answerOf(m_pack, *repetition, c.measure)) {
                    isRead = true;
                    isShown = isShown || choice->verdict == Verdict::Off;
                }
            for (const auto& c : fault.conditions)
                if (const Reading* r = findIn(*repetition, c.measure); r && r->value) {
                    isRead = true;
                    isShown = isShown || (r->verdict == Verdict::Off && isBeyond(*r, c.beyond));
                }
            habit.read += isRead;
            habit.shown += isShown;
        }
        return habit;
    }

    const FaultFinding& mainFinding() const
    {
        return *std::find_if(m_review.faults.begin(), m_review.faults.end(),
                             [&](const FaultFinding& f) { return f.fault == m_review.oneThing->fault; });
    }

    void aboutHabit()
    {
        const Habit h = mainFinding().habit;
        if (h.read == 0)
            return;
        const std::string counted = "Seen in " + std::to_string(h.shown) + " of " + std::to_string(h.read) +
                                    (h.read == 1 ? " repetition" : " repetitions");
        if (h.read < kFewRepetitions)
            say(RemarkKind::Habit,
                counted + "; that proves no habit. Film " + std::to_string(kFewRepetitions - h.read) + " more to know.");
        else
            say(RemarkKind::Habit,
                counted + (2 * h.shown > h.read ? ": a habit." : ": not in most; a slip rather than a habit."));
    }

    /// Of the measure that called the one thing.
    void aboutRepeatability()
    {
        const Reading* r = m_review.findReading(mainFinding().measures.front());
        if (!r || !r->spread)
            return;
        std::string text = m_pack.findMeasure(r->measure)->name + " varies by " + differenceWithUnit(r->spread->sd, r->unit);
        text += " (standard deviation of " + std::to_string(r->spread->repetitions) +
                " repetitions); after practice, only a change of the mean by more than ";
        text += differenceWithUnit(r->spread->smallestRealChange, r->unit) + " is real.";
        say(RemarkKind::Repeatability, std::move(text));
    }

    /// The repetition or shadow swing in which what is off was on target.
    void aboutAbility()
    {
        for (const auto& c : m_pack.findFault(m_review.oneThing->fault)->conditions) {
            const Measure* measure = m_pack.findMeasure(c.measure);
            const Reading* typical = m_review.findReading(c.measure);
            if (!measure || !typical || typical->verdict != Verdict::Off)
                continue;
            for (std::size_t i = 0; i < m_live.size(); ++i)
                if (const Reading* r = findIn(*m_live[i], c.measure); r && r->verdict == Verdict::OnTarget)
                    return say(RemarkKind::CanDoIt, measure->name + " was on target in " + nameOf(*m_live[i], i) + ", " +
                                                        withUnit(*r->value, r->unit) + ": the player can do it.");
            for (const auto* shadow : m_shadows)
                if (const Reading* r = findIn(*shadow, c.measure); r && r->verdict == Verdict::OnTarget)
                    return say(RemarkKind::CanDoIt, measure->name + " is on target in the shadow swing, " +
                                                        withUnit(*r->value, r->unit) + ", and off with the ball, " +
                                                        withUnit(*typical->value, typical->unit) +
                                                        ": known, not yet trusted with the ball.");
        }
    }

    /// What no finding speaks of already.
    void aboutWhatWasSeen()
    {
        for (const auto& o : m_review.observed) {
            const bool isTold = std::any_of(m_review.faults.begin(), m_review.faults.end(), [&](const FaultFinding& f) {
                return std::find(f.measures.begin(), f.measures.end(), o.observation) != f.measures.end();
            });
            const Observation& asked = *m_pack.findObservation(o.observation);
            const Observation::Choice& choice = *asked.findChoice(o.choice);
            if (o.verdict != Verdict::OnTarget && !isTold && !choice.says.empty())
                say(RemarkKind::Seen, asked.question + " " + choice.text + ". " + choice.says);
        }
    }

    /// What tells the repetitions that came off from those that did not.
    void aboutOutcome()
    {
        std::map<std::string, std::vector<const ReadRepetition*>> byOutcome;
        for (const auto* r : m_live)
            if (!r->marking.outcome.empty())
                byOutcome[r->marking.outcome].push_back(r);
        std::vector<std::pair<std::string, std::vector<const ReadRepetition*>>> groups;
        for (const auto& group : byOutcome)
            if (static_cast<int>(group.second.size()) >= kFewOfAnOutcome)
                groups.push_back(group);
        if (groups.size() < 2)
            return;
        std::stable_sort(groups.begin(), groups.end(),
                         [](const auto& a, const auto& b) { return a.second.size() > b.second.size(); });
        const Measure* telling = nullptr;
        Moments first, second;
        double most = kTellingDifference;
        for (const auto& m : m_pack.measures) {
            const Moments a = momentsOf(groups[0].second, m.id), b = momentsOf(groups[1].second, m.id);
            if (a.count < kFewOfAnOutcome || b.count < kFewOfAnOutcome)
                continue;
            const double error = std::sqrt(a.sd * a.sd / a.count + b.sd * b.sd / b.count);
            if (const double off = std::abs(a.mean - b.mean) / std::max(error, 1e-9); off > most) {
                most = off;
                telling = &m;
                first = a;
                second = b;
            }
        }
        const auto told = [&](const std::string& outcome, const Moments& m) {
            return outcome + " " + withUnit(m.mean, telling->unit) + " \u00b1 " + differenceWithUnit(m.sd, telling->unit) + " (" +
                   std::to_string(m.count) + ")";
        };
        say(RemarkKind::ByOutcome,
            telling ? telling->name + ": " + told(groups[0].first, first) + ", " + told(groups[1].first, second) +
                          ". The largest difference between them; a hint, no proof."
                    : "Nothing that was read tells \"" + groups[0].first + "\" from \"" + groups[1].first + "\".");
    }

    struct Moments {
        int count = 0;
        double mean = 0, sd = 0;
    };
    static Moments momentsOf(const std::vector<const ReadRepetition*>& group, const std::string& measure)
    {
        std::vector<double> values;
        for (const auto* r : group)
            if (const Reading* reading = findIn(*r, measure); reading && reading->value && hasValue(reading->verdict))
                values.push_back(*reading->value);
        Moments m;
        m.count = static_cast<int>(values.size());
        for (const double v : values)
            m.mean += v / m.count;
        for (const double v : values)
            m.sd += (v - m.mean) * (v - m.mean) / std::max(1, m.count - 1);
        m.sd = std::sqrt(m.sd);
        return m;
    }

    void aboutOtherKind()
    {
        const auto isRead = [](const Reading& r) { return hasValue(r.verdict); };
        if (std::none_of(m_review.readings.begin(), m_review.readings.end(), isRead))
            return; // nothing was judged of any kind
        const std::string variant = m_live.front()->marking.variant;
        if (variant.empty() || m_pack.variants.size() < 2)
            return;
        for (const auto* r : m_live)
            if (r->marking.variant != variant)
                return;
        std::string others;
        for (const auto& v : m_pack.variants)
            if (v != variant)
                others += (others.empty() ? "" : " or ") + plainVariant(v);
        say(RemarkKind::OtherKind,
            "All that was judged is " + plainVariant(variant) + "; film " + others + " as well to see whether it is the same.");
    }

    /// Another school's band for the same value.
    void aboutSchools()
    {
        for (const auto& r : m_review.readings) {
            const Measure& m = *m_pack.findMeasure(r.measure);
            if (!r.value || (!r.low && !r.high) || m_live.empty())
                continue;
            for (const auto& school : m_pack.schools) {
                const Band* other = bandFor(m, school.id, m_review.athlete.age, m_live.front()->marking.variant);
                if (school.id == m_review.school || !other || (other->low == r.low && other->high == r.high))
                    continue;
                Reading judged = r;
                judged.low = other->low;
                judged.high = other->high;
                judgeAgainstBand(judged, m.margin);
                const bool differs = (judged.verdict == Verdict::OnTarget && r.verdict == Verdict::Off) ||
                                     (judged.verdict == Verdict::Off && r.verdict == Verdict::OnTarget);
                if (differs)
                    say(RemarkKind::School, m.name + " is " + std::string(plainWordsOf(r.verdict)) + " here, and " +
                                                std::string(plainWordsOf(judged.verdict)) + " for the school \"" + school.name +
                                                "\".");
            }
        }
    }

    void aboutRules()
    {
        for (const auto& f : m_review.faults) {
            const Fault& fault = *m_pack.findFault(f.fault);
            if (f.verdict == Verdict::Off && std::find(fault.costs.begin(), fault.costs.end(), Cost::Rules) != fault.costs.end())
                say(RemarkKind::Rules, fault.name +
                                           " may be against the rules. This is what the film shows; the official and the "
                                           "local code decide.");
        }
    }

    void aboutTheAthlete()
    {
        const auto age = m_review.athlete.age;
        if (!age)
            return;
        if (*age >= kFastGrowthFrom && *age < kFastGrowthTo && m_review.oneThing)
            say(RemarkKind::Growth,
                "At this age fast growth can make movement clumsy for a time; compare in body proportions, not in "
                "metres, and be patient.");
        for (const auto& note : m_pack.equipment)
            if (*age <= note.maxAge)
                return say(RemarkKind::Equipment, note.text);
    }

    const Pack& m_pack;
    Review& m_review;
    const std::vector<const ReadRepetition*>& m_live;
    const std::vector<const ReadRepetition*>& m_shadows;
};

} // namespace

void addRemarks(const Pack& pack, Review& review, const std::vector<const ReadRepetition*>& live,
                const std::vector<const ReadRepetition*>& shadows)
{
    Remarker(pack, review, live, shadows).run();
}

} // namespace kestrel
