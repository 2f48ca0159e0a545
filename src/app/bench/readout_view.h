#pragma once

#include "app/bench/bench.h"

#include <QFrame>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

namespace kestrel::app {

class Gauge;
class SequenceChart;

/// The read-out column: the gauges of the key position the coach stands at, or of all when at none.
class ReadoutView : public QFrame {
    Q_OBJECT
public:
    explicit ReadoutView(Bench&, QWidget* parent = nullptr);

private:
    void rebuild();
    void checkSelected();
    void showSequence(bool isWanted);
    void askObservations(const KeyPosition* here);
    QWidget* makeQuestions();
    QString nextStep() const;

    Bench& m_bench;
    QLabel* m_head;
    QLabel* m_note;
    QLabel* m_next;
    QWidget* m_list;
    QVBoxLayout* m_rows;
    QLabel* m_nothing;
    SequenceChart* m_chart;
    QLabel* m_order;
    std::vector<Observation> m_asked; // those whose boxes stand there
    QWidget* m_questions = nullptr;
    std::vector<Gauge*> m_gauges; // those not needed now are hidden
    QScrollArea* m_scroll;
    std::optional<std::string> m_shownAt; // key position whose gauges stand there; empty: they have to be made anew
};

} // namespace kestrel::app
