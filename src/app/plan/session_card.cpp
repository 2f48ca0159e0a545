#include "app/plan/session_card.h"

#include "app/shell/theme.h"

#include <QApplication>
#include <QDrag>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

const QString kMime = QStringLiteral("application/x-kestrel-session");

} // namespace

DayCell::DayCell(Date date, const QStringList& words, bool isToday, bool isChosen, bool isLocked, QWidget* parent)
    : QFrame(parent), m_date(date), m_hasSession(!words.isEmpty())
{
    const auto& c = colours();
    setObjectName(QStringLiteral("day-") + QString::fromStdString(textOf(date)));
    setStyleSheet(QStringLiteral("DayCell,kestrel--app--DayCell{background:%1;border:%2px solid %3;border-radius:4px}")
                      .arg((m_hasSession ? c.panel : c.ground).name())
                      .arg(isChosen ? 2 : 1)
                      .arg((isChosen  ? c.slate
                            : isToday ? c.eyeRing
                                      : c.rule)
                               .name()));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(6, 4, 6, 4);
    column->setSpacing(1);
    const QString day = QString::fromStdString(wordsOf(date));
    auto* head = new QLabel(day.section(QLatin1Char(' '), 0, 2).section(QLatin1Char(' '), 0, 1) + QLatin1Char(' ') +
                                day.section(QLatin1Char(' '), 2, 2).left(3) + (isToday ? tr(", today") : QString()) +
                                (isLocked ? tr(", locked") : QString()),
                            this);
    head->setStyleSheet(QStringLiteral("color:%1;font-size:11px;font-weight:600").arg((isToday ? c.ink : c.muted).name()));
    column->addWidget(head);
    for (const auto& line : words) {
        auto* label = new QLabel(line, this);
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
        label->setStyleSheet(QStringLiteral("font-size:12px"));
        column->addWidget(label);
    }
    column->addStretch();
    setMinimumHeight(70);
    setAcceptDrops(true);
    setFocusPolicy(m_hasSession ? Qt::TabFocus : Qt::NoFocus);
    setAccessibleName(day + QLatin1Char(' ') + words.join(QStringLiteral(", ")));
}

void DayCell::mousePressEvent(QMouseEvent* event)
{
    m_from = event->pos();
    emit pressed(m_date);
}

void DayCell::mouseMoveEvent(QMouseEvent* event)
{
    if (!m_hasSession || !event->buttons().testFlag(Qt::LeftButton) ||
        (event->pos() - m_from).manhattanLength() < QApplication::startDragDistance())
        return;
    auto* drag = new QDrag(this);
    auto* mime = new QMimeData;
    mime->setData(kMime, QByteArray::fromStdString(textOf(m_date)));
    drag->setMimeData(mime);
    drag->setPixmap(grab());
    drag->exec(Qt::MoveAction);
}

void DayCell::dragEnterEvent(QDragEnterEvent* event)
{
    if (event->mimeData()->hasFormat(kMime) && !m_hasSession)
        event->acceptProposedAction();
}

void DayCell::dropEvent(QDropEvent* event)
{
    if (const auto from = parseDate(event->mimeData()->data(kMime).toStdString()))
        emit dropped(*from, m_date);
}

void DayCell::keyPressEvent(QKeyEvent* event)
{
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter || event->key() == Qt::Key_Space)
        emit pressed(m_date);
    else
        QFrame::keyPressEvent(event);
}

} // namespace kestrel::app
