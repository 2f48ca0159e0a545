#include "media/caption_encoder.h"

#include <algorithm>
#include <array>
#include <cstring>

namespace kestrel::media {

namespace {

/// FFmpeg's caption encoders are given their text in this form; nothing of it is seen.
const char* const kHeader =
    "[Script Info]\nScriptType: v4.00+\n\n[V4+ Styles]\nFormat: Name, Fontname, Fontsize, PrimaryColour, "
    "SecondaryColour, OutlineColour, BackColour, Bold, Italic, Underline, StrikeOut, ScaleX, ScaleY, "
    "Spacing, Angle, BorderStyle, Outline, Shadow, Alignment, MarginL, MarginR, MarginV, Encoding\n"
    "Style: Default,Sans,16,&Hffffff,&Hffffff,&H0,&H0,0,0,0,0,100,100,0,0,1,1,0,2,10,10,10,0\n\n[Events]\n"
    "Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text\n";
constexpr int kMostBytes = 64 * 1024;

/// What would be read as markup stands for itself.
std::string plain(const std::string& text, bool isWebVtt)
{
    std::string out;
    for (const char c : text) {
        if (isWebVtt && (c == '<' || c == '&'))
            out += c == '<' ? "&lt;" : "&amp;";
        else
            out += c == '\n' || c == '\r' ? ' ' : c == '{' ? '(' : c == '}' ? ')' : c == '\\' ? '/' : c;
    }
    return out;
}

} // namespace

Expected<void> CaptionEncoder::open(const std::string& codec)
{
    const AVCodec* encoder = avcodec_find_encoder(codec == "webvtt" ? AV_CODEC_ID_WEBVTT : AV_CODEC_ID_MOV_TEXT);
    if (!encoder)
        return fail(ErrorCode::BadArgument, "Captions as a track cannot be written here; burn them in, or leave them out.");
    m_isWebVtt = codec == "webvtt";
    CodecPtr opened(avcodec_alloc_context3(encoder));
    opened->time_base = {1, 1000};
    opened->subtitle_header_size = static_cast<int>(std::strlen(kHeader));
    opened->subtitle_header = static_cast<std::uint8_t*>(av_mallocz(std::strlen(kHeader) + 1));
    std::memcpy(opened->subtitle_header, kHeader, std::strlen(kHeader));
    if (const int e = avcodec_open2(opened.get(), encoder, nullptr); e < 0)
        return cannotWrite(e);
    m_codec = std::move(opened);
    return {};
}

Expected<void> CaptionEncoder::encode(const Caption& caption, const PictureEncoder::Sink& sink)
{
    std::string ass = std::to_string(m_count++) + ",0,Default,,0,0,0,," + plain(caption.text, m_isWebVtt);
    AVSubtitleRect rect{};
    rect.type = SUBTITLE_ASS;
    rect.ass = ass.data();
    std::array<AVSubtitleRect*, 1> rects{&rect};
    const std::int64_t from = caption.from.nanoseconds / 1'000'000, to = std::max(from + 1, caption.to.nanoseconds / 1'000'000);
    AVSubtitle subtitle{};
    subtitle.num_rects = 1;
    subtitle.rects = rects.data();
    subtitle.pts = from * 1000;
    subtitle.end_display_time = static_cast<std::uint32_t>(to - from);
    std::vector<std::uint8_t> coded(kMostBytes);
    const int size = avcodec_encode_subtitle(m_codec.get(), coded.data(), kMostBytes, &subtitle);
    if (size < 0)
        return cannotWrite(size);
    const PacketPtr packet(av_packet_alloc());
    if (const int e = av_new_packet(packet.get(), size); e < 0)
        return cannotWrite(e);
    std::copy(coded.begin(), coded.begin() + size, packet->data);
    packet->pts = packet->dts = from;
    packet->duration = to - from;
    return sink(*packet);
}

} // namespace kestrel::media
