#pragma once

#include "media/caption.h"
#include "media/picture_encoder.h"

namespace kestrel::media {

/// Turns captions into coded packets of a caption track.
class CaptionEncoder {
public:
    /// \param codec  "mov_text" or "webvtt". Errors: BadArgument, CannotWrite.
    Expected<void> open(const std::string& codec);
    /// Errors: CannotWrite, those of the sink.
    Expected<void> encode(const Caption&, const PictureEncoder::Sink&);
    const AVCodecContext& codec() const { return *m_codec; }

private:
    CodecPtr m_codec;
    bool m_isWebVtt = false;
    int m_count = 0;
};

} // namespace kestrel::media
