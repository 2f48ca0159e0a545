#pragma once

#include "core/base/error.h"
#include "core/match/sport.h"

#include <array>
#include <optional>
#include <string>
#include <vector>

#include <nlohmann/json.hpp>

namespace kestrel {

/// Either player, by place in the log: 0 or 1.
using PlayerIndex = std::size_t;

/// One rally, as far as it was noted.
struct Rally {
    std::string won;                      ///< a player; may be empty after a let
    std::string how;                      ///< an ending of the sport; may be empty
    std::string serve;                    ///< a serve of the sport; may be empty
    std::vector<std::string> strokes;     ///< in their order, the last one decided it
    std::string server;                   ///< who really served, where it was not whose turn it was; empty: as the rules say
    std::optional<bool> attacking, moved; ///< of the first player: attacked rather than waited, moved rather than leaned
    std::optional<double> from, to;       ///< seconds on the film, or of the clock
    std::string note;
    bool operator==(const Rally&) const = default;
};

/// A match as it was logged. What follows from it, the score, is worked out: see scoreOf().
struct MatchLog {
    std::string sport;
    int bestOf = 0; ///< 0: the sport's usual
    std::array<std::string, 2> players;
    std::string firstServer;
    std::string film; ///< file; may be empty
    std::string date; ///< "2026-04-11"; may be empty
    std::vector<Rally> rallies;
    bool operator==(const MatchLog&) const = default;

    std::optional<PlayerIndex> find(const std::string& player) const;
};

/// Errors: those of the JSON with pointers; one name for both players, a first server who does not play.
Expected<MatchLog> parseMatchLog(const nlohmann::json&, const std::string& file);
Expected<MatchLog> loadMatchLog(const std::string& file);
nlohmann::json toJson(const MatchLog&); ///< `format` "jolly-kestrel/match"

/// A table with a head line, separated by commas; strokes by spaces.
std::string toCsv(const MatchLog&);
/// Rallies of such a table, separated by commas, semicolons or tabs; columns are found by their names in any order.
/// Errors: a line and what is wrong with it.
Expected<std::vector<Rally>> ralliesFromCsv(const std::string& text, const std::string& file);

/// The player who has that name, or its first word; letters large or small. Empty: neither has.
std::optional<PlayerIndex> playerNamed(const MatchLog&, const std::string& name);

} // namespace kestrel
