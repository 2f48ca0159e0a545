#pragma once

#include "app/plan/plan_context.h"
#include "app/shell/plot.h"

#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace kestrel::app {

/// How much is left, until when to rest, what to look at, and the rule it goes by, which can be changed.
class WorkloadView : public QWidget {
    Q_OBJECT
public:
    WorkloadView(PlanContext&, QWidget* parent);

signals:
    void message(const QString& text);

private:
    QWidget* makeRule();
    void refresh();
    void refreshBars();
    void refreshRule();
    void storeRule();

    PlanContext& m_context;
    QLabel *m_left, *m_rest, *m_warnings, *m_rule, *m_said;
    QPushButton *m_clear, *m_shipped;
    QCustomPlot* m_plot;
    QCPBars* m_bars;
    QCPItemStraightLine* m_limit;
    QTableWidget *m_limits, *m_steps;
    bool m_refreshing = false;
};

} // namespace kestrel::app
