#pragma once

#include <QDoubleSpinBox>
#include <QWheelEvent>

namespace kestrel::app {

/// A number with steppers. It takes the wheel only while it has the focus, so that scrolling past changes nothing.
class NumberField : public QDoubleSpinBox {
public:
    explicit NumberField(QWidget* parent = nullptr) : QDoubleSpinBox(parent) { setFocusPolicy(Qt::StrongFocus); }

protected:
    void wheelEvent(QWheelEvent* event) override
    {
        if (hasFocus())
            QDoubleSpinBox::wheelEvent(event);
        else
            event->ignore();
    }
};

} // namespace kestrel::app
