#include "media/packet_source.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdlib>

namespace kestrel::media {

namespace {

/// What holds pictures itself. Playlists, scripts and descriptions of streams lead to other files or to the network, whatever the
/// ending of their names says, and are no films.
constexpr const char* kFilmFormats = "mov,matroska,avi,mpegts,mpeg,mpegvideo,flv,asf,ogg,mxf,nut,dv,h264,hevc,m4v,mjpeg,"
                                     "ivf,gif,apng,yuv4mpegpipe,rm,wtv,png_pipe,jpeg_pipe,webp_pipe,bmp_pipe,tiff_pipe,image2";
constexpr auto kProbeWithin = std::chrono::seconds(30); // a drive may have to wake up first

int uprightRotation(const AVStream& stream)
{
    const auto* matrix = av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr);
    if (!matrix)
        return 0;
    const double counterClockwise = av_display_rotation_get(reinterpret_cast<const std::int32_t*>(matrix));
    if (!std::isfinite(counterClockwise))
        return 0;
    const int quarter = static_cast<int>(std::lround(-counterClockwise / 90.0)) % 4;
    return 90 * ((quarter + 4) % 4);
}

/// Telephones that film slow motion note the true rate beside the film.
double noteOfCaptureRate(const AVFormatContext& format, const AVStream& stream)
{
    for (const AVDictionary* notes :
         {static_cast<const AVDictionary*>(format.metadata), static_cast<const AVDictionary*>(stream.metadata)})
        for (const char* key : {"com.android.capture.fps", "capture_fps", "capture-rate"})
            if (const auto* entry = av_dict_get(notes, key, nullptr, 0)) {
                const double rate = std::strtod(entry->value, nullptr);
                if (std::isfinite(rate) && rate > 0 && rate < 100'000)
                    return rate;
            }
    return 0;
}

class ContainerSource : public PacketSource {
public:
    ContainerSource(std::string file, std::stop_token stop) : m_file(std::move(file)), m_stop(std::move(stop)) {}

    std::optional<Error> open()
    {
        av_log_set_level(AV_LOG_QUIET); // what matters is returned, with the file's name
        AVFormatContext* raw = avformat_alloc_context();
        raw->interrupt_callback = {[](void* self) { return static_cast<ContainerSource*>(self)->mustEnd() ? 1 : 0; }, this};
        AVDictionary* options = nullptr;
        av_dict_set(&options, "format_whitelist", kFilmFormats, 0);
        av_dict_set(&options, "protocol_whitelist", "file", 0);
        av_dict_set(&options, "pattern_type", "none", 0); // a single picture's name is no pattern of others
        m_probeEnd = std::chrono::steady_clock::now() + kProbeWithin;
        // "file:" keeps a name such as "tcp:x" from being taken for an address
        const int opened = avformat_open_input(&raw, ("file:" + m_file).c_str(), nullptr, &options);
        av_dict_free(&options);
        m_format.reset(raw);
        if (const auto ended = whyEnded())
            return ended;
        if (opened == AVERROR(EACCES) || opened == AVERROR(EPERM))
            return Error{ErrorCode::CannotOpen, "You have no permission to read this file.", m_file, ""};
        if (opened < 0)
            return Error{ErrorCode::NotAFilm,
                         "This is not a film, or its head is missing (" + words(opened) + "). Copy it again from the camera.",
                         m_file, ""};
        const int understood = avformat_find_stream_info(m_format.get(), nullptr);
        if (const auto ended = whyEnded())
            return ended;
        m_probeEnd.reset();
        if (understood < 0)
            return Error{ErrorCode::NotAFilm, "The file's streams cannot be understood. Copy it again from the camera.", m_file,
                         ""};
        m_stream = av_find_best_stream(m_format.get(), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
        if (m_stream < 0 || (stream().disposition & AV_DISPOSITION_ATTACHED_PIC))
            return Error{ErrorCode::NotAFilm, "There are no moving pictures in this file, only sound or text.", m_file, ""};
        for (unsigned i = 0; i < m_format->nb_streams; ++i)
            m_format->streams[i]->discard = static_cast<int>(i) == m_stream ? AVDISCARD_DEFAULT : AVDISCARD_ALL;
        return std::nullopt;
    }

    const AVCodecParameters& parameters() const override { return *stream().codecpar; }

    StreamFacts facts() const override
    {
        AVStream& s = stream();
        StreamFacts facts;
        facts.timeBase = s.time_base;
        facts.pixelAspect = av_guess_sample_aspect_ratio(m_format.get(), &s, nullptr);
        facts.guessedRate = av_guess_frame_rate(m_format.get(), &s, nullptr);
        facts.rotation = uprightRotation(s);
        if (!(s.disposition & AV_DISPOSITION_TIMED_THUMBNAILS))
            facts.declaredFrames = s.nb_frames;
        facts.declaredSeconds = s.duration > 0           ? static_cast<double>(s.duration) * av_q2d(s.time_base)
                                : m_format->duration > 0 ? static_cast<double>(m_format->duration) / AV_TIME_BASE
                                                         : 0;
        facts.declaredCaptureRate = noteOfCaptureRate(*m_format, s);
        if (s.start_time != AV_NOPTS_VALUE)
            facts.start = s.start_time;
        return facts;
    }

    bool read(AVPacket& packet) override
    {
        for (;;) {
            av_packet_unref(&packet);
            if (av_read_frame(m_format.get(), &packet) < 0)
                return false;
            if (packet.stream_index == m_stream)
                return true;
        }
    }

    bool seek(std::int64_t ticks) override { return av_seek_frame(m_format.get(), m_stream, ticks, AVSEEK_FLAG_BACKWARD) >= 0; }

    /// Opens the file again: some demuxers cannot seek at all, and some land behind the first group.
    bool rewind() override { return !open(); }

    double progress() const override
    {
        const std::int64_t size = m_format->pb ? avio_size(m_format->pb) : 0;
        return size > 0 ? std::clamp(static_cast<double>(avio_tell(m_format->pb)) / static_cast<double>(size), 0.0, 1.0) : 0;
    }

private:
    AVStream& stream() const { return *m_format->streams[m_stream]; }
    bool isLate() const { return m_probeEnd && std::chrono::steady_clock::now() > *m_probeEnd; }
    bool mustEnd() const { return m_stop.stop_requested() || isLate(); }
    std::optional<Error> whyEnded() const
    {
        if (m_stop.stop_requested())
            return Error{ErrorCode::Cancelled, "Opening was cancelled.", m_file, ""};
        if (isLate())
            return Error{ErrorCode::CannotOpen,
                         "The file could not be looked at within half a minute. Copy it to this computer and try again.", m_file,
                         ""};
        return std::nullopt;
    }

    std::string m_file;
    std::stop_token m_stop;
    std::optional<std::chrono::steady_clock::time_point> m_probeEnd; // while it is being opened
    FormatPtr m_format;
    int m_stream = -1;
};

} // namespace

Expected<PacketSourcePtr> openContainer(const std::string& file, std::stop_token stop)
{
    auto source = std::make_unique<ContainerSource>(file, std::move(stop));
    if (auto e = source->open())
        return tl::unexpected(*e);
    return source;
}

} // namespace kestrel::media
