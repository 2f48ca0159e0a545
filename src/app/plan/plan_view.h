#pragma once

#include "app/plan/plan_context.h"
#include "app/shell/leaf_tabs.h"

#include <QComboBox>
#include <QLabel>

namespace kestrel::app {

class BookView;
class ProgressView;
class WeeksView;
class WorkloadView;

/// From the cue to the next filming day: the weeks of practice, the book of what was done, the workload and the progress.
class PlanView : public QWidget {
    Q_OBJECT
public:
    PlanView(Workspace&, Bench&, QWidget* parent = nullptr);

    enum class Leaf { Weeks, Book, Workload, Progress };
    void turnTo(Leaf);
    void open(store::AthleteId);

    PlanContext& context() { return m_context; }
    WeeksView* weeks() const { return m_weeks; }
    BookView* book() const { return m_book; }
    ProgressView* progress() const { return m_progress; }

signals:
    void message(const QString& text);

protected:
    void showEvent(QShowEvent*) override;

private:
    void refresh();

    Workspace& m_workspace;
    Bench& m_bench;
    PlanContext m_context;
    QComboBox* m_athlete;
    LeafTabs* m_leaves;
    WeeksView* m_weeks;
    BookView* m_book;
    WorkloadView* m_workload;
    ProgressView* m_progress;
};

} // namespace kestrel::app
