#pragma once

#include "core/match/score.h"

#include <optional>
#include <string>

namespace kestrel {

/// A match while it is logged by keys: the rally that is typed, and the one that is corrected. A key of the sport adds to the
/// rally in hand; the key of a player ends it.
class RallyKeeper {
public:
    explicit RallyKeeper(MatchSport sport) : m_sport(std::move(sport)) {}

    const MatchSport& sport() const { return m_sport; }
    const Rally& inHand() const { return m_inHand; }
    /// Which rally of the log is corrected; empty: a new one is typed.
    const std::optional<std::size_t>& corrected() const { return m_corrected; }

    /// A key of the sport's: serve, stroke or ending. False: the sport has no such key.
    /// \param seconds  where the film or the clock stands: the rally begins with its first key
    bool press(const std::string& key, double seconds);
    void toggleAttacking();
    void toggleMoved();
    void setInHand(const Rally& r) { m_inHand = r; } ///< changed otherwise than by a key
    bool takeBack();                                 ///< what was typed last of the rally in hand; false: nothing was
    /// Corrects a rally of the log; the one that was typed until now is given up.
    void correct(std::size_t rally, const Rally&);
    void letGo(); ///< a new rally is typed again
    /// The rally in hand is over; a new one begins. \param won  a player's name, or empty for a let
    Rally finish(const std::string& won, double seconds);

private:
    MatchSport m_sport;
    Rally m_inHand;
    std::optional<std::size_t> m_corrected;
};

} // namespace kestrel
