#pragma once

#include "app/bench/clip_context.h"
#include "app/film/film_player.h"
#include "core/flight/turn_count.h"

namespace kestrel::app {

/// Counts a ball's turns on the film: a key each time the seam, or a mark put on the ball, comes round, and any part of a turn by
/// the angle at which it stands.
class SpinCounter : public QObject {
    Q_OBJECT
public:
    SpinCounter(ClipContext&, FilmPlayer&, QObject* parent = nullptr);

    std::optional<CountedTurns> counted() const { return m_turns.counted(); } ///< empty: nothing can be told yet
    void count(); ///< at the picture stood at: the first begins, each later one is a turn more, an earlier one begins anew
    /// At the picture stood at, the mark lies in this direction from the ball's middle.
    void setAngle(ImagePoint middle, ImagePoint mark);
    void clear() { m_turns = {}; }

signals:
    void message(const QString& text);

private:
    void say();

    ClipContext& m_context;
    FilmPlayer& m_player;
    TurnCount m_turns;
};

} // namespace kestrel::app
