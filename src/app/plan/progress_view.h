#pragma once

#include "app/plan/plan_context.h"
#include "app/shell/plot.h"
#include "core/plan/progress.h"

#include <QComboBox>
#include <QLabel>

namespace kestrel::app {

/// Each measure over the filming days, growth, outcomes and what was practised.
class ProgressView : public QWidget {
    Q_OBJECT
public:
    ProgressView(PlanContext&, QWidget* parent);

    const Progress& progress() const { return m_progress; } ///< that is shown

signals:
    void gathered(); ///< the days have been read

protected:
    void showEvent(QShowEvent*) override;

private:
    void outdate();
    void gather();
    void refresh();
    QString outcomeWords() const;

    PlanContext& m_context;
    Background m_work;
    bool m_isStale = true;
    std::vector<ProgressDay> m_days;
    std::vector<std::pair<int, int>> m_outcomes; // made and all, by day
    Progress m_progress;
    QComboBox* m_measure;
    QLabel *m_words, *m_more;
    QCustomPlot* m_plot;
    QCPItemRect* m_band;
    QCPErrorBars* m_whiskers;
};

} // namespace kestrel::app
