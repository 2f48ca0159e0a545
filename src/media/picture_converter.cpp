#include "media/picture_converter.h"

#include "media/small_frame.h"

#include <libyuv/convert_argb.h>
#include <libyuv/rotate_argb.h>
#include <libyuv/scale.h>

#include <algorithm>
#include <atomic>
#include <cmath>

namespace kestrel::media {

namespace {

PixelSize swapped(PixelSize s)
{
    return {s.height, s.width};
}

PixelSize fitted(PixelSize size, PixelSize largest)
{
    double factor = 1;
    if (largest.width > 0)
        factor = std::min(factor, static_cast<double>(largest.width) / size.width);
    if (largest.height > 0)
        factor = std::min(factor, static_cast<double>(largest.height) / size.height);
    return {std::max(1, static_cast<int>(std::lround(size.width * factor))),
            std::max(1, static_cast<int>(std::lround(size.height * factor)))};
}

bool isFullRange(const AVFrame& frame)
{
    return frame.color_range == AVCOL_RANGE_JPEG || frame.format == AV_PIX_FMT_YUVJ420P;
}

PixelSize chromaOf(PixelSize luma)
{
    return {(luma.width + 1) / 2, (luma.height + 1) / 2};
}

/// \param otherwise  libyuv's filter for what the shrinker cannot do
void scalePlane(const std::uint8_t* from, int stride, PixelSize size, std::uint8_t* to, int toStride, PixelSize toSize,
                PlaneShrinker& shrinker, libyuv::FilterMode otherwise)
{
    if (!PlaneShrinker::canShrink(size, toSize)) {
        libyuv::ScalePlane(from, stride, size.width, size.height, to, toStride, toSize.width, toSize.height, otherwise);
        return;
    }
    if (!shrinker.isFor(size, toSize))
        shrinker = PlaneShrinker(size, toSize);
    shrinker.shrink(from, stride, to, toStride);
}

const libyuv::YuvConstants& matrixOf(const AVFrame& frame)
{
    const bool full = isFullRange(frame);
    switch (spaceOf(frame.colorspace, frame.height)) {
    case AVCOL_SPC_BT709:
        return full ? libyuv::kYuvF709Constants : libyuv::kYuvH709Constants;
    case AVCOL_SPC_BT2020_NCL:
        return full ? libyuv::kYuvV2020Constants : libyuv::kYuv2020Constants;
    default:
        return full ? libyuv::kYuvJPEGConstants : libyuv::kYuvI601Constants;
    }
}

} // namespace

PictureConverter::PictureConverter(PixelSize stored, AVRational aspect, int rotation) : m_rotation(rotation)
{
    const double ratio = aspect.num > 0 && aspect.den > 0 ? std::clamp(av_q2d(aspect), 0.05, 20.0) : 1.0;
    // stretch the short direction, so that no detail is lost
    if (ratio > 1)
        stored.width = static_cast<int>(std::lround(stored.width * ratio));
    else if (ratio < 1)
        stored.height = static_cast<int>(std::lround(stored.height / ratio));
    m_upright = m_rotation % 180 == 0 ? stored : swapped(stored);
}

Expected<Picture> PictureConverter::convert(const AVFrame& frame, PixelSize largest)
{
    m_shrunk = {};
    const PixelSize size = fitted(m_upright, largest), lying = lyingSize(largest);
    const auto bytes = 4 * static_cast<std::size_t>(size.width) * size.height + 64; // the scalers write past row ends
    std::shared_ptr<std::uint8_t[]> bgra = memoryFor(bytes);
    if (m_rotation != 0)
        m_lying.resize(bytes);
    std::uint8_t* const target = m_rotation == 0 ? bgra.get() : m_lying.data();
    if (!convertFast(frame, lying, target) && !convertAny(frame, lying, target))
        return fail(ErrorCode::Damaged, "The picture's pixel format cannot be shown.");
    if (m_rotation != 0)
        libyuv::ARGBRotate(target, 4 * lying.width, bgra.get(), 4 * size.width, lying.width, lying.height,
                           static_cast<libyuv::RotationMode>(m_rotation));
    return Picture{size, 4 * size.width, std::move(bgra)};
}

/// That of the last picture once nobody holds it any more: memory fresh from the system costs more than the conversion.
std::shared_ptr<std::uint8_t[]> PictureConverter::memoryFor(std::size_t bytes)
{
    if (bytes == m_lastBytes && m_last.use_count() == 1) {
        std::atomic_thread_fence(std::memory_order_acquire); // another thread may have held it until now
        return m_last;
    }
    m_last.reset(new std::uint8_t[bytes]);
    m_lastBytes = bytes;
    return m_last;
}

PixelSize PictureConverter::lyingSize(PixelSize largest) const
{
    const PixelSize size = fitted(m_upright, largest);
    return m_rotation % 180 == 0 ? size : swapped(size);
}

bool PictureConverter::hasSizeFor(const AVFrame& frame, PixelSize largest) const
{
    return PixelSize{frame.width, frame.height} == lyingSize(largest);
}

std::optional<PictureConverter::Planes> PictureConverter::shrink(const AVFrame& frame, const Planes& from, PixelSize size)
{
    FramePtr to = makeSmallFrame(frame, size);
    if (!to)
        return std::nullopt;
    const PixelSize chroma = chromaOf(size), fromChroma = chromaOf(from.size);
    scalePlane(from.data[0], from.stride[0], from.size, to->data[0], to->linesize[0], size, m_luma, libyuv::kFilterBox);
    // the eye does not see whether colour is averaged over whole boxes or over their rows only, which is half the work
    for (const int plane : {1, 2})
        scalePlane(from.data[plane], from.stride[plane], fromChroma, to->data[plane], to->linesize[plane], chroma, m_chroma,
                   libyuv::kFilterLinear);
    m_shrunk = keepFrame(std::move(to), true);
    return planesOf(*m_shrunk.planes);
}

PictureConverter::Planes PictureConverter::planesOf(const AVFrame& frame)
{
    return {{frame.data[0], frame.data[1], frame.data[2]},
            {frame.linesize[0], frame.linesize[1], frame.linesize[2]},
            {frame.width, frame.height}};
}

/// Scales the planes and then converts only what is shown. False: not a format for this way.
bool PictureConverter::convertFast(const AVFrame& frame, PixelSize lying, std::uint8_t* bgra)
{
    if (frame.format != AV_PIX_FMT_YUV420P && frame.format != AV_PIX_FMT_YUVJ420P)
        return false;
    std::optional<Planes> from = planesOf(frame);
    if (!(from->size == lying))
        from = shrink(frame, *from, lying);
    if (!from)
        return false;
    return libyuv::I420ToARGBMatrix(from->data[0], from->stride[0], from->data[1], from->stride[1], from->data[2],
                                    from->stride[2], bgra, 4 * lying.width, &matrixOf(frame), lying.width, lying.height) == 0;
}

bool PictureConverter::convertAny(const AVFrame& frame, PixelSize lying, std::uint8_t* bgra)
{
    m_sws.reset(sws_getCachedContext(m_sws.release(), frame.width, frame.height, static_cast<AVPixelFormat>(frame.format),
                                     lying.width, lying.height, AV_PIX_FMT_BGRA, SWS_FAST_BILINEAR, nullptr, nullptr, nullptr));
    if (!m_sws)
        return false;
    const int* table = coefficients(frame.colorspace, frame.height);
    sws_setColorspaceDetails(m_sws.get(), table, isFullRange(frame), table, 1, 0, 1 << 16, 1 << 16);
    std::uint8_t* planes[4] = {bgra, nullptr, nullptr, nullptr};
    const int strides[4] = {4 * lying.width, 0, 0, 0};
    return sws_scale(m_sws.get(), frame.data, frame.linesize, 0, frame.height, planes, strides) == lying.height;
}

} // namespace kestrel::media
