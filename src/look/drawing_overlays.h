#pragma once

#include "core/read/reading.h"
#include "look/strobe.h"

#include <vector>

namespace kestrel::look {

/// Drawings as they lie on a picture of a repetition, with what they measure there. What is not seen on it
/// is left out, and so is what only hides something.
/// \param repetition  the pictures that belong to it
/// \param strobes  made of the same drawings; what is missing there is not shown
std::vector<Overlay> drawingOverlays(const std::vector<Drawing>&, const PreparedRepetition&, FrameRange repetition, FrameIndex,
                                     const Strobes& strobes = {});

/// Makes those that are among the drawings. Errors: those of makeStrobe.
Expected<Strobes> makeStrobes(media::Film&, const std::vector<Drawing>&, const Marking&, FrameRange repetition,
                              const HidePicture& hide = {}, std::stop_token = {});

/// A reading as its kind draws it. \param hasNumber  with its value
FigureOverlay readingOverlay(const Reading&, bool hasNumber = true);

} // namespace kestrel::look
