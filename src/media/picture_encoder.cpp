#include "media/picture_encoder.h"

namespace kestrel::media {

namespace {

constexpr int kEven = 64; // bytes

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

tl::unexpected<Error> cannotWrite(int error)
{
    return fail(ErrorCode::CannotWrite,
                "The film cannot be written (" + words(error) + "). Check that there is room and permission.");
}

Expected<void> PictureEncoder::open(const EncoderSettings& s, bool globalHeader)
{
    const CodecRow* row = findCodec(s.codec);
    if (!row)
        return fail(ErrorCode::BadArgument, "There is no codec called \"" + s.codec + "\".");
    if (s.size.width <= 0 || s.size.height <= 0 || s.size.width % 2 || s.size.height % 2)
        return fail(ErrorCode::BadArgument, "Width and height must be even and above zero.");
    const AVCodec* encoder = avcodec_find_encoder_by_name(row->encoder);
    if (!encoder)
        return fail(ErrorCode::BadArgument, std::string("The encoder ") + row->encoder + " is not installed.");
    CodecPtr codec(avcodec_alloc_context3(encoder));
    codec->width = s.size.width;
    codec->height = s.size.height;
    codec->pix_fmt = row->format;
    codec->framerate = av_d2q(s.frameRate, 100000);
    const bool needsFrameTicks = encoder->id == AV_CODEC_ID_MJPEG; // AVI counts pictures
    codec->time_base = needsFrameTicks ? av_inv_q(codec->framerate) : AVRational{1, 90000};
    codec->gop_size = s.keyEvery;
    codec->max_b_frames = encoder->id == AV_CODEC_ID_H264 || encoder->id == AV_CODEC_ID_HEVC ? s.bFrames : 0;
    codec->colorspace = s.size.height >= 720 ? AVCOL_SPC_BT709 : AVCOL_SPC_SMPTE170M;
    codec->color_range = row->format == AV_PIX_FMT_YUVJ420P ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
    if (globalHeader)
        codec->flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
    m_codec = std::move(codec);
    setQuality(encoder->id, s);
    if (const int e = avcodec_open2(m_codec.get(), encoder, nullptr); e < 0)
        return cannotWrite(e);
    return {};
}

void PictureEncoder::setQuality(AVCodecID id, const EncoderSettings& s)
{
    if (id == AV_CODEC_ID_MJPEG) {
        m_codec->flags |= AV_CODEC_FLAG_QSCALE;
        m_codec->global_quality = 4 * FF_QP2LAMBDA;
        return;
    }
    av_opt_set_int(m_codec->priv_data, "crf", s.quality, 0);
    if (id == AV_CODEC_ID_H264 || id == AV_CODEC_ID_HEVC)
        av_opt_set(m_codec->priv_data, "preset", s.isLive ? "ultrafast" : "veryfast", 0);
    if (s.isLive)
        av_opt_set(m_codec->priv_data, "tune", "zerolatency", 0);
    if (id == AV_CODEC_ID_HEVC)
        av_opt_set(m_codec->priv_data, "x265-params", "log-level=none", 0);
    if (id == AV_CODEC_ID_VP8 || id == AV_CODEC_ID_VP9) {
        av_opt_set(m_codec->priv_data, "deadline", "realtime", 0);
        av_opt_set_int(m_codec->priv_data, "cpu-used", 6, 0);
        m_codec->bit_rate = 4'000'000;
    }
}

Expected<void> PictureEncoder::encode(const std::uint8_t* bgra, int stride, MediaTime shown, const Sink& sink)
{
    FramePtr frame(av_frame_alloc());
    frame->format = m_codec->pix_fmt;
    frame->width = m_codec->width;
    frame->height = m_codec->height;
    frame->color_range = m_codec->color_range;
    frame->colorspace = m_codec->colorspace;
    if (const int e = av_frame_get_buffer(frame.get(), 0); e < 0)
        return cannotWrite(e);
    m_sws.reset(sws_getCachedContext(m_sws.release(), m_codec->width, m_codec->height, AV_PIX_FMT_BGRA, m_codec->width,
                                     m_codec->height, m_codec->pix_fmt, SWS_BILINEAR, nullptr, nullptr, nullptr));
    const int* table = coefficients(m_codec->colorspace, m_codec->height);
    sws_setColorspaceDetails(m_sws.get(), table, 1, table, m_codec->color_range == AVCOL_RANGE_JPEG, 0, 1 << 16, 1 << 16);
    // the scaler rounds differently where rows do not lie evenly: the same picture has to make the same film
    if (!m_even) {
        m_even.reset(av_frame_alloc());
        m_even->format = AV_PIX_FMT_BGRA;
        m_even->width = m_codec->width;
        m_even->height = m_codec->height;
        if (const int e = av_frame_get_buffer(m_even.get(), kEven); e < 0)
            return cannotWrite(e);
    }
    av_image_copy_plane(m_even->data[0], m_even->linesize[0], bgra, stride, 4 * m_codec->width, m_codec->height);
    sws_scale(m_sws.get(), m_even->data, m_even->linesize, 0, m_codec->height, frame->data, frame->linesize);
    frame->pts = av_rescale_q(shown.nanoseconds, AVRational{1, 1'000'000'000}, m_codec->time_base);
    if (frame->pts <= m_lastPts)
        return fail(ErrorCode::BadArgument, "A picture is not later than the one before it.");
    m_lastPts = frame->pts;
    return send(frame.get(), sink);
}

Expected<void> PictureEncoder::flush(const Sink& sink)
{
    return send(nullptr, sink);
}

Expected<void> PictureEncoder::send(const AVFrame* frame, const Sink& sink)
{
    if (const int e = avcodec_send_frame(m_codec.get(), frame); e < 0 && e != AVERROR_EOF)
        return cannotWrite(e);
    const PacketPtr packet(av_packet_alloc());
    while (avcodec_receive_packet(m_codec.get(), packet.get()) == 0)
        if (auto done = sink(*packet); !done)
            return done;
    return {};
}

} // namespace kestrel::media
