#pragma once

#include <QComboBox>

namespace kestrel::app {

/// How fast a film is played, against real time; the speed is each item's data.
class SpeedBox : public QComboBox {
    Q_OBJECT
public:
    explicit SpeedBox(QWidget* parent) : QComboBox(parent)
    {
        setFocusPolicy(Qt::TabFocus);
        for (const int slower : {1, 2, 4, 8, 16})
            addItem(slower == 1 ? tr("true speed") : tr("speed 1/%1").arg(slower), 1.0 / slower);
    }
};

} // namespace kestrel::app
