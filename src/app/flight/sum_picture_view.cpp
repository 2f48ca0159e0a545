#include "app/flight/sum_picture_view.h"

#include "app/shell/theme.h"

#include <QPainter>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr double kRoom = 34; // pixels about the drawing, for words

QRectF reachOf(const SumPicture& p)
{
    double left = 1e9, right = -1e9, low = 1e9, high = -1e9;
    const auto take = [&](const SumPicture::Point& at) {
        left = std::min(left, at.x);
        right = std::max(right, at.x);
        low = std::min(low, at.y);
        high = std::max(high, at.y);
    };
    for (const auto& line : p.lines)
        for (const auto& point : line.points)
            take(point);
    for (const auto& mark : p.marks)
        take(mark.at);
    if (left > right)
        return {0, 0, 1, 1};
    if (right - left < 1e-9)
        right = left + 1;
    if (high - low < 1e-9)
        high = low + 1;
    return {left, low, right - left, high - low};
}

} // namespace

void SumPictureView::setPicture(const SumPicture& picture, const QString& words)
{
    m_picture = picture;
    setAccessibleName(words);
    update();
}

void SumPictureView::paint(QPainter& painter, const QRectF& box, const SumPicture& picture, const look::Palette& c)
{
    const QRectF reach = reachOf(picture);
    const QRectF inner = box.adjusted(kRoom, kRoom / 2, -kRoom, -kRoom);
    double sx = inner.width() / reach.width(), sy = inner.height() / reach.height();
    if (picture.isTrue)
        sx = sy = std::min(sx, sy);
    const auto at = [&](const SumPicture::Point& p) {
        return QPointF(inner.left() + (p.x - reach.left()) * sx, inner.bottom() - (p.y - reach.top()) * sy);
    };
    painter.setRenderHint(QPainter::Antialiasing);
    QFont font = painter.font();
    font.setPixelSize(11);
    painter.setFont(font);
    for (const auto& line : picture.lines) {
        using Kind = SumPicture::Line::Kind;
        QPen pen(line.kind == Kind::Path     ? c.slate
                 : line.kind == Kind::Other  ? c.chestnut
                 : line.kind == Kind::Object ? c.ink
                 : line.kind == Kind::Now    ? c.eyeRing
                                             : c.rule,
                 line.kind == Kind::Ground   ? 1.5
                 : line.kind == Kind::Object ? 3
                                             : 2.2);
        if (line.kind == Kind::Other)
            pen.setStyle(Qt::DashLine);
        pen.setCapStyle(Qt::RoundCap);
        painter.setPen(pen);
        QPolygonF points;
        for (const auto& p : line.points)
            points << at(p);
        painter.drawPolyline(points);
        if (!line.label.empty() && !points.isEmpty()) {
            painter.setPen(c.ink);
            const QString words = QString::fromStdString(line.label);
            const double wide = painter.fontMetrics().horizontalAdvance(words);
            // a path says it where it has room, a thing at its end
            const bool isPath = line.kind == Kind::Path || line.kind == Kind::Other;
            QPointF where = (isPath && points.size() > 4 ? points.at(points.size() * 2 / 5) + QPointF(0, 16)
                                                         : points.last() + QPointF(4, -6));
            where.setX(std::clamp(where.x(), box.left() + 2, box.right() - wide - 2));
            where.setY(std::clamp(where.y(), box.top() + 12, box.bottom() - 4));
            painter.drawText(where, words);
        }
    }
    painter.setPen(Qt::NoPen);
    painter.setBrush(c.slate);
    for (const auto& mark : picture.marks)
        painter.drawEllipse(at(mark.at), 3, 3);
    painter.setPen(c.muted);
    for (const auto& mark : picture.marks)
        painter.drawText(at(mark.at) + QPointF(4, -4), QString::fromStdString(mark.label));
    // where the axes begin and end
    if (!picture.acrossWords.empty()) {
        painter.drawText(QRectF(inner.left() - 20, box.bottom() - 16, 60, 16), Qt::AlignLeft,
                         QString::number(reach.left(), 'g', 3));
        painter.drawText(QRectF(inner.right() - 40, box.bottom() - 16, 60, 16), Qt::AlignRight,
                         QString::number(reach.right(), 'g', 3));
    }
    if (!picture.upWords.empty()) {
        painter.drawText(QRectF(box.left() + 18, inner.bottom() - 14, 60, 16), Qt::AlignLeft,
                         QString::number(reach.top(), 'g', 3));
        painter.drawText(QRectF(box.left() + 18, inner.top() - 4, 60, 16), Qt::AlignLeft,
                         QString::number(reach.bottom(), 'g', 3));
    }
    painter.drawText(QRectF(box.left(), box.bottom() - 16, box.width(), 16), Qt::AlignHCenter,
                     QString::fromStdString(picture.acrossWords));
    if (!picture.upWords.empty()) {
        painter.save();
        painter.translate(box.left() + 12, box.center().y());
        painter.rotate(-90);
        painter.drawText(QRectF(-box.height() / 2, -8, box.height(), 16), Qt::AlignCenter,
                         QString::fromStdString(picture.upWords));
        painter.restore();
    }
}

void SumPictureView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), colours().panel);
    paint(painter, rect(), m_picture, colours());
}

} // namespace kestrel::app
