#pragma once

#include "app/bench/bench.h"
#include "app/workspace/repetition_film.h"
#include "look/drawing_overlays.h"
#include "media/film.h"
#include "report/walk_film.h"
#include "vision/face_hider.h"

#include <map>
#include <stop_token>

namespace kestrel::app {

/// What documents are made of: the day on the bench, with every film that was judged.
struct ShownDay {
    Pack pack;
    Review review;
    report::PageFacts facts;
    std::vector<report::WalkFilm> films; ///< in the order of Review::films, with what is drawn on them
    std::vector<std::string> names;      ///< of each: "repetition 2"
    bool hidesFaces = false;
    std::size_t onBench = 0; ///< which of them is on the bench; the first if it was not judged
};

/// What a ShownDay is gathered from. Made on the interface thread; gather() may be called on any.
class ShownDayRequest {
public:
    /// Empty: nothing on the bench can be shown.
    static std::optional<ShownDayRequest> of(const Workspace&, const Bench&);

    /// Errors: those of the library.
    Expected<ShownDay> gather(const store::Library&) const;
    std::function<Expected<store::Library>()> openLibrary; ///< for the other thread

private:
    Pack m_pack;
    Review m_review;
    report::PageFacts m_facts;
    std::vector<ReviewModel::Together> m_together;
    store::RepetitionId m_onBench;
    bool m_hidesFaces = false;
};

/// On a picture of the film, which may be smaller than it.
void hideFaces(vision::FaceHider&, QImage&, const report::WalkFilm&, FrameIndex);

/// Keeps something that has left for the athlete on the bench, as it was, with what was judged then.
/// \param kind  as store::SentRow
void keepSent(Workspace&, const Bench&, const std::string& kind, const QString& file, std::string content);

/// Pictures of films, opened when one is wanted.
class FilmPictures {
public:
    /// \param hidesFaces  on every picture
    explicit FilmPictures(std::stop_token stop, bool hidesFaces = false) : m_stop(std::move(stop)), m_hidesFaces(hidesFaces) {}
    /// Upright; a null one when it cannot be had, or faces that have to be hidden cannot be.
    QImage picture(const report::WalkFilm&, FrameIndex);
    /// The same with what is drawn on the film.
    QImage drawnOn(const report::WalkFilm&, FrameIndex);
    /// Of the first film that could not be read.
    const std::optional<Error>& wrong() const { return m_wrong; }

private:
    std::stop_token m_stop;
    bool m_hidesFaces;
    std::optional<vision::FaceHider> m_hider; // loaded when it is wanted
    std::map<std::string, Expected<media::Film>> m_films;
    std::optional<Error> m_wrong;
};

} // namespace kestrel::app
