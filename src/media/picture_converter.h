#pragma once

#include "core/base/error.h"
#include "media/decoded_frame.h"
#include "media/ffmpeg.h"
#include "media/picture.h"
#include "media/plane_shrinker.h"

#include <memory>
#include <optional>
#include <vector>

namespace kestrel::media {

/// Turns decoded frames of one film into upright pictures with square pixels. Keeps scratch memory, so each thread needs
/// one of its own.
class PictureConverter {
public:
    /// \param rotation     degrees clockwise to make it upright: 0, 90, 180, 270
    /// \param pixelAspect  width : height of a stored pixel; 0 counts as square
    PictureConverter(PixelSize stored, AVRational pixelAspect, int rotation);

    /// Of the whole upright picture with square pixels.
    PixelSize uprightSize() const { return m_upright; }

    /// \param largest  never enlarged, its proportions kept
    Expected<Picture> convert(const AVFrame& frame, PixelSize largest);
    /// The smaller planes from which the last picture was made; empty when it was not made that way. Converted to the same
    /// size again, they give the same picture.
    const DecodedFrame& shrunk() const { return m_shrunk; }
    /// Whether these planes need no scaling to become a picture of that size.
    bool hasSizeFor(const AVFrame& frame, PixelSize largest) const;

private:
    struct Planes {
        const std::uint8_t* data[3];
        int stride[3];
        PixelSize size;
    };
    static Planes planesOf(const AVFrame&);
    std::shared_ptr<std::uint8_t[]> memoryFor(std::size_t bytes);
    PixelSize lyingSize(PixelSize largest) const; ///< of the picture before it is turned upright
    std::optional<Planes> shrink(const AVFrame&, const Planes&, PixelSize);
    bool convertFast(const AVFrame&, PixelSize lying, std::uint8_t* bgra);
    bool convertAny(const AVFrame&, PixelSize lying, std::uint8_t* bgra);

    PixelSize m_upright;
    int m_rotation;
    SwsPtr m_sws;
    PlaneShrinker m_luma, m_chroma;
    DecodedFrame m_shrunk;
    std::vector<std::uint8_t> m_lying;
    std::shared_ptr<std::uint8_t[]> m_last; // the last picture's
    std::size_t m_lastBytes = 0;
};

} // namespace kestrel::media
