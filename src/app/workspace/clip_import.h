#pragma once

#include "app/workspace/background.h"
#include "app/workspace/workspace.h"

#include <QObject>
#include <QStringList>

namespace kestrel::app {

/// Adds films to a filming day, one after the other, off the interface thread. A film that cannot be used is named
/// and the others go on.
class ClipImport : public QObject {
    Q_OBJECT
public:
    explicit ClipImport(Workspace&, QObject* parent = nullptr);

    /// A film before it becomes a clip.
    struct Looked {
        store::Clip clip;  ///< without its day
        std::string index; ///< as media::Film::indexBytes()
    };

    void add(store::DayId, const QStringList& files);
    void cancel();
    bool isRunning() const { return m_total > 0; }

signals:
    /// \param done  of \p total; both 0 when the work has ended
    void progress(int done, int total, const QString& file);
    void added(kestrel::store::ClipId clip);

private:
    void next();
    void onLooked(const QString& file, Expected<Looked> looked);

    Workspace& m_workspace;
    store::DayId m_day;
    QStringList m_waiting;
    int m_done = 0, m_total = 0;
    Background m_work;
};

} // namespace kestrel::app
