#include "app/film/decode_service.h"

#include "look/film_image.h"

namespace kestrel::app {

DecodeService::DecodeService(QObject* parent) : QObject(parent) {}

template <class Answer> void DecodeService::answer(std::uint64_t film, Answer give)
{
    QMetaObject::invokeMethod(
        this,
        [this, film, give] {
            if (film == m_film)
                give();
        },
        Qt::QueuedConnection);
}

void DecodeService::open(const QString& file, std::string knownIndex, media::PixelSize firstPictureSize)
{
    const std::uint64_t film = ++m_film;
    m_wish.reset();
    m_last = FrameIndex(0);
    media::OpenOptions options;
    options.knownIndex = std::move(knownIndex);
    options.firstPictureSize = firstPictureSize;
    media::FilmService::Handlers handlers;
    handlers.progress = [this, film](double share) { answer(film, [this, share] { emit progress(share); }); };
    handlers.firstPicture = [this, film](const media::Picture& p) {
        answer(film, [this, image = look::toImage(p)] {
            if (m_last == FrameIndex(0))
                emit pictureReady(FrameIndex(0), image, false);
        });
    };
    handlers.opened = [this, film](const media::FilmInfo& info, const std::string& index) {
        answer(film, [this, info, index] { emit opened(info, index); });
    };
    handlers.delivered = [this, film](const media::Delivery& d) {
        answer(film, [this, frame = d.frame, image = look::toImage(d.picture), isExact = d.isExact] {
            if (answersWish(frame)) {
                m_wish.reset();
                emit pictureReady(frame, image, isExact);
            }
        });
    };
    handlers.failed = [this, film](const Error& error, std::optional<FrameIndex> frame) {
        answer(film, [this, error, frame] {
            if (!frame) {
                m_wish.reset(); // no picture comes any more
                emit failed(error);
            } else if (answersWish(*frame)) {
                m_wish.reset();
                emit pictureFailed(*frame, error);
            }
        });
    };
    m_service.open(file.toStdString(), std::move(options), std::move(handlers));
}

void DecodeService::close()
{
    ++m_film;
    m_wish.reset();
    m_service.close();
}

void DecodeService::want(FrameIndex frame, media::PixelSize largest, media::Travel travel)
{
    m_wish = m_last = frame;
    m_service.want(frame, largest, travel);
}

/// The coach may have moved on while the answer was under way.
bool DecodeService::answersWish(FrameIndex frame) const
{
    return frame == m_last;
}

} // namespace kestrel::app
