#include "app/show/walk_player.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

constexpr double kLetters = 0.04; // of the screen's height: read from three metres

} // namespace

WalkPlayer::WalkPlayer(std::shared_ptr<const ShownDay> day, const report::WalkScript& script, std::size_t first, QWidget* parent)
    : QWidget(parent, Qt::Window), m_stops(script.stops.size())
{
    setAttribute(Qt::WA_DeleteOnClose);
    setObjectName(QStringLiteral("walkPlayer"));
    setWindowTitle(tr("Walk-through"));
    setStyleSheet(QStringLiteral("#walkPlayer{background:#151A1E} QLabel{color:#F0EBE1}"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(24, 16, 24, 12);
    m_stage = new WalkStage(this);
    m_stage->setTalk(std::move(day), script);
    m_foot = new QLabel(this);
    m_foot->setAlignment(Qt::AlignHCenter);
    m_foot->setObjectName(QStringLiteral("walkFoot"));
    layout->addWidget(m_stage, 1);
    layout->addWidget(m_foot);
    setFocusPolicy(Qt::StrongFocus);
    goTo(first);
}

void WalkPlayer::goTo(std::size_t stop)
{
    m_stage->goTo(stop, true);
    m_foot->setText(tr("%1 of %2  ·  Space or → goes on, ← goes back, R once more, Esc ends").arg(stop + 1).arg(m_stops));
}

void WalkPlayer::next()
{
    if (m_stage->stop() + 1 < m_stops)
        goTo(m_stage->stop() + 1);
    else
        close();
}

void WalkPlayer::keyPressEvent(QKeyEvent* event)
{
    switch (event->key()) {
    case Qt::Key_Space:
    case Qt::Key_Right:
    case Qt::Key_PageDown: // what a remote control sends
    case Qt::Key_Return:
        return next();
    case Qt::Key_Left:
    case Qt::Key_PageUp:
    case Qt::Key_Backspace:
        return goTo(m_stage->stop() > 0 ? m_stage->stop() - 1 : 0);
    case Qt::Key_Home:
        return goTo(0);
    case Qt::Key_R:
        return goTo(m_stage->stop());
    case Qt::Key_Escape:
        close();
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

void WalkPlayer::mousePressEvent(QMouseEvent*)
{
    next();
}

void WalkPlayer::resizeEvent(QResizeEvent*)
{
    m_stage->setLetters(static_cast<int>(height() * kLetters));
}

} // namespace kestrel::app
