#include "app/plan/workload_view.h"

#include "app/shell/labels.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kDaysShown = 35;

/// The cell's number, not below zero. Empty: none is typed.
std::optional<int> numberIn(const QTableWidget& table, int row, int column)
{
    bool isOne = false;
    const auto* item = table.item(row, column);
    const int n = item ? item->text().toInt(&isOne) : 0;
    return isOne && n >= 0 ? std::optional(n) : std::nullopt;
}

} // namespace

WorkloadView::WorkloadView(PlanContext& context, QWidget* parent) : QWidget(parent), m_context(context)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    auto* left = new QVBoxLayout;
    m_left = addLabel(left, this, "workloadLeft");
    m_left->setProperty("head", true);
    m_rest = addLabel(left, this, "workloadRest");
    m_warnings = addLabel(left, this, "workloadWarnings");
    m_clear = new QPushButton(tr("A licensed clinician has cleared it"), this);
    m_clear->setObjectName(QStringLiteral("clearPain"));
    m_clear->setToolTip(tr("Noted with today's date; throwing and serving are planned again"));
    left->addWidget(m_clear, 0, Qt::AlignLeft);
    m_plot = new QCustomPlot(this);
    m_plot->setObjectName(QStringLiteral("workloadBars"));
    m_plot->setMinimumHeight(200);
    m_bars = new QCPBars(m_plot->xAxis, m_plot->yAxis);
    m_bars->setWidth(0.8);
    m_limit = new QCPItemStraightLine(m_plot);
    left->addWidget(m_plot, 1);
    m_said = addLabel(left, this, "workloadSaid");
    m_said->setProperty("muted", true);
    m_rule = addLabel(left, this, "workloadRule");
    m_rule->setProperty("muted", true);
    row->addLayout(left, 1);
    row->addWidget(makeRule());
    connect(m_clear, &QPushButton::clicked, this, [this] {
        for (const auto region : m_context.book().openPain(m_context.today()))
            m_context.clear(region);
    });
    connect(&context, &PlanContext::changed, this, &WorkloadView::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &WorkloadView::refresh);
    refresh();
}

QWidget* WorkloadView::makeRule()
{
    auto* box = new QWidget(this);
    box->setFixedWidth(330);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    auto* head = new QLabel(tr("The rule it goes by"), box);
    head->setProperty("subhead", true);
    column->addWidget(head);
    auto* hint = addLabel(column, box, "ruleHint");
    hint->setText(tr("Your league's current rule decides: type its numbers over these."));
    hint->setProperty("muted", true);
    const auto table = [&](const char* name, const QStringList& heads) {
        auto* t = new QTableWidget(0, static_cast<int>(heads.size()), box);
        t->setObjectName(QLatin1String(name));
        t->setHorizontalHeaderLabels(heads);
        t->verticalHeader()->hide();
        t->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
        column->addWidget(t, 1);
        connect(t, &QTableWidget::cellChanged, this, &WorkloadView::storeRule);
        return t;
    };
    m_limits = table("ruleLimits", {tr("from age"), tr("to age"), tr("pitches a day")});
    m_steps = table("ruleSteps", {tr("to age"), tr("more than"), tr("days of rest")});
    m_shipped = new QPushButton(tr("Back to the shipped rule"), box);
    m_shipped->setObjectName(QStringLiteral("shippedRule"));
    column->addWidget(m_shipped);
    connect(m_shipped, &QPushButton::clicked, this, [this] { m_context.setRule({}); });
    return box;
}

void WorkloadView::refresh()
{
    refreshRule();
    if (!m_context.isOpen()) {
        m_left->setText(tr("Choose an athlete above."));
        for (auto* label : {m_rest, m_warnings, m_rule, m_said})
            label->setText({});
        m_clear->hide();
        m_plot->hide();
        return;
    }
    m_plot->show();
    const Workload load = m_context.workloadOn(m_context.today());
    m_left->setText(load.left ? tr("%1 pitches left today, of %2").arg(*load.left).arg(*load.limit)
                              : tr("No limit a day is published for this age"));
    m_rest->setText(load.restUntil ? tr("Rest until %1; the next day for pitching is %2.")
                                         .arg(text(wordsOf(*load.restUntil)),
                                              load.nextAllowed ? text(wordsOf(*load.nextAllowed)) : tr("open"))
                    : load.nextAllowed ? tr("No rest is asked for today.")
                                       : tr("Stop: no throwing and no serving."));
    QStringList warnings;
    for (const auto& w : load.warnings)
        warnings << text(w.text);
    m_warnings->setText(warnings.join(QLatin1Char('\n')));
    m_warnings->setVisible(!warnings.isEmpty());
    m_warnings->setStyleSheet(QStringLiteral("color:%1;font-weight:600").arg(colours().alert.name()));
    m_clear->setVisible(load.has(WarningKind::Pain));
    m_rule->setText(text(load.rule));
    refreshBars();
}

void WorkloadView::refreshBars()
{
    dressPlot(*m_plot);
    QVector<double> days, counts;
    auto ticker = QSharedPointer<QCPAxisTickerText>::create();
    const Date first = m_context.today() - std::chrono::days(kDaysShown - 1);
    std::vector<std::string> kinds = m_context.rule().pitchKinds;
    kinds.insert(kinds.end(), m_context.rule().overheadKinds.begin(), m_context.rule().overheadKinds.end());
    int most = 0, sum = 0, busy = 0;
    for (int n = 0; n < kDaysShown; ++n) {
        const Date day = first + std::chrono::days(n);
        const BookDay* noted = m_context.book().find(day);
        const int count = noted ? noted->count(kinds) : 0;
        days << n;
        counts << count;
        most = std::max(most, count);
        sum += count;
        busy += count > 0;
        if (n % 7 == 6)
            ticker->addTick(n, text(textOf(day)).mid(5));
    }
    m_bars->setData(days, counts, true);
    m_bars->setPen(Qt::NoPen);
    m_bars->setBrush(colours().slate);
    m_plot->xAxis->setTicker(ticker);
    m_plot->xAxis->setRange(-1, kDaysShown);
    const auto limit = m_context.workloadOn(m_context.today()).limit;
    m_plot->yAxis->setRange(0, 1.15 * std::max(most, limit.value_or(20)));
    m_plot->yAxis->setLabel(tr("thrown and served a day"));
    m_limit->setVisible(limit.has_value());
    if (limit) {
        m_limit->point1->setCoords(0, *limit);
        m_limit->point2->setCoords(1, *limit);
        m_limit->setPen(QPen(colours().chestnut, 1.5, Qt::DashLine));
    }
    m_said->setText(tr("In the last five weeks %1 thrown and served on %2 days%3.")
                        .arg(sum)
                        .arg(busy)
                        .arg(limit ? tr("; the dashed line is the most pitches a day") : QString()));
    m_plot->setAccessibleName(m_said->text());
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

void WorkloadView::refreshRule()
{
    m_refreshing = true;
    const auto& rule = m_context.rule();
    const auto put = [](QTableWidget* table, int row, int column, int value) {
        table->setItem(row, column, new QTableWidgetItem(QString::number(value)));
    };
    m_limits->setRowCount(static_cast<int>(rule.limits.size()));
    for (int n = 0; n < m_limits->rowCount(); ++n) {
        const auto& l = rule.limits[static_cast<std::size_t>(n)];
        put(m_limits, n, 0, l.from);
        put(m_limits, n, 1, l.to);
        put(m_limits, n, 2, l.pitches);
    }
    int row = 0;
    m_steps->setRowCount(0);
    for (const auto& rest : rule.rests)
        for (const auto& step : rest.steps) {
            m_steps->insertRow(row);
            put(m_steps, row, 0, rest.to);
            put(m_steps, row, 1, step.over);
            put(m_steps, row, 2, step.days);
            ++row;
        }
    m_shipped->setEnabled(m_context.isOwnRule());
    m_refreshing = false;
}

void WorkloadView::storeRule()
{
    if (m_refreshing)
        return;
    WorkloadRule rule = m_context.rule();
    rule.limits.clear();
    rule.rests.clear();
    bool isComplete = true;
    for (int n = 0; n < m_limits->rowCount(); ++n) {
        const auto from = numberIn(*m_limits, n, 0), to = numberIn(*m_limits, n, 1), pitches = numberIn(*m_limits, n, 2);
        isComplete = isComplete && from && to && pitches;
        if (isComplete)
            rule.limits.push_back({*from, *to, *pitches});
    }
    for (int n = 0; n < m_steps->rowCount(); ++n) {
        const auto to = numberIn(*m_steps, n, 0), over = numberIn(*m_steps, n, 1), days = numberIn(*m_steps, n, 2);
        isComplete = isComplete && to && over && days;
        if (!isComplete)
            break;
        if (rule.rests.empty() || rule.rests.back().to != *to)
            rule.rests.push_back({*to, {}});
        rule.rests.back().steps.push_back({*over, *days});
    }
    rule.name = "The league's own rule";
    const auto checked = parseWorkloadRule(toJson(rule), "rule");
    if (!isComplete || !checked) {
        emit message(isComplete ? text(checked.error().message) : tr("A whole number is wanted there."));
        return refreshRule();
    }
    m_context.setRule(rule);
}

} // namespace kestrel::app
