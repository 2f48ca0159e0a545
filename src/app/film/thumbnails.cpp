#include "app/film/thumbnails.h"

#include "look/film_image.h"
#include "media/film.h"

namespace kestrel::app {

namespace {

constexpr std::size_t kLittleMemory = std::size_t{16} << 20; // each picture is looked at once

} // namespace

void Thumbnails::make(const std::string& file, const std::string& knownIndex, std::vector<FrameIndex> frames, QSize largest)
{
    clear();
    const auto give = [this, number = m_number, alive = QPointer<Thumbnails>(this)](std::int64_t frame, const QImage& image) {
        QMetaObject::invokeMethod(
            qApp,
            [alive, number, frame, image] {
                if (!alive || alive->m_number != number)
                    return;
                alive->m_pictures[frame] = image;
                emit alive->changed();
            },
            Qt::QueuedConnection);
    };
    m_work = Background::run(
        this,
        [=](std::stop_token stop) {
            auto film = media::Film::open(file, {.stop = stop, .knownIndex = knownIndex});
            if (!film)
                return false;
            film->cache().setCeiling(kLittleMemory);
            for (const FrameIndex f : frames) {
                if (stop.stop_requested())
                    return false;
                if (const auto picture = film->frame(f, {largest.width(), largest.height()}, stop))
                    give(f.value, look::toImage(*picture));
            }
            return true;
        },
        [](bool) {});
}

void Thumbnails::clear()
{
    m_work.stop();
    ++m_number;
    m_pictures.clear();
    emit changed();
}

} // namespace kestrel::app
