#include "app/plan/plan_view.h"

#include "app/plan/book_view.h"
#include "app/plan/progress_view.h"
#include "app/plan/weeks_view.h"
#include "app/plan/workload_view.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace kestrel::app {

PlanView::PlanView(Workspace& workspace, Bench& bench, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_bench(bench), m_context(workspace, bench)
{
    m_weeks = new WeeksView(m_context, this);
    m_book = new BookView(m_context, this);
    m_workload = new WorkloadView(m_context, this);
    m_progress = new ProgressView(m_context, this);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 16);
    auto* row = new QHBoxLayout;
    auto* head = new QLabel(tr("Plan"), this);
    head->setProperty("head", true);
    row->addWidget(head);
    row->addSpacing(12);
    m_leaves = new LeafTabs({{m_weeks, tr("Weeks"), tr("Which drill on which day until the next filming day"), "leafWeeks"},
                             {m_book, tr("Book"), tr("What was done each day"), "leafBook"},
                             {m_workload, tr("Workload"), tr("How much is left, and until when to rest"), "leafWorkload"},
                             {m_progress, tr("Progress"), tr("Each measure over the filming days"), "leafProgress"}},
                            row, this);
    row->addStretch();
    m_athlete = new QComboBox(this);
    m_athlete->setObjectName(QStringLiteral("planAthlete"));
    m_athlete->setToolTip(tr("Whose plan and book"));
    m_athlete->setMinimumContentsLength(18);
    row->addWidget(m_athlete);
    layout->addLayout(row);
    layout->addWidget(m_leaves, 1);
    connect(m_athlete, &QComboBox::activated, this,
            [this] { m_context.open(store::AthleteId(m_athlete->currentData().toLongLong())); });
    connect(m_weeks, &WeeksView::message, this, &PlanView::message);
    connect(m_weeks, &WeeksView::bookWanted, this, [this](Date date) {
        m_book->choose(date);
        turnTo(Leaf::Book);
    });
    connect(m_book, &BookView::message, this, &PlanView::message);
    connect(m_workload, &WorkloadView::message, this, &PlanView::message);
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject == Change::Subject::Athlete || change.subject == Change::Subject::Anything)
            refresh();
    });
    refresh();
}

void PlanView::turnTo(Leaf leaf)
{
    m_leaves->turnTo(static_cast<int>(leaf));
}

void PlanView::open(store::AthleteId id)
{
    m_context.open(id);
    refresh();
}

/// Whoever is on the bench, until another is chosen.
void PlanView::showEvent(QShowEvent*)
{
    if (!m_context.isOpen() && m_bench.context.isOpen())
        m_context.open(m_bench.context.athlete().id);
    refresh();
}

void PlanView::refresh()
{
    m_athlete->clear();
    m_athlete->addItem(tr("choose an athlete"), qlonglong(0));
    for (const auto& a : m_workspace.valueOr(m_workspace.library().athletes().all()))
        m_athlete->addItem(QString::fromStdString(a.name), qlonglong(a.id.value));
    m_athlete->setCurrentIndex(std::max(0, m_athlete->findData(qlonglong(m_context.athlete().id.value))));
}

} // namespace kestrel::app
