#pragma once

#include "app/bench/clip_context.h"
#include "app/film/film_player.h"

#include <optional>

namespace kestrel::app {

/// Counts a ball's turns on the film: a key each time the seam, or a mark put on the ball, comes round.
class SpinCounter : public QObject {
    Q_OBJECT
public:
    SpinCounter(ClipContext&, FilmPlayer&, QObject* parent = nullptr);

    struct Count {
        int turns = 0;
        FrameIndex from, to;
        std::int64_t pictures() const { return to.value - from.value; }
    };
    /// Empty: no whole turn is counted yet.
    std::optional<Count> counted() const;
    void count(); ///< at the picture stood at: the first begins, each later one is a turn more, an earlier one begins anew
    void clear();

signals:
    void message(const QString& text);

private:
    ClipContext& m_context;
    FilmPlayer& m_player;
    std::optional<FrameIndex> m_from;
    FrameIndex m_last;
    int m_turns = 0;
};

} // namespace kestrel::app
