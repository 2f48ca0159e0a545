#include "app/decode_service.h"

#include "report/film_image.h"

namespace kestrel::app {

DecodeService::DecodeService(QObject* parent) : QObject(parent), m_thread([this](std::stop_token stop) { work(stop); }) {}

DecodeService::~DecodeService()
{
    m_opening.request_stop();
    m_thread.request_stop();
    m_woken.notify_all();
}

void DecodeService::open(const QString& file)
{
    const std::lock_guard lock(m_mutex);
    m_opening.request_stop();
    m_opening = {};
    ++m_film;
    m_toOpen = file;
    m_wish.reset();
    m_waiting = false;
    m_woken.notify_all();
}

void DecodeService::close()
{
    open(QString());
}

void DecodeService::want(FrameIndex frame, media::PixelSize largest)
{
    const std::lock_guard lock(m_mutex);
    m_wish = Wish{frame, largest};
    m_waiting = true;
    m_woken.notify_all();
}

template <class Answer> void DecodeService::answer(std::uint64_t film, Answer give)
{
    QMetaObject::invokeMethod(
        this,
        [this, film, give] {
            std::unique_lock lock(m_mutex);
            if (film != m_film)
                return;
            if (!m_wish)
                m_waiting = false;
            lock.unlock();
            give();
        },
        Qt::QueuedConnection);
}

void DecodeService::work(std::stop_token stop)
{
    std::optional<media::Film> film;
    std::uint64_t number = 0;
    std::unique_lock lock(m_mutex);
    while (m_woken.wait(lock, stop, [this] { return m_toOpen.has_value() || m_wish.has_value(); })) {
        const auto stopFilm = m_opening.get_token();
        if (m_toOpen) {
            const QString file = *m_toOpen;
            m_toOpen.reset();
            number = m_film;
            lock.unlock();
            film.reset();
            if (!file.isEmpty()) {
                auto opened = media::Film::open(file.toStdString(), stopFilm);
                if (opened) {
                    film = std::move(*opened);
                    answer(number, [this, info = film->info()] { emit this->opened(info); });
                } else {
                    answer(number, [this, error = opened.error()] { emit failed(error); });
                }
            }
            lock.lock();
            continue;
        }
        const Wish wish = *m_wish;
        m_wish.reset();
        lock.unlock();
        if (film) {
            const auto picture = film->frame(wish.frame, wish.largest, stopFilm);
            if (picture)
                answer(number, [this, wish, image = report::toImage(*picture)] { emit pictureReady(wish.frame, image); });
            else
                answer(number, [this, error = picture.error()] { emit failed(error); });
        }
        lock.lock();
    }
}

} // namespace kestrel::app
