#pragma once

#include "app/bench/bench.h"
#include "look/overlay.h"

#include <vector>

namespace kestrel::app {

/// What belongs on a still of the picture stood at: drawings and the chosen reading, and nothing that helps to mark.
std::vector<look::Overlay> stillOverlays(const Bench&);

/// What lies over the picture that is shown on the Bench: the scene of the tool in hand, drawings, the chosen point's way, the
/// marks, and the chosen reading. \param hidden, hiddenDrawing  what is being dragged; empty: none
std::vector<look::Overlay> benchOverlays(const Bench&, const std::optional<Landmark>& hidden, store::DrawingId hiddenDrawing);

} // namespace kestrel::app
