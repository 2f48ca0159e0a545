#pragma once

// The FFmpeg libraries behind types that clean up after themselves. Only the media module includes this.

extern "C" {
#include <libavcodec/avcodec.h>
#include <libavformat/avformat.h>
#include <libavutil/display.h>
#include <libavutil/imgutils.h>
#include <libavutil/opt.h>
#include <libavutil/pixdesc.h>
#include <libswscale/swscale.h>
}

#include <memory>
#include <string>

namespace kestrel::media {

struct FFmpegDelete {
    void operator()(AVFormatContext* p) const { avformat_close_input(&p); }
    void operator()(AVCodecContext* p) const { avcodec_free_context(&p); }
    void operator()(AVFrame* p) const { av_frame_free(&p); }
    void operator()(AVPacket* p) const { av_packet_free(&p); }
    void operator()(SwsContext* p) const { sws_freeContext(p); }
};
using FormatPtr = std::unique_ptr<AVFormatContext, FFmpegDelete>;
using CodecPtr = std::unique_ptr<AVCodecContext, FFmpegDelete>;
using FramePtr = std::unique_ptr<AVFrame, FFmpegDelete>;
using PacketPtr = std::unique_ptr<AVPacket, FFmpegDelete>;
using SwsPtr = std::unique_ptr<SwsContext, FFmpegDelete>;

/// The library's own words for an error, without a full stop.
inline std::string words(int error)
{
    char text[AV_ERROR_MAX_STRING_SIZE] = {};
    av_strerror(error, text, sizeof text);
    return text;
}

/// The colour space a film is in: what it says, else BT.709 for high definition and BT.601 below. Reader and writer must
/// agree or colours shift.
inline AVColorSpace spaceOf(AVColorSpace said, int height)
{
    if (said == AVCOL_SPC_BT709 || said == AVCOL_SPC_BT2020_NCL)
        return said;
    const bool isUnsaid = said == AVCOL_SPC_UNSPECIFIED || said == AVCOL_SPC_RGB;
    return isUnsaid && height >= 720 ? AVCOL_SPC_BT709 : AVCOL_SPC_SMPTE170M;
}

/// The same for the scaler.
inline const int* coefficients(AVColorSpace said, int height)
{
    const AVColorSpace space = spaceOf(said, height);
    return sws_getCoefficients(space == AVCOL_SPC_BT709        ? SWS_CS_ITU709
                               : space == AVCOL_SPC_BT2020_NCL ? SWS_CS_BT2020
                                                               : SWS_CS_ITU601);
}

} // namespace kestrel::media
