#include "app/bench/ribbon_view.h"

#include "app/shell/theme.h"
#include "core/read/time_order.h"
#include "look/body_figure.h"
#include "look/fonts.h"

#include <QContextMenuEvent>
#include <QHelpEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr double kSideRoom = 40, kFigureSpacing = 62, kFlagHalfWidth = 7, kFlagHitHalfWidth = 12;

} // namespace

RibbonView::RibbonView(Bench& bench, QWidget* parent) : QWidget(parent), m_bench(bench)
{
    setMouseTracking(true);
    setAccessibleName(tr("The whole motion"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(&bench.player, &FilmPlayer::frameChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.context, &ClipContext::markingChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.player, &FilmPlayer::playingChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.context, &ClipContext::clipChanged, this, qOverload<>(&QWidget::update));
}

/// The repetition that is chosen.
FrameRange RibbonView::shownSpan() const
{
    const std::int64_t end = std::max<std::int64_t>(0, m_bench.player.clock().frames() - 1);
    const auto& r = m_bench.context.repetition();
    return {FrameIndex(std::clamp<std::int64_t>(r.first.value, 0, end)),
            FrameIndex(std::clamp<std::int64_t>(r.last.value, 0, end))};
}

double RibbonView::xOf(FramePosition f) const
{
    const auto& clock = m_bench.player.clock();
    const auto span = shownSpan();
    const auto first = clock.timeOf(span.first), last = clock.timeOf(span.last);
    const auto t = clock.timeOf(f);
    if (!first || !last || !t || last->seconds <= first->seconds)
        return kSideRoom;
    return kSideRoom + (width() - 2 * kSideRoom) * std::clamp((*t - *first) / (*last - *first), 0.0, 1.0);
}

FrameIndex RibbonView::frameAtX(double x) const
{
    const auto& clock = m_bench.player.clock();
    if (clock.frames() == 0)
        return FrameIndex(0);
    const auto span = shownSpan();
    const double first = clock.timeOf(span.first)->seconds, last = clock.timeOf(span.last)->seconds;
    const double share = std::clamp((x - kSideRoom) / (width() - 2 * kSideRoom), 0.0, 1.0);
    return clock.frameAt({first + (last - first) * share + clock.meanInterval() / 2});
}

QPointF RibbonView::flagOf(const std::string& keyPosition) const
{
    for (const auto& s : layOut())
        if (s.id == keyPosition)
            return {s.flagX, axisY() + 7};
    return {};
}

/// Flags stand at their true time; figures keep a distance from each other.
std::vector<RibbonView::Station> RibbonView::layOut() const
{
    std::vector<Station> stations;
    if (!m_bench.context.pack())
        return stations;
    const auto wrong = findOutOfOrder(*m_bench.context.pack(), m_bench.context.marking().events);
    for (const auto& e : m_bench.context.marking().events) {
        const KeyPosition* k = m_bench.context.pack()->findKeyPosition(e.keyPosition);
        if (!k)
            continue;
        const bool isDragged = m_moved && e.keyPosition == m_dragged;
        const double frame = isDragged ? static_cast<double>(m_dragFrame) : e.frame.value;
        const double x = xOf(FramePosition(frame));
        stations.push_back({k->id, QString::fromStdString(k->name), x, x, static_cast<std::int64_t>(std::llround(frame)),
                            e.source != Source::Coach, std::find(wrong.begin(), wrong.end(), k->id) != wrong.end()});
    }
    std::sort(stations.begin(), stations.end(), [](const Station& a, const Station& b) { return a.flagX < b.flagX; });
    // Neighbours push each other apart, in a few rounds, evenly to both sides.
    const double spacing =
        std::min(kFigureSpacing, (width() - kSideRoom) / std::max<double>(1, static_cast<double>(stations.size())));
    for (int round = 0; round < 60; ++round)
        for (std::size_t i = 1; i < stations.size(); ++i)
            if (const double lack = spacing - (stations[i].figureX - stations[i - 1].figureX); lack > 0) {
                stations[i - 1].figureX -= lack / 2;
                stations[i].figureX += lack / 2;
            }
    if (!stations.empty()) {
        const double over = stations.back().figureX - (width() - spacing / 2), under = spacing / 2 - stations.front().figureX;
        for (auto& s : stations)
            s.figureX += under > 0 ? under : over > 0 ? -over : 0;
    }
    return stations;
}

const RibbonView::Station* RibbonView::stationAt(const std::vector<Station>& stations, QPointF p, bool flagsOnly) const
{
    const Station* best = nullptr;
    double nearest = 1e9;
    for (const auto& s : stations) {
        const bool onFlag = p.y() >= axisY() - 3 && p.y() <= axisY() + 22 && std::abs(p.x() - s.flagX) <= kFlagHitHalfWidth;
        const bool onFigure = !flagsOnly && ((p.y() < axisY() - 3 && p.y() > 18) || p.y() > axisY() + 22) &&
                              std::abs(p.x() - s.figureX) <= kFigureSpacing / 2;
        const double d = std::abs(p.x() - (onFlag ? s.flagX : s.figureX));
        if ((onFlag || onFigure) && d < nearest) {
            nearest = d;
            best = &s;
        }
    }
    return best;
}

void RibbonView::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton || !m_bench.context.isOpen())
        return;
    m_pressed = event->position();
    m_moved = false;
    const auto stations = layOut();
    if (const Station* flag = stationAt(stations, m_pressed, true)) {
        m_dragged = flag->id;
        m_dragFrame = flag->frame;
    } else if (const Station* figure = stationAt(stations, m_pressed, false)) {
        m_bench.player.setFrame(FrameIndex(figure->frame));
    } else {
        m_scrubbing = true;
        m_bench.player.setFrame(frameAtX(m_pressed.x()));
    }
}

void RibbonView::mouseMoveEvent(QMouseEvent* event)
{
    if (m_scrubbing) {
        m_bench.player.setFrame(frameAtX(event->position().x()));
    } else if (!m_dragged.empty() && (m_moved || std::abs(event->position().x() - m_pressed.x()) > 3)) {
        m_moved = true;
        m_dragFrame = frameAtX(event->position().x()).value;
        m_bench.player.setFrame(FrameIndex(m_dragFrame)); // the film shows where the flag would stand
        update();
    } else {
        setCursor(stationAt(layOut(), event->position(), true) ? Qt::SizeHorCursor : Qt::ArrowCursor);
    }
}

void RibbonView::mouseReleaseEvent(QMouseEvent*)
{
    const std::string dragged = std::exchange(m_dragged, {});
    const bool moved = std::exchange(m_moved, false);
    m_scrubbing = false;
    if (dragged.empty())
        return;
    if (moved)
        m_bench.positions.move(dragged, FrameIndex(m_dragFrame));
    else
        m_bench.positions.goTo(dragged);
    update();
}

void RibbonView::contextMenuEvent(QContextMenuEvent* event)
{
    const auto stations = layOut();
    const Station* s = stationAt(stations, event->pos(), false);
    if (!s)
        s = stationAt(stations, event->pos(), true);
    if (!s)
        return;
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    if (s->isProposal)
        menu->addAction(tr("Accept %1").arg(s->name), this,
                        [this, id = s->id, frame = s->frame] { m_bench.positions.move(id, FrameIndex(frame)); });
    menu->addAction(tr("Remove %1").arg(s->name), this, [this, id = s->id] { m_bench.positions.remove(id); });
    menu->popup(event->globalPos());
}

bool RibbonView::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const auto stations = layOut();
        const Station* s = stationAt(stations, help->pos(), false);
        const KeyPosition* k = s && m_bench.context.pack() ? m_bench.context.pack()->findKeyPosition(s->id) : nullptr;
        QToolTip::showText(help->globalPos(),
                           k ? (s->isProposal ? tr("Proposed. Drag it, or accept it with a right click.\n") : QString()) +
                                   QString::fromStdString(k->name + ": " + k->recognise)
                             : QString(),
                           this);
        return true;
    }
    return QWidget::event(event);
}

void RibbonView::paintAxis(QPainter& painter) const
{
    const auto& t = colours();
    const double y = axisY();
    if (const auto loop = m_bench.player.loop()) {
        const double a = xOf(FramePosition(static_cast<double>(loop->first.value))),
                     b = xOf(FramePosition(static_cast<double>(loop->last.value)));
        painter.fillRect(QRectF(a, y - 4, b - a, 8), t.slatePale);
    }
    painter.setPen(QPen(t.muted, 1));
    painter.drawLine(QPointF(kSideRoom, y), QPointF(width() - kSideRoom, y));
    const auto& clock = m_bench.player.clock();
    if (clock.frames() < 2)
        return;
    const auto span = shownSpan();
    const double first = clock.timeOf(span.first)->seconds, last = clock.timeOf(span.last)->seconds;
    if (last <= first)
        return;
    double step = 0.1; // ticks of real time, at least 60 pixels apart
    while ((last - first) / step > (width() - 2 * kSideRoom) / 60.0)
        step *= step < 0.15 || step > 4 ? 5 : 2;
    painter.setFont(look::font(11));
    for (double s = 0; s <= last - first + 1e-9; s += step) {
        const double x = kSideRoom + (width() - 2 * kSideRoom) * s / (last - first);
        painter.setPen(t.muted);
        painter.drawLine(QPointF(x, y), QPointF(x, y + 4));
        painter.drawText(QRectF(x - 30, height() - 15, 60, 13), Qt::AlignCenter,
                         QString::number(s, 'f', step < 0.95 ? 1 : 0) + QStringLiteral(" s"));
    }
}

void RibbonView::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const auto& t = colours();
    painter.setPen(t.muted);
    painter.setFont(look::font(11, QFont::DemiBold));
    painter.drawText(QRectF(12, 5, width(), 14), Qt::AlignLeft, tr("The whole motion, real time"));
    if (!m_bench.context.isOpen())
        return;
    paintAxis(painter);

    const auto stations = layOut();
    const auto* here = m_bench.positions.here();
    double tallest = 0; // one scale for all, so that sinking and reaching show
    for (const auto& s : stations)
        tallest = std::max(tallest, look::BodyFigure(m_bench.context.marking(), FrameIndex(s.frame)).height());
    for (const auto& s : stations) {
        const bool isHere = here && here->id == s.id;
        const QColor flagColour = s.isOutOfOrder ? t.alert : isHere ? t.eyeRing : t.slate;
        const QRectF box(s.figureX - kFigureSpacing / 2, 24, kFigureSpacing, figureHeight());
        if (isHere) {
            QColor glow = t.eyeRing;
            glow.setAlpha(46);
            painter.setPen(Qt::NoPen);
            painter.setBrush(glow);
            painter.drawRoundedRect(box.adjusted(0, -3, 0, 8), 4, 4);
        }
        const look::BodyFigure figure(m_bench.context.marking(), FrameIndex(s.frame));
        if (figure.isEmpty()) {
            painter.setPen(t.muted);
            painter.setFont(look::font(11));
            painter.drawText(box, Qt::AlignHCenter | Qt::AlignBottom | Qt::TextWordWrap, tr("mark the body"));
        } else {
            figure.paint(painter, box.adjusted(0, 8, 0, 0), (figureHeight() - 12) / (tallest * 1.12), colours());
        }
        painter.setPen(QPen(t.rule, 1));
        painter.drawLine(QPointF(s.figureX, box.bottom() + 2), QPointF(s.flagX, axisY()));
        const double y = axisY();
        QPolygonF flag;
        flag << QPointF(s.flagX, y) << QPointF(s.flagX + kFlagHalfWidth, y + 6) << QPointF(s.flagX + kFlagHalfWidth, y + 13)
             << QPointF(s.flagX - kFlagHalfWidth, y + 13) << QPointF(s.flagX - kFlagHalfWidth, y + 6);
        painter.setPen(s.isProposal ? QPen(flagColour, 1.5) : QPen(t.panel, 1));
        painter.setBrush(s.isProposal ? t.panel : flagColour); // a proposal is hollow until it is made the coach's own
        painter.drawPolygon(flag);
        if (s.isOutOfOrder) { // not by colour alone
            painter.setPen(QPen(t.alert, 2));
            painter.drawLine(QPointF(s.flagX - kFlagHalfWidth - 2, y + 15), QPointF(s.flagX + kFlagHalfWidth + 2, y + 4));
        }
        painter.setPen(s.isOutOfOrder ? t.alert : t.ink);
        painter.setFont(look::font(11, isHere ? QFont::DemiBold : QFont::Normal));
        painter.drawText(QRectF(s.figureX - 34, 18, 68, 14), Qt::AlignCenter, s.name);
    }
    const double now = xOf(FramePosition(static_cast<double>(m_bench.player.frame().value)));
    painter.setPen(QPen(t.eyeRing, 2));
    painter.drawLine(QPointF(now, axisY() - 10), QPointF(now, axisY() + 16));
    if (stations.empty()) {
        painter.setPen(t.muted);
        painter.setFont(look::font(13));
        painter.drawText(QRectF(0, 24, width(), figureHeight()), Qt::AlignCenter,
                         tr("No key position yet: stand at the first one and press 1, then 2 for the next, and so on."));
    }
}

} // namespace kestrel::app
