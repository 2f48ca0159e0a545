#include "look/film_image.h"

#include "core/base/part_file.h"

#include <QBuffer>

#include <filesystem>

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

Expected<void> saveImage(const QImage& image, const std::string& file)
{
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    const std::string ending = std::filesystem::path(file).extension().string();
    if (ending.size() < 2 || !image.save(&buffer, ending.c_str() + 1))
        return fail(ErrorCode::BadArgument, "A picture of this kind cannot be written; give a name that ends in .png.", file);
    return saveText(file, bytes.toStdString());
}

} // namespace kestrel::look
