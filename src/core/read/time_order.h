#pragma once

#include "core/pack/pack.h"
#include "core/scene/marking.h"

#include <string>
#include <vector>

namespace kestrel {

/// Placed key positions that cannot all be right, since the movement passes them in another order: in pack order.
///
/// The longest set of positions that agrees with the pack's order is believed, and what contradicts it is named. Where two
/// such sets are equally long, as when two neighbours change places, everything on which they differ is named. Positions on one
/// picture agree. A position that a program proposed agrees as long as its stated uncertainty allows it.
std::vector<std::string> findOutOfOrder(const Pack&, const std::vector<Event>&);

/// For the coach: "Strike lies before Lift, which comes first in the movement." Empty: all agree.
std::string sentenceAboutOrder(const Pack&, const std::vector<Event>&);

} // namespace kestrel
