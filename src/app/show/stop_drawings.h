#pragma once

#include "app/show/walk_editor.h"

#include <QListWidget>
#include <QPushButton>
#include <QWidget>

namespace kestrel::app {

/// What is drawn on one stop of a walk-through: what is seen of the film's drawings, and what belongs to this stop alone. One can
/// be made the other, so that all of them are changed with the Bench's tools.
class StopDrawings : public QWidget {
    Q_OBJECT
public:
    explicit StopDrawings(WalkEditor&, QWidget* parent = nullptr);
    void showStop(std::size_t stop); ///< its drawings, as they are now

signals:
    void drawWanted(); ///< on the Bench, where the stop stands

private:
    void refreshButtons();
    void move();
    void remove();

    WalkEditor& m_editor;
    std::size_t m_stop = 0;
    std::vector<store::DrawingRow> m_onFilm; // listed first, then the stop's own
    QListWidget* m_list;
    QPushButton *m_draw, *m_move, *m_remove;
};

} // namespace kestrel::app
