#pragma once

#include "app/show/walk_stage.h"

namespace kestrel::app {

/// The walk-through over the whole screen, for a family at the court: one key for the next stop, words to be read from afar.
class WalkPlayer : public QWidget {
    Q_OBJECT
public:
    /// Deletes itself when it is closed.
    WalkPlayer(std::shared_ptr<const ShownDay>, const report::WalkScript&, std::size_t first, QWidget* parent);

    WalkStage& stage() { return *m_stage; }

protected:
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void resizeEvent(QResizeEvent*) override;

private:
    void goTo(std::size_t stop);
    void next();

    std::size_t m_stops;
    WalkStage* m_stage;
    QLabel* m_foot;
};

} // namespace kestrel::app
