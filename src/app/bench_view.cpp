#include "app/bench_view.h"

#include <QLocale>

#include "app/film_check_card.h"
#include "app/film_strip.h"
#include "app/film_view.h"
#include "app/ground_form.h"
#include "app/mark_guide.h"
#include "app/one_thing_card.h"
#include "app/readout_view.h"
#include "app/repetition_bar.h"
#include "app/ribbon_view.h"
#include "app/theme.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <cmath>

namespace kestrel::app {

BenchView::BenchView(Workspace& workspace, BenchSession& session, QWidget* parent)
    : QWidget(parent), m_session(session), m_marker(workspace, session)
{
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(16, 10, 16, 12);
    whole->setSpacing(8);
    whole->addLayout(makeHeader());
    auto* columns = new QHBoxLayout;
    columns->setSpacing(16);
    auto* left = new QVBoxLayout;
    left->setSpacing(6);
    m_film = new FilmView(session, this);
    m_guide = new MarkGuide(session, m_film);
    m_check = new FilmCheckCard(workspace, this); // over the film, and what is below it when it has much to say
    m_check->setFixedWidth(440);
    m_check->hide();
    connect(&session, &BenchSession::clipChanged, m_check, &QWidget::hide);
    left->addLayout(makeTools());
    left->addWidget(m_film, 1);
    m_strip = new FilmStrip(session, this);
    left->addWidget(m_strip);
    left->addLayout(makeTransport());
    auto* ribbonCard = new QFrame(this);
    ribbonCard->setProperty("card", true);
    auto* ribbonLayout = new QVBoxLayout(ribbonCard);
    ribbonLayout->setContentsMargins(1, 1, 1, 1);
    m_ribbon = new RibbonView(session, ribbonCard);
    ribbonLayout->addWidget(m_ribbon);
    left->addWidget(ribbonCard);
    columns->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(10);
    auto* readout = new ReadoutView(session, this);
    auto* card = new OneThingCard(session, this);
    readout->setFixedWidth(352);
    card->setFixedWidth(352);
    right->addWidget(readout, 1);
    right->addWidget(card);
    columns->addLayout(right);
    whole->addLayout(columns, 1);

    setFocusPolicy(Qt::StrongFocus);
    connect(&session, &BenchSession::clipChanged, this, &BenchView::refreshClip);
    connect(&session, &BenchSession::filmChanged, this, &BenchView::refreshClip);
    connect(&session, &BenchSession::markingChanged, this, &BenchView::refreshClip);
    connect(&session, &BenchSession::frameChanged, this, &BenchView::refreshWhere);
    connect(&session, &BenchSession::toolChanged, this, &BenchView::refreshTools);
    connect(&session, &BenchSession::playingChanged, this, &BenchView::refreshTransport);
    connect(&session, &BenchSession::pictureDropped, this, &BenchView::refreshDropped);
    connect(&m_marker, &AutoMarker::changed, this, &BenchView::refreshMarker);
    connect(&m_marker, &AutoMarker::message, &session, &BenchSession::message);
    for (const auto signal : {&BenchSession::filmChanged, &BenchSession::markingChanged})
        connect(&session, signal, this, &BenchView::refreshMarker);
    connect(&session, &BenchSession::playerDrawn, this, [this](ImagePoint corner, double width, double height) {
        m_marker.start(vision::PlayerBox{m_session.frame(), corner, width, height});
    });
    connect(&session, &BenchSession::groundPlaced, this, [this](ImagePoint at) {
        askForGroundPlace(m_session, at, this, m_film->mapToGlobal(m_film->toWidget().map(QPointF(at.x, at.y))).toPoint());
    });
    connect(&session, &BenchSession::pointCorrected, this, [this](const Landmark& l) { m_marker.follow(l); });
    connect(&Theme::instance(), &Theme::changed, this, [this] {
        refreshTools();
        refreshTransport();
    });
    refreshClip();
    refreshTools();
    refreshTransport();
    refreshMarker();
}

/// What the skill's pack knows, the athlete's height, and what can be laid down.
void BenchView::fillKnownLengths()
{
    std::vector<std::pair<QString, double>> lengths;
    const auto add = [&](const QString& name, double metres) {
        lengths.emplace_back(name + QLatin1Char(' ') + QLocale::c().toString(metres, 'g', 4) + QStringLiteral(" m"), metres);
    };
    if (m_session.pack())
        for (const auto& k : m_session.pack()->knownLengths)
            add(QString::fromStdString(k.name), k.metres);
    if (const auto height = m_session.athlete().heightMetres)
        add(tr("athlete's height"), *height);
    add(tr("stick"), 1);
    add(tr("tape"), 2);
    bool isSame = static_cast<int>(lengths.size()) == m_known->count();
    for (std::size_t i = 0; isSame && i < lengths.size(); ++i)
        isSame = m_known->itemText(static_cast<int>(i)) == lengths[i].first;
    if (isSame)
        return;
    m_known->clear();
    for (const auto& [name, metres] : lengths)
        m_known->addItem(name, metres);
    m_session.setKnownLength(lengths.front().second);
}

void BenchView::refreshClip()
{
    m_refreshing = true;
    const bool open = m_session.isOpen();
    const auto& athlete = m_session.athlete();
    m_name->setText(open ? QString::fromStdString(athlete.name) : tr("Bench"));
    QStringList facts;
    if (open) {
        if (const auto age = m_session.marking().athlete.age)
            facts << tr("%1 y").arg(static_cast<int>(*age));
        facts << (athlete.hand == Hand::Right ? tr("right-handed") : tr("left-handed"));
        if (athlete.heightMetres)
            facts << tr("%1 m").arg(*athlete.heightMetres, 0, 'f', 2);
        facts << QString::fromStdString(m_session.day().date);
    }
    m_facts->setText(facts.join(QStringLiteral(" · ")));
    fillKnownLengths();
    m_variant->clear();
    if (m_session.pack())
        for (const auto& v : m_session.pack()->variants)
            m_variant->addItem(v == "windup" ? tr("wind-up") : QString::fromStdString(v), QString::fromStdString(v));
    m_variant->setCurrentIndex(m_variant->findData(QString::fromStdString(m_session.repetition().variant)));
    m_view->setCurrentIndex(m_view->findData(static_cast<int>(m_session.clip().scene.view)));
    m_capture->setValue(m_session.clip().clock.capture);
    m_playback->setValue(m_session.clip().clock.playback);
    for (QWidget* w : {static_cast<QWidget*>(m_variant), static_cast<QWidget*>(m_view), static_cast<QWidget*>(m_capture),
                       static_cast<QWidget*>(m_playback), static_cast<QWidget*>(m_page), static_cast<QWidget*>(m_known)})
        w->setEnabled(open);
    m_find->setVisible(m_session.filmError().has_value() && !m_session.isSearching());
    m_refreshing = false;
    refreshWhere();
    refreshTools();
}

void BenchView::takeRates()
{
    if (!m_refreshing)
        m_session.setRates({m_capture->value(), m_playback->value()});
}

void BenchView::refreshWhere()
{
    const KeyPosition* here = m_session.keyPositionHere();
    m_where->setText(here ? QString::fromStdString(here->name) : tr("Film"));
    if (!m_session.isOpen()) {
        m_time->clear();
        return;
    }
    QString text = tr("frame %1 of %2").arg(m_session.frame().value).arg(m_session.frames());
    const Event* zero = m_session.pack() ? findEvent(m_session.marking(), "strike") : nullptr;
    const auto now = m_session.clock().timeOf(m_session.frame());
    const auto origin = zero ? m_session.clock().timeOf(zero->frame) : m_session.clock().timeOf(FrameIndex(0));
    if (now && origin)
        text += QStringLiteral("   ") + (zero ? tr("%1 s from strike") : tr("%1 s")).arg(*now - *origin, 0, 'f', 3);
    m_time->setText(text);
}

void BenchView::refreshTools()
{
    for (const auto& [tool, button] : m_tools) {
        button->setChecked(m_session.tool() == tool);
        button->setIcon(Theme::icon(button->property("iconName").toString(), tokens().ink));
        button->setEnabled(m_session.isOpen());
    }
    placeGuide();
}

void BenchView::refreshTransport()
{
    for (auto* button : findChildren<QToolButton*>())
        if (button->property("flat").toBool() && button->property("iconName").isValid())
            button->setIcon(Theme::icon(button->property("iconName").toString(), tokens().ink));
    const auto iconOf = [this](bool backward, const QString& still) {
        return Theme::icon(m_session.isPlaying() && m_session.isBackward() == backward ? QStringLiteral("pause") : still,
                           tokens().ink);
    };
    m_play->setIcon(iconOf(false, QStringLiteral("play")));
    m_playBack->setIcon(iconOf(true, QStringLiteral("play-back")));
    m_speed->setCurrentIndex(m_speed->findData(m_session.speed()));
    m_loop->setChecked(m_session.loop().has_value());
    refreshDropped();
}

void BenchView::refreshDropped()
{
    m_dropped->setText(m_session.droppedPictures() > 0 ? tr("%1 pictures left out").arg(m_session.droppedPictures()) : QString());
}

void BenchView::refreshMarker()
{
    m_markForMe->setEnabled(m_marker.isRunning() || m_session.hasFilm());
    m_split->setVisible(m_marker.repetitionsSeen() > 1);
    m_split->setText(tr("Split into the %1 repetitions that are seen").arg(m_marker.repetitionsSeen()));
    if (!m_marker.isRunning()) {
        m_markForMe->setText(tr("Mark for me"));
        m_markForMe->setToolTip(tr("Find the body on every picture, and the key positions (G). What you marked yourself stays."));
        return;
    }
    const int percent = static_cast<int>(100 * m_marker.share());
    QString text = tr("Stop · %1 %").arg(percent);
    if (const auto left = m_marker.secondsLeft()) { // no longer than that: a wide button would widen the window
        const int seconds = static_cast<int>(std::ceil(*left));
        text = seconds < 100 ? tr("Stop · %1 s left").arg(seconds) : tr("Stop · %1 min left").arg((seconds + 30) / 60);
    }
    m_markForMe->setText(text);
    m_markForMe->setToolTip(tr("%1 % done. Stop; what is marked by then is kept").arg(percent));
}

void BenchView::followSelected()
{
    if (const auto& selected = m_session.selectedMark())
        m_marker.follow(*selected);
    else
        emit m_session.message(tr("Select a point on the film first, then press K to follow it."));
}

void BenchView::togglePlaying(bool backward)
{
    m_session.setPlaying(!(m_session.isPlaying() && m_session.isBackward() == backward), backward);
}

void BenchView::toggleFilmCheck()
{
    if (m_check->isVisible() || !m_session.isOpen())
        return m_check->hide();
    m_check->move(m_film->geometry().topLeft() + QPoint(12, 12));
    m_check->show(m_session.clip().id);
    m_check->raise();
}

void BenchView::placeGuide()
{
    m_guide->move(12, m_film->height() - m_guide->height() - 12);
}

void BenchView::resizeEvent(QResizeEvent*)
{
    QMetaObject::invokeMethod(this, &BenchView::placeGuide, Qt::QueuedConnection); // once the film has its new size
}

void BenchView::keyPressEvent(QKeyEvent* event)
{
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    const bool marks = m_session.selectedMark().has_value();
    const double nudge = shift ? 0.25 : 1;
    const auto changeSpeed = [this](int by) {
        m_session.setSpeed(m_speed->itemData(std::clamp(m_speed->currentIndex() + by, 0, m_speed->count() - 1)).toDouble());
    };
    if (event->modifiers() & (Qt::ControlModifier | Qt::AltModifier))
        return QWidget::keyPressEvent(event);
    switch (event->key()) {
    case Qt::Key_Left:
        marks ? m_session.nudgeSelected(-nudge, 0) : m_session.step(shift ? -10 : -1);
        break;
    case Qt::Key_Right:
        marks ? m_session.nudgeSelected(nudge, 0) : m_session.step(shift ? 10 : 1);
        break;
    case Qt::Key_Up:
        marks ? m_session.nudgeSelected(0, -nudge) : m_session.stepKeyPosition(-1);
        break;
    case Qt::Key_Down:
        marks ? m_session.nudgeSelected(0, nudge) : m_session.stepKeyPosition(1);
        break;
    case Qt::Key_Home:
        m_session.setFrame(FrameIndex(0));
        break;
    case Qt::Key_End:
        m_session.setFrame(FrameIndex(m_session.frames() - 1));
        break;
    case Qt::Key_Space:
        togglePlaying(shift);
        break;
    case Qt::Key_F:
        toggleFilmCheck();
        break;
    case Qt::Key_G:
        m_marker.isRunning() ? m_marker.stop() : m_marker.start();
        break;
    case Qt::Key_K:
        followSelected();
        break;
    case Qt::Key_W:
        m_session.goToDoubt();
        break;
    case Qt::Key_I:
        m_session.setLoopFirst();
        break;
    case Qt::Key_O:
        m_session.setLoopLast();
        break;
    case Qt::Key_N:
        m_session.addRepetition();
        break;
    case Qt::Key_R:
        m_repetitions->edit();
        break;
    case Qt::Key_PageUp:
        m_session.stepRepetition(-1);
        break;
    case Qt::Key_PageDown:
        m_session.stepRepetition(1);
        break;
    case Qt::Key_BracketLeft:
        changeSpeed(1);
        break;
    case Qt::Key_BracketRight:
        changeSpeed(-1);
        break;
    case Qt::Key_L:
        m_session.toggleLoop();
        break;
    case Qt::Key_M:
        m_session.setTool(m_session.tool() == Tool::Mark ? Tool::Look : Tool::Mark);
        break;
    case Qt::Key_S:
        m_session.setTool(Tool::ScaleLine);
        break;
    case Qt::Key_U:
        m_session.setTool(Tool::UpLine);
        break;
    case Qt::Key_T:
        m_session.setTool(Tool::TargetLine);
        break;
    case Qt::Key_X:
        m_session.skipLandmark();
        break;
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        m_session.removeSelected();
        break;
    case Qt::Key_Plus:
    case Qt::Key_Equal:
        m_film->zoomBy(1.25, m_film->rect().center());
        break;
    case Qt::Key_Minus:
        m_film->zoomBy(0.8, m_film->rect().center());
        break;
    case Qt::Key_0:
        m_film->showWhole();
        break;
    case Qt::Key_Escape:
        m_session.selectMark({});
        m_session.setTool(Tool::Look);
        break;
    default:
        if (event->key() >= Qt::Key_1 && event->key() <= Qt::Key_9)
            m_session.placeKeyPosition(static_cast<std::size_t>(event->key() - Qt::Key_1));
        else
            QWidget::keyPressEvent(event);
    }
}

} // namespace kestrel::app
