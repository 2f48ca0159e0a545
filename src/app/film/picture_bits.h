#pragma once

#include "vision/face_hider.h"

#include <QImage>

namespace kestrel::app {

/// The pixels of a picture of 32 bits, to hide something in them.
inline vision::PictureBits bitsOf(QImage& image)
{
    return {image.bits(), static_cast<int>(image.bytesPerLine()), {image.width(), image.height()}};
}

} // namespace kestrel::app
