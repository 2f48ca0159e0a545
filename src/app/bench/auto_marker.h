#pragma once

#include "app/bench/bench.h"
#include "app/workspace/background.h"
#include "vision/mark_film.h"
#include "vision/point_follow.h"

#include <QElapsedTimer>

namespace kestrel::app {

/// Lets the program mark the repetition on the bench: the body on every picture and the key positions its pack can find, or one
/// point that the coach has marked.
/// Works on while the coach does other things; what comes of it is one edit, which can be undone. Marks and key positions
/// of the coach stay as they are.
class AutoMarker : public QObject {
    Q_OBJECT
public:
    AutoMarker(Workspace&, Bench&, QObject* parent = nullptr);
    ~AutoMarker() override;

    bool isRunning() const { return m_isRunning; }
    double share() const { return m_share; } ///< done, 0 to 1
    /// Empty: too early to say.
    std::optional<double> secondsLeft() const;
    /// \param player  empty: the largest person
    void start(const std::optional<vision::PlayerBox>& player = {});
    /// Follows a point from the coach's own marks of it.
    void follow(const Landmark&);
    void stop(); ///< what is done is kept
    /// How many repetitions were seen on the clip on the bench where there is one so far; 0: no more than that.
    int repetitionsSeen() const;
    void split(); ///< each becomes a repetition of its own; can be undone

signals:
    void changed(); ///< running, or how far
    void message(const QString& text);

private:
    struct Work;
    Work workHere() const;
    void begin();
    using Progress = std::function<void(std::int64_t, std::int64_t)>; ///< done, of how many
    Progress progressHere();
    void apply(const Work&, const Expected<vision::MarkedFilm>&);
    void applyTrajectory(const Work&, const Landmark&, const Expected<std::vector<vision::Followed>>&);
    void end();
    void giveUp(const Error&);
    void keep(const QString& text, Workspace::Work redo, Workspace::Work undo, const QString& said);

    Workspace& m_workspace;
    Bench& m_bench;
    std::stop_source m_stop;
    QElapsedTimer m_since;
    bool m_isRunning = false;
    double m_share = 0;
    store::ClipId m_seenOn;
    std::vector<store::RepetitionRecord> m_seen; // what the clip's one repetition would be split into
};

} // namespace kestrel::app
