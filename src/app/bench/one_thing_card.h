#pragma once

#include "app/bench/bench.h"

#include <QFrame>
#include <QLabel>
#include <QToolButton>

namespace kestrel::app {

/// The one thing to change: cue, why, drill, and what is good already.
class OneThingCard : public QFrame {
    Q_OBJECT
public:
    explicit OneThingCard(Bench&, QWidget* parent = nullptr);

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void applyTones();
    void refresh();
    QString countOfDay() const;

    Bench& m_bench;
    QLabel *m_head, *m_count, *m_since, *m_cue;
    QLabel* m_why;
    QLabel* m_caution;
    QLabel *m_drill, *m_also, *m_next;
    QLabel* m_good;
    QLabel* m_remarks;
    QToolButton *m_show, *m_notYet;
};

} // namespace kestrel::app
