#include "core/review.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace kestrel {

namespace {

constexpr double kMostOutside = 3;
constexpr double kTieShare = 0.05;
constexpr std::size_t kMostLater = 2;
constexpr std::size_t kMostStrengths = 4;
constexpr std::size_t kMostLeaveAlone = 3;

double probabilityBelow(double x)
{
    return 0.5 * std::erfc(-x / std::sqrt(2.0));
}

bool isBeyond(const Reading& r, Beyond side)
{
    const double d = r.beyondBand();
    return (d > 0 && side != Beyond::Below) || (d < 0 && side != Beyond::Above);
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

std::size_t ageGroup(std::optional<double> age)
{
    if (!age)
        return 2;
    return *age < 10 ? 0 : *age < 14 ? 1 : *age < 19 ? 2 : 3;
}

class Judge {
public:
    Judge(const Pack& pack, Review& review, const ReadOptions& options)
        : m_pack(pack), m_review(review), m_ageGroup(ageGroup(options.age ? options.age : review.athlete.age))
    {
    }

    void judge()
    {
        findStrengths();
        for (const auto& f : m_pack.faults)
            if (auto finding = findFault(f))
                m_review.faults.push_back(std::move(*finding));
        linkCauses();
        for (auto& f : m_review.faults)
            f.score = score(f);
        std::stable_sort(m_review.faults.begin(), m_review.faults.end(),
                         [this](const auto& a, const auto& b) { return comesFirst(a, b); });
        chooseOneThing();
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
            if (r.verdict == Verdict::OnTarget && m && !m->praise.empty())
                candidates.push_back({depthInBand(r), &r, m});
        }
        std::stable_sort(candidates.begin(), candidates.end(), [](const auto& a, const auto& b) { return a.depth > b.depth; });
        for (const auto& c : candidates) {
            if (m_review.strengths.size() == kMostStrengths)
                break;
            m_review.strengths.push_back({c.reading->measure, c.measure->praise});
        }
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
            for (const auto& c : fault.conditions)
                if (const Reading* r = m_review.findReading(c.measure); r && r->verdict == verdict && holds(*r, c.beyond))
                    found.measures.push_back(c.measure);
            if (!found.measures.empty())
                found.verdict = verdict;
        };
        collect(Verdict::Off, isBeyond);
        collect(Verdict::Near, isBeyond);
        collect(Verdict::TooCloseToCall, mightBeBeyond);
        if (found.measures.empty())
            return std::nullopt;
        return found;
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
            const Reading& r = *m_review.findReading(id);
            const double outside = std::min(std::abs(r.beyondBand()) / marginOf(m_pack, r), kMostOutside);
            worst = std::max(worst, outside * sureness(r));
        }
        return worst * (1 + static_cast<double>(f.explains.size())) * fault.risk * fault.teachable[m_ageGroup];
    }

    bool comesFirst(const FaultFinding& a, const FaultFinding& b) const
    {
        const auto rank = [](Verdict v) { return v == Verdict::Off ? 0 : v == Verdict::Near ? 1 : 2; };
        if (rank(a.verdict) != rank(b.verdict))
            return rank(a.verdict) < rank(b.verdict);
        const auto step = [](double s) { return s > 0 ? std::floor(std::log(s) / std::log(1 + kTieShare)) : -1e9; };
        if (step(a.score) != step(b.score))
            return a.score > b.score;
        return m_pack.findFault(a.fault)->stage < m_pack.findFault(b.fault)->stage;
    }

    void chooseOneThing()
    {
        for (const auto& f : m_review.faults) {
            if (f.verdict != Verdict::Off || f.score <= 0)
                break;
            const Fault& fault = *m_pack.findFault(f.fault);
            if (!m_review.oneThing) {
                m_review.oneThing = OneThing{fault.id, fault.cue, fault.drills, reason(f, fault)};
            } else if (m_review.later.size() < kMostLater && !isExplained(f)) {
                m_review.later.push_back(f.fault);
            }
        }
    }

    /// What the one thing already explains need not be worked on.
    bool isExplained(const FaultFinding& f) const
    {
        return std::find(f.causedBy.begin(), f.causedBy.end(), m_review.oneThing->fault) != f.causedBy.end();
    }

    std::string reason(const FaultFinding& f, const Fault& fault) const
    {
        const Reading* worst = m_review.findReading(f.measures.front());
        for (const auto& id : f.measures)
            if (const Reading* r = m_review.findReading(id);
                std::abs(r->beyondBand()) / marginOf(m_pack, *r) > std::abs(worst->beyondBand()) / marginOf(m_pack, *worst))
                worst = r;
        std::string text = m_pack.findMeasure(worst->measure)->name + ": " + worst->why;
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

    static std::string lowerFirst(std::string s)
    {
        if (!s.empty() && s[0] >= 'A' && s[0] <= 'Z')
            s[0] = static_cast<char>(s[0] - 'A' + 'a');
        return s;
    }

    void findLeaveAlone()
    {
        for (const auto& r : m_review.readings)
            if (r.verdict == Verdict::Near && m_review.leaveAlone.size() < kMostLeaveAlone)
                m_review.leaveAlone.push_back(m_pack.findMeasure(r.measure)->name + ", " + withUnit(*r.value, r.unit) +
                                              ": just outside the usual band. Style; leave it alone.");
    }

    const Pack& m_pack;
    Review& m_review;
    std::size_t m_ageGroup;
};

} // namespace

const Reading* Review::findReading(std::string_view measure) const
{
    const auto it = std::find_if(readings.begin(), readings.end(), [&](const Reading& r) { return r.measure == measure; });
    return it == readings.end() ? nullptr : &*it;
}

Review calcReview(const Pack& pack, std::vector<Reading> readings, const Marking& shown, const ReadOptions& options)
{
    Review review;
    review.pack = pack.id;
    review.school = options.school.empty() && !pack.schools.empty() ? pack.schools.front().id : options.school;
    review.athlete = shown.athlete;
    if (options.age)
        review.athlete.age = options.age;
    review.filmFile = shown.film.file;
    review.readings = std::move(readings);
    Judge(pack, review, options).judge();
    return review;
}

} // namespace kestrel
