#pragma once

#include "core/match/match_log.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// Where a match stands at one moment.
struct MatchState {
    std::array<int, 2> points{}; ///< of the game that is played
    std::array<int, 2> games{};  ///< won: of the match, or of the set that is played
    std::array<int, 2> sets{};   ///< won; where there are sets
    bool isTieBreak = false;
    PlayerIndex server = 0;
    std::optional<PlayerIndex> gamePoint;  ///< wins the game with the next rally
    std::optional<PlayerIndex> matchPoint; ///< wins the match with it
    bool changesEnds = false;              ///< before the next rally
    bool isClose = false;                  ///< within two points of the end of the game, and within two of each other
    std::optional<PlayerIndex> winner;     ///< it is over
    bool operator==(const MatchState&) const = default;
};

/// What is wrong with a log, and where.
struct MatchProblem {
    std::size_t rally = 0;
    std::string text;
    bool operator==(const MatchProblem&) const = default;
};

/// Everything that follows from a log.
struct MatchScore {
    std::vector<std::array<int, 2>> games;       ///< finished: of the match, or of the set that is played
    std::vector<std::array<int, 2>> sets;        ///< finished, in games
    std::vector<MatchState> before;              ///< each rally
    std::vector<std::optional<PlayerIndex>> won; ///< by rally: who got a point, as far as it counts
    MatchState now;
    std::vector<MatchProblem> problems;
};

/// Works a match out from the rules. What cannot be is said with its rally and does not count; nothing is lost.
MatchScore scoreOf(const MatchLog&, const MatchSport&);

/// "11-9, 8-11; 3-2": as it is called.
std::string scoreWords(const MatchScore&, const MatchSport&);
/// Of a game that is played: "3-2"; in sets "30-15", "deuce", "advantage Ada".
std::string pointsWords(const MatchState&, const MatchSport&, const std::array<std::string, 2>& players);

} // namespace kestrel
