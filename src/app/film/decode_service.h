#pragma once

#include "core/base/error.h"
#include "media/film_service.h"

#include <QImage>
#include <QObject>

#include <optional>

namespace kestrel::app {

/// media::FilmService with its answers brought to this object's thread as signals. Answers about a film that is no
/// longer open, or about an older wish, are dropped.
class DecodeService : public QObject {
    Q_OBJECT
public:
    explicit DecodeService(QObject* parent = nullptr);

    /// Closes the film and opens another. Answered by opened() or failed().
    /// \param knownIndex  what opened() gave for the same content earlier; may be empty
    void open(const QString& file, std::string knownIndex, media::PixelSize firstPictureSize);
    void close();
    /// Answered by pictureReady(), unless another wish comes first. \param largest  as for media::Film::frame
    void want(FrameIndex, media::PixelSize largest, media::Travel);
    /// A wish is not answered yet.
    bool isBusy() const { return m_wish.has_value(); }
    void setCeiling(std::size_t bytes) { m_service.setCeiling(bytes); }
    std::size_t cachedBytes() const { return m_service.cachedBytes(); }

signals:
    void progress(double share); ///< of indexing, 0 to 1
    void opened(const kestrel::media::FilmInfo& info, const std::string& indexBytes);
    /// \param isExact  false: at half size for the moment; the exact picture follows
    void pictureReady(kestrel::FrameIndex frame, const QImage& picture, bool isExact);
    void failed(const kestrel::Error& error);
    void pictureFailed(kestrel::FrameIndex frame, const kestrel::Error& error);

private:
    template <class Answer> void answer(std::uint64_t film, Answer);
    bool answersWish(FrameIndex) const;

    std::uint64_t m_film = 0;
    std::optional<FrameIndex> m_wish; // not answered yet
    FrameIndex m_last{-1};            // the newest wish, answered or not
    media::FilmService m_service;     // last: it calls back until it is gone
};

} // namespace kestrel::app
