#pragma once

#include "app/bench/clip_context.h"
#include "app/film/film_player.h"

namespace kestrel::app {

/// The key positions of the repetition on the bench: going to them, placing, moving and removing them.
class KeyPositions : public QObject {
    Q_OBJECT
public:
    KeyPositions(Workspace&, ClipContext&, FilmPlayer&, QObject* parent = nullptr);

    void step(int direction); ///< to the next placed one, or the previous
    void goTo(const std::string& id);
    /// The key position whose frame this is; null: none.
    const KeyPosition* here() const;
    /// The film loops from the key position before to the one after where the coach stands; called again it ends looping.
    void toggleLoop();

    void place(std::size_t ordinal); ///< where the coach stands; nothing happens beyond the pack's last
    void move(const std::string& id, FrameIndex);
    void remove(const std::string& id);
    void acceptAll(); ///< every proposal becomes the coach's own

    /// "Strike lies before Lift, which comes first in the movement."; empty: all agree with the movement's order.
    QString orderProblem() const;
    /// Takes the one that was placed last back to where it was before, among those that are out of order.
    void takeBack();

signals:
    void message(const QString& text);

private:
    void edit(const QString& text, const std::string& id, const std::optional<Event>& after);

    Workspace& m_workspace;
    ClipContext& m_context;
    FilmPlayer& m_player;
    std::string m_lastPlaced; ///< by the coach, on this repetition
    std::optional<Event> m_beforeIt;
};

} // namespace kestrel::app
