#include "app/roster/clip_tile.h"

#include "app/shell/theme.h"
#include "look/fonts.h"

#include <QApplication>
#include <QContextMenuEvent>
#include <QDrag>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace kestrel::app {

ClipTile::ClipTile(const QString& title, const QString& state, store::ClipId clip, const QImage& poster, QWidget* parent)
    : QAbstractButton(parent), m_state(state), m_clip(clip), m_poster(poster)
{
    setText(title);
    setProperty("clip", static_cast<qlonglong>(clip.value));
    setToolTip(tr("Bring this clip to the bench (Enter); drag it to another day or athlete, or right-click; Delete removes it"));
    setCursor(Qt::PointingHandCursor);
    setFixedSize(sizeHint());
}

void ClipTile::setPoster(const QImage& poster)
{
    m_poster = poster;
    update();
}

void ClipTile::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Delete)
        emit removeWanted();
    else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        click();
    else if (event->key() == Qt::Key_Menu)
        emit menuWanted(mapToGlobal(rect().center()));
    else
        QAbstractButton::keyPressEvent(event);
}

void ClipTile::contextMenuEvent(QContextMenuEvent* event)
{
    emit menuWanted(event->globalPos());
}

void ClipTile::mousePressEvent(QMouseEvent* event)
{
    m_pressed = event->pos();
    QAbstractButton::mousePressEvent(event);
}

void ClipTile::mouseMoveEvent(QMouseEvent* event)
{
    if (!(event->buttons() & Qt::LeftButton) || (event->pos() - m_pressed).manhattanLength() < QApplication::startDragDistance())
        return QAbstractButton::mouseMoveEvent(event);
    setDown(false);
    auto* drag = new QDrag(this);
    auto* clip = new QMimeData;
    clip->setData(mimeType(), QByteArray::number(static_cast<qlonglong>(m_clip.value)));
    drag->setMimeData(clip);
    drag->setPixmap(grab().scaledToWidth(width() / 2, Qt::SmoothTransformation));
    drag->exec(Qt::MoveAction);
}

void ClipTile::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
    const auto& t = colours();
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
    painter.setFont(look::font(12, QFont::DemiBold));
    painter.drawText(QRectF(4, 102, width() - 8, 17), Qt::AlignLeft | Qt::AlignVCenter, text());
    painter.setPen(t.muted);
    painter.setFont(look::font(11));
    painter.drawText(QRectF(4, 119, width() - 8, 16), Qt::AlignLeft | Qt::AlignVCenter, m_state);
}

} // namespace kestrel::app
