#include "app/bench/readout_view.h"

#include "app/bench/gauge.h"
#include "app/bench/sequence_chart.h"

#include <QComboBox>

#include <algorithm>

namespace kestrel::app {

ReadoutView::ReadoutView(Bench& bench, QWidget* parent) : QFrame(parent), m_bench(bench)
{
    setProperty("card", true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 10, 8, 8);
    layout->setSpacing(4);
    m_head = new QLabel(this);
    m_head->setProperty("subhead", true);
    m_note = new QLabel(this);
    m_note->setProperty("muted", true);
    auto* top = new QHBoxLayout;
    top->addWidget(m_head);
    top->addStretch();
    top->addWidget(m_note);
    layout->addLayout(top);
    auto* hair = new QFrame(this);
    hair->setProperty("hair", true);
    layout->addWidget(hair);
    m_next = new QLabel(this);
    m_next->setWordWrap(true);
    m_next->setProperty("muted", true);
    m_next->setObjectName(QStringLiteral("nextStep"));
    layout->addWidget(m_next);
    m_list = new QWidget(this);
    m_rows = new QVBoxLayout(m_list);
    m_rows->setContentsMargins(0, 0, 4, 0);
    m_rows->setSpacing(0);
    m_nothing = new QLabel(tr("The pack reads nothing at this key position."), m_list);
    m_nothing->setProperty("muted", true);
    m_nothing->setWordWrap(true);
    m_order = new QLabel(this);
    m_order->setObjectName(QStringLiteral("sequence"));
    m_order->setWordWrap(true);
    m_chart = new SequenceChart(this);
    m_rows->addWidget(m_nothing);
    m_rows->addStretch();
    m_scroll = new QScrollArea(this);
    m_scroll->setWidget(m_list);
    m_scroll->setWidgetResizable(true);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_scroll->setFocusPolicy(Qt::NoFocus);
    m_scroll->viewport()->setAutoFillBackground(false);
    m_list->setAutoFillBackground(false);
    layout->addWidget(m_chart);
    layout->addWidget(m_order);
    layout->addWidget(m_scroll, 1);
    connect(&bench.review, &ReviewModel::reviewChanged, this, [this] {
        m_shownAt.reset();
        rebuild();
    });
    connect(&bench.player, &FilmPlayer::frameChanged, this, &ReadoutView::rebuild);
    connect(&bench.review, &ReviewModel::selectionChanged, this, &ReadoutView::checkSelected);
    rebuild();
}

/// One sentence about what is missing, most basic first.
QString ReadoutView::nextStep() const
{
    const auto& m = m_bench.context.marking();
    if (!m_bench.context.pack())
        return tr("Open a clip to read it.");
    if (m.events.empty())
        return tr("Step to the first key position, \"%1\", and press 1.")
            .arg(QString::fromStdString(m_bench.context.pack()->keyPositions.front().name));
    if (!m.scene.scale)
        return tr("Set the scale: choose a known length and draw it on the film. Until then only angles and times are read.");
    if (m_bench.marks.nextLandmark())
        return tr("Choose Mark (M) and click the points the guide asks for.");
    return {};
}

void ReadoutView::rebuild()
{
    const KeyPosition* here = m_bench.positions.here();
    const std::string at = here ? here->id : "";
    if (m_shownAt == at)
        return;
    m_shownAt = at;
    m_head->setText(here ? tr("At %1").arg(QString::fromStdString(here->name).toLower()) : tr("All readings"));
    const auto& athlete = m_bench.context.marking().athlete;
    QStringList facts;
    if (athlete.age)
        facts << tr("%1 years").arg(static_cast<int>(*athlete.age));
    if (m_bench.context.pack())
        if (const School* s = m_bench.context.pack()->findSchool(m_bench.review.review().school))
            facts << tr("%1 school").arg(QString::fromStdString(s->name).toLower());
    m_note->setText(facts.join(QStringLiteral(" · ")));
    const QString next = nextStep();
    m_next->setText(next);
    m_next->setVisible(!next.isEmpty());

    std::vector<const Reading*> shown;
    if (m_bench.context.pack())
        for (const auto& r : m_bench.review.readings())
            if (!here || r.keyPosition == here->id)
                shown.push_back(&r);
    // what this view cannot show goes last
    std::stable_sort(shown.begin(), shown.end(),
                     [](const Reading* a, const Reading* b) { return hasValue(a->verdict) > hasValue(b->verdict); });
    m_nothing->setVisible(m_bench.context.pack() && shown.empty());
    // gauges are made once and told new readings: making them after each mark would be felt
    while (m_gauges.size() < shown.size()) {
        auto* gauge = new Gauge(m_list);
        connect(gauge, &Gauge::clicked, &m_bench, [this, gauge] { m_bench.review.selectReading(gauge->reading().measure); });
        m_rows->insertWidget(static_cast<int>(m_gauges.size()), gauge);
        m_gauges.push_back(gauge);
    }
    for (std::size_t i = 0; i < m_gauges.size(); ++i) {
        const bool isUsed = i < shown.size();
        if (isUsed)
            m_gauges[i]->setReading(*m_bench.context.pack()->findMeasure(shown[i]->measure), *shown[i]);
        else
            m_gauges[i]->setObjectName({});
        m_gauges[i]->setVisible(isUsed);
    }
    showSequence(!here);
    askObservations(here);
    checkSelected();
}

void ReadoutView::showSequence(bool isWanted)
{
    std::vector<SegmentCurve> curves;
    const auto& sequence = m_bench.review.sequence();
    if (isWanted && sequence)
        curves = m_bench.review.sequenceCurves();
    m_chart->setCurves(std::move(curves), sequence);
    m_order->setText(isWanted && sequence ? QString::fromStdString(sequence->sentence) : QString());
    m_order->setVisible(!m_order->text().isEmpty());
}

/// What only eyes can see here. The boxes are made when the coach comes to the key position, and told the answers after
/// each change.
void ReadoutView::askObservations(const KeyPosition* here)
{
    std::vector<Observation> wanted;
    const Marking& marking = m_bench.context.marking();
    const auto isSeenFromHere = [&](const Observation& o) {
        return o.views.empty() || std::find(o.views.begin(), o.views.end(), marking.scene.view) != o.views.end();
    };
    if (here)
        for (const auto& o : m_bench.context.pack()->observations)
            if (o.at == here->id && isSeenFromHere(o) && isForVariant(o.variants, marking.variant))
                wanted.push_back(o);
    if (wanted != m_asked) {
        m_asked = std::move(wanted);
        if (m_questions) { // one of its boxes may be what changed
            m_questions->hide();
            m_questions->deleteLater();
        }
        m_questions = makeQuestions();
        m_rows->insertWidget(m_rows->indexOf(m_nothing), m_questions);
    }
    const auto& given = m_bench.context.marking().answers;
    for (auto* box : m_questions ? m_questions->findChildren<QComboBox*>() : QList<QComboBox*>()) {
        const auto answer = given.find(box->property("observation").toString().toStdString());
        box->setCurrentIndex(answer == given.end() ? 0 : std::max(0, box->findData(QString::fromStdString(answer->second))));
    }
    if (m_questions)
        m_questions->setVisible(!m_asked.empty());
}

QWidget* ReadoutView::makeQuestions()
{
    auto* questions = new QWidget(m_list);
    auto* column = new QVBoxLayout(questions);
    column->setContentsMargins(8, 8, 8, 4);
    for (const auto& o : m_asked) {
        auto* question = new QLabel(QString::fromStdString(o.question), questions);
        question->setWordWrap(true);
        auto* answers = new QComboBox(questions);
        answers->setObjectName(QStringLiteral("answer_") + QString::fromStdString(o.id));
        answers->setProperty("observation", QString::fromStdString(o.id));
        answers->setAccessibleName(question->text());
        answers->addItem(tr("not looked at"), QString());
        for (const auto& c : o.choices)
            answers->addItem(QString::fromStdString(c.text), QString::fromStdString(c.id));
        connect(answers, &QComboBox::activated, this, [this, answers, id = o.id] {
            const QString choice = answers->currentData().toString();
            m_bench.marks.answer(id, choice.isEmpty() ? std::nullopt : std::optional(choice.toStdString()));
        });
        column->addWidget(question);
        column->addWidget(answers);
    }
    return questions;
}

void ReadoutView::checkSelected()
{
    for (auto* gauge : m_gauges)
        gauge->setChecked(gauge->reading().measure == m_bench.review.selectedReading());
}

} // namespace kestrel::app
