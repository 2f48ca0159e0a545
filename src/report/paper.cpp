#include "report/paper.h"

#include "look/fonts.h"

#include <QPainterPath>

namespace kestrel::report {

Paper::Paper(QPainter& painter, const QRectF& target, QSizeF millimetres) : m_painter(painter)
{
    m_painter.save();
    m_painter.translate(target.topLeft());
    m_painter.scale(target.width() / millimetres.width(), target.height() / millimetres.height());
    m_painter.setRenderHint(QPainter::Antialiasing);
    m_painter.setRenderHint(QPainter::SmoothPixmapTransform);
    fill(QRectF(QPointF(), millimetres), m_palette.panel);
}

Paper::~Paper()
{
    m_painter.restore();
}

double Paper::write(const QString& words, const QRectF& box, double size, const QColor& colour, QFont::Weight weight, bool dry)
{
    constexpr double kFine = 10; // fonts are set in tenths of a millimetre: Qt rounds their sizes to whole numbers
    m_painter.save();
    m_painter.scale(1 / kFine, 1 / kFine);
    m_painter.setFont(look::font(size * kFine, weight));
    const QRectF fine(box.topLeft() * kFine, box.size() * kFine);
    const int flags = Qt::TextWordWrap | Qt::AlignLeft | Qt::AlignTop;
    const QRectF used = m_painter.boundingRect(fine, flags, words);
    if (!dry) {
        m_painter.setPen(colour);
        m_painter.drawText(fine, flags, words);
    }
    m_painter.restore();
    return used.height() / kFine;
}

void Paper::picture(const QImage& image, const QRectF& box)
{
    if (image.isNull())
        return;
    QPainterPath round;
    round.addRoundedRect(box, 1, 1);
    m_painter.save();
    m_painter.setClipPath(round);
    m_painter.drawImage(box, image);
    m_painter.restore();
}

} // namespace kestrel::report
