#pragma once

#include "app/bench/bench.h"
#include "look/overlay.h"

#include <vector>

namespace kestrel::app {

/// What belongs on a still of the picture stood at: the chosen reading, and nothing that helps to mark.
std::vector<look::Overlay> stillOverlays(const Bench&);

/// What lies over the picture that is shown on the Bench: the scene of the tool in hand, the chosen point's way, the marks, and
/// the chosen reading. \param hidden  a mark that is being dragged; empty: none
std::vector<look::Overlay> benchOverlays(const Bench&, const std::optional<Landmark>& hidden);

} // namespace kestrel::app
