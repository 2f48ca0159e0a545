#pragma once

#include "app/pair/pair_model.h"
#include "app/shell/leaf_tabs.h"
#include "app/shell/plot.h"

#include <QComboBox>
#include <QLabel>
#include <QListWidget>

namespace kestrel::app {

/// What the two films say beside each other: the differences, the curve of a measure, tempo and the order of the segments.
class PairFacts : public QWidget {
    Q_OBJECT
public:
    PairFacts(PairModel&, QWidget* parent);

    void next(); ///< the next leaf, round again

private:
    QWidget* makeDifferences();
    QWidget* makeCurve();
    QWidget* makeTempo();
    void refresh();
    void refreshCurve();
    void refreshPlace();
    QString tempoText() const;
    QString orderText() const;

    PairModel& m_model;
    LeafTabs* m_leaves;
    QListWidget* m_list;
    QLabel *m_notice, *m_said, *m_tempo;
    QComboBox *m_measure, *m_axis;
    QCustomPlot* m_plot;
    QCPItemLine* m_now;
};

} // namespace kestrel::app
