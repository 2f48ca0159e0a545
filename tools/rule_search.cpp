#include "rule_search.h"

#include "core/detect/detect.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <tuple>

namespace kestrel::tools {

namespace {

constexpr double kPicture = 1.0 / 60; // seconds
constexpr double kMostLoss = 4;       // of one film, so that a lost one does not outweigh the rest
constexpr double kNotFound = 4;
constexpr double kSmallDelay = 0.004;                        // seconds; below it a rule stands as it is
constexpr double kMostDelay = 0.06, kMostDelayOfRest = 0.16; // of a movement, and of what begins or ends it
constexpr double kLossOfDelay = 2;                           // per second of it: a rule that needs none is to be preferred
constexpr double kVoteHasToGain = 0.85;                      // of the loss without it
constexpr double kLeastPace = 0.05;                          // seconds: a shorter one was not found rightly
constexpr double kNone = std::numeric_limits<double>::quiet_NaN();

using Seconds = std::vector<double>; // one a film; NaN: not found

bool isAtRest(DetectorKind k)
{
    return k == DetectorKind::Leaves || k == DetectorKind::Still || k == DetectorKind::ComeApart;
}

double medianOf(std::vector<double> v)
{
    if (v.empty())
        return 0;
    const auto middle = v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2);
    std::nth_element(v.begin(), middle, v.end());
    return *middle;
}

/// Looks for rules of one skill on one set of films.
class RuleSearch {
public:
    RuleSearch(const Pack& pack, const std::vector<TrainingFilm>& films, const std::vector<NamedRule>& rules)
        : m_pack(pack), m_films(films), m_rules(rules), m_paces(films.size(), 0)
    {
    }

    struct Found {
        std::vector<NamedRule> rules; // one or two
        Seconds seconds;              // with their delays
        double loss = 1e9;
    };

    Found best(const std::string& position, bool mayDelay) const
    {
        std::vector<Found> all;
        for (const auto& [after, before] : windowsOf(position))
            for (std::size_t n = 0; n < m_rules.size(); ++n) {
                Found f = tried(position, n, after, before, mayDelay);
                if (f.loss < 3)
                    all.push_back(std::move(f));
            }
        std::sort(all.begin(), all.end(), [](const Found& a, const Found& b) { return a.loss < b.loss; });
        if (all.empty())
            return {};
        Found best = all.front();
        if (!mayDelay)
            return best;
        constexpr std::size_t kPartners = 60;
        Found both;
        for (std::size_t a = 0; a < std::min<std::size_t>(all.size(), 6); ++a)
            for (std::size_t b = a + 1; b < std::min(all.size(), kPartners); ++b)
                if (Found pair = joined(position, all[a], all[b]); pair.loss < both.loss)
                    both = std::move(pair);
        return both.loss < kVoteHasToGain * best.loss ? both : best;
    }

    void settle(const std::string& position, const Found& found) { m_settled[position] = found.seconds; }

    void setPace(const SequenceSpan& pace)
    {
        for (std::size_t i = 0; i < m_films.size(); ++i)
            m_paces[i] = m_settled.at(pace.to)[i] - m_settled.at(pace.from)[i];
    }

    /// Half the width in which nine of ten films lie, milliseconds.
    double toleranceMs(const std::string& position, const Found& found, bool onFilm) const
    {
        std::vector<double> off;
        for (std::size_t i = 0; i < m_films.size(); ++i)
            if (isOnFilm(i) == onFilm && !std::isnan(found.seconds[i]) && m_films[i].truth.count(position))
                off.push_back(std::abs(found.seconds[i] - m_films[i].truth.at(position)));
        if (off.empty())
            return 100;
        std::sort(off.begin(), off.end());
        return std::round(std::clamp(1000 * off[off.size() * 9 / 10], 8.0, 200.0));
    }

private:
    bool isOnFilm(std::size_t film) const { return m_films[film].marked != Marked::Truly; }

    /// How much later than what a rule finds a position is.
    struct Delay {
        double seconds = 0, share = 0; ///< both 0 when it is hardly any
    };
    /// Empty: no film of that kind tells.
    std::optional<Delay> delayOf(const std::string& position, const Seconds& found, bool onFilm) const
    {
        std::vector<double> shares, offs;
        for (std::size_t i = 0; i < m_films.size(); ++i) {
            const auto truth = m_films[i].truth.find(position);
            if (isOnFilm(i) != onFilm || truth == m_films[i].truth.end() || std::isnan(found[i]) || !(m_paces[i] > kLeastPace))
                continue;
            offs.push_back(truth->second - found[i]);
            shares.push_back(offs.back() / m_paces[i]);
        }
        if (offs.empty())
            return std::nullopt;
        const double seconds = medianOf(offs);
        return std::abs(seconds) > kSmallDelay ? Delay{seconds, std::round(medianOf(shares) * 1000) / 1000} : Delay{};
    }

    double lossOf(const std::string& position, const Seconds& seconds) const
    {
        double loss = 0, weight = 0;
        for (std::size_t i = 0; i < m_films.size(); ++i) {
            const auto truth = m_films[i].truth.find(position);
            if (truth == m_films[i].truth.end())
                continue;
            const double off = std::abs(seconds[i] - truth->second) / kPicture;
            loss += m_films[i].weight * (std::isnan(off) ? kNotFound : std::min(off + (off > 1 ? 0.5 : 0), kMostLoss));
            weight += m_films[i].weight;
        }
        return weight > 0 ? loss / weight : 1e9;
    }

    Found tried(const std::string& position, std::size_t number, const std::string& after, const std::string& before,
                bool mayDelay) const
    {
        NamedRule rule = m_rules[number];
        rule.rule.after = after;
        rule.rule.before = before;
        auto& known = m_known[{number, after, before}]; // the same for every position
        if (known.empty())
            known = instantsOf(rule.rule);
        Found f;
        f.seconds = known;
        double mean = 0;
        if (mayDelay) {
            const Delay careful = delayOf(position, f.seconds, false).value_or(Delay{}),
                        film = delayOf(position, f.seconds, true).value_or(careful);
            mean = (std::abs(careful.seconds) + std::abs(film.seconds)) / 2;
            for (const Delay& d : {careful, film})
                if (std::abs(d.seconds) > (isAtRest(rule.rule.kind) ? kMostDelayOfRest : kMostDelay))
                    return f;
            rule.rule.delayShare = careful.share;
            if (film.share != careful.share)
                rule.rule.filmDelayShare = film.share;
            for (std::size_t i = 0; i < m_films.size(); ++i)
                f.seconds[i] += m_paces[i] > 0 ? (isOnFilm(i) ? film.share : careful.share) * m_paces[i] : 0;
        }
        f.loss = lossOf(position, f.seconds) + kLossOfDelay * mean;
        f.rules = {std::move(rule)};
        return f;
    }

    Found joined(const std::string& position, const Found& a, const Found& b) const
    {
        Found f;
        f.rules = {a.rules.front(), b.rules.front()};
        for (std::size_t i = 0; i < m_films.size(); ++i)
            f.seconds.push_back(std::isnan(a.seconds[i])   ? b.seconds[i]
                                : std::isnan(b.seconds[i]) ? a.seconds[i]
                                                           : (a.seconds[i] + b.seconds[i]) / 2);
        f.loss = lossOf(position, f.seconds);
        return f;
    }

    /// From nowhere, and from the nearest known ones.
    std::vector<std::pair<std::string, std::string>> windowsOf(const std::string& position) const
    {
        std::string after, before;
        bool isPast = false;
        for (const auto& k : m_pack.keyPositions) {
            if (k.id == position)
                isPast = true;
            else if (m_settled.count(k.id) && !isPast && isBefore(k.id, position))
                after = k.id;
            else if (m_settled.count(k.id) && isPast && before.empty() && isBefore(position, k.id))
                before = k.id;
        }
        std::vector<std::pair<std::string, std::string>> windows{{"", ""}};
        if (!after.empty())
            windows.push_back({after, ""});
        if (!before.empty())
            windows.push_back({"", before});
        if (!after.empty() && !before.empty())
            windows.push_back({after, before});
        return windows;
    }

    /// In every film: some come in any order.
    bool isBefore(const std::string& a, const std::string& b) const
    {
        return std::all_of(m_films.begin(), m_films.end(), [&](const TrainingFilm& f) {
            return !f.truth.count(a) || !f.truth.count(b) || f.truth.at(a) < f.truth.at(b);
        });
    }

    Seconds instantsOf(const DetectorRule& rule) const
    {
        Seconds all;
        for (std::size_t i = 0; i < m_films.size(); ++i) {
            const auto& r = m_films[i].repetition;
            FramePosition from(FrameIndex(0)), to(FrameIndex(r.marking().film.frames - 1));
            bool isKnown = true;
            for (const auto& [id, bound] : {std::pair{&rule.after, &from}, std::pair{&rule.before, &to}})
                if (!id->empty()) {
                    const double s = m_settled.at(*id)[i];
                    isKnown = isKnown && !std::isnan(s);
                    if (isKnown)
                        *bound = r.clock().positionAt(RealTime{s});
                }
            const auto t = isKnown ? instantByRule(m_pack, r, rule, from, to, m_films[i].roughness) : std::nullopt;
            all.push_back(t ? t->seconds : kNone);
        }
        return all;
    }

    const Pack& m_pack;
    const std::vector<TrainingFilm>& m_films;
    const std::vector<NamedRule>& m_rules;
    std::vector<double> m_paces;
    std::map<std::string, Seconds> m_settled;
    mutable std::map<std::tuple<std::size_t, std::string, std::string>, Seconds> m_known;
};

} // namespace

nlohmann::json NamedRule::toJson() const
{
    nlohmann::json j{{"kind", wordOf(rule.kind)}, {"points", points}};
    if (!rule.after.empty())
        j["after"] = rule.after;
    if (!rule.before.empty())
        j["before"] = rule.before;
    if (rule.delayShare != 0)
        j["delayShare"] = rule.delayShare;
    if (rule.filmDelayShare)
        j["filmDelayShare"] = *rule.filmDelayShare;
    return j;
}

std::vector<NamedRule> plainRules(const Pack& pack, Seen seen, bool withEquipment)
{
    using Names = std::vector<std::string>;
    Names arms{"wrist.dom", "elbow.dom", "shoulder.dom", "wrist.off", "elbow.off", "shoulder.off"};
    const Names legs{"knee.lead", "ankle.lead", "toe.lead", "heel.lead", "knee.trail", "ankle.trail", "toe.trail", "heel.trail"};
    Names all{"head", "midHip", "midShoulder"};
    all.insert(all.end(), arms.begin(), arms.end());
    all.insert(all.end(), legs.begin(), legs.end());
    const bool hasImplement = withEquipment && pack.implement, hasBall = withEquipment && pack.ballDiameter > 0;
    if (hasImplement)
        all.push_back("implement.tip");
    if (hasBall)
        all.push_back("ball");
    std::vector<NamedRule> rules;
    const auto add = [&](DetectorKind kind, const Names& points) {
        NamedRule r{{}, points};
        r.rule.kind = kind;
        for (const auto& p : points) {
            const auto role = findPointRole(p);
            if (!role)
                return;
            r.rule.points.push_back(*role);
        }
        rules.push_back(std::move(r));
    };
    using K = DetectorKind;
    for (const auto& p : all) {
        if (seen != Seen::FromAbove)
            for (const auto kind : {K::Highest, K::Lowest})
                add(kind, {p});
        for (const auto kind : {K::Fastest, K::Still, K::Leaves})
            add(kind, {p});
        if (seen != Seen::FromEnd)
            for (const auto kind : {K::Ahead, K::Behind})
                add(kind, {p});
        else
            for (const auto kind : {K::Outward, K::Inward})
                add(kind, {p});
    }
    if (seen != Seen::FromAbove)
        for (const auto& p : legs)
            add(K::Lands, {p});
    std::vector<Names> pairs{{"wrist.dom", "shoulder.dom"}, {"wrist.off", "shoulder.off"}, {"ankle.lead", "ankle.trail"},
                             {"wrist.dom", "wrist.off"},    {"ankle.lead", "midHip"},      {"ankle.trail", "midHip"},
                             {"wrist.dom", "midHip"},       {"wrist.dom", "head"},         {"wrist.off", "midHip"}};
    if (hasImplement) {
        pairs.push_back({"implement.tip", "head"});
        pairs.push_back({"implement.tip", "midHip"});
    }
    if (hasBall) {
        pairs.push_back({"ball", "wrist.dom"});
        pairs.push_back({"ball", "wrist.off"});
        if (hasImplement)
            pairs.push_back({"ball", "implement.tip"});
    }
    for (const auto& p : pairs)
        for (const auto kind : {K::Closest, K::Farthest, K::ComeApart})
            add(kind, p);
    if (seen != Seen::FromEnd) {
        std::vector<Names> passing{{"wrist.dom", "head"},    {"wrist.dom", "midHip"},      {"wrist.dom", "knee.lead"},
                                   {"elbow.dom", "head"},    {"elbow.dom", "midShoulder"}, {"knee.trail", "knee.lead"},
                                   {"midHip", "ankle.lead"}, {"ankle.lead", "midHip"},     {"head", "ankle.lead"}};
        if (hasImplement)
            for (const char* p : {"head", "midHip", "wrist.dom"})
                passing.push_back({"implement.tip", p});
        for (const auto& p : passing)
            add(K::Crosses, p);
    }
    for (const char* p : {"wrist.dom", "wrist.off", "knee.lead", "ankle.lead", "head"})
        for (const auto kind : seen == Seen::FromEnd ? std::array{K::Outward, K::Inward} : std::array{K::Ahead, K::Behind})
            add(kind, {p, "midHip"});
    return rules;
}

std::map<std::string, double> lossWithoutDelay(const Pack& pack, const std::vector<TrainingFilm>& films,
                                               const std::vector<NamedRule>& rules)
{
    const RuleSearch search(pack, films, rules);
    std::map<std::string, double> loss;
    for (const auto& k : pack.keyPositions)
        loss[k.id] = search.best(k.id, false).loss;
    return loss;
}

std::map<std::string, nlohmann::json> searchRules(const Pack& pack, const SequenceSpan& pace,
                                                  const std::vector<TrainingFilm>& films, const std::vector<NamedRule>& rules)
{
    RuleSearch search(pack, films, rules);
    std::map<std::string, nlohmann::json> found;
    const auto keep = [&](const std::string& id, const RuleSearch::Found& f) {
        if (!f.rules.empty()) {
            found[id] = f.rules.front().toJson();
            found[id]["doubtMs"] = search.toleranceMs(id, f, false);
            found[id]["filmDoubtMs"] = search.toleranceMs(id, f, true);
            if (f.rules.size() > 1)
                found[id]["also"] = {f.rules.back().toJson()};
        }
        search.settle(id, f.seconds.empty() ? RuleSearch::Found{{}, Seconds(films.size(), kNone), 0} : f);
    };
    keep(pace.from, search.best(pace.from, false));
    keep(pace.to, search.best(pace.to, false));
    search.setPace(pace);
    std::vector<std::string> left;
    for (const auto& k : pack.keyPositions)
        if (k.id != pace.from && k.id != pace.to)
            left.push_back(k.id);
    while (!left.empty()) {
        std::size_t best = 0;
        RuleSearch::Found most;
        for (std::size_t i = 0; i < left.size(); ++i)
            if (auto f = search.best(left[i], true); i == 0 || f.loss < most.loss) {
                most = std::move(f);
                best = i;
            }
        keep(left[best], most);
        left.erase(left.begin() + static_cast<std::ptrdiff_t>(best));
    }
    return found;
}

} // namespace kestrel::tools
