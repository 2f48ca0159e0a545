#include "core/judge/review.h"

#include "core/base/word_table.h"
#include "core/judge/conditions.h"
#include "core/judge/remarks.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace kestrel {

namespace {

constexpr double kMostOutside = 3;
constexpr double kStopRisk = 1.5; // from here on an off fault is one to stop and look at
constexpr int kMostTasks = 3;
constexpr double kOneTaskUnder = 10; // years
constexpr double kTieShare = 0.05;
constexpr std::size_t kMostLater = 2;
constexpr std::size_t kMostStrengths = 4;
constexpr std::size_t kMostLeaveAlone = 3;

double probabilityBelow(double x)
{
    return 0.5 * std::erfc(-x / std::sqrt(2.0));
}

/// The side on which a value across the edge would count.
bool mightBeBeyond(const Reading& r, Beyond side)
{
    const double reach = kWhisker * *r.uncertainty;
    const bool above = r.high && *r.value + reach > *r.high, below = r.low && *r.value - reach < *r.low;
    return (above && side != Beyond::Below) || (below && side != Beyond::Above);
}

double marginOf(const Pack& pack, const Reading& r)
{
    const Measure* m = pack.findMeasure(r.measure);
    const double width = r.low && r.high ? *r.high - *r.low : 0;
    return std::max({m ? m->margin : 0, 0.1 * width, 1e-6});
}

double sureness(const Reading& r)
{
    const double u = std::max(*r.uncertainty, 1e-9);
    return probabilityBelow(std::abs(r.beyondBand()) / u);
}

class Judge {
public:
    Judge(const Pack& pack, Review& review, const std::string& variant, const JudgeOptions& options)
        : m_pack(pack), m_review(review), m_options(options), m_variant(variant), m_ageGroup(ageGroupOf(review.athlete.age))
    {
    }

    void judge()
    {
        for (const auto& f : m_pack.faults)
            if (auto finding = findFault(f))
                m_review.faults.push_back(std::move(*finding));
        linkCauses();
        for (auto& f : m_review.faults)
            f.score = score(f);
        findThoseToStopAt();
        std::stable_sort(m_review.faults.begin(), m_review.faults.end(),
                         [this](const auto& a, const auto& b) { return comesFirst(a, b); });
        m_review.pain = m_options.pain;
        m_review.stop = sentenceAboutPain(m_options.pain);
        if (m_review.stop.empty())
            chooseOneThing();
        findStrengths();
        findCautions();
        findLeaveAlone();
    }

private:
    void findStrengths()
    {
        struct Candidate {
            double depth;
            const Reading* reading;
            const Measure* measure;
        };
        std::vector<Candidate> candidates;
        for (const auto& r : m_review.readings) {
            const Measure* m = m_pack.findMeasure(r.measure);
            if (r.verdict == Verdict::OnTarget && (r.low || r.high) && m && !m->praise.empty() && !isBlamed(*m))
                candidates.push_back({depthInBand(r), &r, m});
        }
        std::stable_sort(candidates.begin(), candidates.end(), [](const auto& a, const auto& b) { return a.depth > b.depth; });
        for (const auto& c : candidates) {
            if (m_review.strengths.size() == kMostStrengths)
                break;
            m_review.strengths.push_back({c.reading->measure, c.measure->praise});
        }
        for (const auto& o : m_review.observed) { // what the coach saw, after what was measured
            const std::string& says = m_pack.findObservation(o.observation)->findChoice(o.choice)->says;
            if (o.verdict == Verdict::OnTarget && !says.empty() && m_review.strengths.size() < kMostStrengths)
                m_review.strengths.push_back({o.observation, says});
        }
    }

    /// Where an angle has its joint; of other kinds the point that is looked at.
    static std::optional<PointRole> jointOf(const Measure& m)
    {
        if (m.points.empty())
            return std::nullopt;
        return m.points.size() == 3 ? m.points[1] : m.points[0];
    }

    /// Whether the one thing is about the same joint: a page does not praise what it corrects.
    bool isBlamed(const Measure& praised) const
    {
        if (!m_review.oneThing)
            return false;
        const Fault& fault = *m_pack.findFault(m_review.oneThing->fault);
        return std::any_of(fault.conditions.begin(), fault.conditions.end(), [&](const FaultCondition& c) {
            const Measure* blamed = m_pack.findMeasure(c.measure);
            return blamed && (blamed->id == praised.id || (jointOf(*blamed) && jointOf(*blamed) == jointOf(praised)));
        });
    }

    void findCautions()
    {
        for (const auto& f : m_review.faults)
            if (const Fault& fault = *m_pack.findFault(f.fault); f.verdict == Verdict::Off && !fault.caution.empty())
                m_review.cautions.push_back({f.fault, fault.caution});
    }

    /// Distance from the nearest edge in margins: how well inside.
    double depthInBand(const Reading& r) const
    {
        double distance = 1e9;
        if (r.low)
            distance = std::min(distance, *r.value - *r.low);
        if (r.high)
            distance = std::min(distance, *r.high - *r.value);
        return std::min(distance / (marginOf(m_pack, r) + *r.uncertainty), 10.0);
    }

    std::optional<FaultFinding> findFault(const Fault& fault) const
    {
        FaultFinding found{fault.id, Verdict::OnTarget, {}, {}, {}, 0};
        const auto collect = [&](Verdict verdict, auto holds) {
            if (!found.measures.empty())
                return;
            for (const auto& c : fault.conditions) {
                const Reading* r = m_review.findReading(c.measure);
                const Observed* o = findObserved(c.measure);
                if ((r && r->verdict == verdict && holds(*r, c.beyond)) || (o && o->verdict == verdict))
                    found.measures.push_back(c.measure);
            }
            if (!found.measures.empty())
                found.verdict = verdict;
        };
        collect(Verdict::Off, isBeyond);
        collect(Verdict::Near, isBeyond);
        collect(Verdict::TooCloseToCall, mightBeBeyond);
        if (found.measures.empty())
            return std::nullopt;
        found.severity = severityOf(fault, found.verdict);
        return found;
    }

    const Observed* findObserved(const std::string& id) const
    {
        const auto it = std::find_if(m_review.observed.begin(), m_review.observed.end(),
                                     [&](const Observed& o) { return o.observation == id; });
        return it == m_review.observed.end() ? nullptr : &*it;
    }

    static Severity severityOf(const Fault& fault, Verdict verdict)
    {
        if (verdict != Verdict::Off)
            return verdict == Verdict::Near ? Severity::CouldBeBetter : Severity::Fine;
        return costs(fault, Cost::Rules) || fault.risk >= kStopRisk ? Severity::StopAndLook : Severity::FixThis;
    }

    FaultFinding* calledFault(const std::string& id)
    {
        for (auto& f : m_review.faults)
            if (f.fault == id && f.verdict == Verdict::Off)
                return &f;
        return nullptr;
    }

    void linkCauses()
    {
        for (auto& cause : m_review.faults) {
            if (cause.verdict != Verdict::Off)
                continue;
            std::set<std::string> seen{cause.fault};
            std::vector<std::string> open{cause.fault};
            while (!open.empty()) { // links may pass through faults that this film does not show
                const Fault* f = m_pack.findFault(open.back());
                open.pop_back();
                for (const auto& next : f->explains) {
                    if (!seen.insert(next).second)
                        continue;
                    open.push_back(next);
                    if (FaultFinding* effect = calledFault(next)) {
                        cause.explains.push_back(next);
                        effect->causedBy.push_back(cause.fault);
                    }
                }
            }
        }
    }

    double score(const FaultFinding& f) const
    {
        if (f.verdict != Verdict::Off)
            return 0;
        const Fault& fault = *m_pack.findFault(f.fault);
        double worst = 0;
        for (const auto& id : f.measures) {
            if (!m_review.findReading(id)) { // an observation: plainly seen, one margin outside
                worst = std::max(worst, 1.0);
                continue;
            }
            const Reading& r = *m_review.findReading(id);
            const double outside = std::min(std::abs(r.beyondBand()) / marginOf(m_pack, r), kMostOutside);
            worst = std::max(worst, outside * sureness(r));
        }
        return worst * (1 + static_cast<double>(f.explains.size())) * fault.risk * fault.teachable[m_ageGroup];
    }

    /// Faults to stop and look at, and those that lead to one: the cause is what is worked on.
    void findThoseToStopAt()
    {
        for (const auto& f : m_review.faults)
            if (f.severity == Severity::StopAndLook) {
                m_stops.insert(f.fault);
                m_stops.insert(f.causedBy.begin(), f.causedBy.end());
            }
    }

    bool comesFirst(const FaultFinding& a, const FaultFinding& b) const
    {
        const auto rank = [](Verdict v) { return v == Verdict::Off ? 0 : v == Verdict::Near ? 1 : 2; };
        if (rank(a.verdict) != rank(b.verdict))
            return rank(a.verdict) < rank(b.verdict);
        if (m_stops.count(a.fault) != m_stops.count(b.fault))
            return m_stops.count(a.fault) > 0;
        if ((a.fault == m_options.lastTask) != (b.fault == m_options.lastTask))
            return a.fault == m_options.lastTask;
        const auto step = [](double s) { return s > 0 ? std::floor(std::log(s) / std::log(1 + kTieShare)) : -1e9; };
        if (step(a.score) != step(b.score))
            return a.score > b.score;
        return m_pack.findFault(a.fault)->stage < m_pack.findFault(b.fault)->stage;
    }

    void chooseOneThing()
    {
        const bool isSmall = m_review.athlete.age && *m_review.athlete.age < kOneTaskUnder;
        const auto tasks = static_cast<std::size_t>(isSmall ? 1 : std::clamp(m_options.tasks, 1, kMostTasks));
        for (const auto& f : m_review.faults) {
            if (f.verdict != Verdict::Off)
                break;
            const Fault& fault = *m_pack.findFault(f.fault);
            const auto& untaught = m_options.notYetTaught;
            if (fault.teachable[m_ageGroup] <= 0 || std::find(untaught.begin(), untaught.end(), f.fault) != untaught.end()) {
                m_review.next.push_back(f.fault);
                continue;
            }
            if (!m_review.oneThing)
                m_review.oneThing = taskOf(f, fault);
            else if (isExplained(f))
                continue;
            else if (1 + m_review.alsoNow.size() < tasks)
                m_review.alsoNow.push_back(taskOf(f, fault));
            else if (m_review.later.size() < kMostLater)
                m_review.later.push_back(f.fault);
        }
    }

    OneThing taskOf(const FaultFinding& f, const Fault& fault) const
    {
        return {fault.id, fault.cueFor(m_variant), drillsFor(m_pack, fault, m_review.athlete.age), reason(f, fault), f.severity};
    }

    /// What the one thing already explains need not be worked on.
    bool isExplained(const FaultFinding& f) const
    {
        return std::find(f.causedBy.begin(), f.causedBy.end(), m_review.oneThing->fault) != f.causedBy.end();
    }

    std::string reason(const FaultFinding& f, const Fault& fault) const
    {
        const auto distance = [&](const Reading& r) { return std::abs(r.beyondBand()) / marginOf(m_pack, r); };
        const Reading* worst = nullptr;
        for (const auto& id : f.measures)
            if (const Reading* r = m_review.findReading(id); r && (!worst || distance(*r) > distance(*worst)))
                worst = r;
        std::string text = worst ? m_pack.findMeasure(worst->measure)->name + ": " + worst->why : whatWasSeen(f.measures.front());
        if (!f.explains.empty()) {
            text += " It also explains: ";
            for (std::size_t i = 0; i < f.explains.size(); ++i)
                text += (i == 0                       ? ""
                         : i + 1 == f.explains.size() ? " and "
                                                      : ", ") +
                        lowerFirst(m_pack.findFault(f.explains[i])->name);
            text += ".";
        }
        return text + " " + fault.why;
    }

    std::string whatWasSeen(const std::string& observation) const
    {
        const Observation& o = *m_pack.findObservation(observation);
        return o.question + " " + o.findChoice(findObserved(observation)->choice)->text + ".";
    }

    static std::string lowerFirst(std::string s)
    {
        if (!s.empty() && s[0] >= 'A' && s[0] <= 'Z')
            s[0] = static_cast<char>(s[0] - 'A' + 'a');
        return s;
    }

    void findLeaveAlone()
    {
        for (const auto& r : m_review.readings)
            if (r.verdict == Verdict::Near && isStyle(r.measure) && m_review.leaveAlone.size() < kMostLeaveAlone)
                m_review.leaveAlone.push_back(m_pack.findMeasure(r.measure)->name + ", " + withUnit(*r.value, r.unit) +
                                              ": just outside the usual band. Style; leave it alone.");
    }

    /// Never what adds load or breaks a rule, however little it is outside.
    bool isStyle(const std::string& measure) const
    {
        return std::none_of(m_pack.faults.begin(), m_pack.faults.end(), [&](const Fault& f) {
            const bool isAbout = std::any_of(f.conditions.begin(), f.conditions.end(),
                                             [&](const FaultCondition& c) { return c.measure == measure; });
            return isAbout && (f.risk > 1 || !f.caution.empty() || costs(f, Cost::Load) || costs(f, Cost::Rules));
        });
    }

    static bool costs(const Fault& fault, Cost cost)
    {
        return std::find(fault.costs.begin(), fault.costs.end(), cost) != fault.costs.end();
    }

    const Pack& m_pack;
    Review& m_review;
    const JudgeOptions& m_options;
    std::string m_variant;
    std::set<std::string> m_stops; // come before any score
    std::size_t m_ageGroup;
};

constexpr WordRow<Severity> kSeverities[] = {{Severity::Fine, "fine"},
                                             {Severity::CouldBeBetter, "could_be_better"},
                                             {Severity::FixThis, "fix_this"},
                                             {Severity::StopAndLook, "stop_and_look"}};
constexpr WordRow<Severity> kPlainSeverities[] = {{Severity::Fine, "fine"},
                                                  {Severity::CouldBeBetter, "could be better"},
                                                  {Severity::FixThis, "fix this"},
                                                  {Severity::StopAndLook, "stop and look"}};
constexpr WordRow<RemarkKind> kRemarks[] = {{RemarkKind::Seen, "seen"},         {RemarkKind::ByOutcome, "by_outcome"},
                                            {RemarkKind::Habit, "habit"},       {RemarkKind::Repeatability, "repeatability"},
                                            {RemarkKind::CanDoIt, "can_do_it"}, {RemarkKind::OtherKind, "other_kind"},
                                            {RemarkKind::School, "school"},     {RemarkKind::Rules, "rules"},
                                            {RemarkKind::Growth, "growth"},     {RemarkKind::Equipment, "equipment"}};

} // namespace

const Reading* Review::findReading(std::string_view measure) const
{
    const auto it = std::find_if(readings.begin(), readings.end(), [&](const Reading& r) { return r.measure == measure; });
    return it == readings.end() ? nullptr : &*it;
}

Marking withoutMarks(const Marking& m)
{
    return {m.film, m.clock, m.scene, m.athlete, m.skill, m.variant, m.isLive, m.outcome, m.events, {}, m.answers};
}

ReadRepetition readRepetition(const Pack& pack, const PreparedRepetition& repetition, const ReadOptions& options,
                              const PreparedRepetition* fromSecondCamera)
{
    return {withoutMarks(repetition.marking()),
            calcReadings(pack, repetition, options, fromSecondCamera),
            calcSequence(pack, repetition),
            {}};
}

Review calcReview(const Pack& pack, const std::vector<ReadRepetition>& repetitions, const JudgeOptions& options)
{
    std::vector<const ReadRepetition*> live, shadows;
    for (const auto& r : repetitions)
        (r.marking.isLive ? live : shadows).push_back(&r);
    if (live.empty())
        std::swap(live, shadows);
    const Marking& first = live.front()->marking;
    Review review;
    review.pack = pack.id;
    review.school = options.school.empty() ? pack.usualSchool() : options.school;
    review.athlete = first.athlete;
    if (options.age)
        review.athlete.age = options.age;
    review.repetitions = static_cast<int>(live.size());
    std::vector<std::vector<Reading>> readings;
    for (const auto* r : live) {
        review.films.push_back(r->marking.film.file);
        readings.push_back(r->readings);
        if (!review.sequence)
            review.sequence = r->sequence;
    }
    review.readings = calcTypical(pack, readings);
    review.observed = typicalAnswers(pack, live);
    Judge(pack, review, first.variant, options).judge();
    addRemarks(pack, review, live, shadows);
    for (auto& r : review.readings)
        r.errors.clear();
    return review;
}

std::string_view wordOf(Severity s)
{
    return wordIn(kSeverities, s);
}
std::optional<Severity> findSeverity(std::string_view w)
{
    return findIn(kSeverities, w);
}
std::string_view plainWordsOf(Severity s)
{
    return wordIn(kPlainSeverities, s);
}
std::string_view wordOf(RemarkKind k)
{
    return wordIn(kRemarks, k);
}
std::optional<RemarkKind> findRemarkKind(std::string_view w)
{
    return findIn(kRemarks, w);
}

} // namespace kestrel
