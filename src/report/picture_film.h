#pragma once

#include "media/film_writer.h"

#include <QImage>

#include <functional>
#include <optional>
#include <string>

namespace kestrel::report {

/// Pictures written one after another as a film without sound, .mp4 (H.264) or .webm (VP9). The first picture gives its size, at
/// most 1280 by 720; the others are made to fit it. Nothing stands under the name until finish().
class PictureFilm {
public:
    static constexpr double kRate = 30; ///< pictures a second

    /// Errors: BadArgument for another ending.
    static Expected<PictureFilm> to(const std::string& file);

    /// What is drawn on the picture after it has its size, so that words are as sharp as can be.
    Expected<void> write(const QImage&, const std::function<void(QImage&)>& draw = {});
    Expected<void> finish();
    int pictures() const { return m_pictures; }

private:
    explicit PictureFilm(std::string file) : m_file(std::move(file)) {}

    std::string m_file;
    std::optional<media::FilmWriter> m_writer;
    QSize m_size;
    int m_pictures = 0;
};

} // namespace kestrel::report
