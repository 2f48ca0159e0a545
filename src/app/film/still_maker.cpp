#include "app/film/still_maker.h"

#include "look/film_image.h"
#include "media/film.h"

#include <QPainter>

namespace kestrel::app {

namespace {

constexpr double kUnitWidth = 812; // a picture so wide is drawn over with lines as thin as on the bench

Expected<QImage> still(const StillWish& wish, std::stop_token stop)
{
    auto film = media::Film::open(wish.file, {.stop = stop, .knownIndex = wish.knownIndex});
    if (!film)
        return tl::unexpected(film.error());
    const auto picture = film->frame(wish.frame, {}, stop);
    if (!picture)
        return tl::unexpected(picture.error());
    QImage image = look::toImage(*picture).copy();
    QPainter painter(&image);
    look::paintOverlays(painter, wish.overlays, {}, wish.palette, std::max(1.0, image.width() / kUnitWidth));
    painter.end();
    return image;
}

} // namespace

void StillMaker::make(StillWish wish, std::function<void(Expected<QImage>)> done)
{
    m_work.stop();
    m_work = Background::run(
        this, [wish = std::move(wish)](std::stop_token stop) { return still(wish, stop); },
        [done = std::move(done)](Expected<QImage> image) { done(std::move(image)); });
}

} // namespace kestrel::app
