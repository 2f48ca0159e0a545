#include "core/match/score.h"

#include <algorithm>
#include <cstdlib>

namespace kestrel {

namespace {

PlayerIndex other(PlayerIndex p)
{
    return 1 - p;
}

/// Goes through a match rally by rally.
class ScoreKeeper {
public:
    ScoreKeeper(const MatchLog& log, const MatchSport& sport) : m_rules(sport.scoring)
    {
        m_needed = ((log.bestOf > 0 ? log.bestOf : m_rules.usualBestOf) + 1) / 2;
        m_firstOfGame = log.find(log.firstServer).value_or(0);
        m_now.server = m_firstOfGame;
        look();
    }

    const MatchState& now() const { return m_now; }
    std::vector<std::array<int, 2>> games, sets;

    void correctServer(PlayerIndex server)
    {
        if (m_now.server == server)
            return;
        // the turn goes on from the corrected server
        m_firstOfGame = other(m_firstOfGame);
        m_now.server = server;
    }

    void point(PlayerIndex winner)
    {
        m_now.changesEnds = false;
        if (m_rules.kind == MatchScoring::Kind::Attempts) {
            ++m_now.points[winner];
            return;
        }
        ++m_now.points[winner];
        if (isGameWonBy(winner, m_now))
            endGame(winner);
        else
            endsWithinGame();
        if (!m_now.winner)
            nextServer(winner);
        look();
    }

    void retire(PlayerIndex who)
    {
        m_now.winner = other(who);
        m_now.gamePoint.reset();
        m_now.matchPoint.reset();
    }

private:
    int target(const MatchState& s) const
    {
        if (!s.isTieBreak)
            return m_rules.to;
        const bool isLast = s.sets[0] + s.sets[1] == 2 * m_needed - 2;
        return isLast ? m_rules.finalTieBreakTo : m_rules.tieBreakTo;
    }

    bool isGameWonBy(PlayerIndex p, const MatchState& s) const
    {
        const int by = s.isTieBreak ? 2 : m_rules.by;
        return s.points[p] >= target(s) && s.points[p] - s.points[other(p)] >= by;
    }

    void endGame(PlayerIndex winner)
    {
        games.push_back(m_now.points);
        const bool wasTieBreak = m_now.isTieBreak;
        ++m_now.games[winner];
        m_now.points = {};
        m_now.isTieBreak = false;
        const bool isSets = m_rules.kind == MatchScoring::Kind::Sets;
        // who begins the next game
        if (m_rules.serve == ServeOrder::Winner)
            m_firstOfGame = winner;
        else
            m_firstOfGame = other(wasTieBreak ? m_firstOfTieBreak : m_firstOfGame);
        m_now.changesEnds =
            m_rules.changesEndsEachGame || (m_rules.changesEndsOddGames && (m_now.games[0] + m_now.games[1]) % 2 == 1);
        if (!isSets) {
            if (m_now.games[winner] >= m_needed)
                m_now.winner = winner;
            return;
        }
        const bool isSetWon = wasTieBreak || (m_now.games[winner] >= m_rules.gamesTo &&
                                              m_now.games[winner] - m_now.games[other(winner)] >= m_rules.gamesBy);
        if (isSetWon) {
            sets.push_back(m_now.games);
            ++m_now.sets[winner];
            m_now.games = {};
            games.clear();
            if (m_now.sets[winner] >= m_needed)
                m_now.winner = winner;
        } else if (m_now.games[0] == m_rules.gamesTo && m_now.games[1] == m_rules.gamesTo) {
            m_now.isTieBreak = true;
            m_firstOfTieBreak = m_firstOfGame;
        }
    }

    void endsWithinGame()
    {
        const int sum = m_now.points[0] + m_now.points[1];
        if (m_now.isTieBreak && m_rules.tieBreakEndsEvery > 0)
            m_now.changesEnds = sum % m_rules.tieBreakEndsEvery == 0;
        const bool isLastGame = m_rules.kind == MatchScoring::Kind::Games && m_now.games[0] + m_now.games[1] == 2 * m_needed - 2;
        if (isLastGame && m_rules.lastGameEndsAt > 0) {
            const int most = std::max(m_now.points[0], m_now.points[1]);
            if (most == m_rules.lastGameEndsAt && !m_changedInLast) {
                m_now.changesEnds = true;
                m_changedInLast = true;
            }
        }
    }

    void nextServer(PlayerIndex winner)
    {
        const int sum = m_now.points[0] + m_now.points[1];
        if (m_now.isTieBreak) { // one, then two each
            m_now.server = (sum + 1) / 2 % 2 == 0 ? m_firstOfTieBreak : other(m_firstOfTieBreak);
            return;
        }
        switch (m_rules.serve) {
        case ServeOrder::Winner:
            m_now.server = winner;
            return;
        case ServeOrder::Game:
            m_now.server = m_firstOfGame;
            return;
        case ServeOrder::Alternate: {
            const int deuce = 2 * (m_rules.to - 1); // points played when both are one short
            const bool isDeuce = m_now.points[0] >= m_rules.to - 1 && m_now.points[1] >= m_rules.to - 1;
            const int turns =
                isDeuce ? deuce / m_rules.servesEach + (sum - deuce) / m_rules.servesEachAtDeuce : sum / m_rules.servesEach;
            m_now.server = turns % 2 == 0 ? m_firstOfGame : other(m_firstOfGame);
            return;
        }
        }
    }

    /// Game point, match point, close.
    void look()
    {
        m_now.gamePoint.reset();
        m_now.matchPoint.reset();
        m_now.isClose = false;
        if (m_now.winner || m_rules.kind == MatchScoring::Kind::Attempts)
            return;
        for (PlayerIndex p = 0; p < 2; ++p) {
            MatchState next = m_now;
            ++next.points[p];
            if (!isGameWonBy(p, next))
                continue;
            m_now.gamePoint = p;
            if (winsMatchWithGame(p))
                m_now.matchPoint = p;
        }
        const auto [a, b] = m_now.points;
        m_now.isClose = std::max(a, b) >= target(m_now) - 2 && std::abs(a - b) <= 2;
    }

    bool winsMatchWithGame(PlayerIndex p) const
    {
        if (m_rules.kind == MatchScoring::Kind::Games)
            return m_now.games[p] + 1 >= m_needed;
        const int won = m_now.games[p] + 1;
        const bool winsSet = m_now.isTieBreak || (won >= m_rules.gamesTo && won - m_now.games[other(p)] >= m_rules.gamesBy);
        return winsSet && m_now.sets[p] + 1 >= m_needed;
    }

    const MatchScoring& m_rules;
    int m_needed = 1; // games, or sets, to win the match
    PlayerIndex m_firstOfGame = 0, m_firstOfTieBreak = 0;
    bool m_changedInLast = false;
    MatchState m_now;
};

} // namespace

MatchScore scoreOf(const MatchLog& log, const MatchSport& sport)
{
    MatchScore score;
    ScoreKeeper keeper(log, sport);
    std::optional<double> last;
    for (std::size_t n = 0; n < log.rallies.size(); ++n) {
        const Rally& r = log.rallies[n];
        const auto complain = [&](std::string text) { score.problems.push_back({n, std::move(text)}); };
        score.before.push_back(keeper.now());
        score.won.emplace_back();
        const MatchEnding* ending = r.how.empty() ? nullptr : sport.findEnding(r.how);
        if (!r.how.empty() && !ending)
            complain("The sport has no ending \"" + r.how + "\".");
        if (!r.serve.empty() && !sport.findServe(r.serve))
            complain("The sport has no serve \"" + r.serve + "\".");
        for (const auto& stroke : r.strokes)
            if (!sport.findStroke(stroke))
                complain("The sport has no stroke \"" + stroke + "\".");
        if (r.from && r.to && *r.to < *r.from)
            complain("It ends before it begins.");
        if (r.from && last && *r.from < *last)
            complain("It begins before the rally before it.");
        if (r.from)
            last = r.from;
        if (keeper.now().winner) {
            complain("The match was over before it: it does not count.");
            continue;
        }
        if (!r.server.empty()) {
            if (const auto server = log.find(r.server)) {
                keeper.correctServer(*server);
                score.before.back() = keeper.now();
            } else {
                complain("\"" + r.server + "\" does not play.");
            }
        }
        const auto winner = log.find(r.won);
        if (ending && ending->by == MatchEnding::By::Nobody)
            continue; // a let
        if (!winner) {
            complain(r.won.empty() ? "Nobody has won it: it does not count."
                                   : "\"" + r.won + "\" does not play: it does not count.");
            continue;
        }
        if (r.how == "retired") {
            keeper.retire(1 - *winner);
            continue;
        }
        score.won.back() = winner;
        keeper.point(*winner);
    }
    score.games = keeper.games;
    score.sets = keeper.sets;
    score.now = keeper.now();
    return score;
}

std::string pointsWords(const MatchState& s, const MatchSport& sport, const std::array<std::string, 2>& players)
{
    const auto plain = std::to_string(s.points[0]) + "-" + std::to_string(s.points[1]);
    if (sport.scoring.kind != MatchScoring::Kind::Sets || s.isTieBreak)
        return plain;
    static constexpr const char* kCalled[] = {"0", "15", "30", "40"};
    const auto [a, b] = s.points;
    if (a >= 3 && b >= 3)
        return a == b ? "deuce" : "advantage " + players[a > b ? 0 : 1];
    return std::string(kCalled[std::min(a, 3)]) + "-" + kCalled[std::min(b, 3)];
}

std::string scoreWords(const MatchScore& score, const MatchSport& sport)
{
    std::string words;
    const auto add = [&](const std::array<int, 2>& pair) {
        words += (words.empty() ? "" : ", ") + std::to_string(pair[0]) + "-" + std::to_string(pair[1]);
    };
    if (sport.scoring.kind == MatchScoring::Kind::Sets) {
        for (const auto& set : score.sets)
            add(set);
        if (!score.now.winner)
            add(score.now.games);
    } else {
        for (const auto& game : score.games)
            add(game);
    }
    return words;
}

} // namespace kestrel
