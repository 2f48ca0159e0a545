#include "media/film_writer.h"

#include "media/ffmpeg.h"

#include <cmath>
#include <filesystem>

namespace kestrel::media {

namespace {

struct CodecRow {
    const char* name;
    const char* encoder;
    AVPixelFormat format;
};

constexpr CodecRow kCodecs[] = {
    {"h264", "libx264", AV_PIX_FMT_YUV420P},   {"hevc", "libx265", AV_PIX_FMT_YUV420P}, {"vp8", "libvpx", AV_PIX_FMT_YUV420P},
    {"vp9", "libvpx-vp9", AV_PIX_FMT_YUV420P}, {"mjpeg", "mjpeg", AV_PIX_FMT_YUVJ420P},
};

const CodecRow* findCodec(const std::string& name)
{
    for (const auto& row : kCodecs)
        if (name == row.name)
            return &row;
    return nullptr;
}

} // namespace

class FilmWriter::Impl {
public:
    Impl(std::string name, const FilmWriterSettings& s) : file(std::move(name)), settings(s) {}

    ~Impl()
    {
        codec.reset();
        if (format) {
            if (format->pb)
                avio_closep(&format->pb);
            avformat_free_context(format);
        }
        if (!finished) {
            std::error_code ec;
            std::filesystem::remove(part(), ec);
        }
    }

    /// Beside the file, with the same ending, so that the container can be told from it.
    std::string part() const
    {
        const std::filesystem::path p(file);
        return (p.parent_path() / (".part-" + p.filename().string())).string();
    }

    Error error(ErrorCode code, const std::string& message) const { return {code, message, file, ""}; }
    tl::unexpected<Error> cannotWrite(int e) const
    {
        return tl::unexpected(error(ErrorCode::CannotWrite,
                                    "The film cannot be written (" + words(e) + "). Check that there is room and permission."));
    }

    Expected<void> open()
    {
        av_log_set_level(AV_LOG_QUIET);
        const CodecRow* row = findCodec(settings.codec);
        if (!row)
            return tl::unexpected(error(ErrorCode::BadArgument, "There is no codec called \"" + settings.codec + "\"."));
        if (settings.size.width <= 0 || settings.size.height <= 0 || settings.size.width % 2 || settings.size.height % 2)
            return tl::unexpected(error(ErrorCode::BadArgument, "Width and height must be even and above zero."));
        if (const int e = avformat_alloc_output_context2(&format, nullptr, nullptr, part().c_str()); e < 0)
            return tl::unexpected(error(ErrorCode::BadArgument, "Films of this ending cannot be written; use .mp4 or .webm."));
        const AVCodec* encoder = avcodec_find_encoder_by_name(row->encoder);
        if (!encoder)
            return tl::unexpected(
                error(ErrorCode::BadArgument, std::string("The encoder ") + row->encoder + " is not installed."));
        stream = avformat_new_stream(format, nullptr);
        if (auto done = openEncoder(*encoder, *row); !done)
            return done;
        if (const int e = avio_open(&format->pb, ("file:" + part()).c_str(), AVIO_FLAG_WRITE); e < 0)
            return cannotWrite(e);
        if (const int e = avformat_write_header(format, nullptr); e < 0)
            return cannotWrite(e);
        return {};
    }

    Expected<void> openEncoder(const AVCodec& encoder, const CodecRow& row)
    {
        codec.reset(avcodec_alloc_context3(&encoder));
        codec->width = settings.size.width;
        codec->height = settings.size.height;
        codec->pix_fmt = row.format;
        codec->framerate = av_d2q(settings.frameRate, 100000);
        const bool needsFrameTicks = encoder.id == AV_CODEC_ID_MJPEG; // AVI counts pictures
        codec->time_base = needsFrameTicks ? av_inv_q(codec->framerate) : AVRational{1, 90000};
        codec->gop_size = settings.keyEvery;
        codec->max_b_frames = encoder.id == AV_CODEC_ID_H264 || encoder.id == AV_CODEC_ID_HEVC ? settings.bFrames : 0;
        codec->colorspace = settings.size.height >= 720 ? AVCOL_SPC_BT709 : AVCOL_SPC_SMPTE170M;
        codec->color_range = row.format == AV_PIX_FMT_YUVJ420P ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
        if (format->oformat->flags & AVFMT_GLOBALHEADER)
            codec->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
        setQuality(encoder.id);
        if (const int e = avcodec_open2(codec.get(), &encoder, nullptr); e < 0)
            return cannotWrite(e);
        avcodec_parameters_from_context(stream->codecpar, codec.get());
        stream->time_base = codec->time_base;
        stream->avg_frame_rate = codec->framerate;
        if (settings.rotation != 0) {
            auto* matrix = reinterpret_cast<std::int32_t*>(
                av_stream_new_side_data(stream, AV_PKT_DATA_DISPLAYMATRIX, 9 * sizeof(std::int32_t)));
            av_display_rotation_set(matrix, settings.rotation); // clockwise here, counter-clockwise in av_display_rotation_get
        }
        return {};
    }

    void setQuality(AVCodecID id)
    {
        if (id == AV_CODEC_ID_MJPEG) {
            codec->flags |= AV_CODEC_FLAG_QSCALE;
            codec->global_quality = 4 * FF_QP2LAMBDA;
            return;
        }
        av_opt_set_int(codec->priv_data, "crf", settings.quality, 0);
        if (id == AV_CODEC_ID_H264 || id == AV_CODEC_ID_HEVC)
            av_opt_set(codec->priv_data, "preset", "veryfast", 0);
        if (id == AV_CODEC_ID_HEVC)
            av_opt_set(codec->priv_data, "x265-params", "log-level=none", 0);
        if (id == AV_CODEC_ID_VP8 || id == AV_CODEC_ID_VP9) {
            av_opt_set(codec->priv_data, "deadline", "realtime", 0);
            av_opt_set_int(codec->priv_data, "cpu-used", 6, 0);
            codec->bit_rate = 4'000'000;
        }
    }

    Expected<void> write(const std::uint8_t* bgra, int stride, MediaTime shown)
    {
        FramePtr frame(av_frame_alloc());
        frame->format = codec->pix_fmt;
        frame->width = codec->width;
        frame->height = codec->height;
        frame->color_range = codec->color_range;
        frame->colorspace = codec->colorspace;
        if (const int e = av_frame_get_buffer(frame.get(), 0); e < 0)
            return cannotWrite(e);
        sws.reset(sws_getCachedContext(sws.release(), codec->width, codec->height, AV_PIX_FMT_BGRA, codec->width, codec->height,
                                       codec->pix_fmt, SWS_BILINEAR, nullptr, nullptr, nullptr));
        const int* table = coefficients(codec->colorspace, codec->height);
        sws_setColorspaceDetails(sws.get(), table, 1, table, codec->color_range == AVCOL_RANGE_JPEG, 0, 1 << 16, 1 << 16);
        const std::uint8_t* planes[4] = {bgra, nullptr, nullptr, nullptr};
        const int strides[4] = {stride, 0, 0, 0};
        sws_scale(sws.get(), planes, strides, 0, codec->height, frame->data, frame->linesize);
        frame->pts = av_rescale_q(shown.nanoseconds + settings.start.nanoseconds, AVRational{1, 1'000'000'000}, codec->time_base);
        if (frame->pts <= lastPts)
            return tl::unexpected(error(ErrorCode::BadArgument, "A picture is not later than the one before it."));
        lastPts = frame->pts;
        return encode(frame.get());
    }

    /// \param frame  null: flush
    Expected<void> encode(const AVFrame* frame)
    {
        if (const int e = avcodec_send_frame(codec.get(), frame); e < 0 && e != AVERROR_EOF)
            return cannotWrite(e);
        const PacketPtr packet(av_packet_alloc());
        while (avcodec_receive_packet(codec.get(), packet.get()) == 0) {
            av_packet_rescale_ts(packet.get(), codec->time_base, stream->time_base);
            packet->stream_index = stream->index;
            if (const int e = av_interleaved_write_frame(format, packet.get()); e < 0)
                return cannotWrite(e);
        }
        return {};
    }

    Expected<void> finish()
    {
        if (auto flushed = encode(nullptr); !flushed)
            return flushed;
        if (const int e = av_write_trailer(format); e < 0)
            return cannotWrite(e);
        if (const int e = avio_closep(&format->pb); e < 0)
            return cannotWrite(e);
        std::error_code ec;
        std::filesystem::rename(part(), file, ec);
        if (ec)
            return tl::unexpected(error(ErrorCode::CannotWrite, "The finished film cannot be put in place."));
        finished = true;
        return {};
    }

    std::string file;
    FilmWriterSettings settings;
    AVFormatContext* format = nullptr;
    AVStream* stream = nullptr;
    CodecPtr codec;
    SwsPtr sws;
    std::int64_t lastPts = INT64_MIN;
    bool finished = false;
};

Expected<FilmWriter> FilmWriter::open(const std::string& file, const FilmWriterSettings& settings)
{
    auto impl = std::make_unique<Impl>(file, settings);
    if (auto done = impl->open(); !done)
        return tl::unexpected(done.error());
    return FilmWriter(std::move(impl));
}

FilmWriter::FilmWriter(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
FilmWriter::FilmWriter(FilmWriter&&) noexcept = default;
FilmWriter& FilmWriter::operator=(FilmWriter&&) noexcept = default;
FilmWriter::~FilmWriter() = default;

Expected<void> FilmWriter::write(const std::uint8_t* bgra, int stride, MediaTime shown)
{
    return m_impl->write(bgra, stride, shown);
}
Expected<void> FilmWriter::finish()
{
    return m_impl->finish();
}

} // namespace kestrel::media
