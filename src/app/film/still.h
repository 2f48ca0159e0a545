#pragma once

#include "core/base/error.h"
#include "core/base/index.h"
#include "look/overlay.h"

#include <QImage>

#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::app {

/// One picture of a film with what is drawn over it.
struct Still {
    std::string film, knownIndex; ///< as media::OpenOptions
    FrameIndex frame;
    std::vector<look::Overlay> overlays;
    look::Palette palette;
    bool hidesFaces = false;
    Marking marking{}; ///< with its drawings, by which something is hidden
    FrameRange repetition{};
};

/// As large as the film, and exactly that picture, whatever is on the screen. Decodes: not for the interface thread.
/// Errors: as media::Film::open and frame, and FaceHider::load.
Expected<QImage> paintStill(const Still&, std::stop_token);

} // namespace kestrel::app
