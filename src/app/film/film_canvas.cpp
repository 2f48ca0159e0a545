#include "app/film/film_canvas.h"

#include "app/shell/theme.h"
#include "look/fonts.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>
#include <utility>

namespace kestrel::app {

namespace {

constexpr double kLoupeRadius = 74, kLoupeZoom = 4, kMostZoom = 16;

} // namespace

FilmCanvas::FilmCanvas(FilmPlayer& player, QWidget* parent) : QWidget(parent), m_player(player)
{
    setMouseTracking(true);
    setFocusPolicy(Qt::ClickFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setMinimumSize(320, 180);
    setAccessibleName(tr("Film"));
    connect(&player, &FilmPlayer::pictureReady, this, [this](const QImage& p) {
        m_picture = p;
        update();
    });
    connect(&player, &FilmPlayer::frameChanged, this, qOverload<>(&QWidget::update));
    connect(&player, &FilmPlayer::filmChanged, this, qOverload<>(&QWidget::update));
}

void FilmCanvas::setFilmSize(QSizeF size)
{
    if (size.width() > 0 && size.height() > 0)
        m_filmSize = size;
}

void FilmCanvas::reset()
{
    m_picture = {};
    showWhole();
}

void FilmCanvas::letGo()
{
    if (auto* tool = std::exchange(m_dragging, nullptr))
        tool->cancel();
    m_isPanning = false;
    updateCursor();
    update();
}

QTransform FilmCanvas::toWidget() const
{
    const double scale = std::min(width() / m_filmSize.width(), height() / m_filmSize.height()) * m_zoom;
    QTransform t;
    t.translate(width() / 2.0 + m_pan.x(), height() / 2.0 + m_pan.y());
    t.scale(scale, scale);
    t.translate(-m_filmSize.width() / 2, -m_filmSize.height() / 2);
    return t;
}

CanvasPoint FilmCanvas::at(const QMouseEvent& event) const
{
    const QPointF f = toWidget().inverted().map(event.position());
    return {event.position(), {f.x(), f.y()}, toWidget().m11(), event.modifiers().testFlag(Qt::ShiftModifier)};
}

void FilmCanvas::zoomBy(double factor, QPointF about)
{
    const double before = m_zoom;
    m_zoom = std::clamp(m_zoom * factor, 1.0, kMostZoom);
    const QPointF middle(width() / 2.0, height() / 2.0);
    m_pan = m_zoom == 1 ? QPointF() : (about - middle) - (about - middle - m_pan) * (m_zoom / before);
    askForSize();
    update();
    emit zoomed();
}

void FilmCanvas::showWhole()
{
    m_zoom = 1;
    m_pan = {};
    askForSize();
    update();
    emit zoomed();
}

void FilmCanvas::zoomLike(const FilmCanvas& other)
{
    m_zoom = other.m_zoom;
    m_pan = {other.m_pan.x() * width() / std::max(1, other.width()), other.m_pan.y() * height() / std::max(1, other.height())};
    askForSize();
    update();
}

/// Pictures are wanted no larger than they are shown; zoomed in, as they are.
void FilmCanvas::askForSize()
{
    const double ratio = devicePixelRatioF();
    m_player.setPictureSize(m_zoom > 1 ? media::PixelSize{}
                                       : media::PixelSize{static_cast<int>(width() * ratio), static_cast<int>(height() * ratio)});
}

void FilmCanvas::resizeEvent(QResizeEvent*)
{
    askForSize();
}

void FilmCanvas::mousePressEvent(QMouseEvent* event)
{
    m_now = event->position();
    CanvasTool* const tool = m_tool ? m_tool() : nullptr;
    if (event->button() == Qt::LeftButton && tool && tool->press(at(*event)))
        m_dragging = tool;
    else
        m_isPanning = true;
    updateCursor();
    update();
}

void FilmCanvas::mouseMoveEvent(QMouseEvent* event)
{
    if (m_isPanning && m_zoom > 1) {
        m_pan += event->position() - m_now;
        emit zoomed();
    }
    m_now = event->position();
    if (m_dragging)
        m_dragging->move(at(*event));
    CanvasTool* const tool = m_tool ? m_tool() : nullptr;
    if (!m_dragging && !m_isPanning && tool)
        tool->hover(at(*event));
    if (m_dragging || m_isPanning || (tool && !tool->overlays().empty()))
        update();
}

void FilmCanvas::mouseReleaseEvent(QMouseEvent* event)
{
    m_now = event->position();
    m_isPanning = false;
    if (auto* tool = std::exchange(m_dragging, nullptr))
        tool->release(at(*event));
    updateCursor();
    update();
}

void FilmCanvas::wheelEvent(QWheelEvent* event)
{
    zoomBy(std::pow(1.0015, event->angleDelta().y()), event->position());
    event->accept();
}

void FilmCanvas::updateCursor()
{
    CanvasTool* const tool = m_tool ? m_tool() : nullptr;
    setCursor(m_isPanning && m_zoom > 1 ? Qt::ClosedHandCursor : tool ? tool->cursor() : Qt::ArrowCursor);
}

QString FilmCanvas::notice() const
{
    if (m_notice)
        if (const QString said = m_notice(); !said.isEmpty())
            return said;
    if (const auto& e = m_player.error())
        return QString::fromStdString(e->text());
    if (!m_picture.isNull())
        return {};
    return m_player.isPictureDamaged() ? tr("This picture is damaged. Step on: its neighbours may be fine.")
           : m_player.indexing()       ? tr("Opening the film … %1 %").arg(static_cast<int>(100 * *m_player.indexing()))
                                       : tr("Opening the film …");
}

void FilmCanvas::paintPicture(QPainter& painter) const
{
    if (m_picture.isNull())
        return;
    const QRectF shown = toWidget().mapRect(QRectF(QPointF(), m_filmSize));
    const double ratio = devicePixelRatioF();
    if (std::abs(m_picture.width() - shown.width() * ratio) < 1.5 &&
        std::abs(m_picture.height() - shown.height() * ratio) < 1.5) {
        painter.drawImage(QRectF(shown.topLeft().toPoint(), QSizeF(m_picture.size()) / ratio), m_picture); // as it is: fast
        return;
    }
    painter.setRenderHint(QPainter::SmoothPixmapTransform, m_zoom < 3); // far in, the coach wants to see the pixels
    painter.drawImage(shown, m_picture);
}

void FilmCanvas::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), QColor(0x15, 0x1A, 0x1E));
    painter.setClipRect(rect());
    paintPicture(painter);
    if (const QString said = notice(); !said.isEmpty()) {
        painter.setPen(QColor(0xF0, 0xEB, 0xE1));
        painter.setFont(look::font(15));
        painter.drawText(rect().adjusted(40, 20, -40, -20), Qt::AlignCenter | Qt::TextWordWrap, said);
        return;
    }
    std::vector<look::Overlay> overlays = m_overlays ? m_overlays() : std::vector<look::Overlay>();
    if (const CanvasTool* tool = m_dragging ? m_dragging : m_tool ? m_tool() : nullptr)
        for (auto& drawn : tool->overlays())
            overlays.push_back(std::move(drawn));
    look::paintOverlays(painter, overlays, toWidget(), colours(), 1);
    if (m_dragging && m_dragging->wantsLoupe())
        paintLoupe(painter);
}

/// A magnified circle in the corner away from the pointer.
void FilmCanvas::paintLoupe(QPainter& painter) const
{
    painter.setRenderHint(QPainter::Antialiasing);
    const bool atLeft = m_now.x() > width() / 2.0;
    const QPointF middle(atLeft ? kLoupeRadius + 12 : width() - kLoupeRadius - 12, kLoupeRadius + 12);
    QPainterPath circle;
    circle.addEllipse(middle, kLoupeRadius, kLoupeRadius);
    painter.save();
    painter.setClipPath(circle);
    painter.fillPath(circle, Qt::black);
    painter.translate(middle);
    painter.scale(kLoupeZoom, kLoupeZoom);
    painter.translate(-m_now);
    painter.drawImage(toWidget().mapRect(QRectF(QPointF(), m_filmSize)), m_picture);
    painter.restore();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(16, 20, 24, 220), 4));
    painter.drawEllipse(middle, kLoupeRadius, kLoupeRadius);
    painter.setPen(QPen(colours().eyeRing, 1.5));
    painter.drawEllipse(middle, kLoupeRadius, kLoupeRadius);
    for (const QPointF& d : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
        painter.drawLine(middle + d * 5, middle + d * 22);
}

} // namespace kestrel::app
