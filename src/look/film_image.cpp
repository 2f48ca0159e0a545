#include "look/film_image.h"

namespace kestrel::look {

QImage toImage(const media::Picture& picture)
{
    if (picture.isEmpty())
        return {};
    using Pixels = std::shared_ptr<const std::uint8_t[]>;
    return QImage(
        picture.pixels.get(), picture.size.width, picture.size.height, picture.stride, QImage::Format_RGB32,
        [](void* held) { delete static_cast<Pixels*>(held); }, new Pixels(picture.pixels));
}

} // namespace kestrel::look
