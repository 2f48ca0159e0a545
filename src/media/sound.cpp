#include "media/sound.h"

#include "core/base/part_file.h"
#include "media/ffmpeg.h"

extern "C" {
#include <libswresample/swresample.h>
}

#include <algorithm>
#include <cmath>

namespace kestrel::media {

namespace {

constexpr std::size_t kLongest = std::size_t{kSoundRate} * 3600; // an hour: nobody talks longer to a stop

struct SwrDelete {
    void operator()(SwrContext* p) const { swr_free(&p); }
};

/// Decodes one stream.
class SoundReader {
public:
    Expected<Sound> read(const std::string& file)
    {
        AVFormatContext* format = nullptr;
        if (avformat_open_input(&format, ("file:" + file).c_str(), nullptr, nullptr) < 0)
            return fail(ErrorCode::CannotOpen, "The sound cannot be opened.", file);
        m_format.reset(format);
        const AVCodec* decoder = nullptr;
        if (avformat_find_stream_info(format, nullptr) < 0)
            return fail(ErrorCode::NotAFilm, "There is no sound in this file.", file);
        m_stream = av_find_best_stream(format, AVMEDIA_TYPE_AUDIO, -1, -1, &decoder, 0);
        if (m_stream < 0 || !decoder)
            return fail(ErrorCode::NotAFilm, "There is no sound in this file.", file);
        m_codec.reset(avcodec_alloc_context3(decoder));
        avcodec_parameters_to_context(m_codec.get(), format->streams[m_stream]->codecpar);
        if (avcodec_open2(m_codec.get(), decoder, nullptr) < 0)
            return fail(ErrorCode::NotAFilm, "The sound in this file cannot be read.", file);
        const PacketPtr packet(av_packet_alloc());
        while (m_sound.samples.size() < kLongest && av_read_frame(format, packet.get()) >= 0) {
            if (packet->stream_index == m_stream)
                decode(packet.get());
            av_packet_unref(packet.get());
        }
        decode(nullptr);
        if (m_sound.samples.empty())
            return fail(ErrorCode::NotAFilm, "There is no sound in this file.", file);
        return std::move(m_sound);
    }

private:
    void decode(const AVPacket* packet)
    {
        if (avcodec_send_packet(m_codec.get(), packet) < 0)
            return;
        const FramePtr frame(av_frame_alloc());
        while (avcodec_receive_frame(m_codec.get(), frame.get()) == 0)
            append(*frame);
    }

    void append(const AVFrame& frame)
    {
        if (!m_resampler) {
            AVChannelLayout mono = AV_CHANNEL_LAYOUT_MONO, own{};
            av_channel_layout_copy(&own, &frame.ch_layout);
            SwrContext* swr = nullptr;
            if (swr_alloc_set_opts2(&swr, &mono, AV_SAMPLE_FMT_S16, kSoundRate, &own, static_cast<AVSampleFormat>(frame.format),
                                    frame.sample_rate, 0, nullptr) < 0)
                return;
            av_channel_layout_uninit(&own);
            m_resampler.reset(swr);
            if (swr_init(swr) < 0)
                return m_resampler.reset();
        }
        const int room = swr_get_out_samples(m_resampler.get(), frame.nb_samples);
        std::vector<std::int16_t> converted(static_cast<std::size_t>(std::max(room, 0)));
        auto* out = reinterpret_cast<std::uint8_t*>(converted.data());
        const int n =
            swr_convert(m_resampler.get(), &out, room, const_cast<const std::uint8_t**>(frame.extended_data), frame.nb_samples);
        if (n > 0)
            m_sound.samples.insert(m_sound.samples.end(), converted.begin(), converted.begin() + n);
    }

    FormatPtr m_format;
    CodecPtr m_codec;
    std::unique_ptr<SwrContext, SwrDelete> m_resampler;
    int m_stream = -1;
    Sound m_sound;
};

void appendNumber(std::string& to, std::uint32_t value, int bytes)
{
    for (int i = 0; i < bytes; ++i)
        to += static_cast<char>((value >> (8 * i)) & 0xFF);
}

} // namespace

Expected<Sound> loadSound(const std::string& file)
{
    av_log_set_level(AV_LOG_QUIET);
    return SoundReader().read(file);
}

Expected<void> saveWav(const Sound& sound, const std::string& file)
{
    const auto bytes = static_cast<std::uint32_t>(2 * sound.samples.size());
    std::string wav = "RIFF";
    appendNumber(wav, 36 + bytes, 4);
    wav += "WAVEfmt ";
    appendNumber(wav, 16, 4);
    appendNumber(wav, 1, 2); // plain samples
    appendNumber(wav, 1, 2); // one channel
    appendNumber(wav, kSoundRate, 4);
    appendNumber(wav, 2 * kSoundRate, 4);
    appendNumber(wav, 2, 2);
    appendNumber(wav, 16, 2);
    wav += "data";
    appendNumber(wav, bytes, 4);
    for (const std::int16_t s : sound.samples)
        appendNumber(wav, static_cast<std::uint16_t>(s), 2);
    return saveText(file, wav);
}

double loudnessOf(const std::vector<std::int16_t>& samples)
{
    if (samples.empty())
        return 0;
    double sum = 0;
    for (const double s : samples)
        sum += s * s;
    return std::sqrt(sum / static_cast<double>(samples.size())) / 32768;
}

} // namespace kestrel::media
