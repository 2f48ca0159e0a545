#pragma once

#include "core/base/date.h"

#include <QFrame>
#include <QLabel>

#include <optional>

namespace kestrel::app {

/// One day of the sheet: its session, if it has one. A session can be dragged to another day.
class DayCell : public QFrame {
    Q_OBJECT
public:
    /// \param words  of the session, a line each; empty: nothing is planned
    DayCell(Date, const QStringList& words, bool isToday, bool isChosen, bool isLocked, QWidget* parent);

    Date date() const { return m_date; }

signals:
    void pressed(kestrel::Date);
    void dropped(kestrel::Date from, kestrel::Date to);

protected:
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    Date m_date;
    bool m_hasSession;
    QPoint m_from;
};

} // namespace kestrel::app
