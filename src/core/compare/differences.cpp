#include "core/compare/differences.h"

#include <algorithm>
#include <cmath>

namespace kestrel {

namespace {

constexpr double kSure = 1.96; // standard deviations: 95 %

const Reading* findReading(const std::vector<Reading>& all, const std::string& measure)
{
    const auto it = std::find_if(all.begin(), all.end(), [&](const Reading& r) { return r.measure == measure; });
    return it == all.end() ? nullptr : &*it;
}

double uncertaintyOf(const Reading& a, const Reading& b, bool isSameCamera)
{
    if (isSameCamera && !a.errors.empty() && a.errors.size() == b.errors.size()) {
        double squares = 0;
        int n = 0;
        for (std::size_t i = 0; i < a.errors.size(); ++i) // the same draw has the same camera
            if (!std::isnan(a.errors[i]) && !std::isnan(b.errors[i])) {
                const double d = static_cast<double>(b.errors[i]) - a.errors[i];
                squares += d * d;
                ++n;
            }
        if (n > 1)
            return std::sqrt(squares / n);
    }
    return std::hypot(a.uncertainty.value_or(0), b.uncertainty.value_or(0));
}

} // namespace

std::vector<Difference> calcDifferences(const Pack& pack, const std::vector<Reading>& a, const std::vector<Reading>& b,
                                        bool isSameCamera)
{
    std::vector<Difference> all;
    for (const auto& m : pack.measures) {
        const Reading *ra = findReading(a, m.id), *rb = findReading(b, m.id);
        if (!ra || !rb || !ra->value || !rb->value || ra->unit != rb->unit)
            continue;
        Difference& d = all.emplace_back();
        d.measure = m.id;
        d.keyPosition = m.at;
        d.unit = ra->unit;
        d.a = *ra->value;
        d.b = *rb->value;
        d.difference = m.kind->wraps ? std::remainder(d.b - d.a, 360.0) : d.b - d.a;
        d.uncertainty = uncertaintyOf(*ra, *rb, isSameCamera);
        const std::string size = differenceWithUnit(std::abs(d.difference), d.unit);
        if (ra->saysNothing() || rb->saysNothing() || d.uncertainty <= 0) {
            d.why = "One of the two could be anything.";
        } else {
            d.isReal = std::abs(d.difference) > kSure * d.uncertainty;
            d.why = *d.isReal ? size + " is more than the " + differenceWithUnit(kSure * d.uncertainty, d.unit) +
                                    " that noise explains."
                              : size + " may be noise, up to " + differenceWithUnit(kSure * d.uncertainty, d.unit) + ".";
        }
    }
    const auto sureness = [](const Difference& d) {
        return d.isReal && d.uncertainty > 0 ? std::abs(d.difference) / d.uncertainty : -1;
    };
    std::stable_sort(all.begin(), all.end(), [&](const Difference& x, const Difference& y) { return sureness(x) > sureness(y); });
    return all;
}

std::vector<PhaseTempo> calcTempo(const Pack& pack, const Marking& a, const FrameClock& clockA, const Marking& b,
                                  const FrameClock& clockB)
{
    struct Common {
        std::string id;
        double a, b;
    };
    std::vector<Common> common;
    for (const auto& k : pack.keyPositions) {
        const Event *ea = findEvent(a, k.id), *eb = findEvent(b, k.id);
        const auto ta = ea ? clockA.timeOf(ea->frame) : std::nullopt, tb = eb ? clockB.timeOf(eb->frame) : std::nullopt;
        if (ta && tb)
            common.push_back({k.id, ta->seconds, tb->seconds});
    }
    std::vector<PhaseTempo> phases;
    if (common.size() < 2)
        return phases;
    const double wholeA = common.back().a - common.front().a, wholeB = common.back().b - common.front().b;
    for (std::size_t n = 1; n < common.size(); ++n) {
        PhaseTempo p{common[n - 1].id, common[n].id, common[n].a - common[n - 1].a, common[n].b - common[n - 1].b, 0, 0};
        p.shareA = wholeA > 0 ? p.a / wholeA : 0;
        p.shareB = wholeB > 0 ? p.b / wholeB : 0;
        phases.push_back(p);
    }
    return phases;
}

LineUp::LineUp(const Marking& a, const FrameClock& clockA, const Marking& b, const FrameClock& clockB, const Pack& pack,
               const std::string& at, By by)
    : m_clockA(clockA), m_clockB(clockB), m_by(by)
{
    for (const auto& k : pack.keyPositions) {
        const Event *ea = findEvent(a, k.id), *eb = findEvent(b, k.id);
        const auto ta = ea ? clockA.timeOf(ea->frame) : std::nullopt, tb = eb ? clockB.timeOf(eb->frame) : std::nullopt;
        if (!ta || !tb)
            continue;
        const Pair pair{ta->seconds, tb->seconds};
        if (k.id == at || m_pairs.empty())
            m_at = pair;
        // by phase both have to run forward: what goes back on one of them is left out
        if (m_pairs.empty() || (pair.a > m_pairs.back().a && pair.b > m_pairs.back().b))
            m_pairs.push_back(pair);
    }
    if (m_pairs.empty()) {
        const auto ta = clockA.timeOf(FrameIndex(0)), tb = clockB.timeOf(FrameIndex(0));
        m_at = {ta ? ta->seconds : 0, tb ? tb->seconds : 0};
    }
}

FramePosition LineUp::ofB(FramePosition a, double offset) const
{
    const auto ta = m_clockA.timeOf(a);
    if (!ta)
        return FramePosition(0);
    double tb = m_at.b + (ta->seconds - m_at.a);
    if (m_by == By::Phase && m_pairs.size() > 1) {
        const auto next = std::find_if(m_pairs.begin(), m_pairs.end(), [&](const Pair& p) { return p.a > ta->seconds; });
        if (next == m_pairs.begin()) {
            tb = m_pairs.front().b + (ta->seconds - m_pairs.front().a);
        } else if (next == m_pairs.end()) {
            tb = m_pairs.back().b + (ta->seconds - m_pairs.back().a);
        } else {
            const Pair &p = *(next - 1), &q = *next;
            tb = p.b + (q.b - p.b) * (ta->seconds - p.a) / (q.a - p.a);
        }
    }
    const double last = static_cast<double>(m_clockB.frames()) - 1;
    return FramePosition(std::clamp(m_clockB.positionAt(RealTime{tb}).value + offset, 0.0, std::max(0.0, last)));
}

} // namespace kestrel
