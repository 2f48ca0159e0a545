#include "look/figure_painter.h"

#include "look/fonts.h"

#include <QPainterPath>
#include <QVarLengthArray>
#include <cmath>
#include <numbers>

namespace kestrel::look {

namespace {

const QColor kCasing(16, 20, 24, 190), kFaint(255, 255, 255, 170);
constexpr Qt::PenCapStyle kQuickCap = Qt::SquareCap; // the painter has a quick way for all ends but round ones

double turnOf(QPointF from, QPointF to)
{
    return std::atan2(to.y() - from.y(), to.x() - from.x());
}

void paintArc(QPainter& painter, QPointF a, QPointF vertex, QPointF b, const QColor& colour, double unit)
{
    const double reach =
        std::min(std::hypot(a.x() - vertex.x(), a.y() - vertex.y()), std::hypot(b.x() - vertex.x(), b.y() - vertex.y()));
    const double radius = std::clamp(0.4 * reach, 8 * unit, 44 * unit);
    const double start = turnOf(vertex, a);
    const double span = std::remainder(turnOf(vertex, b) - start, 2 * std::numbers::pi);
    QPainterPath arc;
    constexpr int kSteps = 24;
    for (int i = 0; i <= kSteps; ++i) {
        const double t = start + span * i / kSteps;
        const QPointF p = vertex + radius * QPointF(std::cos(t), std::sin(t));
        i == 0 ? arc.moveTo(p) : arc.lineTo(p);
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(kCasing, 5 * unit, Qt::SolidLine, Qt::RoundCap));
    painter.drawPath(arc);
    painter.setPen(QPen(colour, 2.5 * unit, Qt::SolidLine, Qt::RoundCap));
    painter.drawPath(arc);
}

void paintCircle(QPainter& painter, QPointF middle, QPointF rim, const QColor& colour, double unit)
{
    const double radius = std::hypot(rim.x() - middle.x(), rim.y() - middle.y());
    for (const auto& [tone, thickness] : {std::pair(kCasing, 6 * unit), std::pair(colour, 3 * unit)}) {
        QPainterPath ring; // filled, which is quicker than a pen along it
        for (const double half : {thickness / 2, -thickness / 2})
            if (const double r = radius + half; r > 0)
                ring.addEllipse(middle, r, r);
        painter.fillPath(ring, tone);
    }
}

void paintArrow(QPainter& painter, QPointF from, QPointF to, const QColor& colour, double unit)
{
    const double turn = turnOf(from, to), barb = 14 * unit;
    constexpr double kSpread = 0.45; // radians from the shaft
    paintCasedLine(painter, from, to, colour, 3 * unit);
    for (const double side : {-kSpread, kSpread})
        paintCasedLine(painter, to, to - barb * QPointF(std::cos(turn + side), std::sin(turn + side)), colour, 3 * unit);
}

/// Whether each side of it is level or upright, so that straight pieces meet square at its corners.
bool isSquare(const QPolygonF& points)
{
    for (int i = 1; i < points.size(); ++i)
        if (std::abs(points[i].x() - points[i - 1].x()) > 1e-9 && std::abs(points[i].y() - points[i - 1].y()) > 1e-9)
            return false;
    return true;
}

/// A line through points with a dark casing.
void paintCasedPath(QPainter& painter, const QPolygonF& points, const QColor& colour, double width)
{
    painter.setBrush(Qt::NoBrush);
    if (points.size() == 2 || isSquare(points)) {
        QVarLengthArray<QLineF, 8> sides;
        for (int i = 1; i < points.size(); ++i)
            sides.append(QLineF(points[i - 1], points[i]));
        for (const auto& [tone, thickness] : {std::pair(kCasing, 2.2 * width), std::pair(colour, width)}) {
            painter.setPen(QPen(tone, thickness, Qt::SolidLine, kQuickCap));
            painter.drawLines(sides.data(), static_cast<int>(sides.size()));
        }
        return;
    }
    for (const auto& [tone, thickness] : {std::pair(kCasing, 2.2 * width), std::pair(colour, width)}) {
        painter.setPen(QPen(tone, thickness, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter.drawPolyline(points);
    }
}

void paintDot(QPainter& painter, QPointF p, const QColor& colour, double unit)
{
    painter.setPen(QPen(kCasing, 1.5 * unit));
    painter.setBrush(colour);
    painter.drawEllipse(p, 4.5 * unit, 4.5 * unit);
}

} // namespace

void paintLabel(QPainter& painter, const QString& label, const QRectF& beside, double unit)
{
    painter.setFont(font(14 * unit, QFont::DemiBold));
    const QFontMetricsF metrics(painter.font());
    const QSizeF size(metrics.horizontalAdvance(label) + 16 * unit, metrics.height() + 8 * unit);
    QRectF box(QPointF(beside.right() + 14 * unit, beside.center().y() - size.height() / 2), size);
    const QRectF room = painter.clipBoundingRect().isEmpty() ? QRectF(painter.viewport()) : painter.clipBoundingRect();
    if (box.right() > room.right() - 4 * unit)
        box.moveRight(std::max(beside.left() - 14 * unit, room.left() + size.width() + 4 * unit));
    box.moveTop(
        std::clamp(box.top(), room.top() + 4 * unit, std::max(room.top() + 4 * unit, room.bottom() - size.height() - 4 * unit)));
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(27, 34, 40, 225));
    painter.drawRoundedRect(box, 4 * unit, 4 * unit);
    painter.setPen(Qt::white);
    painter.drawText(box, Qt::AlignCenter, label);
}

void paintCasedLine(QPainter& painter, QPointF a, QPointF b, const QColor& colour, double width, Qt::PenStyle style)
{
    painter.setPen(QPen(kCasing, width * 2.2, style, kQuickCap));
    painter.drawLine(a, b);
    painter.setPen(QPen(colour, width, style, kQuickCap));
    painter.drawLine(a, b);
}

void paintFigure(QPainter& painter, const Figure& figure, const QTransform& toTarget, const QString& label, const QColor& colour,
                 double unit)
{
    const auto at = [&](const ImagePoint& p) { return toTarget.map(QPointF(p.x, p.y)); };
    const auto placed = [&](const Stroke& s) {
        QPolygonF points;
        for (const auto& p : s.points)
            points << at(p);
        return points;
    };
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    QRectF reach;
    const auto widen = [&](QPointF p) {
        reach = reach.isNull() ? QRectF(p, QSizeF(0.01, 0.01)) : reach.united(QRectF(p, QSizeF(0.01, 0.01)));
    };
    for (const auto& s : figure.strokes) {
        if (s.points.empty())
            continue;
        for (const auto& p : s.points)
            widen(at(p));
        switch (s.kind) {
        case Stroke::Kind::Segment:
            paintCasedPath(painter, placed(s), colour, 3 * unit);
            break;
        case Stroke::Kind::Guide:
            for (std::size_t i = 1; i < s.points.size(); ++i)
                paintCasedLine(painter, at(s.points[i - 1]), at(s.points[i]), Qt::white, 1.6 * unit, Qt::DashLine);
            break;
        case Stroke::Kind::Arc:
            if (s.points.size() == 3)
                paintArc(painter, at(s.points[0]), at(s.points[1]), at(s.points[2]), colour, unit);
            break;
        case Stroke::Kind::Dot:
            paintDot(painter, at(s.points.front()), colour, unit);
            break;
        case Stroke::Kind::Faint:
            paintCasedPath(painter, placed(s), kFaint, unit);
            break;
        case Stroke::Kind::Circle:
            if (s.points.size() == 2)
                paintCircle(painter, at(s.points[0]), at(s.points[1]), colour, unit);
            break;
        case Stroke::Kind::Arrow:
            if (s.points.size() == 2)
                paintArrow(painter, at(s.points[0]), at(s.points[1]), colour, unit);
            break;
        }
    }
    if (!label.isEmpty() && !reach.isNull())
        paintLabel(painter, label, reach, unit);
    painter.restore();
}

} // namespace kestrel::look
