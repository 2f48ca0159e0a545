#include "media/picture_converter.h"

#include <libyuv/convert_argb.h>
#include <libyuv/rotate_argb.h>
#include <libyuv/scale.h>

#include <algorithm>
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

struct Planes {
    const std::uint8_t* data[3];
    int stride[3];
    PixelSize size;
};

/// \param into  keeps the new planes
Planes scaled(const Planes& from, PixelSize size, std::vector<std::uint8_t>& into)
{
    const PixelSize chroma{(size.width + 1) / 2, (size.height + 1) / 2};
    const std::size_t luma = static_cast<std::size_t>(size.width) * size.height;
    const std::size_t each = static_cast<std::size_t>(chroma.width) * chroma.height;
    into.resize(luma + 2 * each);
    std::uint8_t* const y = into.data();
    libyuv::ScalePlane(from.data[0], from.stride[0], from.size.width, from.size.height, y, size.width, size.width, size.height,
                       libyuv::kFilterBox);
    // the eye does not see whether colour is averaged over whole boxes or over their rows only, which is half the work
    for (const int plane : {1, 2})
        libyuv::ScalePlane(from.data[plane], from.stride[plane], (from.size.width + 1) / 2, (from.size.height + 1) / 2,
                           y + luma + (plane == 2 ? each : 0), chroma.width, chroma.width, chroma.height, libyuv::kFilterLinear);
    return {{y, y + luma, y + luma + each}, {size.width, chroma.width, chroma.width}, size};
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
    const PixelSize size = fitted(m_upright, largest);
    const PixelSize lying = m_rotation % 180 == 0 ? size : swapped(size);
    const auto bytes = 4 * static_cast<std::size_t>(size.width) * size.height + 64; // the scalers write past row ends
    std::shared_ptr<std::uint8_t[]> bgra(new std::uint8_t[bytes]);
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

/// Scales the planes and then converts only what is shown. False: not a format for this way.
bool PictureConverter::convertFast(const AVFrame& frame, PixelSize lying, std::uint8_t* bgra)
{
    if (frame.format != AV_PIX_FMT_YUV420P && frame.format != AV_PIX_FMT_YUVJ420P)
        return false;
    Planes planes{{frame.data[0], frame.data[1], frame.data[2]},
                  {frame.linesize[0], frame.linesize[1], frame.linesize[2]},
                  {frame.width, frame.height}};
    if (!(planes.size == lying))
        planes = scaled(planes, lying, m_scaled);
    return libyuv::I420ToARGBMatrix(planes.data[0], planes.stride[0], planes.data[1], planes.stride[1], planes.data[2],
                                    planes.stride[2], bgra, 4 * lying.width, &matrixOf(frame), lying.width, lying.height) == 0;
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
