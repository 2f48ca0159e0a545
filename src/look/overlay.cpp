#include "look/overlay.h"

#include "look/figure_painter.h"
#include "look/fonts.h"

namespace kestrel::look {

namespace {

const QColor kCasing(16, 20, 24, 200), kPale(0xC9, 0xD8, 0xE4), kLabelGround(27, 34, 40, 225);

class OverlayPainter {
public:
    OverlayPainter(QPainter& painter, const QTransform& toTarget, const Palette& palette, double unit)
        : m_painter(painter), m_toTarget(toTarget), m_palette(palette), m_unit(unit)
    {
    }

    void operator()(const MarkOverlay& m)
    {
        const QPointF p = place(m.at);
        const QColor colour = m.isChosen ? m_palette.eyeRing : kPale;
        const double radius = (m.isByProgram ? 3 : 4) * m_unit;
        m_painter.setBrush(Qt::NoBrush);
        if (m.isByProgram) {
            const double reach = m.sigma * m_toTarget.m11();
            QColor faint = kPale;
            faint.setAlpha(m.isVisible ? 70 : 140);
            m_painter.setPen(QPen(faint, m_unit, m.isVisible ? Qt::SolidLine : Qt::DotLine));
            m_painter.drawEllipse(p, reach, reach);
        }
        m_painter.setPen(QPen(kCasing, radius));
        m_painter.drawEllipse(p, radius, radius);
        m_painter.setPen(QPen(colour, 1.8 * m_unit));
        m_painter.setBrush(m.isTrail ? QBrush(Qt::NoBrush) : QBrush(colour));
        m_painter.drawEllipse(p, radius, radius);
        if (!m.name.isEmpty())
            paintName(p, m.name);
    }

    void operator()(const TrajectoryOverlay& t)
    {
        QColor colour = m_palette.eyeRing;
        colour.setAlpha(170);
        m_painter.setPen(QPen(colour, 1.5 * m_unit));
        for (const auto& piece : t.pieces)
            for (std::size_t i = 1; i < piece.size(); ++i)
                m_painter.drawLine(place(piece[i - 1]), place(piece[i]));
    }

    void operator()(const LineOverlay& l)
    {
        const bool isFaint = l.style == LineOverlay::Style::Faint;
        paintCasedLine(m_painter, place(l.from), place(l.to), isFaint ? QColor(Qt::white) : m_palette.eyeRing,
                       (isFaint ? 1.5 : 2.5) * m_unit, isFaint ? Qt::DashLine : Qt::SolidLine);
        if (!l.label.isEmpty())
            paintLabel(m_painter, l.label, QRectF(place(l.from), place(l.to)).normalized(), m_unit);
    }

    void operator()(const BoxOverlay& b)
    {
        m_painter.setBrush(Qt::NoBrush);
        m_painter.setPen(QPen(m_palette.eyeRing, 2 * m_unit));
        m_painter.drawRect(QRectF(place(b.from), place(b.to)).normalized());
    }

    void operator()(const PlaceOverlay& g)
    {
        const double arm = 6 * m_unit;
        const QPointF at = place(g.at);
        for (const QPointF& d : {QPointF(arm, arm), QPointF(arm, -arm)})
            paintCasedLine(m_painter, at - d, at + d, m_palette.eyeRing, 2 * m_unit);
        if (!g.label.isEmpty())
            paintLabel(m_painter, g.label, QRectF(at, at).adjusted(-arm, -arm, arm, arm), m_unit);
    }

    void operator()(const FigureOverlay& f) { paintFigure(m_painter, f.figure, m_toTarget, f.label, m_palette.eyeRing, m_unit); }

    void operator()(const CutOutOverlay& c)
    {
        m_painter.setRenderHint(QPainter::SmoothPixmapTransform);
        m_painter.drawImage(m_toTarget.mapRect(QRectF(c.at.x, c.at.y, c.image.width() * c.scale, c.image.height() * c.scale)),
                            c.image);
    }

    void operator()(const DrawingOverlay& d)
    {
        const double weight = d.isThick ? 1.6 * m_unit : m_unit;
        paintFigure(m_painter, d.shape.figure, m_toTarget, d.label, m_palette.eyeRing, weight);
        for (const auto& [at, words] : d.shape.words)
            paintWords(place(at), QString::fromStdString(words), weight);
        if (!d.isChosen)
            return;
        const double half = 4.5 * m_unit;
        m_painter.setPen(QPen(kCasing, 1.5 * m_unit));
        m_painter.setBrush(Qt::white);
        for (const auto& end : d.shape.ends)
            m_painter.drawRect(QRectF(place(end) - QPointF(half, half), QSizeF(2 * half, 2 * half)));
    }

private:
    QPointF place(ImagePoint p) const { return m_toTarget.map(QPointF(p.x, p.y)); }

    void paintName(QPointF p, const QString& name)
    {
        m_painter.setFont(font(12 * m_unit, QFont::DemiBold));
        const double width = QFontMetricsF(m_painter.font()).horizontalAdvance(name) + 12 * m_unit;
        paintBox(QRectF(p.x() + 10 * m_unit, p.y() - 24 * m_unit, width, 20 * m_unit), name);
    }

    /// Words with their middle at a place.
    void paintWords(QPointF middle, const QString& words, double weight)
    {
        m_painter.setFont(font(14 * weight, QFont::DemiBold));
        const QFontMetricsF metrics(m_painter.font());
        QRectF box(0, 0, metrics.horizontalAdvance(words) + 12 * weight, metrics.height() + 6 * weight);
        box.moveCenter(middle);
        paintBox(box, words);
    }

    void paintBox(const QRectF& box, const QString& words)
    {
        m_painter.setPen(Qt::NoPen);
        m_painter.setBrush(kLabelGround);
        m_painter.drawRoundedRect(box, 3 * m_unit, 3 * m_unit);
        m_painter.setPen(Qt::white);
        m_painter.drawText(box, Qt::AlignCenter, words);
    }

    QPainter& m_painter;
    const QTransform& m_toTarget;
    const Palette& m_palette;
    double m_unit;
};

} // namespace

void paintOverlays(QPainter& painter, const std::vector<Overlay>& overlays, const QTransform& toTarget, const Palette& palette,
                   double unit)
{
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    OverlayPainter paint(painter, toTarget, palette, unit);
    for (const auto& overlay : overlays)
        std::visit(paint, overlay);
    painter.restore();
}

} // namespace kestrel::look
