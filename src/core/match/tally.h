#pragma once

#include "core/match/score.h"

#include <map>
#include <string>
#include <vector>

namespace kestrel {

/// A share with its interval (Wilson, 1927, 95 %).
struct Share {
    int won = 0, n = 0;
    double low = 0, high = 1;
    bool operator==(const Share&) const = default;

    double value() const { return n > 0 ? static_cast<double>(won) / n : 0; }
    /// Fewer than ten say nothing.
    bool isFew() const { return n < 10; }
};
Share shareOf(int won, int n);
/// The difference b - a of two shares with its 95 % interval (Newcombe, 1998, from Wilson's).
struct ShareDifference {
    double difference = 0, low = -1, high = 1;
    bool isReal() const { return low > 0 || high < 0; }
};
ShareDifference differenceOf(const Share& a, const Share& b);

/// Points won of those of a kind.
struct Tally {
    PlayerIndex player = 0;
    /// "serving", "receiving", "stroke:backhand", "serve:topspin",
    /// "answer:topspin:block" (points served with topspin that the other player answered with a block), "lost_by:error_net"
    /// (of the points lost), "attacking", "passive", "moved", "leaned", "close", "rest", "length:short", "length:long",
    /// "phase:first", "phase:middle", "phase:last"
    std::string what;
    std::string words; ///< "backhand topspin"
    Share share;
    std::vector<std::size_t> rallies; ///< that were counted
};

/// How a player mixes the serves.
struct ServeMix {
    std::map<std::string, double> shares; ///< by serve
    int n = 0;
    double entropyBits = 0, evenBits = 0; ///< of the mix, and of an even one of the same kinds
};

struct MatchAdviceGiven {
    std::string text;    ///< what to train
    std::string because; ///< the numbers
    std::string pack;    ///< to film; may be empty
    std::vector<std::size_t> rallies;
};

struct MatchTallies {
    std::vector<Tally> tallies;
    std::array<ServeMix, 2> serves;
    std::array<int, 2> longestRun{};         ///< points in a row
    std::optional<std::size_t> longestRally; ///< by time, else by strokes; empty: neither is noted
    std::vector<MatchAdviceGiven> next;      ///< for the first player; at most three, never from fewer than ten cases

    const Tally* find(PlayerIndex, std::string_view what) const;
};

/// How often a player did in a match what a book counts under that word: attempts of such a kind, or serves where the serve is
/// counted so. At least so often: a serve into the net whose kind was not noted counts once.
int countIn(const MatchLog&, const MatchSport&, const MatchScore&, PlayerIndex, const std::string& counts);

/// Which stroke decided a rally: the last one noted; by whom says the ending, else the winner.
MatchTallies talliesOf(const MatchLog&, const MatchSport&, const MatchScore&);

} // namespace kestrel
