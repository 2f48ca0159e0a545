#pragma once

#include "core/base/time.h"
#include "media/film.h"
#include "media/film_writer.h"

#include <QImage>

#include <optional>
#include <string>
#include <vector>

namespace kestrel::test {

/// A film in whose every picture its own ordinal is written as sixteen large black or white squares, so that no codec
/// can lose it.
struct CodedFilm {
    std::string name = "clip.mp4";
    int frames = 90;
    int width = 320, height = 240; ///< upright
    std::string codec = "h264";
    double frameRate = 30;
    int keyEvery = 30, bFrames = 2, rotation = 0;
    MediaTime start{};
    bool variableRate = false;

    /// When picture n is shown, from the first.
    MediaTime shownAt(int n) const;
    /// Writes it into the folder; the file's path, or empty with a message on standard error.
    std::string write(const std::string& folder) const;
};

/// The upright picture of that ordinal.
QImage codedPicture(int number, int width, int height);
/// The ordinal written in a picture of any size; empty when the squares cannot be told apart.
std::optional<int> numberIn(const media::Picture&);

} // namespace kestrel::test
