#include "app/film/still.h"

#include "core/pack/pack_folder.h"
#include "look/film_image.h"
#include "media/film.h"
#include "vision/face_hider.h"

#include <QPainter>

namespace kestrel::app {

namespace {

constexpr double kUnitWidth = 812; // a picture so wide is drawn over with lines as thin as on the bench

} // namespace

Expected<QImage> paintStill(const Still& still, std::stop_token stop)
{
    auto film = media::Film::open(still.film, {.stop = stop, .knownIndex = still.knownIndex});
    if (!film)
        return tl::unexpected(film.error());
    const auto picture = film->frame(still.frame, {}, stop);
    if (!picture)
        return tl::unexpected(picture.error());
    QImage image = look::toImage(*picture).copy();
    if (still.hidesFaces) {
        auto hider = vision::FaceHider::load(shippedFolder("models"));
        if (!hider)
            return tl::unexpected(hider.error());
        hider->hide({image.bits(), static_cast<int>(image.bytesPerLine()), {image.width(), image.height()}}, still.film,
                    still.marking, still.repetition, still.frame);
    }
    QPainter painter(&image);
    look::paintOverlays(painter, still.overlays, {}, still.palette, std::max(1.0, image.width() / kUnitWidth));
    return image;
}

} // namespace kestrel::app
