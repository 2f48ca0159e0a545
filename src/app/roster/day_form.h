#pragma once

#include "app/workspace/workspace.h"

#include <QFrame>

namespace kestrel::app {

/// What is noted about a filming day: the kind of practice, a note, and pain. Each field is stored as it is left.
class DayForm : public QFrame {
    Q_OBJECT
public:
    DayForm(Workspace&, const store::FilmingDay&, QWidget* beside);

private:
    template <class Set> void change(const QString& text, Set set);

    Workspace& m_workspace;
    store::DayId m_day;
};

} // namespace kestrel::app
