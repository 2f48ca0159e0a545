#include "media/picture_converter.h"

#include <algorithm>
#include <cmath>
#include <cstring>

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

/// Clockwise by 90, 180 or 270 degrees.
std::vector<std::uint8_t> rotated(const std::vector<std::uint8_t>& from, PixelSize size, int degrees)
{
    std::vector<std::uint8_t> to(from.size());
    const PixelSize out = degrees == 180 ? size : swapped(size);
    for (int y = 0; y < size.height; ++y)
        for (int x = 0; x < size.width; ++x) {
            const int tx = degrees == 90 ? size.height - 1 - y : degrees == 180 ? size.width - 1 - x : y;
            const int ty = degrees == 90 ? x : degrees == 180 ? size.height - 1 - y : size.width - 1 - x;
            std::memcpy(&to[4 * (static_cast<std::size_t>(ty) * out.width + tx)],
                        &from[4 * (static_cast<std::size_t>(y) * size.width + x)], 4);
        }
    return to;
}

} // namespace

PixelSize PictureConverter::uprightSize(PixelSize stored, AVRational aspect) const
{
    const double ratio = aspect.num > 0 && aspect.den > 0 ? av_q2d(aspect) : 1.0;
    // stretch the short direction, so that no detail is lost
    if (ratio > 1)
        stored.width = static_cast<int>(std::lround(stored.width * ratio));
    else if (ratio < 1)
        stored.height = static_cast<int>(std::lround(stored.height / ratio));
    return m_rotation % 180 == 0 ? stored : swapped(stored);
}

Expected<Picture> PictureConverter::convert(const AVFrame& frame, PixelSize upright, PixelSize largest)
{
    const PixelSize size = fitted(upright, largest);
    const PixelSize lying = m_rotation % 180 == 0 ? size : swapped(size);
    const auto format = static_cast<AVPixelFormat>(frame.format);
    m_sws.reset(sws_getCachedContext(m_sws.release(), frame.width, frame.height, format, lying.width, lying.height,
                                     AV_PIX_FMT_BGRA, SWS_FAST_BILINEAR, nullptr, nullptr, nullptr));
    if (!m_sws)
        return fail(ErrorCode::Damaged, "The picture's pixel format cannot be shown.");
    const int* table = coefficients(frame.colorspace, frame.height);
    sws_setColorspaceDetails(m_sws.get(), table, frame.color_range == AVCOL_RANGE_JPEG, table, 1, 0, 1 << 16, 1 << 16);

    std::vector<std::uint8_t> bgra(4 * static_cast<std::size_t>(lying.width) * lying.height +
                                   64); // the scaler writes past row ends
    std::uint8_t* planes[4] = {bgra.data(), nullptr, nullptr, nullptr};
    const int strides[4] = {4 * lying.width, 0, 0, 0};
    sws_scale(m_sws.get(), frame.data, frame.linesize, 0, frame.height, planes, strides);
    if (m_rotation != 0)
        bgra = rotated(bgra, lying, m_rotation);
    return Picture{size, 4 * size.width, std::make_shared<const std::vector<std::uint8_t>>(std::move(bgra))};
}

} // namespace kestrel::media
