#pragma once

#include "core/pack/pack.h"
#include "core/scene/prepared_repetition.h"
#include "sim/simulate.h"

#include <map>
#include <string>
#include <vector>

namespace kestrel::tools {

/// Which rules of a pack a view asks for.
enum class Seen { FromSide, FromEnd, FromAbove };

/// How a training film's marks came about.
enum class Marked { Truly, Roughly, ByNetwork };

/// One repetition of somebody whose key positions are known.
struct TrainingFilm {
    PreparedRepetition repetition;
    std::map<std::string, double> truth; ///< seconds of each key position
    double roughness = 1;                ///< of its marks, as for detectKeyPositions
    Marked marked = Marked::Truly;
    double weight = 1;
    bool isOfThePlayer = true; ///< the network followed the player, and not something else
};

/// Films that are painted for a network to mark.
struct Painted {
    std::string folder;    ///< in which its marks are kept
    std::size_t films = 0; ///< of a skill from one view, as many of each variant and one at least
};

/// Every variant of the skill in each style, at 60 pictures a second, on true marks. Every other style has a fault of its own at
/// 0.7. From the sides and the ends the first few styles are painted as well, and are there once more as the network marked them;
/// from above all are there once more with marks as rough as a network's.
std::vector<TrainingFilm> trainingFilms(const sim::SimSkill&, const Pack&, Seen, const std::vector<std::uint32_t>& styles,
                                        const Painted&);

} // namespace kestrel::tools
