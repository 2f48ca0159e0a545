#include "core/detect/detect.h"

#include "core/measure/shared.h"
#include "core/scene/smooth_marks.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>

namespace kestrel {

namespace {

constexpr double kStillShare = 0.06;    // of the point's own top speed
constexpr double kStillSeconds = 0.05;  // for how long it has to stay below
constexpr double kLandShare = 0.015;    // of standing height above where it ends up
constexpr double kLeaveShare = 0.012;   // of standing height away from where it was
constexpr double kLeavesSeconds = 0.05; // for how long it has to stay away: a mark that jumped is back sooner
constexpr double kStandsSeconds = 0.2;  // that a film begins before the first movement
constexpr double kMostTraced = 0.25;    // seconds from a threshold to where a movement begins or ends
constexpr double kApartShare = 0.035;   // of standing height beyond how close the points were
constexpr double kTogetherShare = 0.25; // of standing height: what never comes nearer is not seen to part

/// Where a point, or a number of two points, passes a threshold and stays above for so many seconds, or to the end.
std::optional<double> firstRise(const Curve& c, double threshold, double correlated = 0)
{
    std::optional<double> since;
    for (std::size_t i = 0; i < c.values.size(); ++i) {
        if (c.values[i] <= threshold) {
            since.reset();
            continue;
        }
        if (!since && i == 0)
            since = c.seconds[0];
        else if (!since)
            since = std::lerp(c.seconds[i - 1], c.seconds[i], (threshold - c.values[i - 1]) / (c.values[i] - c.values[i - 1]));
        if (c.seconds[i] - *since >= correlated)
            return since;
    }
    return since;
}

/// The instant after which the curve stays at or below the threshold to its end.
std::optional<double> lastFall(const Curve& c, double threshold)
{
    for (std::size_t i = c.values.size(); i-- > 0;)
        if (c.values[i] > threshold) {
            if (i + 1 == c.values.size())
                return std::nullopt;
            const double share = (c.values[i] - threshold) / (c.values[i] - c.values[i + 1]);
            return c.seconds[i] + share * (c.seconds[i + 1] - c.seconds[i]);
        }
    return std::nullopt;
}

/// First instant from which the curve stays below for kStillSeconds, after it was above: what stands from the beginning on does
/// not come to rest.
std::optional<double> firstStill(const Curve& c, double threshold)
{
    std::optional<double> since;
    bool hasMoved = false;
    for (std::size_t i = 0; i < c.values.size(); ++i) {
        if (c.values[i] > threshold) {
            hasMoved = true;
            since.reset();
        } else if (!since && hasMoved) {
            since = std::lerp(c.seconds[i - 1], c.seconds[i], (c.values[i - 1] - threshold) / (c.values[i - 1] - c.values[i]));
        }
        if (since && c.seconds[i] - *since >= kStillSeconds)
            return since;
    }
    return std::nullopt;
}

/// The median of the first values, as long as that.
double middleOfFirst(const Curve& c, double seconds)
{
    const auto end = std::upper_bound(c.seconds.begin(), c.seconds.end(), c.seconds.front() + seconds);
    std::vector<double> first(c.values.begin(), c.values.begin() + (end - c.seconds.begin()));
    const auto middle = first.begin() + static_cast<std::ptrdiff_t>(first.size() / 2);
    std::nth_element(first.begin(), middle, first.end());
    return *middle;
}

std::optional<double> secondsOf(const std::optional<Peak>& p)
{
    return p ? std::optional(p->seconds) : std::nullopt;
}

/// Rate of change on the sample nearest to an instant; 0: too few samples.
double slopeAt(const Curve& c, double second)
{
    const Curve rate = rateOf(c);
    const auto after = std::lower_bound(rate.seconds.begin(), rate.seconds.end(), second);
    if (rate.isEmpty())
        return 0;
    return rate.values[static_cast<std::size_t>(std::min(after, rate.seconds.end() - 1) - rate.seconds.begin())];
}

Curve negated(Curve c)
{
    for (double& v : c.values)
        v = -v;
    return c;
}

class Search {
public:
    Search(const Pack& pack, const PreparedRepetition& repetition, double roughness)
        : m_pack(pack), m_repetition(repetition), m_roughness(roughness)
    {
        m_height = repetition.heightUnits();
        m_first = repetition.marking().film.frames;
        for (const auto& m : repetition.marking().marks) {
            m_first = std::min(m_first, m.frame.value);
            m_last = std::max(m_last, m.frame.value);
        }
    }

    std::vector<Detection> run()
    {
        // one may lie before a later one: go round until nothing is added
        std::map<std::string, Detection> failed; // by their first detector, while the second has to wait
        for (bool grew = true; grew;) {
            grew = false;
            for (const auto& k : m_pack.keyPositions)
                if (k.detector && !m_found.count(k.id))
                    grew = settle(k, failed) || grew;
            if (!grew && !failed.empty()) { // the second ones wait for each other, or for these
                m_found.insert(failed.extract(failed.begin()));
                grew = true;
            }
        }
        std::vector<Detection> list;
        for (const auto& k : m_pack.keyPositions)
            if (k.detector) {
                const auto found = m_found.find(k.id);
                list.push_back(found != m_found.end() ? found->second
                                                      : Detection{k.id, {}, 0.5, "Its detectors wait for each other."});
            }
        return list;
    }

    /// What a rule sees between two frames, before any delay; seconds.
    std::optional<double> instantOf(const DetectorRule& d, FramePosition from, FramePosition to) const
    {
        std::vector<PointPath> operands;
        for (const auto& role : d.points)
            operands.emplace_back(m_repetition, withoutLead(role, m_pack.leadSide));
        return find(d, MeasureInput(m_repetition, operands, from, to));
    }

private:
    bool isSeenFromEnd() const { return isFromEnd(m_repetition.marking().scene.view); }
    const Detector* ownOf(const KeyPosition& k) const { return ownDetector(k, m_repetition.marking().scene.view); }

    /// The one asked first in this view, and the one where it finds nothing.
    const Detector& firstOf(const KeyPosition& k) const { return ownOf(k) ? *ownOf(k) : *k.detector; }
    const Detector* secondOf(const KeyPosition& k) const { return k.fallback && !ownOf(k) ? &*k.fallback : nullptr; }

    /// Whether a key position was looked for, or will not be: no detector is named for it.
    bool isSettled(const std::string& id) const
    {
        const KeyPosition* k = m_pack.findKeyPosition(id);
        return m_found.count(id) || !k || !k->detector;
    }

    bool isReady(const Detector& d) const
    {
        const auto isSignReady = [this](const DetectorRule& s) {
            const bool needsPace = delayShareOf(s) != 0 && m_pack.pace;
            return (s.after.empty() || isSettled(s.after)) && (s.before.empty() || isSettled(s.before)) &&
                   (!needsPace || (isSettled(m_pack.pace->from) && isSettled(m_pack.pace->to)));
        };
        return isSignReady(d) && std::all_of(d.votes.begin(), d.votes.end(), isSignReady);
    }

    /// Looks for a key position as far as what it waits for is settled. False: nothing new is known.
    bool settle(const KeyPosition& k, std::map<std::string, Detection>& failed)
    {
        if (!failed.count(k.id)) {
            if (!isReady(firstOf(k)))
                return false;
            Detection first = look(k, firstOf(k));
            if (first.frame || !secondOf(k)) {
                m_found[k.id] = std::move(first);
                return true;
            }
            failed[k.id] = std::move(first);
        }
        if (!isReady(*secondOf(k)))
            return false;
        Detection second = look(k, *secondOf(k));
        m_found[k.id] = second.frame ? std::move(second) : failed[k.id];
        failed.erase(k.id);
        return true;
    }

    /// By all signs of a detector: what the middle one of those found says. Of two, what lies between them. Its doubt is at least
    /// half of what lies between it and the nearest other one.
    Detection look(const KeyPosition& k, const Detector& d)
    {
        std::vector<Detection> all{lookBy(k, d)};
        for (const DetectorRule& other : d.votes)
            all.push_back(lookBy(k, other));
        const Detection first = all.front();
        std::erase_if(all, [](const Detection& found) { return !found.frame; });
        if (all.size() < 2)
            return all.empty() ? first : all.front();
        std::sort(all.begin(), all.end(), [](const Detection& a, const Detection& b) { return *a.frame < *b.frame; });
        const std::size_t upper = all.size() / 2, lower = (all.size() - 1) / 2;
        Detection middle = all[lower];
        middle.frame = FramePosition(std::midpoint(all[lower].frame->value, all[upper].frame->value));
        double gap = std::numeric_limits<double>::infinity(); // between a middle one and its neighbour
        for (std::size_t n = 1; n < all.size(); ++n)
            if (n == upper || n == lower + 1)
                gap = std::min(gap, all[n].frame->value - all[n - 1].frame->value);
        middle.uncertaintyFrames = std::max({all[lower].uncertaintyFrames, all[upper].uncertaintyFrames, gap / 2});
        middle.why = "Found by: " + sentenceOf(d) + ".";
        return middle;
    }

    Detection lookBy(const KeyPosition& k, const DetectorRule& d)
    {
        const auto none = [&](const std::string& why) { return Detection{k.id, {}, 0.5, why}; };
        FramePosition from{FrameIndex(m_first)}, to{FrameIndex(m_last)};
        for (const auto& [other, bound] : {std::pair{&d.after, &from}, std::pair{&d.before, &to}}) {
            if (other->empty())
                continue;
            const auto found = m_found.find(*other);
            if (found == m_found.end() || !found->second.frame)
                return none("\"" + m_pack.findKeyPosition(*other)->name + "\" was not found, and this is looked for from there.");
            *bound = *found->second.frame;
        }
        if (d.withinMs > 0)
            if (const auto start = m_repetition.clock().timeOf(from))
                to = std::min(to, m_repetition.clock().positionAt(RealTime{start->seconds + d.withinMs / 1000}));
        if (isAlong(d.kind) && isSeenFromEnd())
            return none("This goes by a place along the target line, which this view does not show.");
        if (isAcross(d.kind) && !isSeenFromEnd())
            return none("This goes by a place across the target line, which this view does not show.");
        if (!(from < to))
            return none("There is no film left to look on.");
        const auto seconds = instantOf(d, from, to);
        if (!seconds)
            return none("Not found; mark what it goes by on every frame: " + sentenceOf(d) + ".");
        const double interval = m_repetition.clock().meanInterval();
        const double delay = d.delayMs / 1000 + delayShareOf(d) * pace().value_or(0);
        Detection found{k.id, m_repetition.clock().positionAt(RealTime{*seconds + delay}), 0.5, {}};
        found.frame = std::clamp(*found.frame, FramePosition(FrameIndex(m_first)), FramePosition(FrameIndex(m_last)));
        found.uncertaintyFrames = std::max(0.5, interval > 0 ? toleranceMsOf(d) / 1000 / interval : 0.5);
        found.why = "Found by: " + sentenceOf(d) + ".";
        return found;
    }

    bool isByNetwork() const { return m_roughness > 1; }
    double delayShareOf(const DetectorRule& d) const
    {
        return isByNetwork() ? d.filmDelayShare.value_or(d.delayShare) : d.delayShare;
    }
    double toleranceMsOf(const DetectorRule& d) const
    {
        return isByNetwork() ? d.filmToleranceMs.value_or(d.toleranceMs) : d.toleranceMs;
    }

    /// Seconds.
    std::optional<double> pace() const
    {
        const auto timeOf = [this](const std::string& id) -> std::optional<RealTime> {
            const auto found = m_found.find(id);
            return found == m_found.end() || !found->second.frame ? std::nullopt
                                                                  : m_repetition.clock().timeOf(*found->second.frame);
        };
        const auto from = m_pack.pace ? timeOf(m_pack.pace->from) : std::nullopt,
                   to = m_pack.pace ? timeOf(m_pack.pace->to) : std::nullopt;
        return from && to && from->seconds < to->seconds ? std::optional(to->seconds - from->seconds) : std::nullopt;
    }

    static bool isAlong(DetectorKind k)
    {
        return k == DetectorKind::Ahead || k == DetectorKind::Behind || k == DetectorKind::Crosses;
    }

    static bool isAcross(DetectorKind k) { return k == DetectorKind::Outward || k == DetectorKind::Inward; }

    std::optional<double> find(const DetectorRule& d, const MeasureInput& in) const
    {
        const auto along = [&](auto number) { return curveAlong(in, 0, d.points.size() - 1, number); };
        const auto peak = [](const Curve& c) { return secondsOf(peakOf(c)); };
        const Curve height = along([](BodyPoint p, BodyPoint) { return p.y; });
        const bool isOfAnother = d.points.size() > 1;
        const auto level = [&] { return along([&](BodyPoint p, BodyPoint q) { return isOfAnother ? p.x - q.x : p.x; }); };
        switch (d.kind) {
        case DetectorKind::Highest:
            return peak(height);
        case DetectorKind::Lowest:
            return peak(negated(height));
        case DetectorKind::Ahead:
        case DetectorKind::Outward:
            return peak(level());
        case DetectorKind::Behind:
        case DetectorKind::Inward:
            return peak(negated(level()));
        case DetectorKind::Fastest:
            return peak(speedAlong(in, 0));
        case DetectorKind::Still: {
            const Curve speed = speedAlong(in, 0);
            const auto top = peakOf(speed);
            return top ? rest(speed, m_roughness * kStillShare * top->value) : std::nullopt;
        }
        case DetectorKind::Lands: {
            const auto at =
                height.isEmpty() ? std::nullopt : lastFall(height, lowestOf(height) + m_roughness * kLandShare * m_height);
            const double speed = at ? slopeAt(height, *at) : 0;
            return speed < 0 ? *at + (m_roughness - 1) * kLandShare * m_height / -speed : at;
        }
        case DetectorKind::Leaves:
            return leaving(d, in);
        case DetectorKind::ComeApart: {
            const Curve gap = along([](BodyPoint p, BodyPoint q) { return (q - p).length(); });
            if (gap.isEmpty())
                return std::nullopt;
            const auto closest = std::min_element(gap.values.begin(), gap.values.end());
            if (*closest > kTogetherShare * m_height)
                return std::nullopt;
            Curve beyond; // they may have been apart before they came together
            for (auto i = static_cast<std::size_t>(closest - gap.values.begin()); i < gap.values.size(); ++i) {
                beyond.seconds.push_back(gap.seconds[i]);
                beyond.values.push_back(gap.values[i] - *closest);
            }
            return onset(beyond, kApartShare * m_height);
        }
        case DetectorKind::Closest:
            return peak(along([](BodyPoint p, BodyPoint q) { return -(q - p).length(); }));
        case DetectorKind::Farthest:
            return peak(along([](BodyPoint p, BodyPoint q) { return (q - p).length(); }));
        case DetectorKind::Crosses:
            return firstRise(along([](BodyPoint p, BodyPoint q) { return p.x - q.x; }), 0);
        }
        return std::nullopt;
    }

    /// From the film's beginning a point is taken to stand for a while: where, its first marks say together. One that is marked
    /// only later may have left before.
    std::optional<double> leaving(const DetectorRule& d, const MeasureInput& in) const
    {
        const Curve across = curveAlong(in, 0, 0, [](BodyPoint, BodyPoint p) { return p.x; });
        const Curve up = curveAlong(in, 0, 0, [](BodyPoint, BodyPoint p) { return p.y; });
        const auto begin = m_repetition.clock().timeOf(in.from());
        if (across.isEmpty() || !begin)
            return std::nullopt;
        const bool isFromBeginning = d.after.empty();
        if (isFromBeginning && across.seconds.front() > begin->seconds + kStandsSeconds)
            return std::nullopt;
        const double stands = isFromBeginning ? kStandsSeconds : 0;
        const BodyPoint start{middleOfFirst(across, stands), middleOfFirst(up, stands)};
        const Curve away = curveAlong(in, 0, 0, [&](BodyPoint, BodyPoint p) { return (p - start).length(); });
        return onset(away, kLeaveShare * m_height, kLeavesSeconds);
    }

    /// When a speed comes to nothing: from where it stays below the threshold it is followed on as it falls there.
    static std::optional<double> rest(const Curve& speed, double threshold)
    {
        const auto slow = firstStill(speed, threshold);
        const double fall = slow ? -slopeAt(speed, *slow) : 0;
        return slow && fall > 0 ? *slow + std::min(threshold / fall, kMostTraced) : slow;
    }

    /// When a way begins from rest: from where it passes the threshold it is traced back as if it had begun with a constant
    /// acceleration.
    std::optional<double> onset(const Curve& way, double threshold, double correlated = 0) const
    {
        const auto seen = firstRise(way, m_roughness * threshold, correlated);
        const double speed = seen ? slopeAt(way, *seen) : 0;
        if (speed <= 0)
            return seen;
        const double sinceRest = 2 * m_roughness * threshold / speed;
        return std::max(way.seconds.front(), *seen - std::min(sinceRest, kMostTraced));
    }

    static double lowestOf(const Curve& c) { return *std::min_element(c.values.begin(), c.values.end()); }

    const Pack& m_pack;
    const PreparedRepetition& m_repetition;
    double m_roughness;
    double m_height = 1;
    std::int64_t m_first = 0, m_last = 0;
    std::map<std::string, Detection> m_found;
};

} // namespace

Marking smoothedForDetection(Marking marking, const FrameClock& clock)
{
    std::map<Landmark, std::vector<Mark>> byLandmark;
    for (const auto& m : marking.marks)
        byLandmark[m.landmark].push_back(m);
    std::erase_if(marking.marks, [](const Mark& m) { return m.source != Source::Coach; });
    for (auto& [landmark, marks] : byLandmark) {
        std::sort(marks.begin(), marks.end(), [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
        for (const auto& m : smoothedMarks(marks, clock, kNetworkReach))
            if (m.source != Source::Coach)
                marking.marks.push_back(m);
    }
    return marking;
}

std::optional<RealTime> instantByRule(const Pack& pack, const PreparedRepetition& repetition, const DetectorRule& rule,
                                      FramePosition from, FramePosition to, double roughness)
{
    const auto seconds = from < to ? Search(pack, repetition, roughness).instantOf(rule, from, to) : std::nullopt;
    return seconds ? std::optional(RealTime{*seconds}) : std::nullopt;
}

std::vector<Detection> detectKeyPositions(const Pack& pack, const PreparedRepetition& repetition, double roughness)
{
    return Search(pack, repetition, roughness).run();
}

} // namespace kestrel
