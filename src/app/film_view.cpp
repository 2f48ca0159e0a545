#include "app/film_view.h"

#include "app/theme.h"
#include "report/figure_painter.h"
#include "report/fonts.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr double kHitRadius = 14, kLoupeRadius = 74, kLoupeZoom = 4, kMostZoom = 16;

} // namespace

FilmView::FilmView(BenchSession& session, QWidget* parent) : QWidget(parent), m_session(session)
{
    setMouseTracking(true);
    setFocusPolicy(Qt::ClickFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    setMinimumSize(320, 180);
    setAccessibleName(tr("Film"));
    connect(&session, &BenchSession::pictureReady, this, [this](const QImage& p) {
        m_picture = p;
        update();
    });
    connect(&session, &BenchSession::clipChanged, this, [this] {
        m_picture = {};
        showWhole();
    });
    for (const auto signal : {&BenchSession::frameChanged, &BenchSession::markingChanged, &BenchSession::selectionChanged,
                              &BenchSession::filmChanged})
        connect(&session, signal, this, qOverload<>(&QWidget::update));
    connect(&session, &BenchSession::toolChanged, this, [this] {
        m_drag = Drag::None;
        updateCursor();
        update();
    });
}

QSizeF FilmView::filmSize() const
{
    const auto& film = m_session.clip().film;
    return film.width > 0 && film.height > 0 ? QSizeF(film.width, film.height) : QSizeF(1280, 720);
}

QTransform FilmView::toWidget() const
{
    const QSizeF film = filmSize();
    const double scale = std::min(width() / film.width(), height() / film.height()) * m_zoom;
    QTransform t;
    t.translate(width() / 2.0 + m_pan.x(), height() / 2.0 + m_pan.y());
    t.scale(scale, scale);
    t.translate(-film.width() / 2, -film.height() / 2);
    return t;
}

ImagePoint FilmView::toFilm(QPointF p) const
{
    const QPointF f = toWidget().inverted().map(p);
    return {f.x(), f.y()};
}

void FilmView::zoomBy(double factor, QPointF about)
{
    const double before = m_zoom;
    m_zoom = std::clamp(m_zoom * factor, 1.0, kMostZoom);
    const QPointF middle(width() / 2.0, height() / 2.0);
    m_pan = m_zoom == 1 ? QPointF() : (about - middle) - (about - middle - m_pan) * (m_zoom / before);
    askForSize();
    update();
}

void FilmView::showWhole()
{
    m_zoom = 1;
    m_pan = {};
    askForSize();
    update();
}

/// Pictures are wanted no larger than they are shown; zoomed in, as they are.
void FilmView::askForSize()
{
    const double ratio = devicePixelRatioF();
    m_session.setPictureSize(m_zoom > 1
                                 ? media::PixelSize{}
                                 : media::PixelSize{static_cast<int>(width() * ratio), static_cast<int>(height() * ratio)});
}

void FilmView::resizeEvent(QResizeEvent*)
{
    askForSize();
}

std::optional<Landmark> FilmView::markAt(QPointF p) const
{
    const QTransform t = toWidget();
    std::optional<Landmark> nearest;
    double best = kHitRadius;
    for (const auto& m : m_session.marksHere()) {
        const QPointF d = t.map(QPointF(m.at.x, m.at.y)) - p;
        if (const double distance = std::hypot(d.x(), d.y()); distance < best) {
            best = distance;
            nearest = m.landmark;
        }
    }
    return nearest;
}

void FilmView::mousePressEvent(QMouseEvent* event)
{
    if (!m_session.isOpen())
        return;
    m_pressed = m_now = event->position();
    if (event->button() == Qt::MiddleButton || event->button() == Qt::RightButton) {
        m_drag = Drag::Pan;
    } else if (event->button() == Qt::LeftButton) {
        const Tool tool = m_session.tool();
        if (tool == Tool::Point) {
            m_drag = Drag::NewMark;
        } else if (tool != Tool::Look && tool != Tool::Mark) {
            m_drag = Drag::Line;
        } else if ((m_dragged = markAt(m_pressed))) {
            m_session.selectMark(m_dragged);
            m_drag = Drag::Mark;
        } else {
            m_session.selectMark({});
            m_drag = tool == Tool::Mark ? Drag::NewMark : Drag::Pan;
        }
    }
    updateCursor();
    update();
}

void FilmView::mouseMoveEvent(QMouseEvent* event)
{
    if (m_drag == Drag::Pan && m_zoom > 1) {
        m_pan += event->position() - m_now;
        m_now = event->position();
    }
    m_now = event->position();
    if (m_drag != Drag::None)
        update();
}

void FilmView::mouseReleaseEvent(QMouseEvent* event)
{
    const Drag drag = m_drag;
    m_drag = Drag::None;
    m_now = event->position();
    const bool moved = (m_now - m_pressed).manhattanLength() > 2;
    switch (drag) {
    case Drag::Mark:
        if (moved && m_dragged) {
            m_session.moveMark(*m_dragged, toFilm(m_now));
        } else if (m_session.tool() == Tool::Mark && m_session.nextLandmark()) {
            m_session.selectMark({}); // joints lie close together: a click that drags nothing is meant for the next point
            m_session.placeMark(toFilm(m_now));
        }
        break;
    case Drag::NewMark:
        m_session.tool() == Tool::Point ? m_session.placePoint(toFilm(m_now)) : m_session.placeMark(toFilm(m_now));
        break;
    case Drag::Line:
        m_session.drawLine(toFilm(m_pressed), toFilm(m_now));
        break;
    case Drag::Pan:
    case Drag::None:
        break;
    }
    updateCursor();
    update();
}

void FilmView::wheelEvent(QWheelEvent* event)
{
    zoomBy(std::pow(1.0015, event->angleDelta().y()), event->position());
    event->accept();
}

void FilmView::updateCursor()
{
    const bool draws = m_session.tool() != Tool::Look;
    setCursor(m_drag == Drag::Pan && m_zoom > 1 ? Qt::ClosedHandCursor : draws ? Qt::CrossCursor : Qt::ArrowCursor);
}

void FilmView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.fillRect(rect(), QColor(0x15, 0x1A, 0x1E));
    painter.setClipRect(rect());
    const QTransform t = toWidget();
    const QRectF shown = t.mapRect(QRectF(QPointF(), filmSize()));
    if (!m_picture.isNull()) {
        const double ratio = devicePixelRatioF();
        if (std::abs(m_picture.width() - shown.width() * ratio) < 1.5 &&
            std::abs(m_picture.height() - shown.height() * ratio) < 1.5) {
            painter.drawImage(QRectF(shown.topLeft().toPoint(), QSizeF(m_picture.size()) / ratio), m_picture); // as it is: fast
        } else {
            painter.setRenderHint(QPainter::SmoothPixmapTransform, m_zoom < 3); // far in, the coach wants to see the pixels
            painter.drawImage(shown, m_picture);
        }
    }
    if (!m_session.isOpen())
        return paintNotice(painter, tr("Choose a clip in the Roster to bring it to the bench."));
    if (const auto& e = m_session.filmError())
        return paintNotice(painter, m_session.isSearching() ? tr("Looking for the film …") : QString::fromStdString(e->text()));
    if (m_picture.isNull())
        return paintNotice(
            painter, m_session.isPictureDamaged() ? tr("This picture is damaged. Step on: its neighbours may be fine.")
                     : m_session.indexing() ? tr("Opening the film … %1 %").arg(static_cast<int>(100 * *m_session.indexing()))
                                            : tr("Opening the film …"));
    painter.setRenderHint(QPainter::Antialiasing);
    paintScene(painter);
    paintWay(painter);
    paintMarks(painter);
    const bool isThere = m_session.pictured() == m_session.frame(); // nothing of one picture is drawn on another
    if (const Reading* r = isThere ? m_session.shownReading() : nullptr)
        report::paintFigure(
            painter, r->figure, t,
            r->value ? QString::fromStdString(withUnit(*r->value, r->unit) + " " + plusMinus(kWhisker * *r->uncertainty, r->unit))
                     : QString(),
            tokens().eyeRing, 1);
    if (m_drag == Drag::Line && m_session.tool() == Tool::PlayerBox) {
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(tokens().eyeRing, 2));
        painter.drawRect(QRectF(m_pressed, m_now).normalized());
    } else if (m_drag == Drag::Line) {
        report::paintCasedLine(painter, m_pressed, m_now, tokens().eyeRing, 2.5);
    }
    if (m_drag == Drag::Mark || m_drag == Drag::NewMark)
        paintLoupe(painter);
}

/// What of the scene belongs to the tool in hand: the scale's line, faint, or the places of the court.
void FilmView::paintScene(QPainter& painter) const
{
    const auto& scene = m_session.marking().scene;
    const QTransform t = toWidget();
    const auto place = [&](ImagePoint p) { return t.map(QPointF(p.x, p.y)); };
    const Tool tool = m_session.tool();
    if (scene.scale && tool == Tool::ScaleLine)
        report::paintCasedLine(painter, place(scene.scale->from), place(scene.scale->to), Qt::white, 1.5, Qt::DashLine);
    if (tool != Tool::GroundMark && tool != Tool::GroundLine)
        return;
    constexpr double kArm = 6; // pixels
    for (const GroundMark& g : scene.ground) {
        const QPointF at = place(g.at);
        for (const QPointF arm : {QPointF(kArm, kArm), QPointF(kArm, -kArm)})
            report::paintCasedLine(painter, at - arm, at + arm, tokens().eyeRing, 2);
        report::paintLabel(painter, tr("%1, %2 m").arg(g.x).arg(g.y), QRectF(at, at).adjusted(-kArm, -kArm, kArm, kArm), 1);
    }
    if (const auto& line = m_session.groundLine()) {
        report::paintCasedLine(painter, place(line->from), place(line->to), tokens().eyeRing, 2.5);
        report::paintLabel(painter, line->text, QRectF(place(line->from), place(line->to)).normalized(), 1);
    }
}

/// The way of the selected point through the film.
void FilmView::paintWay(QPainter& painter) const
{
    if (!m_session.selectedMark())
        return;
    constexpr std::int64_t kGap = 2; // pictures; a longer one is not bridged
    const QTransform t = toWidget();
    const Mark* before = nullptr;
    QColor colour = tokens().eyeRing;
    colour.setAlpha(170);
    painter.setPen(QPen(colour, 1.5));
    for (const auto& m : m_session.marking().marks) // in the order of the film
        if (m.landmark == *m_session.selectedMark()) {
            if (before && m.frame.value - before->frame.value <= kGap)
                painter.drawLine(t.map(QPointF(before->at.x, before->at.y)), t.map(QPointF(m.at.x, m.at.y)));
            before = &m;
        }
}

void FilmView::paintMarks(QPainter& painter) const
{
    const QTransform t = toWidget();
    const auto hand = m_session.marking().athlete.hand;
    for (const auto& m : m_session.marksOn(m_session.pictured())) {
        const bool isSelected = m_session.selectedMark() == m.landmark;
        if (m_drag == Drag::Mark && m_dragged == m.landmark)
            continue;
        const QPointF p = t.map(QPointF(m.at.x, m.at.y));
        // lead side filled, trail side a ring: left and right read without colour
        const bool isTrail = m.landmark.side != BodySide::None && (m.landmark.side == BodySide::Right) == (hand == Hand::Right);
        const QColor colour = isSelected ? tokens().eyeRing : QColor(0xC9, 0xD8, 0xE4);
        const double radius = m.source == Source::Coach ? 4 : 3; // what a program found is smaller, with how sure it is
        if (m.source != Source::Coach) {
            const double reach = m.sigma * t.m11();
            painter.setPen(QPen(QColor(0xC9, 0xD8, 0xE4, m.visible ? 70 : 140), 1, m.visible ? Qt::SolidLine : Qt::DotLine));
            painter.setBrush(Qt::NoBrush);
            painter.drawEllipse(p, reach, reach);
        }
        painter.setPen(QPen(QColor(16, 20, 24, 200), radius));
        painter.setBrush(Qt::NoBrush);
        painter.drawEllipse(p, radius, radius);
        painter.setPen(QPen(colour, 1.8));
        painter.setBrush(isTrail ? QBrush(Qt::NoBrush) : QBrush(colour));
        painter.drawEllipse(p, radius, radius);
        if (isSelected) {
            painter.setFont(report::font(12, QFont::DemiBold));
            const QString name = plainName(m.landmark, hand, m_session.pack());
            const QRectF box(p.x() + 10, p.y() - 24, QFontMetricsF(painter.font()).horizontalAdvance(name) + 12, 20);
            painter.setPen(Qt::NoPen);
            painter.setBrush(QColor(27, 34, 40, 225));
            painter.drawRoundedRect(box, 3, 3);
            painter.setPen(Qt::white);
            painter.drawText(box, Qt::AlignCenter, name);
        }
    }
}

/// A magnified circle in the corner away from the pointer.
void FilmView::paintLoupe(QPainter& painter) const
{
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
    painter.drawImage(toWidget().mapRect(QRectF(QPointF(), filmSize())), m_picture);
    painter.restore();
    painter.setBrush(Qt::NoBrush);
    painter.setPen(QPen(QColor(16, 20, 24, 220), 4));
    painter.drawEllipse(middle, kLoupeRadius, kLoupeRadius);
    painter.setPen(QPen(tokens().eyeRing, 1.5));
    painter.drawEllipse(middle, kLoupeRadius, kLoupeRadius);
    for (const QPointF& d : {QPointF(1, 0), QPointF(-1, 0), QPointF(0, 1), QPointF(0, -1)})
        painter.drawLine(middle + d * 5, middle + d * 22);
}

void FilmView::paintNotice(QPainter& painter, const QString& text) const
{
    painter.setPen(QColor(0xF0, 0xEB, 0xE1));
    painter.setFont(report::font(15));
    painter.drawText(rect().adjusted(40, 20, -40, -20), Qt::AlignCenter | Qt::TextWordWrap, text);
}

} // namespace kestrel::app
