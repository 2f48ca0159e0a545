#include "app/bench/film_strip.h"

#include "app/shell/theme.h"
#include "look/fonts.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr double kLane = 15, kHandleReach = 7;
constexpr int kSettleMs = 250;

} // namespace

FilmStrip::FilmStrip(Bench& bench, QWidget* parent) : QWidget(parent), m_bench(bench), m_thumbnails(this)
{
    setMouseTracking(true);
    setAccessibleName(tr("The whole clip"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setToolTip(tr("Press to go there. Drag a bracket's end to change where a repetition begins or ends."));
    m_later.setSingleShot(true);
    m_later.setInterval(kSettleMs);
    connect(&m_later, &QTimer::timeout, this, &FilmStrip::orderPictures);
    connect(&bench.context, &ClipContext::clipChanged, this, [this] {
        m_thumbnails.clear();
        m_held.reset();
    });
    connect(&bench.player, &FilmPlayer::filmChanged, this, [this] {
        if (m_bench.player.isOpen() && m_thumbnails.pictures().empty())
            m_later.start();
    });
    connect(&m_thumbnails, &Thumbnails::changed, this, qOverload<>(&QWidget::update));
    connect(&bench.player, &FilmPlayer::frameChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.context, &ClipContext::markingChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.player, &FilmPlayer::playingChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.context, &ClipContext::clipChanged, this, qOverload<>(&QWidget::update));
    connect(&bench.player, &FilmPlayer::filmChanged, this, qOverload<>(&QWidget::update));
}

double FilmStrip::xOf(FrameIndex f) const
{
    return static_cast<double>(f.value) / static_cast<double>(std::max<std::int64_t>(1, m_bench.player.frames())) * width();
}

FrameIndex FilmStrip::frameAtX(double x) const
{
    const auto frame = static_cast<std::int64_t>(std::floor(x / width() * static_cast<double>(m_bench.player.frames())));
    return FrameIndex(std::clamp<std::int64_t>(frame, 0, std::max<std::int64_t>(0, m_bench.player.frames() - 1)));
}

QRectF FilmStrip::pictureArea() const
{
    return QRectF(0, kLane, width(), height() - kLane);
}

QRectF FilmStrip::bracketOf(const store::RepetitionRow& r) const
{
    const bool isHeld = m_held && m_held->id == r.id;
    const FrameIndex first = isHeld && !m_held->atEnd ? m_heldFrame : r.first;
    const FrameIndex last = isHeld && m_held->atEnd ? m_heldFrame : r.last;
    const double left = xOf(first);
    return QRectF(left, 1, std::max(6.0, xOf(FrameIndex(last.value + 1)) - left), kLane - 3);
}

QPointF FilmStrip::handleOf(store::RepetitionId id, bool atEnd) const
{
    for (const auto& r : m_bench.context.repetitions())
        if (r.id == id) {
            const QRectF b = bracketOf(r);
            return {atEnd ? b.right() - 2 : b.left() + 2, b.center().y()};
        }
    return {};
}

std::optional<FilmStrip::Handle> FilmStrip::handleAt(QPointF p) const
{
    if (p.y() > kLane)
        return std::nullopt;
    std::optional<Handle> nearest;
    double best = kHandleReach;
    for (const auto& r : m_bench.context.repetitions())
        for (const bool atEnd : {false, true})
            if (const double d = std::abs(handleOf(r.id, atEnd).x() - p.x()); d < best) {
                best = d;
                nearest = Handle{r.id, atEnd};
            }
    return nearest;
}

std::optional<store::RepetitionId> FilmStrip::bracketAt(QPointF p) const
{
    for (const auto& r : m_bench.context.repetitions())
        if (bracketOf(r).contains(p))
            return r.id;
    return std::nullopt;
}

void FilmStrip::orderPictures()
{
    if (!m_bench.player.isOpen() || m_bench.player.frames() < 1)
        return;
    const auto& film = m_bench.context.clip().film;
    const double aspect = film.height > 0 ? static_cast<double>(film.width) / film.height : 16.0 / 9;
    const double tall = pictureArea().height();
    const int count = std::max(1, static_cast<int>(std::ceil(width() / (tall * aspect))));
    std::vector<FrameIndex> frames;
    for (int i = 0; i < count; ++i) // the picture in the middle of each field
        frames.push_back(frameAtX((i + 0.5) * tall * aspect));
    const double ratio = devicePixelRatioF();
    m_thumbnails.make(m_bench.context.filmPath(), m_bench.player.index(), std::move(frames),
                      QSize(static_cast<int>(tall * aspect * ratio), static_cast<int>(tall * ratio)));
}

void FilmStrip::resizeEvent(QResizeEvent*)
{
    m_later.start();
}

void FilmStrip::mousePressEvent(QMouseEvent* event)
{
    if (event->button() != Qt::LeftButton || !m_bench.context.isOpen())
        return;
    const QPointF p = event->position();
    if ((m_held = handleAt(p))) {
        m_bench.context.setRepetition(m_held->id);
        m_heldFrame = m_held->atEnd ? m_bench.context.repetition().last : m_bench.context.repetition().first;
    } else if (const auto id = bracketAt(p); id && m_bench.context.repetitions().size() > 1) {
        m_bench.context.setRepetition(*id);
    } else {
        m_scrubbing = true;
        m_bench.player.setFrame(frameAtX(p.x()));
    }
}

void FilmStrip::mouseMoveEvent(QMouseEvent* event)
{
    const QPointF p = event->position();
    if (m_held) {
        const auto& r = m_bench.context.repetition();
        const FrameIndex f = frameAtX(p.x());
        m_heldFrame = m_held->atEnd ? std::max(f, r.first) : std::min(f, r.last);
        m_bench.player.setFrame(m_heldFrame); // the coach sees where the end goes
        update();
    } else if (m_scrubbing) {
        m_bench.player.setFrame(frameAtX(p.x()));
    } else {
        setCursor(handleAt(p) ? Qt::SizeHorCursor : Qt::ArrowCursor);
    }
}

void FilmStrip::mouseReleaseEvent(QMouseEvent*)
{
    m_scrubbing = false;
    if (!m_held)
        return;
    store::RepetitionRow after = m_bench.context.repetition();
    (m_held->atEnd ? after.last : after.first) = m_heldFrame;
    m_held.reset();
    m_bench.repetitions.change(tr("change the repetition's ends"), after);
    update();
}

void FilmStrip::paintEvent(QPaintEvent*)
{
    QPainter painter(this);
    const auto& t = colours();
    const QRectF area = pictureArea();
    painter.fillRect(area, QColor(0x15, 0x1A, 0x1E));
    if (!m_bench.context.isOpen())
        return;
    painter.setRenderHint(QPainter::SmoothPixmapTransform);
    painter.save();
    painter.setClipRect(area);
    for (const auto& [frame, image] : m_thumbnails.pictures()) {
        const double wide = area.height() * image.width() / std::max(1, image.height());
        const double field = std::floor((xOf(FrameIndex(frame)) + 0.5) / wide) * wide;
        painter.drawImage(QRectF(field, area.top(), wide, area.height()), image);
    }
    painter.restore();
    painter.setRenderHint(QPainter::Antialiasing);
    if (const auto loop = m_bench.player.loop()) {
        const double a = xOf(loop->first), b = xOf(FrameIndex(loop->last.value + 1));
        painter.fillRect(QRectF(0, area.top(), a, area.height()), QColor(0, 0, 0, 120));
        painter.fillRect(QRectF(b, area.top(), width() - b, area.height()), QColor(0, 0, 0, 120));
        painter.setPen(QPen(t.eyeRing, 1.5, Qt::DashLine));
        painter.drawRect(QRectF(a, area.top() + 1, b - a, area.height() - 2));
    }
    paintBrackets(painter);
    const double x = xOf(m_bench.player.frame());
    painter.setPen(QPen(QColor(16, 20, 24, 200), 4));
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
    painter.setPen(QPen(t.eyeRing, 2));
    painter.drawLine(QPointF(x, area.top()), QPointF(x, area.bottom()));
}

/// The chosen repetition is filled, the others are outlined: told apart without colour.
void FilmStrip::paintBrackets(QPainter& painter) const
{
    const auto& t = colours();
    painter.setFont(look::font(11, QFont::DemiBold));
    int n = 0;
    for (const auto& r : m_bench.context.repetitions()) {
        const QRectF b = bracketOf(r);
        const bool isChosen = r.id == m_bench.context.repetition().id;
        painter.setPen(QPen(t.slate, 1));
        painter.setBrush(isChosen ? QBrush(t.slate) : QBrush(t.panel));
        painter.drawRoundedRect(b.adjusted(0.5, 0.5, -0.5, -0.5), 3, 3);
        const QString name = r.name.empty() ? QString::number(++n) : (++n, QString::fromStdString(r.name));
        painter.setPen(isChosen ? t.panel : t.slate);
        painter.drawText(b.adjusted(6, 0, -4, 0), Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(name, Qt::ElideRight, static_cast<int>(b.width()) - 10));
    }
}

} // namespace kestrel::app
