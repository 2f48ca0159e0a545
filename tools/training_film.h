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

/// One repetition of somebody whose key positions are known.
struct TrainingFilm {
    PreparedRepetition repetition;
    std::map<std::string, double> truth; ///< seconds of each key position
    double roughness = 1;                ///< of its marks, as for detectKeyPositions
    double weight = 1;
};

/// Every variant of the skill in each style, at 60 pictures a second: on true marks, and on marks as rough as a network's. Every
/// other style has a fault of its own at 0.7.
std::vector<TrainingFilm> trainingFilms(const sim::SimSkill&, const Pack&, Seen, const std::vector<std::uint32_t>& styles);

} // namespace kestrel::tools
