#include "core/match/tally.h"

#include <algorithm>
#include <cmath>

namespace kestrel {

namespace {

constexpr double kZ = 1.959963984540054; // 95 %
constexpr int kShortRally = 4;           // strokes, at most
constexpr std::size_t kMostAdvice = 3;
constexpr const char* kServeStroke = "serve"; // as every sport calls it

class Counter {
public:
    Counter(const MatchLog& log, const MatchSport& sport, const MatchScore& score) : m_log(log), m_sport(sport), m_score(score) {}

    MatchTallies count()
    {
        for (std::size_t n = 0; n < m_log.rallies.size(); ++n)
            if (m_score.won[n])
                countRally(n);
        for (auto& [key, tally] : m_tallies) {
            tally.share = shareOf(tally.share.won, tally.share.n);
            m_done.tallies.push_back(std::move(tally));
        }
        countServes();
        countRuns();
        findLongest();
        advise();
        return std::move(m_done);
    }

private:
    void add(PlayerIndex player, const std::string& what, const std::string& words, bool isWon, std::size_t rally)
    {
        Tally& t = m_tallies[{player, what}];
        t.player = player;
        t.what = what;
        t.words = words;
        t.share.won += isWon;
        ++t.share.n;
        t.rallies.push_back(rally);
    }

    void countRally(std::size_t n)
    {
        const Rally& r = m_log.rallies[n];
        const MatchState& s = m_score.before[n];
        const PlayerIndex winner = *m_score.won[n], loser = 1 - winner;
        const MatchEnding* ending = m_sport.findEnding(r.how);
        const bool isAttempts = m_sport.scoring.kind == MatchScoring::Kind::Attempts;
        if (!r.strokes.empty()) {
            const std::string& last = r.strokes.back();
            const MatchWord* word = m_sport.findStroke(last);
            const PlayerIndex by = isAttempts ? 0 : ending && ending->by == MatchEnding::By::Loser ? loser : winner;
            const bool isWon = isAttempts ? winner == 0 : by == winner;
            add(by, "stroke:" + last, word ? word->name : last, isWon, n);
            if (!isAttempts)
                for (PlayerIndex p = 0; p < 2; ++p) {
                    const bool isShort = static_cast<int>(r.strokes.size()) <= kShortRally;
                    if (r.strokes.size() > 1)
                        add(p, isShort ? "length:short" : "length:long", isShort ? "up to four strokes" : "five strokes and more",
                            p == winner, n);
                }
        }
        if (isAttempts) {
            add(0, "all", "all attempts", winner == 0, n);
            if (!r.serve.empty()) {
                const MatchWord* place = m_sport.findServe(r.serve);
                add(0, "serve:" + r.serve, place ? place->name : r.serve, winner == 0, n);
            }
            return;
        }
        add(s.server, "serving", "own serve", s.server == winner, n);
        add(1 - s.server, "receiving", "other's serve", s.server != winner, n);
        if (!r.serve.empty()) {
            const MatchWord* serve = m_sport.findServe(r.serve);
            const std::string name = serve ? "serve, " + serve->name : r.serve;
            add(s.server, "serve:" + r.serve, name, s.server == winner, n);
            // what the other did against it is known where the serve was noted as the first of the strokes
            if (r.strokes.size() > 1 && r.strokes.front() == kServeStroke) {
                const MatchWord* answer = m_sport.findStroke(r.strokes[1]);
                add(s.server, "answer:" + r.serve + ":" + r.strokes[1],
                    name + ", answered by " + (answer ? answer->name : r.strokes[1]), s.server == winner, n);
            }
        }
        for (PlayerIndex p = 0; p < 2; ++p) {
            add(p, s.isClose ? "close" : "rest", s.isClose ? "close scores" : "other scores", p == winner, n);
            const int sum = s.points[0] + s.points[1], whole = 2 * m_sport.scoring.to;
            const char* phase = 3 * sum < whole ? "first" : 3 * sum < 2 * whole ? "middle" : "last";
            add(p, std::string("phase:") + phase, std::string(phase) + " third of a game", p == winner, n);
        }
        // of the first player only
        if (r.attacking)
            add(0, *r.attacking ? "attacking" : "passive", *r.attacking ? "when attacking" : "when waiting", winner == 0, n);
        if (r.moved)
            add(0, *r.moved ? "moved" : "leaned", *r.moved ? "when the feet moved" : "when leaning", winner == 0, n);
        if (ending)
            m_lostBy[loser][ending->id].push_back(n);
        ++m_lost[loser];
    }

    void countServes()
    {
        for (PlayerIndex p = 0; p < 2; ++p) {
            std::map<std::string, int> counts;
            ServeMix& mix = m_done.serves[p];
            for (std::size_t n = 0; n < m_log.rallies.size(); ++n)
                if (const auto& serve = m_log.rallies[n].serve; !serve.empty() && m_score.before[n].server == p) {
                    ++counts[serve];
                    ++mix.n;
                }
            for (const auto& [serve, count] : counts) {
                const double share = static_cast<double>(count) / mix.n;
                mix.shares[serve] = share;
                mix.entropyBits -= share * std::log2(share);
            }
            mix.entropyBits = std::max(0.0, mix.entropyBits);
            mix.evenBits = counts.empty() ? 0 : std::log2(static_cast<double>(counts.size()));
            for (const auto& [ending, rallies] : m_lostBy[p]) {
                const MatchEnding* e = m_sport.findEnding(ending);
                m_done.tallies.push_back({p, "lost_by:" + ending, "points lost: " + (e ? e->name : ending),
                                          shareOf(static_cast<int>(rallies.size()), m_lost[p]), rallies});
            }
        }
    }

    void countRuns()
    {
        std::array<int, 2> run{};
        for (const auto& won : m_score.won)
            if (won) {
                ++run[*won];
                run[1 - *won] = 0;
                m_done.longestRun[*won] = std::max(m_done.longestRun[*won], run[*won]);
            }
    }

    void findLongest()
    {
        double most = 0;
        for (std::size_t n = 0; n < m_log.rallies.size(); ++n) {
            const Rally& r = m_log.rallies[n];
            const double length = r.from && r.to ? *r.to - *r.from : 0.1 * static_cast<double>(r.strokes.size());
            if (length > most) {
                most = length;
                m_done.longestRally = n;
            }
        }
    }

    /// From what is surely lost more often than won, in the order of the sport's file.
    void advise()
    {
        for (const auto& advice : m_sport.advice) {
            const Tally* t = m_done.find(0, advice.what);
            if (!t || t->share.isFew() || t->share.high >= 0.5 || m_done.next.size() == kMostAdvice)
                continue;
            std::string text = advice.say;
            for (const auto& [mark, number] : {std::pair<std::string, int>("{won}", t->share.won), {"{n}", t->share.n}})
                if (const auto at = text.find(mark); at != std::string::npos)
                    text.replace(at, mark.size(), std::to_string(number));
            const auto percent = [](double share) { return std::to_string(static_cast<int>(std::lround(100 * share))); };
            m_done.next.push_back({text,
                                   t->words + ": " + std::to_string(t->share.won) + " of " + std::to_string(t->share.n) +
                                       ", between " + percent(t->share.low) + " and " + percent(t->share.high) + " %",
                                   advice.pack, t->rallies});
        }
    }

    const MatchLog& m_log;
    const MatchSport& m_sport;
    const MatchScore& m_score;
    std::map<std::pair<PlayerIndex, std::string>, Tally> m_tallies;
    std::array<std::map<std::string, std::vector<std::size_t>>, 2> m_lostBy;
    std::array<int, 2> m_lost{};
    MatchTallies m_done;
};

} // namespace

Share shareOf(int won, int n)
{
    Share s{won, n, 0, 1};
    if (n <= 0)
        return s;
    const double count = n, p = won / count, z2 = kZ * kZ;
    const double middle = (p + z2 / (2 * count)) / (1 + z2 / count);
    const double half = kZ / (1 + z2 / count) * std::sqrt(p * (1 - p) / count + z2 / (4 * count * count));
    s.low = won == 0 ? 0 : std::max(0.0, middle - half);
    s.high = won == n ? 1 : std::min(1.0, middle + half);
    return s;
}

ShareDifference differenceOf(const Share& a, const Share& b)
{
    if (a.n == 0 || b.n == 0)
        return {};
    const double pa = a.value(), pb = b.value(), d = pb - pa;
    return {d, d - std::hypot(pb - b.low, a.high - pa), d + std::hypot(b.high - pb, pa - a.low)};
}

const Tally* MatchTallies::find(PlayerIndex player, std::string_view what) const
{
    const auto it =
        std::find_if(tallies.begin(), tallies.end(), [&](const Tally& t) { return t.player == player && t.what == what; });
    return it == tallies.end() ? nullptr : &*it;
}

MatchTallies talliesOf(const MatchLog& log, const MatchSport& sport, const MatchScore& score)
{
    return Counter(log, sport, score).count();
}

int countIn(const MatchLog& log, const MatchSport& sport, const MatchScore& score, PlayerIndex player, const std::string& counts)
{
    const MatchWord* serve = sport.findStroke(kServeStroke);
    const bool isAttempts = sport.scoring.kind == MatchScoring::Kind::Attempts;
    int count = 0;
    for (std::size_t n = 0; n < log.rallies.size(); ++n) {
        if (isAttempts) {
            const auto& strokes = log.rallies[n].strokes;
            const MatchWord* word = strokes.empty() ? nullptr : sport.findStroke(strokes.back());
            count += player == 0 && word && word->counts == counts;
        } else {
            if (serve && serve->counts == counts && score.before[n].server == player) {
                const MatchWord* kind = sport.findServe(log.rallies[n].serve);
                count += kind ? kind->times : 1;
            }
        }
    }
    return count;
}

} // namespace kestrel
