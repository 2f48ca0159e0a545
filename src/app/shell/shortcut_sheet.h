#pragma once

#include "app/shell/commands.h"

#include <QFrame>

namespace kestrel::app {

/// Every key on one sheet, laid over the window. Any key or click puts it away.
class ShortcutSheet : public QFrame {
    Q_OBJECT
public:
    ShortcutSheet(const std::vector<const Commands*>&, QWidget* over);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
};

} // namespace kestrel::app
