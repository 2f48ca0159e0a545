#pragma once

#include "app/workspace/background.h"
#include "core/base/error.h"

#include <QElapsedTimer>
#include <QFrame>
#include <QLabel>
#include <QProgressBar>

namespace kestrel::app {

/// Paints the made-up club's films in the background, once, with progress and cancel, and says where the library then lies.
/// It lies over the window until it is done.
class MadeUpClub : public QFrame {
    Q_OBJECT
public:
    /// \param folder  where the club's library is or will be
    MadeUpClub(const QString& folder, QWidget* over);
    ~MadeUpClub() override { m_work.stop(); }

    /// The club's library is there and whole.
    static bool isThere(const QString& folder);
    /// Where it lies when it is not told otherwise.
    static QString usualFolder();

signals:
    void ready(const QString& folder);
    void failed(const kestrel::Error& error);

private:
    void start();
    void show(const QString& file, int film, int films, double share);

    QString m_folder;
    Background m_work;
    QElapsedTimer m_since;
    QLabel* m_text;
    QProgressBar* m_bar;
};

} // namespace kestrel::app
