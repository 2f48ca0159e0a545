#pragma once

#include "core/error.h"
#include "media/ffmpeg.h"
#include "media/picture.h"

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

    /// \param frame    at full or half size
    /// \param largest  never enlarged, its proportions kept
    Expected<Picture> convert(const AVFrame& frame, PixelSize largest);

private:
    bool convertFast(const AVFrame&, PixelSize lying, std::uint8_t* bgra);
    bool convertAny(const AVFrame&, PixelSize lying, std::uint8_t* bgra);

    PixelSize m_upright;
    int m_rotation;
    SwsPtr m_sws;
    std::vector<std::uint8_t> m_scaled, m_lying;
};

} // namespace kestrel::media
