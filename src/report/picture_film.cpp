#include "report/picture_film.h"

#include <QString>

#include <algorithm>

namespace kestrel::report {

namespace {

constexpr int kMostWidth = 1280, kMostHeight = 720; // pixels

bool endsWith(const std::string& file, const char* ending)
{
    return QString::fromStdString(file).endsWith(QLatin1String(ending), Qt::CaseInsensitive);
}

} // namespace

Expected<PictureFilm> PictureFilm::to(const std::string& file)
{
    if (!endsWith(file, ".mp4") && !endsWith(file, ".webm"))
        return fail(ErrorCode::BadArgument, "The name has to end in .mp4 or .webm.", file);
    return PictureFilm(file);
}

Expected<void> PictureFilm::write(const QImage& picture, const std::function<void(QImage&)>& draw)
{
    if (!m_writer) {
        m_size = picture.size().boundedTo(picture.size().scaled(kMostWidth, kMostHeight, Qt::KeepAspectRatio));
        m_size = {std::max(2, m_size.width() / 2 * 2), std::max(2, m_size.height() / 2 * 2)};
        media::FilmWriterSettings settings;
        settings.size = {m_size.width(), m_size.height()};
        settings.frameRate = kRate;
        if (endsWith(m_file, ".webm"))
            settings.codec = "vp9";
        auto opened = media::FilmWriter::open(m_file, settings);
        if (!opened)
            return tl::unexpected(opened.error());
        m_writer.emplace(std::move(*opened));
    }
    QImage image = picture.size() == m_size ? picture : picture.scaled(m_size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    image = image.convertToFormat(QImage::Format_RGB32);
    if (draw)
        draw(image);
    return m_writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()),
                           MediaTime::fromSeconds(m_pictures++ / kRate));
}

Expected<void> PictureFilm::finish()
{
    return m_writer ? m_writer->finish() : Expected<void>();
}

} // namespace kestrel::report
