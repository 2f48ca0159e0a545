#pragma once

#include "core/scene/marking.h"

#include <optional>
#include <vector>

namespace kestrel {

/// Where a person of that height has a known length on the film: the leg, hip to ankle, where it is straightest; 0.491 of
/// standing height (Winter, after Drillis and Contini). Empty when no leg was marked, and from above, where none is straight.
std::optional<Scale> scaleFromHeight(const std::vector<Mark>&, View, double heightMetres);

/// How high the athlete stands on the film, pixels, by the length of the leg. Empty as above.
std::optional<double> standingHeight(const std::vector<Mark>&, View);

} // namespace kestrel
