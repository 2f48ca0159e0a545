#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "media/ffmpeg.h"
#include "media/picture.h"

#include <functional>
#include <string>

namespace kestrel::media {

struct EncoderSettings {
    PixelSize size;             ///< both even
    double frameRate = 30;      ///< nominal; pictures carry their own times
    std::string codec = "h264"; ///< "h264", "hevc", "vp8", "vp9", "mjpeg"
    int keyEvery = 60;          ///< pictures between key frames, at most
    int bFrames = 2;            ///< where the codec has them
    int quality = 20;           ///< constant rate factor; smaller is better
    bool isLive = false;        ///< as fast as can be, each picture coded before the next is taken
};

/// Turns pictures into coded packets; what they are written to is the caller's business.
class PictureEncoder {
public:
    using Sink = std::function<Expected<void>(AVPacket&)>;

    /// \param globalHeader  the container wants the codec's head apart (MP4)
    /// Errors: BadArgument, CannotWrite.
    Expected<void> open(const EncoderSettings&, bool globalHeader);
    /// \param shown  later than the last one's. Errors: BadArgument, CannotWrite, those of the sink.
    Expected<void> encode(const std::uint8_t* bgra, int stride, MediaTime shown, const Sink&);
    Expected<void> flush(const Sink&);

    const AVCodecContext& codec() const { return *m_codec; }
    bool isOpen() const { return m_codec != nullptr; }

private:
    void setQuality(AVCodecID, const EncoderSettings&);
    Expected<void> send(const AVFrame*, const Sink&);

    CodecPtr m_codec;
    SwsPtr m_sws;
    FramePtr m_even; // the picture being coded, with rows at even places
    std::int64_t m_lastPts = INT64_MIN;
};

/// What went wrong while writing, with the library's words.
tl::unexpected<Error> cannotWrite(int error);

} // namespace kestrel::media
