#pragma once

#include "media/picture_encoder.h"
#include "media/sound.h"

namespace kestrel::media {

/// Turns samples into coded packets.
class SoundEncoder {
public:
    /// \param codec  "aac" or "opus". Errors: BadArgument, CannotWrite.
    Expected<void> open(const std::string& codec, bool globalHeader);
    /// They follow what was given before. Errors: CannotWrite, those of the sink.
    Expected<void> encode(const std::vector<std::int16_t>& samples, const PictureEncoder::Sink&);
    Expected<void> flush(const PictureEncoder::Sink&);
    const AVCodecContext& codec() const { return *m_codec; }

private:
    Expected<void> send(const std::int16_t* samples, int count, const PictureEncoder::Sink&);
    Expected<void> receive(const PictureEncoder::Sink&);

    CodecPtr m_codec;
    std::vector<std::int16_t> m_waiting; // less than a frame
    std::int64_t m_sent = 0;
};

} // namespace kestrel::media
