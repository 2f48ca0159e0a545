#pragma once

#include <QFrame>

namespace kestrel::app {

/// Every key on one sheet, laid over the window. Any key or click puts it away.
class ShortcutSheet : public QFrame {
    Q_OBJECT
public:
    explicit ShortcutSheet(QWidget* over);

protected:
    void keyPressEvent(QKeyEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
};

} // namespace kestrel::app
