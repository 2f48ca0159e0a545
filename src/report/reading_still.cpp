#include "report/reading_still.h"

#include "look/figure_painter.h"
#include "look/palette.h"

#include <QPainter>

#include <algorithm>

namespace kestrel::report {

namespace {

constexpr int kStillWidth = 1000, kStillHeight = 750;

/// The part of the picture that shows the whole figure with room around it, 4:3.
QRectF cropAround(const Figure& figure, QSizeF picture)
{
    QRectF box;
    for (const auto& s : figure.strokes)
        for (const auto& p : s.points)
            box |= QRectF(p.x - 0.5, p.y - 0.5, 1, 1);
    const double most = std::min(picture.width(), picture.height() * kStillWidth / kStillHeight);
    const double width = std::clamp(std::max(box.width(), box.height() * kStillWidth / kStillHeight) * 2.2, most * 0.9, most);
    QRectF crop(0, 0, width, width * kStillHeight / kStillWidth);
    crop.moveCenter(box.center());
    crop.moveLeft(std::clamp(crop.left(), 0.0, std::max(0.0, picture.width() - crop.width())));
    crop.moveTop(std::clamp(crop.top(), 0.0, std::max(0.0, picture.height() - crop.height())));
    return crop;
}

/// The figure's own extent stands in for a film that is not there.
QSizeF reachOf(const Figure& figure)
{
    QSizeF reach(640, 480);
    for (const auto& s : figure.strokes)
        for (const auto& p : s.points)
            reach = reach.expandedTo(QSizeF(p.x * 1.1, p.y * 1.1));
    return reach;
}

} // namespace

Still readingStill(const Pack& pack, const Reading& r, const FrameSource& frames, bool hasNumber,
                   std::vector<std::string>& warnings, double unit)
{
    if (r.figure.isEmpty())
        return {};
    const FrameIndex frame = r.figure.frame.nearest();
    const QImage film = frames ? frames(r.figureOf, frame) : QImage();
    if (frames && film.isNull())
        warnings.push_back("Frame " + std::to_string(frame.value) +
                           " could not be read from the film; a line drawing stands in for it.");
    const QSizeF picture = film.isNull() ? reachOf(r.figure) : QSizeF(film.size());
    const QRectF crop = cropAround(r.figure, picture);
    QImage image(kStillWidth, kStillHeight, QImage::Format_RGB32);
    image.fill(QColor(0x5b, 0x66, 0x70));
    QPainter painter(&image);
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    if (!film.isNull())
        painter.drawImage(QRectF(image.rect()), film, crop);
    QTransform toStill;
    toStill.scale(kStillWidth / crop.width(), kStillHeight / crop.height());
    toStill.translate(-crop.left(), -crop.top());
    const QString label = hasNumber && r.value ? QString::fromStdString(withUnit(*r.value, r.unit)) : QString();
    look::paintFigure(painter, r.figure, toStill, label, look::lightPalette().eyeRing, unit);
    const KeyPosition* position = pack.findKeyPosition(r.keyPosition);
    const Measure* measure = pack.findMeasure(r.measure);
    return {image, (position ? position->name + ": " : "") + (measure ? measure->name : r.measure)};
}

} // namespace kestrel::report
