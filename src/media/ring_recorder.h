#pragma once

#include "media/picture_encoder.h"

#include <deque>
#include <mutex>

namespace kestrel::media {

/// The last seconds of a live picture, coded as they come, so that a moment that has passed can still be saved. Pictures
/// come from one thread; everything else may be called from any.
class RingRecorder {
public:
    /// \param seconds  how much is kept, at least; half a second more at most
    /// Errors: BadArgument, CannotWrite.
    Expected<void> start(PixelSize size, double frameRate, double seconds);
    bool isStarted() const { return m_encoder.isOpen(); }

    /// \param shown  later than the last one's; such a picture is left out otherwise
    Expected<void> push(const std::uint8_t* bgra, int stride, MediaTime shown);

    double secondsHeld() const;
    std::size_t bytesHeld() const;
    /// Writes what was seen in the last seconds, beginning with a picture that can be decoded alone. Nothing is coded
    /// anew: the clip is there at once. The film's times begin at zero.
    /// Errors: NotFound when nothing was seen yet; CannotWrite.
    Expected<void> save(const std::string& file, double seconds) const;

private:
    using Held = std::shared_ptr<AVPacket>;
    void forgetOld();

    double m_seconds = 0;
    PictureEncoder m_encoder;
    mutable std::mutex m_mutex; // over what follows
    std::deque<Held> m_packets; // the first is a key frame
};

} // namespace kestrel::media
