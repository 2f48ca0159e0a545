#pragma once

#include "core/error.h"
#include "media/ffmpeg.h"
#include "media/picture.h"

namespace kestrel::media {

/// Turns decoded frames into upright pictures with square pixels.
class PictureConverter {
public:
    /// \param rotation  degrees clockwise to make it upright: 0, 90, 180, 270
    explicit PictureConverter(int rotation = 0) : m_rotation(rotation) {}

    /// Size of the upright picture with square pixels, from the stored size and the pixels' width : height.
    PixelSize uprightSize(PixelSize stored, AVRational pixelAspect) const;

    Expected<Picture> convert(const AVFrame&, PixelSize upright, PixelSize largest);

private:
    int m_rotation;
    SwsPtr m_sws;
};

} // namespace kestrel::media
