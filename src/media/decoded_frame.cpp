#include "media/decoded_frame.h"

#include "media/ffmpeg.h"

#include <libyuv/scale.h>

namespace kestrel::media {

namespace {

constexpr int kSmallestHalved = 32; // pixels; below that there is nothing to save

std::shared_ptr<const AVFrame> shared(FramePtr frame)
{
    return {frame.release(), [](const AVFrame* f) {
                auto* own = const_cast<AVFrame*>(f);
                av_frame_free(&own);
            }};
}

std::size_t bytesHeld(const AVFrame& frame)
{
    std::size_t bytes = 0;
    for (const auto* buffer : frame.buf)
        if (buffer)
            bytes += buffer->size;
    return bytes;
}

bool isPlanar420(int format)
{
    return format == AV_PIX_FMT_YUV420P || format == AV_PIX_FMT_YUVJ420P;
}

} // namespace

DecodedFrame takeOver(AVFrame& frame)
{
    FramePtr own(av_frame_alloc());
    av_frame_move_ref(own.get(), &frame);
    const std::size_t bytes = bytesHeld(*own);
    return {shared(std::move(own)), false, bytes};
}

DecodedFrame halved(const DecodedFrame& full)
{
    if (full.isEmpty() || full.isHalf)
        return {};
    const AVFrame& from = *full.planes;
    if (from.width < kSmallestHalved || from.height < kSmallestHalved)
        return {};
    FramePtr to(av_frame_alloc());
    const bool fullRange = from.color_range == AVCOL_RANGE_JPEG || from.format == AV_PIX_FMT_YUVJ420P;
    to->format = AV_PIX_FMT_YUV420P;
    to->width = (from.width + 1) / 2;
    to->height = (from.height + 1) / 2;
    to->colorspace = spaceOf(from.colorspace, from.height); // the height no longer tells
    to->color_range = fullRange ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
    if (av_frame_get_buffer(to.get(), 0) < 0)
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
        sws_setColorspaceDetails(sws.get(), table, fullRange, table, fullRange, 0, 1 << 16, 1 << 16);
        sws_scale(sws.get(), from.data, from.linesize, 0, from.height, to->data, to->linesize);
    }
    const std::size_t bytes = bytesHeld(*to);
    return {shared(std::move(to)), true, bytes};
}

} // namespace kestrel::media
