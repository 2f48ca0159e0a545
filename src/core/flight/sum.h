#pragma once

#include "core/flight/ball.h"

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// A number of a card that a coach moves with a slider, or that comes from the film.
struct SumVariable {
    std::string id;    ///< "release-height", as on the command line
    std::string words; ///< "Release height"
    std::string unit;
    double low = 0, high = 1; ///< what makes sense
    double usual = 0;
    double sigma = 0; ///< how well it is usually known, one standard deviation
};

/// What a card is worked out from.
struct SumInput {
    std::map<std::string, double> values; ///< by variable; what is missing is as usual
    std::map<std::string, double> sigmas; ///< of those that come from a film
    std::optional<FlightBall> ball;       ///< empty: the card's usual one
    bool hasAir = true;
    double celsius = 20, altitude = 0; ///< of the air; metres above the sea
};

struct SumResult {
    std::string name;
    double value = 0;
    double low = 0, high = 0; ///< nine times in ten it lies between, with what is uncertain
    std::string unit;
    std::string words; ///< "Approach angle"
};

enum class ClaimVerdict { Holds, Partly, DoesNotHold };
std::string_view wordOf(ClaimVerdict);       ///< "does_not_hold"
std::string_view plainWordsOf(ClaimVerdict); ///< "does not hold"

/// What people say, put to the test with these numbers.
struct SumClaim {
    std::string text;
    ClaimVerdict verdict = ClaimVerdict::Partly;
    std::string why;
};

/// A drawing in metres (or whatever the axes say), to be painted to any size.
struct SumPicture {
    struct Point {
        double x = 0, y = 0;
    };
    struct Line {
        enum class Kind { Path, Other, Object, Ground, Now };
        Kind kind = Kind::Path;
        std::vector<Point> points;
        std::string label; ///< at its end; may be empty
    };
    struct Mark {
        Point at;
        std::string label;
    };
    std::vector<Line> lines;
    std::vector<Mark> marks;
    std::string acrossWords, upWords; ///< of the axes; may be empty
    bool isTrue = true;               ///< both axes have one scale
};

struct SumAnswer {
    std::vector<SumResult> results; ///< the most important first
    std::string sentence;           ///< the answer with its range
    std::vector<std::string> assumes;
    SumClaim claim;
    std::string caution; ///< where a number needs a word of safety; may be empty
    SumPicture picture;

    const SumResult* find(std::string_view name) const;
};

/// One sum.
struct SumCard {
    std::string id;       ///< "pitch_plane"
    std::string title;    ///< "Pitch plane"
    std::string question; ///< one sentence
    std::string ball;     ///< id of the usual one; empty: none takes part
    std::vector<SumVariable> variables;
    /// With every variable there. Errors: BadArgument in the words of a coach.
    std::function<Expected<SumAnswer>(const SumInput&)> work;

    const SumVariable* find(std::string_view variable) const;
};

/// All of them, in the order they are shown.
const std::vector<SumCard>& sumCards();
const SumCard* findSumCard(std::string_view id);

/// Fills in what is missing and works it out. Errors: BadArgument for a number outside its limits or not a number, and those of
/// the card.
Expected<SumAnswer> workOut(const SumCard&, SumInput);

} // namespace kestrel
