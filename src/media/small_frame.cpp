#include "media/small_frame.h"

#include <sys/mman.h>

namespace kestrel::media {

namespace {

/// Memory that goes back to the system with its last user. On the heaps of the two threads that make small pictures it
/// would pile up: what one gave back the other would not find, beyond any ceiling.
AVBufferRef* pagesOfTheirOwn(std::size_t bytes)
{
    void* const pages = mmap(nullptr, bytes, PROT_READ | PROT_WRITE, MAP_PRIVATE | MAP_ANONYMOUS, -1, 0);
    if (pages == MAP_FAILED)
        return nullptr;
    const auto unmap = [](void* length, std::uint8_t* data) { munmap(data, reinterpret_cast<std::size_t>(length)); };
    AVBufferRef* const buffer =
        av_buffer_create(static_cast<std::uint8_t*>(pages), bytes, unmap, reinterpret_cast<void*>(bytes), 0);
    if (!buffer)
        munmap(pages, bytes);
    return buffer;
}

std::size_t bytesHeld(const AVFrame& frame)
{
    std::size_t bytes = 0;
    for (const auto* buffer : frame.buf)
        if (buffer)
            bytes += buffer->size;
    return bytes;
}

} // namespace

FramePtr makeSmallFrame(const AVFrame& like, PixelSize size)
{
    FramePtr room(av_frame_alloc());
    const bool fullRange = like.color_range == AVCOL_RANGE_JPEG || like.format == AV_PIX_FMT_YUVJ420P;
    room->format = AV_PIX_FMT_YUV420P;
    room->width = size.width;
    room->height = size.height;
    room->colorspace = spaceOf(like.colorspace, like.height); // the height no longer tells
    room->color_range = fullRange ? AVCOL_RANGE_JPEG : AVCOL_RANGE_MPEG;
    constexpr int kAlign = 64; // of rows; the scalers' widest instructions also reach past the last
    const int bytes = av_image_get_buffer_size(AV_PIX_FMT_YUV420P, size.width, size.height, kAlign);
    room->buf[0] = bytes > 0 ? pagesOfTheirOwn(static_cast<std::size_t>(bytes) + kAlign) : nullptr;
    if (!room->buf[0])
        return nullptr;
    av_image_fill_arrays(room->data, room->linesize, room->buf[0]->data, AV_PIX_FMT_YUV420P, size.width, size.height, kAlign);
    return room;
}

DecodedFrame keepFrame(FramePtr frame, bool isSmall)
{
    const std::size_t bytes = bytesHeld(*frame);
    return {{frame.release(),
             [](const AVFrame* f) {
                 auto* own = const_cast<AVFrame*>(f);
                 av_frame_free(&own);
             }},
            isSmall,
            bytes};
}

} // namespace kestrel::media
