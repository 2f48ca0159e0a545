#pragma once

#include "core/scene/drawing.h"
#include "look/overlay.h"
#include "media/film.h"

#include <functional>
#include <stop_token>
#include <utility>
#include <vector>

namespace kestrel::look {

/// Hides on a picture of the film, which may be smaller than it, what must not be recognised.
using HidePicture = std::function<void(FrameIndex, QImage&)>;

/// What moves on some pictures of a film, cut out of them.
struct Strobe {
    struct CutOut {
        FrameIndex frame;
        ImagePoint at;    ///< its upper left corner, pixels of the film
        QImage image;     ///< transparent where nothing moves
        double scale = 1; ///< pixels of the film in one of the image
    };
    std::vector<CutOut> cutOuts; ///< in the order of the film
    bool isStill = true;         ///< the camera stood still; else nothing is cut out
};

/// \param range  the pictures on which the drawing is seen. Errors: those of Film::frame; BadArgument for fewer than three
/// pictures.
/// \param hide  makes faces unrecognisable on a picture before anything is cut out of it; empty: nothing is hidden
Expected<Strobe> makeStrobe(media::Film&, const Drawing&, FrameRange range, const HidePicture& hide, std::stop_token = {});

/// The same of pictures at hand. \param scale  pixels of the film in one of theirs
Strobe cutOut(const std::vector<std::pair<FrameIndex, QImage>>& pictures, double scale);

/// What of it is seen on a picture: everything up to then.
void addStrobe(const Strobe&, FrameIndex now, std::vector<Overlay>& into);

/// Strobes that were made, by the drawing they are of.
using Strobes = std::vector<std::pair<Drawing, Strobe>>;

} // namespace kestrel::look
