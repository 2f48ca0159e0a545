#pragma once

#include "look/strobe.h"
#include "media/film.h"
#include "report/page.h"
#include "report/repetition_film.h"
#include "vision/face_hider.h"

#include <map>
#include <optional>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::app {

/// Pictures of films, opened when one is wanted.
class FilmPictures {
public:
    /// \param hidesFaces  on every picture
    explicit FilmPictures(std::stop_token stop, bool hidesFaces = false) : m_stop(std::move(stop)), m_hidesFaces(hidesFaces) {}
    /// Upright; a null one when it cannot be had, or what has to be hidden cannot be.
    QImage picture(const report::RepetitionFilm&, FrameIndex);
    /// The same with what is drawn on the film.
    QImage drawnOn(const report::RepetitionFilm&, FrameIndex);
    /// Where documents get their pictures: of these films, with what is drawn on them. Empty: there are none.
    /// \param films  outlive it
    report::FrameSource drawnFrames(const std::vector<report::RepetitionFilm>& films);
    /// What has to be said about them: a film that could not be read, a face that may still be seen. The worst first.
    std::vector<std::string> warnings() const;

private:
    bool prepareHider();
    look::HidePicture hideOn(const report::RepetitionFilm&);

    std::stop_token m_stop;
    bool m_hidesFaces;
    std::optional<vision::FaceHider> m_hider; // loaded when it is wanted
    std::map<std::string, Expected<media::Film>> m_films;
    std::optional<Error> m_wrong;
};

} // namespace kestrel::app
