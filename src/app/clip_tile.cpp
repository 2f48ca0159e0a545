#include "app/clip_tile.h"

#include "app/theme.h"
#include "report/fonts.h"

#include <QPainter>
#include <QPainterPath>

namespace kestrel::app {

ClipTile::ClipTile(const QString& title, const QString& state, const QImage& poster, QWidget* parent)
    : QAbstractButton(parent), m_state(state), m_poster(poster)
{
    setText(title);
    setToolTip(tr("Bring this clip to the bench (Enter); Delete removes it"));
    setCursor(Qt::PointingHandCursor);
    setFixedSize(sizeHint());
}

void ClipTile::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const auto& t = tokens();
    const QRectF picture(2, 2, width() - 4, 97);
    QPainterPath round;
    round.addRoundedRect(picture, 4, 4);
    painter.fillPath(round, t.rule);
    if (!m_poster.isNull()) {
        painter.setClipPath(round);
        const double scale = std::max(picture.width() / m_poster.width(), picture.height() / m_poster.height());
        const QSizeF size(m_poster.width() * scale, m_poster.height() * scale);
        painter.drawImage(QRectF(picture.center() - QPointF(size.width() / 2, size.height() / 2), size), m_poster);
        painter.setClipping(false);
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(hasFocus() || underMouse() ? t.slate : t.rule, hasFocus() ? 2 : 1));
    painter.drawPath(round);
    painter.setPen(t.ink);
    painter.setFont(report::font(12, QFont::DemiBold));
    painter.drawText(QRectF(4, 102, width() - 8, 17), Qt::AlignLeft | Qt::AlignVCenter, text());
    painter.setPen(t.muted);
    painter.setFont(report::font(11));
    painter.drawText(QRectF(4, 119, width() - 8, 16), Qt::AlignLeft | Qt::AlignVCenter, m_state);
}

} // namespace kestrel::app
