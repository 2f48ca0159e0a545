#pragma once

#include "app/background.h"
#include "app/workspace.h"

#include <QImage>
#include <QObject>
#include <QStringList>

#include <map>

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
    void take(const QString& file, Expected<Looked> looked);

    Workspace& m_workspace;
    store::DayId m_day;
    QStringList m_waiting;
    int m_done = 0, m_total = 0;
    Background m_work;
};

/// Gets small pictures of clips in the background and keeps them.
class Posters : public QObject {
    Q_OBJECT
public:
    explicit Posters(QObject* parent = nullptr) : QObject(parent) {}

    /// Null until it is there; then ready() is announced.
    QImage poster(store::ClipId, const std::string& file, FrameIndex);

signals:
    void ready();

private:
    std::map<store::ClipId, QImage> m_posters; // null while one is being made, or when there is none
};

} // namespace kestrel::app
