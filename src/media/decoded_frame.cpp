#include "media/decoded_frame.h"

#include "media/small_frame.h"

#include <libyuv/scale.h>

namespace kestrel::media {

namespace {

constexpr int kSmallestHalved = 32; // pixels; below that there is nothing to save

bool isPlanar420(int format)
{
    return format == AV_PIX_FMT_YUV420P || format == AV_PIX_FMT_YUVJ420P;
}

} // namespace

DecodedFrame takeOver(AVFrame& frame)
{
    FramePtr own(av_frame_alloc());
    av_frame_move_ref(own.get(), &frame);
    return keepFrame(std::move(own), false);
}

DecodedFrame halved(const DecodedFrame& full)
{
    if (full.isEmpty() || full.isSmall)
        return {};
    const AVFrame& from = *full.planes;
    if (from.width < kSmallestHalved || from.height < kSmallestHalved)
        return {};
    FramePtr to = makeSmallFrame(from, {(from.width + 1) / 2, (from.height + 1) / 2});
    if (!to)
        return {};
    if (isPlanar420(from.format)) {
        if (libyuv::I420Scale(from.data[0], from.linesize[0], from.data[1], from.linesize[1], from.data[2], from.linesize[2],
                              from.width, from.height, to->data[0], to->linesize[0], to->data[1], to->linesize[1], to->data[2],
                              to->linesize[2], to->width, to->height, libyuv::kFilterBox) != 0)
            return {};
    } else {
        const SwsPtr sws(sws_getContext(from.width, from.height, static_cast<AVPixelFormat>(from.format), to->width, to->height,
                                        AV_PIX_FMT_YUV420P, SWS_FAST_BILINEAR, nullptr, nullptr, nullptr));
        if (!sws)
            return {};
        const int* table = coefficients(from.colorspace, from.height);
        const bool fullRange = to->color_range == AVCOL_RANGE_JPEG;
        sws_setColorspaceDetails(sws.get(), table, fullRange, table, fullRange, 0, 1 << 16, 1 << 16);
        sws_scale(sws.get(), from.data, from.linesize, 0, from.height, to->data, to->linesize);
    }
    return keepFrame(std::move(to), true);
}

} // namespace kestrel::media
