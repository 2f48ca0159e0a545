#include "app/bench/gauge.h"

#include "app/shell/plain_text.h"
#include "app/shell/theme.h"
#include "look/fonts.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

QString toQt(std::string_view s)
{
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

QColor colourOf(Verdict v)
{
    switch (v) {
    case Verdict::OnTarget:
        return colours().slate;
    case Verdict::Near:
        return colours().chestnut;
    case Verdict::Off:
        return colours().alert;
    default:
        return colours().muted;
    }
}

/// The shapes tell verdicts apart without colour.
void paintShape(QPainter& painter, Verdict v, QPointF p)
{
    const QColor colour = colourOf(v);
    painter.setPen(QPen(colour, 1.6));
    painter.setBrush(Qt::NoBrush);
    switch (v) {
    case Verdict::OnTarget:
        painter.setBrush(colour);
        painter.drawEllipse(p, 4.5, 4.5);
        break;
    case Verdict::Near:
        painter.setBrush(colours().panel);
        painter.setPen(QPen(colour, 2.2));
        painter.drawEllipse(p, 4.5, 4.5);
        break;
    case Verdict::Off:
        painter.setBrush(colour);
        painter.drawPolygon(QPolygonF({p + QPointF(0, -6), p + QPointF(6, 0), p + QPointF(0, 6), p + QPointF(-6, 0)}));
        break;
    default:
        painter.setBrush(colours().panel);
        painter.setPen(QPen(colours().ink, 1));
        painter.drawEllipse(p, 4.5, 4.5);
    }
}

} // namespace

Gauge::Gauge(QWidget* parent) : QAbstractButton(parent)
{
    setCheckable(true);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setFixedHeight(46);
}

void Gauge::setReading(const Measure& measure, const Reading& reading)
{
    m_reading = reading;
    m_name = QString::fromStdString(measure.name);
    m_margin = measure.margin;
    setObjectName(QString::fromStdString(reading.measure));
    QString tip = QStringLiteral("<b>%1</b><br>%2<br>%3")
                      .arg(m_name.toHtmlEscaped(), toQt(measure.technical).toHtmlEscaped(), toQt(reading.why).toHtmlEscaped());
    if (reading.uncertainty && !reading.saysNothing())
        tip += QStringLiteral("<br>") + tr("Four times in five the true value lies within %1.")
                                            .arg(toQt(plusMinus(kWhisker * *reading.uncertainty, reading.unit)));
    if (const auto& s = reading.spread)
        tip += QStringLiteral("<br>") +
               tr("%1 repetitions: mean %2, standard deviation %3; a change of the mean by less than %4 is chance")
                   .arg(QString::number(s->repetitions), QString::fromStdString(withUnit(s->mean, reading.unit)),
                        QString::fromStdString(differenceWithUnit(s->sd, reading.unit)),
                        QString::fromStdString(differenceWithUnit(s->smallestRealChange, reading.unit)));
    if (!measure.doubt.empty())
        tip += QStringLiteral("<br><i>%1</i>").arg(toQt(measure.doubt).toHtmlEscaped());
    if (!measure.bands.empty())
        tip += QStringLiteral("<br>%1: %2").arg(tr("The band is"), toQt(plainWordsOf(measure.bands.front().evidence)));
    setToolTip(tip);
    PlainText::setFormatted(this);
    setAccessibleName(m_name + QStringLiteral(", ") + toQt(plainWordsOf(reading.verdict)));
    update();
}

void Gauge::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto& t = colours();
    if (isChecked() || underMouse() || hasFocus()) {
        QColor ground = isChecked() ? t.slatePale : t.rule;
        ground.setAlpha(90);
        painter.setPen(hasFocus() ? QPen(t.slate) : QPen(Qt::NoPen));
        painter.setBrush(ground);
        painter.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 4, 4);
    }
    const QRectF inner = QRectF(rect()).adjusted(8, 4, -8, -4);
    const bool valued = m_reading.value.has_value() && !m_reading.saysNothing();
    painter.setPen(valued ? t.ink : t.muted);
    painter.setFont(look::font(13));
    const QString value = valued ? QString::fromStdString(withUnit(*m_reading.value, m_reading.unit)) : QString();
    const double valueWidth = valued ? QFontMetricsF(look::font(13, QFont::DemiBold)).horizontalAdvance(value) + 40 : 0;
    painter.drawText(QRectF(inner.left(), inner.top(), inner.width() - valueWidth - 6, 19), Qt::AlignLeft | Qt::AlignVCenter,
                     QFontMetricsF(painter.font()).elidedText(m_name, Qt::ElideRight, inner.width() - valueWidth - 6));
    if (valued) {
        const QString whisker = QString::fromStdString(plusMinus(kWhisker * *m_reading.uncertainty, m_reading.unit));
        painter.setFont(look::font(11));
        painter.setPen(t.muted);
        const double width = QFontMetricsF(painter.font()).horizontalAdvance(whisker);
        painter.drawText(QRectF(inner.right() - width, inner.top(), width + 1, 19), Qt::AlignRight | Qt::AlignVCenter, whisker);
        painter.setFont(look::font(13, QFont::DemiBold));
        painter.setPen(t.ink);
        painter.drawText(QRectF(inner.left(), inner.top(), inner.width() - width - 5, 19), Qt::AlignRight | Qt::AlignVCenter,
                         value);
    }
    constexpr double kWordsWidth = 118;
    paintLine(painter, QRectF(inner.left(), inner.top() + 20, inner.width() - kWordsWidth, 17));
    painter.setFont(look::font(12, QFont::DemiBold));
    const bool isReported = valued && !m_reading.low && !m_reading.high;
    painter.setPen(isReported ? t.muted : colourOf(m_reading.verdict));
    painter.drawText(QRectF(inner.right() - kWordsWidth, inner.top() + 20, kWordsWidth, 17), Qt::AlignRight | Qt::AlignVCenter,
                     isReported ? tr("reported") : toQt(plainWordsOf(m_reading.verdict)));
}

/// The band takes the middle of the line; what lies far outside stands at its end.
void Gauge::paintLine(QPainter& painter, const QRectF& line) const
{
    const auto& t = colours();
    const double y = line.center().y();
    painter.setPen(QPen(t.rule, 1.5));
    painter.drawLine(QPointF(line.left(), y), QPointF(line.right(), y));
    if (!m_reading.low && !m_reading.high)
        return;
    // an open end reaches as far as a band of the other end's size would
    const double reach = std::max({m_margin * 4, m_reading.low && m_reading.high ? *m_reading.high - *m_reading.low : 0, 1e-6});
    const double low = m_reading.low.value_or(m_reading.high.value_or(0) - reach), high = m_reading.high.value_or(low + reach);
    const double from = low - 0.55 * (high - low), to = high + 0.55 * (high - low);
    const auto at = [&](double v) { return line.left() + line.width() * std::clamp((v - from) / (to - from), 0.015, 0.985); };
    painter.setPen(Qt::NoPen);
    painter.setBrush(t.slatePale);
    const double left = m_reading.low ? at(low) : line.left(), right = m_reading.high ? at(high) : line.right();
    painter.drawRoundedRect(QRectF(left, y - 4, right - left, 8), 4, 4);
    if (!m_reading.value || m_reading.saysNothing())
        return;
    const double v = *m_reading.value, w = kWhisker * *m_reading.uncertainty;
    painter.setPen(QPen(t.ink, 1.5));
    painter.drawLine(QPointF(at(v - w), y), QPointF(at(v + w), y));
    paintShape(painter, m_reading.verdict, QPointF(at(v), y));
}

} // namespace kestrel::app
