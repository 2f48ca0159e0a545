#include "media/film_file.h"

#include "media/picture_encoder.h"

namespace kestrel::media {

FilmFile::~FilmFile()
{
    if (m_format) {
        if (m_format->pb)
            avio_closep(&m_format->pb);
        avformat_free_context(m_format);
    }
}

tl::unexpected<Error> FilmFile::named(tl::unexpected<Error> e) const
{
    e.value().file = m_file;
    return e;
}

Expected<void> FilmFile::choose()
{
    av_log_set_level(AV_LOG_QUIET);
    if (avformat_alloc_output_context2(&m_format, nullptr, nullptr, m_file.c_str()) < 0)
        return fail(ErrorCode::BadArgument, "Films of this ending cannot be written; use .mp4 or .webm.", m_file);
    auto part = PartFile::begin(m_file);
    if (!part)
        return tl::unexpected(part.error());
    m_part.emplace(std::move(*part));
    return {};
}

int FilmFile::addStream(const AVCodecContext& codec, int rotation)
{
    AVStream* const stream = avformat_new_stream(m_format, nullptr);
    avcodec_parameters_from_context(stream->codecpar, &codec);
    m_codecTicks.push_back(codec.time_base);
    stream->time_base = codec.time_base;
    stream->avg_frame_rate = codec.framerate;
    if (rotation != 0) {
        auto* matrix =
            reinterpret_cast<std::int32_t*>(av_stream_new_side_data(stream, AV_PKT_DATA_DISPLAYMATRIX, 9 * sizeof(std::int32_t)));
        av_display_rotation_set(matrix, rotation); // clockwise here, counter-clockwise in av_display_rotation_get
    }
    return stream->index;
}

Expected<void> FilmFile::begin()
{
    if (const int e = avio_open(&m_format->pb, ("file:" + m_part->path()).c_str(), AVIO_FLAG_WRITE); e < 0)
        return named(cannotWrite(e));
    if (const int e = avformat_write_header(m_format, nullptr); e < 0)
        return named(cannotWrite(e));
    return {};
}

Expected<void> FilmFile::write(AVPacket& packet, int stream)
{
    const auto index = static_cast<std::size_t>(stream);
    av_packet_rescale_ts(&packet, m_codecTicks[index], m_format->streams[index]->time_base);
    packet.stream_index = stream;
    if (const int e = av_interleaved_write_frame(m_format, &packet); e < 0)
        return named(cannotWrite(e));
    return {};
}

Expected<void> FilmFile::finish()
{
    if (const int e = av_write_trailer(m_format); e < 0)
        return named(cannotWrite(e));
    if (const int e = avio_closep(&m_format->pb); e < 0)
        return named(cannotWrite(e));
    return m_part->finish();
}

} // namespace kestrel::media
