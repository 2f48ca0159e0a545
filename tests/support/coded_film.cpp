#include "support/coded_film.h"

#include <QDir>
#include <QPainter>

#include <cstdio>

namespace kestrel::test {

namespace {

constexpr int kColumns = 4, kRows = 4;

} // namespace

MediaTime CodedFilm::shownAt(int n) const
{
    if (!variableRate)
        return MediaTime::fromSeconds(n / frameRate);
    // runs of ten pictures at the rate, then ten at half of it, as telephones do when the light goes
    double seconds = 0;
    for (int i = 0; i < n; ++i)
        seconds += (i / 10 % 2 == 0 ? 1.0 : 2.0) / frameRate;
    return MediaTime::fromSeconds(seconds);
}

QImage codedPicture(int number, int width, int height)
{
    QImage image(width, height, QImage::Format_RGB32);
    image.fill(QColor(90, 120, 60));
    QPainter painter(&image);
    const double w = static_cast<double>(width) / kColumns, h = static_cast<double>(height) / kRows;
    for (int bit = 0; bit < kColumns * kRows; ++bit)
        painter.fillRect(QRectF(bit % kColumns * w + w * 0.1, bit / kColumns * h + h * 0.1, w * 0.8, h * 0.8),
                         (number >> bit & 1) ? Qt::white : Qt::black);
    return image;
}

std::optional<int> numberIn(const media::Picture& p)
{
    if (p.isEmpty())
        return std::nullopt;
    int number = 0;
    for (int bit = 0; bit < kColumns * kRows; ++bit) {
        const int x = static_cast<int>((bit % kColumns + 0.5) * p.size.width / kColumns),
                  y = static_cast<int>((bit / kColumns + 0.5) * p.size.height / kRows);
        const auto* pixel = p.row(y) + 4 * x;
        const int grey = (pixel[0] + pixel[1] + pixel[2]) / 3;
        if (grey > 80 && grey < 175)
            return std::nullopt;
        if (grey >= 175)
            number |= 1 << bit;
    }
    return number;
}

std::string CodedFilm::write(const std::string& folder) const
{
    const std::string file = QDir(QString::fromStdString(folder)).filePath(QString::fromStdString(name)).toStdString();
    media::FilmWriterSettings settings;
    settings.size = rotation % 180 == 0 ? media::PixelSize{width, height} : media::PixelSize{height, width};
    settings.frameRate = frameRate;
    settings.codec = codec;
    settings.keyEvery = keyEvery;
    settings.bFrames = bFrames;
    settings.rotation = rotation;
    settings.start = start;
    auto writer = media::FilmWriter::open(file, settings);
    for (int n = 0; writer && n < frames; ++n) {
        // a player turns it clockwise by the rotation, so it is stored turned the other way
        const QImage stored = codedPicture(n, width, height).transformed(QTransform().rotate(-rotation));
        if (const auto written = writer->write(stored.constBits(), static_cast<int>(stored.bytesPerLine()), shownAt(n));
            !written) {
            std::fprintf(stderr, "%s\n", written.error().text().c_str());
            return {};
        }
    }
    const auto done = writer ? writer->finish() : Expected<void>(tl::unexpected(writer.error()));
    if (!done)
        std::fprintf(stderr, "%s\n", done.error().text().c_str());
    return done ? file : std::string();
}

} // namespace kestrel::test
