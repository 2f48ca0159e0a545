#include "app/film/still.h"

#include "app/film/picture_bits.h"
#include "core/pack/pack_folder.h"
#include "look/film_image.h"
#include "media/film.h"

#include <QPainter>

namespace kestrel::app {

Expected<QImage> paintStill(const Still& still, std::stop_token stop)
{
    auto film = media::Film::open(still.film, {.stop = stop, .knownIndex = still.knownIndex});
    if (!film)
        return tl::unexpected(film.error());
    const auto picture = film->frame(still.frame, {}, stop);
    if (!picture)
        return tl::unexpected(picture.error());
    QImage image = look::toImage(*picture).copy();
    auto hider = vision::FaceHider::load(shippedFolder("models"), still.hidesFaces);
    if (!hider)
        return tl::unexpected(hider.error());
    hider->hide(bitsOf(image), still.film, still.marking, still.repetition, still.frame);
    QPainter painter(&image);
    look::paintOverlays(painter, still.overlays, {}, still.palette, look::unitFor(image.width()));
    return image;
}

} // namespace kestrel::app
