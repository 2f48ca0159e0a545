#pragma once

#include "core/error.h"
#include "media/film.h"

#include <QImage>
#include <QObject>

#include <condition_variable>
#include <mutex>
#include <optional>
#include <thread>

namespace kestrel::app {

/// Decodes on its own thread. Of several wishes only the newest is met; answers about a film that is no longer open
/// are dropped.
class DecodeService : public QObject {
    Q_OBJECT
public:
    explicit DecodeService(QObject* parent = nullptr);
    ~DecodeService() override;

    /// Closes the film and opens another. Answered by opened() or failed().
    void open(const QString& file);
    void close();
    /// Answered by pictureReady(), unless another wish comes first. \param largest  as for media::Film::frame
    void want(FrameIndex, media::PixelSize largest);
    /// A wish is not answered yet.
    bool isBusy() const { return m_waiting; }

signals:
    void opened(const kestrel::media::FilmInfo& info);
    void pictureReady(kestrel::FrameIndex frame, const QImage& picture);
    void failed(const kestrel::Error& error);

private:
    struct Wish {
        FrameIndex frame{0};
        media::PixelSize largest;
    };
    void work(std::stop_token stop);
    template <class Answer> void answer(std::uint64_t film, Answer);

    std::mutex m_mutex;
    std::condition_variable_any m_woken;
    std::optional<QString> m_toOpen; // empty text: close
    std::optional<Wish> m_wish;
    std::uint64_t m_film = 0;   // number of the film wished for; answers to older ones are dropped
    std::stop_source m_opening; // stops work on the previous film
    bool m_waiting = false;     // only used on the object's thread
    std::jthread m_thread;      // last: it uses all of the above
};

} // namespace kestrel::app
