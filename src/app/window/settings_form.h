#pragma once

#include "app/bench/bench.h"

#include <QFrame>

namespace kestrel::app {

/// What can be set for this machine, beside the button that opens it.
class SettingsForm : public QFrame {
    Q_OBJECT
public:
    SettingsForm(Bench&, QWidget* beside);
};

} // namespace kestrel::app
