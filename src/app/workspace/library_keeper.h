#pragma once

#include "app/workspace/background.h"
#include "app/workspace/workspace.h"
#include "store/library_lock.h"

#include <QTimer>

#include <memory>

namespace kestrel::app {

/// Looks after the library while a window is open: gives a sign of life, or waits for whoever has it and takes over; has its file
/// checked, and a copy of it made once a day.
class LibraryKeeper : public QObject {
    Q_OBJECT
public:
    LibraryKeeper(std::shared_ptr<store::LibraryLock> lock, Workspace& workspace, QObject* parent = nullptr);

    /// "Another window has this library open since 10:45 ..."; empty: nobody else has it.
    QString whoHasIt() const;

signals:
    /// \param stays  until it has been read
    void message(const QString& text, bool stays);

private:
    void onTurn();
    void lookAgain();
    void takeOver();
    void lookAfterFile();

    std::shared_ptr<store::LibraryLock> m_lock;
    Workspace& m_workspace;
    QTimer m_turn;
    int m_turns = 0;
    std::int64_t m_seen = 0; // state of the other's library
    Background m_work;
};

} // namespace kestrel::app
