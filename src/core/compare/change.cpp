#include "core/compare/change.h"

#include "core/base/word_table.h"
#include "core/compare/student.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel {

namespace {

constexpr WordRow<ChangeVerdict> kVerdicts[] = {
    {ChangeVerdict::Better, "better"},      {ChangeVerdict::Worse, "worse"},
    {ChangeVerdict::Changed, "changed"},    {ChangeVerdict::NoChange, "no_change"},
    {ChangeVerdict::NeedMore, "need_more"}, {ChangeVerdict::NotComparable, "not_comparable"}};
constexpr WordRow<ChangeVerdict> kPlain[] = {
    {ChangeVerdict::Better, "better for real"},          {ChangeVerdict::Worse, "worse for real"},
    {ChangeVerdict::Changed, "changed for real"},        {ChangeVerdict::NoChange, "no change that can be told from noise"},
    {ChangeVerdict::NeedMore, "needs more repetitions"}, {ChangeVerdict::NotComparable, "not read on both days"}};

constexpr int kMostNeeded = 50; // repetitions a day: more is no answer
constexpr double kGrown = 0.03; // of the height: from then on lengths are compared in shares of it only

/// A measure's readings of one day.
struct Group {
    std::vector<const Reading*> readings; // with a value
    double mean = 0, variance = 0;        // of one repetition
    double common = 0;                    // variance that every repetition of the day has alike
    double own = 0;                       // variance of the marks' errors, of one repetition
};

double difference(const Measure& m, double a, double b)
{
    return m.kind->wraps ? std::remainder(a - b, 360.0) : a - b;
}

/// Common and own variance by the errors under the same draws: what two repetitions have alike is their covariance.
void split(Group& g)
{
    double all = 0, shared = 0;
    int allCount = 0, sharedCount = 0;
    const auto covariance = [](const std::vector<float>& a, const std::vector<float>& b) -> std::optional<double> {
        double sum = 0;
        int n = 0;
        for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i)
            if (!std::isnan(a[i]) && !std::isnan(b[i])) {
                sum += static_cast<double>(a[i]) * b[i];
                ++n;
            }
        return n > 1 ? std::optional(sum / n) : std::nullopt;
    };
    for (std::size_t i = 0; i < g.readings.size(); ++i)
        for (std::size_t k = i; k < g.readings.size(); ++k)
            if (const auto c = covariance(g.readings[i]->errors, g.readings[k]->errors)) {
                (i == k ? all : shared) += *c;
                ++(i == k ? allCount : sharedCount);
            }
    if (allCount == 0) { // read from a file: all that is known is how large it is
        for (const auto* r : g.readings)
            all += r->uncertainty.value_or(0) * r->uncertainty.value_or(0);
        allCount = static_cast<int>(g.readings.size());
    }
    const double whole = allCount > 0 ? all / allCount : 0;
    g.common = sharedCount > 0 ? std::clamp(shared / sharedCount, 0.0, whole) : whole;
    g.own = whole - g.common;
}

Group groupOf(const Measure& m, const std::vector<std::vector<Reading>>& day)
{
    Group g;
    for (const auto& repetition : day)
        for (const auto& r : repetition)
            if (r.measure == m.id && r.value && !r.saysNothing())
                g.readings.push_back(&r);
    if (g.readings.empty())
        return g;
    const double origin = *g.readings.front()->value;
    const auto n = static_cast<double>(g.readings.size());
    double sum = 0;
    for (const auto* r : g.readings)
        sum += difference(m, *r->value, origin);
    g.mean = origin + sum / n;
    for (const auto* r : g.readings) {
        const double d = difference(m, *r->value, g.mean);
        g.variance += n > 1 ? d * d / (n - 1) : 0;
    }
    split(g);
    return g;
}

/// What is known of one measure before it is called.
struct Candidate {
    const Measure* measure;
    Group before, after;
    MeasureChange change;
    double within = 0;      ///< variance of one repetition, pooled
    double cameras = 0;     ///< variance of both days' cameras together
    double probability = 1; ///< of a change as large by chance
    bool isSingle = false;  ///< one repetition on a side: it is told, not called
};

double beyond(const Reading& like, double value)
{
    Reading r = like;
    r.value = value;
    return std::abs(r.beyondBand());
}

std::optional<Candidate> candidateOf(const Measure& m, const std::vector<std::vector<Reading>>& before,
                                     const std::vector<std::vector<Reading>>& after)
{
    Candidate c{&m, groupOf(m, before), groupOf(m, after), {}, 0, 0, 1, false};
    MeasureChange& change = c.change;
    change.measure = m.id;
    change.unit = m.unit;
    change.before = static_cast<int>(c.before.readings.size());
    change.after = static_cast<int>(c.after.readings.size());
    if (change.before == 0 && change.after == 0)
        return std::nullopt;
    if (change.before == 0 || change.after == 0) {
        change.meanBefore = c.before.mean;
        change.meanAfter = c.after.mean;
        change.why = change.before == 0 ? "It was not read on the earlier day." : "It was not read on the later day.";
        return c;
    }
    change.unit = c.before.readings.front()->unit;
    change.meanBefore = c.before.mean;
    change.change = difference(m, c.after.mean, c.before.mean);
    change.meanAfter = change.meanBefore + change.change;
    const double n1 = change.before, n2 = change.after;
    const double freedom = n1 + n2 - 2;
    const double own = (c.before.own * n1 + c.after.own * n2) / (n1 + n2);
    const double pooled = freedom > 0 ? ((n1 - 1) * c.before.variance + (n2 - 1) * c.after.variance) / freedom : own;
    c.within = std::max(pooled, own);
    c.cameras = c.before.common + c.after.common;
    c.isSingle = change.before < 2 || change.after < 2;
    const double ofSpread = c.within * (1 / n1 + 1 / n2);
    const double variance = ofSpread + c.cameras;
    change.uncertainty = std::sqrt(variance);
    // the cameras' part is known from its model, the spread from few repetitions
    change.freedom = ofSpread > 0 && freedom > 0 ? freedom * variance * variance / (ofSpread * ofSpread) : std::max(freedom, 1.0);
    change.freedom = std::min(change.freedom, 1e6);
    const double reach = studentQuantile(kChance, change.freedom) * change.uncertainty;
    change.low = change.change - reach;
    change.high = change.change + reach;
    c.probability = change.uncertainty > 0 ? studentTwoSided(change.change / change.uncertainty, change.freedom)
                                           : (change.change == 0 ? 1 : 0);
    return c;
}

/// At which probability a measure is called: as Benjamini and Hochberg do over all but the one thing.
std::vector<double> levelsOf(const std::vector<Candidate>& all, const std::string& oneThing)
{
    std::vector<std::size_t> others;
    for (std::size_t n = 0; n < all.size(); ++n)
        if (all[n].change.measure != oneThing && all[n].change.before > 0 && all[n].change.after > 0 && !all[n].isSingle)
            others.push_back(n);
    std::sort(others.begin(), others.end(),
              [&](std::size_t a, std::size_t b) { return all[a].probability < all[b].probability; });
    const auto count = static_cast<double>(others.size());
    std::size_t called = 0;
    for (std::size_t k = 0; k < others.size(); ++k)
        if (all[others[k]].probability <= kFalseDiscoveries * static_cast<double>(k + 1) / count)
            called = k + 1;
    std::vector<double> levels(all.size(), kChance);
    for (std::size_t k = 0; k < others.size(); ++k) // the level it meets, or would have to meet next
        levels[others[k]] = std::min(kChance, kFalseDiscoveries * static_cast<double>(k < called ? called : called + 1) / count);
    return levels;
}

/// Repetitions a day after which a change that matters could not hide. Empty: the cameras alone hide it.
std::optional<int> neededFor(const Candidate& c, double worth, double level)
{
    for (int n = 2; n <= kMostNeeded; ++n) {
        const double ofSpread = 2 * c.within / n, variance = ofSpread + c.cameras;
        const double freedom = ofSpread > 0 ? (2.0 * n - 2) * variance * variance / (ofSpread * ofSpread) : 1e6;
        if (studentQuantile(level, std::min(freedom, 1e6)) * std::sqrt(variance) <= worth)
            return n;
    }
    return std::nullopt;
}

void call(Candidate& c, double level)
{
    MeasureChange& m = c.change;
    if (m.before == 0 || m.after == 0)
        return;
    m.smallestReal = studentQuantile(level, m.freedom) * m.uncertainty;
    const Reading& like = *c.after.readings.front();
    const std::string size = differenceWithUnit(std::abs(m.change), m.unit);
    const double before = beyond(like, m.meanBefore), after = beyond(like, m.meanAfter);
    const bool isReal = !c.isSingle && std::abs(m.change) >= m.smallestReal && m.smallestReal > 0;
    const bool hasBand = like.low || like.high;
    if (isReal) {
        const bool isMoved = hasBand && std::abs(before - after) > 1e-9 * std::max(1.0, before + after);
        m.verdict = !isMoved ? ChangeVerdict::Changed : after < before ? ChangeVerdict::Better : ChangeVerdict::Worse;
        m.why = "From " + withUnit(m.meanBefore, m.unit) + " to " + withUnit(m.meanAfter, m.unit) + ": " + size + ", where " +
                differenceWithUnit(m.smallestReal, m.unit) + " is the least that noise does not explain.";
        return;
    }
    // a change that matters: out of the band's margin, or as far as it was out of the band
    const double worth = std::max({c.measure->margin, hasBand ? before : 0.0, c.measure->margin > 0 ? 0.0 : std::abs(m.change)});
    if (!c.isSingle && worth > 0 && m.smallestReal <= worth) {
        m.verdict = ChangeVerdict::NoChange;
        m.why = "It moved by " + size + "; up to " + differenceWithUnit(m.smallestReal, m.unit) + " is noise.";
        return;
    }
    const double wanted = std::max(worth, std::abs(m.change));
    m.needed = wanted > 0 ? neededFor(c, wanted, level) : std::nullopt;
    if (m.needed && *m.needed <= std::min(m.before, m.after))
        m.needed = std::min(m.before, m.after) + 1;
    m.verdict = m.needed ? ChangeVerdict::NeedMore : ChangeVerdict::NoChange;
    m.why = "It moved by " + size + "; up to " + differenceWithUnit(m.smallestReal, m.unit) + " may be noise. " +
            (m.needed ? "About " + std::to_string(*m.needed) + " repetitions a day would tell."
                      : "Setting up the camera anew hides more than that: film from the very same place.");
    if (c.isSingle)
        m.why = "The two differ by " + size + ". One repetition on a day says nothing about change" +
                (m.needed ? ": about " + std::to_string(*m.needed) + " a day would." : ".");
}

std::string answerOf(const Pack& pack, const std::vector<MeasureChange>& all, const std::string& oneThing)
{
    const auto nameOf = [&](const MeasureChange& m) {
        const Measure* measure = pack.findMeasure(m.measure);
        return measure ? measure->name : m.measure;
    };
    std::string answer;
    const auto add = [&](const std::string& sentence) { answer += (answer.empty() ? "" : " ") + sentence; };
    int better = 0, worse = 0;
    for (const auto& m : all) {
        if (m.measure == oneThing)
            add("What was practised, " + nameOf(m) + ": " + std::string(plainWordsOf(m.verdict)) + ". " + m.why);
        else {
            better += m.verdict == ChangeVerdict::Better;
            worse += m.verdict == ChangeVerdict::Worse;
        }
    }
    for (const auto& m : all)
        if (m.measure != oneThing && (m.verdict == ChangeVerdict::Better || m.verdict == ChangeVerdict::Worse))
            add(nameOf(m) + ": " + std::string(plainWordsOf(m.verdict)) + ". " + m.why);
    if (better + worse == 0)
        add(answer.empty() ? "Nothing has changed that can be told from noise."
                           : "Nothing else has changed that can be told from noise.");
    return answer;
}

} // namespace

std::string_view wordOf(ChangeVerdict v)
{
    return wordIn(kVerdicts, v);
}
std::string_view plainWordsOf(ChangeVerdict v)
{
    return wordIn(kPlain, v);
}

const MeasureChange* DayChange::find(std::string_view measure) const
{
    const auto it = std::find_if(measures.begin(), measures.end(), [&](const MeasureChange& m) { return m.measure == measure; });
    return it == measures.end() ? nullptr : &*it;
}

DayChange calcChange(const Pack& pack, const std::vector<std::vector<Reading>>& before,
                     const std::vector<std::vector<Reading>>& after, const std::string& oneThing)
{
    std::vector<Candidate> all;
    for (const auto& m : pack.measures)
        if (auto c = candidateOf(m, before, after))
            all.push_back(std::move(*c));
    const auto levels = levelsOf(all, oneThing);
    DayChange done;
    for (std::size_t n = 0; n < all.size(); ++n) {
        call(all[n], levels[n]);
        done.measures.push_back(all[n].change);
    }
    const auto rank = [&](const MeasureChange& m) {
        if (m.measure == oneThing)
            return 0;
        switch (m.verdict) {
        case ChangeVerdict::Better:
        case ChangeVerdict::Worse:
            return 1;
        case ChangeVerdict::Changed:
            return 2;
        case ChangeVerdict::NeedMore:
            return 3;
        case ChangeVerdict::NoChange:
            return 4;
        case ChangeVerdict::NotComparable:
            return 5;
        }
        return 6;
    };
    std::stable_sort(done.measures.begin(), done.measures.end(),
                     [&](const MeasureChange& a, const MeasureChange& b) { return rank(a) < rank(b); });
    done.answer = answerOf(pack, done.measures, oneThing);
    return done;
}

std::vector<std::string> unfairness(const Marking& before, const Marking& after)
{
    std::vector<std::string> said;
    if (before.scene.view != after.scene.view)
        said.push_back("One is a " + plainWordsOf(before.scene.view) + " view, the other a " + plainWordsOf(after.scene.view) +
                       " view: what both can show is compared, and cameras see it differently.");
    if (before.variant != after.variant && !before.variant.empty() && !after.variant.empty())
        said.push_back("They are different kinds: " + before.variant + " and " + after.variant + ".");
    if (before.athlete.hand != after.athlete.hand)
        said.emplace_back("One is right-handed, the other left-handed: sides are mirrored.");
    if (before.isLive != after.isLive)
        said.emplace_back("One is with a ball, the other a shadow swing.");
    const auto a = before.athlete.heightMetres, b = after.athlete.heightMetres;
    if (a && b && std::abs(*b - *a) > kGrown * *a)
        said.emplace_back("The bodies are not the same size: compare lengths in shares of height, not in centimetres.");
    const double slow = std::min(before.clock.capture, after.clock.capture),
                 fast = std::max(before.clock.capture, after.clock.capture);
    if (slow > 0 && fast > 1.5 * slow)
        said.push_back("One film has " + std::to_string(static_cast<int>(slow)) + " pictures a second, the other " +
                       std::to_string(static_cast<int>(fast)) + ": the slower one decides how exact times are.");
    return said;
}

} // namespace kestrel
