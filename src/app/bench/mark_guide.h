#pragma once

#include "app/bench/bench.h"

#include <QCheckBox>
#include <QFrame>
#include <QLabel>
#include <QToolButton>

namespace kestrel::app {

/// Which point to mark next, on a small body, over the film's corner.
class MarkGuide : public QFrame {
    Q_OBJECT
public:
    explicit MarkGuide(Bench&, QWidget* parent = nullptr);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void refresh();

    Bench& m_bench;
    QLabel* m_name;
    QLabel* m_count;
    QCheckBox* m_whole;
    QToolButton* m_skip;
};

} // namespace kestrel::app
