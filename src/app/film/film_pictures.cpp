#include "app/film/film_pictures.h"

#include "app/film/picture_bits.h"
#include "core/pack/pack_folder.h"
#include "look/drawing_overlays.h"
#include "look/film_image.h"

#include <QPainter>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr double kUnitWidth = 500; // a picture so wide is drawn over with thin lines; documents show them small

} // namespace

/// False: what has to be hidden cannot be.
bool FilmPictures::prepareHider()
{
    if (!m_hider) {
        auto hider = vision::FaceHider::load(shippedFolder("models"), m_hidesFaces);
        if (!hider) {
            m_wrong = hider.error();
            return false;
        }
        m_hider.emplace(std::move(*hider));
    }
    return true;
}

look::HidePicture FilmPictures::hideOn(const report::RepetitionFilm& film)
{
    return [this, &film](FrameIndex frame, QImage& image) {
        m_hider->hide(bitsOf(image), film.file, film.marking, film.repetition, frame);
    };
}

QImage FilmPictures::picture(const report::RepetitionFilm& film, FrameIndex frame)
{
    auto it = m_films.find(film.file);
    if (it == m_films.end())
        it = m_films.emplace(film.file, media::Film::open(film.file, {.stop = m_stop, .knownIndex = film.knownIndex})).first;
    const auto picture = it->second.and_then([&](media::Film& open) { return open.frame(frame, {}, m_stop); });
    if (!picture && !m_wrong)
        m_wrong = picture.error();
    if (!picture || !prepareHider())
        return {};
    QImage image = look::toImage(*picture).copy();
    hideOn(film)(frame, image);
    return image;
}

report::FrameSource FilmPictures::drawnFrames(const std::vector<report::RepetitionFilm>& films)
{
    if (films.empty())
        return {};
    return [this, &films](std::size_t repetition, FrameIndex frame) {
        return drawnOn(films[std::min(repetition, films.size() - 1)], frame);
    };
}

std::vector<std::string> FilmPictures::warnings() const
{
    std::vector<std::string> said;
    if (m_wrong)
        said.push_back(m_wrong->text());
    if (m_hider && m_hider->unsure() > 0)
        said.push_back(m_hider->warning());
    return said;
}

QImage FilmPictures::drawnOn(const report::RepetitionFilm& film, FrameIndex frame)
{
    QImage image = picture(film, frame);
    if (image.isNull() || film.marking.drawings.empty())
        return image;
    const PreparedRepetition prepared(film.marking, film.clock);
    const auto strobes = m_films.at(film.file).and_then([&](media::Film& open) {
        return look::makeStrobes(open, film.marking.drawings, film.marking, film.repetition, hideOn(film), m_stop);
    });
    QPainter painter(&image);
    look::paintOverlays(
        painter,
        look::drawingOverlays(film.marking.drawings, prepared, film.repetition, frame, strobes.value_or(look::Strobes())), {},
        look::lightPalette(), std::max(1.0, image.width() / kUnitWidth));
    return image;
}

} // namespace kestrel::app
