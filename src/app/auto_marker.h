#pragma once

#include "app/background.h"
#include "app/bench_session.h"
#include "vision/pose_track.h"

#include <QElapsedTimer>

namespace kestrel::app {

/// Lets the program mark the repetition on the bench: the body on every picture and the key positions its pack can find.
/// Works on while the coach does other things; what comes of it is one edit, which can be undone. Marks and key positions
/// of the coach stay as they are.
class AutoMarker : public QObject {
    Q_OBJECT
public:
    AutoMarker(Workspace&, BenchSession&, QObject* parent = nullptr);
    ~AutoMarker() override;

    bool isRunning() const { return m_isRunning; }
    double share() const { return m_share; } ///< done, 0 to 1
    /// Empty: too early to say.
    std::optional<double> secondsLeft() const;
    /// \param player  empty: the largest person
    void start(const std::optional<vision::PlayerBox>& player = {});
    void stop(); ///< what is done is kept

signals:
    void changed(); ///< running, or how far
    void message(const QString& text);

private:
    struct Work;
    struct Found;
    static Expected<Found> mark(const Work&, const vision::TrackOptions&);
    void take(const Work&, const Expected<Found>&);

    Workspace& m_workspace;
    BenchSession& m_session;
    std::stop_source m_stop;
    QElapsedTimer m_since;
    bool m_isRunning = false;
    double m_share = 0;
};

} // namespace kestrel::app
