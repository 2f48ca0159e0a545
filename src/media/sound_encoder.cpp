#include "media/sound_encoder.h"

#include <algorithm>

namespace kestrel::media {

namespace {

constexpr int kBitRate = 96'000; // of one channel of speech

} // namespace

Expected<void> SoundEncoder::open(const std::string& codec, bool globalHeader)
{
    const char* const name = codec == "opus" ? "libopus" : "aac";
    const AVCodec* encoder = avcodec_find_encoder_by_name(name);
    if (!encoder)
        return fail(ErrorCode::BadArgument, std::string("The encoder ") + name + " is not installed.");
    CodecPtr opened(avcodec_alloc_context3(encoder));
    opened->sample_rate = kSoundRate;
    opened->sample_fmt = codec == "opus" ? AV_SAMPLE_FMT_S16 : AV_SAMPLE_FMT_FLTP;
    opened->ch_layout = AV_CHANNEL_LAYOUT_MONO;
    opened->bit_rate = kBitRate;
    opened->time_base = {1, kSoundRate};
    if (globalHeader)
        opened->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
    if (const int e = avcodec_open2(opened.get(), encoder, nullptr); e < 0)
        return cannotWrite(e);
    m_codec = std::move(opened);
    return {};
}

Expected<void> SoundEncoder::encode(const std::vector<std::int16_t>& samples, const PictureEncoder::Sink& sink)
{
    m_waiting.insert(m_waiting.end(), samples.begin(), samples.end());
    const auto frame = static_cast<std::size_t>(m_codec->frame_size);
    std::size_t done = 0;
    for (; m_waiting.size() - done >= frame; done += frame)
        if (auto sent = send(m_waiting.data() + done, m_codec->frame_size, sink); !sent)
            return sent;
    m_waiting.erase(m_waiting.begin(), m_waiting.begin() + static_cast<std::ptrdiff_t>(done));
    return {};
}

Expected<void> SoundEncoder::send(const std::int16_t* samples, int count, const PictureEncoder::Sink& sink)
{
    FramePtr frame(av_frame_alloc());
    frame->format = m_codec->sample_fmt;
    frame->nb_samples = count;
    frame->sample_rate = kSoundRate;
    av_channel_layout_copy(&frame->ch_layout, &m_codec->ch_layout);
    if (const int e = av_frame_get_buffer(frame.get(), 0); e < 0)
        return cannotWrite(e);
    if (m_codec->sample_fmt == AV_SAMPLE_FMT_FLTP)
        std::transform(samples, samples + count, reinterpret_cast<float*>(frame->data[0]),
                       [](std::int16_t s) { return static_cast<float>(s) / 32768.0F; });
    else
        std::copy(samples, samples + count, reinterpret_cast<std::int16_t*>(frame->data[0]));
    frame->pts = m_sent;
    m_sent += count;
    if (const int e = avcodec_send_frame(m_codec.get(), frame.get()); e < 0)
        return cannotWrite(e);
    return receive(sink);
}

Expected<void> SoundEncoder::receive(const PictureEncoder::Sink& sink)
{
    const PacketPtr packet(av_packet_alloc());
    while (avcodec_receive_packet(m_codec.get(), packet.get()) == 0)
        if (auto done = sink(*packet); !done)
            return done;
    return {};
}

Expected<void> SoundEncoder::flush(const PictureEncoder::Sink& sink)
{
    if (!m_waiting.empty()) { // the rest is filled up with silence
        m_waiting.resize(static_cast<std::size_t>(m_codec->frame_size), 0);
        const auto rest = std::move(m_waiting);
        m_waiting.clear();
        if (auto sent = send(rest.data(), m_codec->frame_size, sink); !sent)
            return sent;
    }
    avcodec_send_frame(m_codec.get(), nullptr);
    return receive(sink);
}

} // namespace kestrel::media
