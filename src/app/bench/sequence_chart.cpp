#include "app/bench/sequence_chart.h"

#include "app/shell/theme.h"
#include "look/fonts.h"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr double kTop = 8, kBottom = 20, kLeft = 8, kRight = 76;
/// Told apart without colour.
constexpr Qt::PenStyle kStyles[] = {Qt::SolidLine, Qt::DashLine, Qt::DotLine, Qt::DashDotLine, Qt::SolidLine};

QString nameOf(Segment s)
{
    const auto words = plainWordsOf(s);
    return QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size()));
}

} // namespace

SequenceChart::SequenceChart(QWidget* parent) : QWidget(parent)
{
    setObjectName(QStringLiteral("sequenceChart"));
    setFixedHeight(132);
}

void SequenceChart::setCurves(std::vector<SegmentCurve> curves, const std::optional<Sequence>& sequence)
{
    m_curves = std::move(curves);
    setVisible(!m_curves.empty());
    const QString text = sequence ? QString::fromStdString(sequence->sentence) : QString();
    setToolTip(text);
    setAccessibleName(text);
    update();
}

void SequenceChart::paintEvent(QPaintEvent*)
{
    if (m_curves.empty())
        return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto& t = colours();
    double first = m_curves.front().turning.seconds.front(), last = first;
    for (const auto& c : m_curves) {
        first = std::min(first, c.turning.seconds.front());
        last = std::max(last, c.turning.seconds.back());
    }
    const QRectF area(kLeft, kTop, width() - kLeft - kRight, height() - kTop - kBottom);
    const auto x = [&](double seconds) { return area.left() + area.width() * (seconds - first) / std::max(1e-6, last - first); };
    painter.setPen(t.rule);
    painter.drawLine(area.bottomLeft(), area.bottomRight());
    const QColor colours[] = {t.slate, t.ink, t.muted, t.chestnut, t.eyeRing};
    painter.setFont(look::font(11));
    // every segment against its own fastest: a wrist is ten times as fast as hips, and it is the order that counts
    std::vector<double> labels;
    for (const auto& c : m_curves) {
        const auto peak = peakOf(c.turning);
        const auto i = static_cast<std::size_t>(c.segment);
        QPainterPath path;
        for (std::size_t k = 0; k < c.turning.seconds.size(); ++k) {
            const QPointF p(x(c.turning.seconds[k]),
                            area.bottom() - area.height() * std::clamp(c.turning.values[k] / peak->value, 0.0, 1.0));
            k == 0 ? path.moveTo(p) : path.lineTo(p);
        }
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(colours[i], 1.7, kStyles[i]));
        painter.drawPath(path);
        painter.setPen(Qt::NoPen);
        painter.setBrush(colours[i]);
        painter.drawEllipse(QPointF(x(peak->seconds), area.top()), 3.5, 3.5);
        const double y = kTop + 2 + 18 * static_cast<double>(labels.size());
        labels.push_back(y);
        painter.setPen(QPen(colours[i], 1.7, kStyles[i]));
        painter.drawLine(QPointF(area.right() + 6, y + 4), QPointF(area.right() + 20, y + 4));
        painter.setPen(t.ink);
        painter.drawText(QRectF(area.right() + 23, y - 4, kRight - 20, 16), Qt::AlignLeft | Qt::AlignVCenter, nameOf(c.segment));
    }
    painter.setPen(t.muted);
    painter.drawText(QRectF(area.left(), area.bottom() + 2, area.width(), 16), Qt::AlignLeft | Qt::AlignVCenter,
                     tr("turning, each against its own fastest, %1 ms").arg(static_cast<int>(1000 * (last - first))));
}

} // namespace kestrel::app
