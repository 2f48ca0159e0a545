#pragma once

#include "app/pair/pair_side.h"
#include "look/overlay.h"

#include <QImage>

#include <vector>

namespace kestrel::app {

/// Where both films stand, and which point of the second body lies on the same of the first.
struct PairPlace {
    FrameIndex a, b;
    std::string anchor; ///< a point role
};

/// The second body as lines over the first film; nothing where one of them is not marked.
void addBodyLines(std::vector<look::Overlay>& into, const PairSide& first, const PairSide& second, const PairPlace&);

/// The second film's picture over the first, as tall, on the same anchor. \param share  0 to 1: how much of it is seen
void addGhost(std::vector<look::Overlay>& into, const PairSide& first, const PairSide& second, const PairPlace&,
              const QImage& secondPicture, double share);

/// A level grid over a film, a tenth of standing height from line to line, one crossing on the anchor; nothing where that is not
/// marked.
void addGrid(std::vector<look::Overlay>& into, const PairSide&, FrameIndex, const std::string& anchor);

} // namespace kestrel::app
