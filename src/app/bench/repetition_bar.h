#pragma once

#include "app/bench/bench.h"

#include <QFrame>
#include <QLabel>
#include <QToolButton>

namespace kestrel::app {

/// Which repetition of the clip this is, with steps to the others and a form for what is known about it.
class RepetitionBar : public QWidget {
    Q_OBJECT
public:
    explicit RepetitionBar(Bench&, QWidget* parent = nullptr);
    /// Opens the form below the bar.
    void edit();

private:
    void refresh();

    Bench& m_bench;
    QToolButton *m_clip, *m_previous, *m_next, *m_edit;
};

} // namespace kestrel::app
