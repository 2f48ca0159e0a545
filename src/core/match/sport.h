#pragma once

#include "core/base/error.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// Something that is named by one key while a match is logged.
struct MatchWord {
    std::string id, name;
    std::string key;      ///< one letter or digit
    std::string counts{}; ///< what a book counts it as, "pitch"; may be empty
    int times = 1;        ///< how often it was done then: of a second serve twice
    bool operator==(const MatchWord&) const = default;
};

/// How a rally ends.
struct MatchEnding : MatchWord {
    enum class By { Winner, Loser, Nobody };
    By by = By::Winner; ///< whose stroke it was; Nobody: no point, as after a let
    bool operator==(const MatchEnding&) const = default;
};

/// Who serves.
enum class ServeOrder {
    Alternate, ///< so many points each, then the other
    Winner,    ///< who won the last rally
    Game       ///< a whole game each, and in a tie-break one point, then two each
};

/// How points make a match.
struct MatchScoring {
    enum class Kind { Games, Sets, Attempts };
    Kind kind = Kind::Games;
    int to = 11, by = 2;                                               ///< points of a game, and by how many it has to be won
    int gamesTo = 6, gamesBy = 2, tieBreakTo = 7, finalTieBreakTo = 7; ///< of sets
    std::vector<int> bestOf;                                           ///< games, or sets
    int usualBestOf = 1;
    ServeOrder serve = ServeOrder::Alternate;
    int servesEach = 2, servesEachAtDeuce = 1;
    bool changesEndsEachGame = false, changesEndsOddGames = false;
    int lastGameEndsAt = 0, tieBreakEndsEvery = 0; ///< points; 0: never
    bool operator==(const MatchScoring&) const = default;
};

/// What to train when something goes wrong.
struct MatchAdvice {
    std::string what; ///< a tally: "stroke:backhand"
    std::string say;  ///< with {won} and {n}
    std::string pack; ///< to film; may be empty
    bool operator==(const MatchAdvice&) const = default;
};

/// A sport's rules and words. Read from one file in matches/.
struct MatchSport {
    std::string id, name;
    MatchScoring scoring;
    std::vector<MatchWord> strokes, serves;
    std::vector<MatchEnding> endings;
    std::vector<MatchAdvice> advice; ///< the most important first
    bool operator==(const MatchSport&) const = default;

    const MatchWord* findStroke(std::string_view) const;
    const MatchWord* findServe(std::string_view) const;
    const MatchEnding* findEnding(std::string_view) const;
};

Expected<MatchSport> loadMatchSport(const std::string& file);
/// Those that come with the program, by name. Files that cannot be read are left out.
std::vector<MatchSport> shippedMatchSports();
/// Errors: NotFound with the sports there are.
Expected<MatchSport> findMatchSport(const std::string& id);

} // namespace kestrel
