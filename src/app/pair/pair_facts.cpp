#include "app/pair/pair_facts.h"

#include "app/shell/theme.h"
#include "app/shell/words.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kByTime = 0, kByShare = 1; // what the curve's axis counts

/// Seconds from the key position both stand at, or the share of the way from the first common one to the last, in per cent.
std::optional<double> placeOf(const PairModel& model, std::size_t side, double seconds, int axis)
{
    const auto& film = model.side(side).film;
    const auto timeOf = [&](const std::string& keyPosition) -> std::optional<double> {
        const Event* e = findEvent(film.marking, keyPosition);
        const auto t = e ? film.clock.timeOf(e->frame) : std::nullopt;
        return t ? std::optional(t->seconds) : std::nullopt;
    };
    const auto common = model.commonPositions();
    if (axis == kByTime) {
        const auto zero = timeOf(model.linedUpAt());
        return seconds - zero.value_or(0);
    }
    if (common.size() < 2)
        return std::nullopt;
    const auto from = timeOf(common.front()->id), to = timeOf(common.back()->id);
    return from && to && *to > *from ? std::optional(100 * (seconds - *from) / (*to - *from)) : std::nullopt;
}

} // namespace

PairFacts::PairFacts(PairModel& model, QWidget* parent) : QWidget(parent), m_model(model)
{
    setFixedWidth(310);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* row = new QHBoxLayout;
    row->setSpacing(4);
    m_leaves = new LeafTabs(
        {{makeDifferences(), tr("Differences"), tr("Every measure on both, surest first (T turns the leaf)"),
          "pairLeafDifferences"},
         {makeCurve(), tr("Curve"), tr("One measure over the whole movement, both on one axis (T)"), "pairLeafCurve"},
         {makeTempo(), tr("Tempo"), tr("How long each phase takes, and the order of the segments (T)"), "pairLeafTempo"}},
        row, this);
    row->addStretch();
    column->addLayout(row);
    column->addWidget(m_leaves, 1);
    connect(&model, &PairModel::changed, this, &PairFacts::refresh);
    connect(&model, &PairModel::chosenChanged, this, &PairFacts::refreshCurve);
    connect(&model, &PairModel::frameChanged, this, &PairFacts::refreshPlace);
    connect(&Theme::instance(), &Theme::changed, this, &PairFacts::refreshCurve);
    refresh();
}

void PairFacts::next()
{
    m_leaves->turnOn();
}

QWidget* PairFacts::makeDifferences()
{
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    m_notice = new QLabel(box);
    m_notice->setProperty("muted", true);
    m_notice->setWordWrap(true);
    m_list = new QListWidget(box);
    m_list->setObjectName(QStringLiteral("pairDifferences"));
    m_list->setWordWrap(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setToolTip(tr("Press one: both films go where it is read, and it is drawn on both"));
    m_list->setAccessibleName(tr("Differences"));
    column->addWidget(m_notice);
    column->addWidget(m_list, 1);
    connect(m_list, &QListWidget::itemClicked, this,
            [this](QListWidgetItem* item) { m_model.choose(item->data(Qt::UserRole).toString().toStdString()); });
    return box;
}

QWidget* PairFacts::makeCurve()
{
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    m_measure = new QComboBox(box);
    m_measure->setObjectName(QStringLiteral("pairMeasure"));
    m_measure->setToolTip(tr("Which measure the curve shows"));
    m_measure->setFocusPolicy(Qt::TabFocus);
    m_measure->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_axis = new QComboBox(box);
    m_axis->addItems({tr("in seconds"), tr("in % of the movement")});
    m_axis->setToolTip(tr("What the axis counts"));
    m_axis->setFocusPolicy(Qt::TabFocus);
    m_plot = new QCustomPlot(box);
    m_plot->setObjectName(QStringLiteral("pairCurve"));
    m_plot->setMinimumHeight(220);
    m_plot->addGraph();
    m_plot->addGraph();
    m_now = new QCPItemLine(m_plot);
    m_said = new QLabel(box);
    m_said->setProperty("muted", true);
    m_said->setWordWrap(true);
    column->addWidget(m_measure);
    column->addWidget(m_axis);
    column->addWidget(m_plot, 1);
    column->addWidget(m_said);
    connect(m_measure, &QComboBox::activated, this, &PairFacts::refreshCurve);
    connect(m_axis, &QComboBox::currentIndexChanged, this, &PairFacts::refreshCurve);
    return box;
}

QWidget* PairFacts::makeTempo()
{
    m_tempo = new QLabel(this);
    m_tempo->setObjectName(QStringLiteral("pairTempo"));
    m_tempo->setWordWrap(true);
    m_tempo->setTextFormat(Qt::PlainText);
    m_tempo->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    return m_tempo;
}

void PairFacts::refresh()
{
    const bool open = m_model.isOpen();
    m_list->clear();
    m_measure->clear();
    if (open) {
        for (const auto& d : m_model.differences()) {
            const Measure* m = m_model.pack()->findMeasure(d.measure);
            const QString name = text(m ? m->name : d.measure);
            const QString sign = !d.isReal ? QStringLiteral("?") : *d.isReal ? QStringLiteral("●") : QStringLiteral("○");
            auto* item =
                new QListWidgetItem(QStringLiteral("%1  %2\n%3 → %4\n%5")
                                        .arg(sign, name, text(withUnit(d.a, d.unit)), text(withUnit(d.b, d.unit)), text(d.why)),
                                    m_list);
            item->setData(Qt::UserRole, text(d.measure));
            m_measure->addItem(name, text(d.measure));
        }
    }
    m_notice->setText(!open                           ? tr("What differs, and whether it is more than noise, stands here.")
                      : m_model.differences().empty() ? tr("No measure is read on both: place key positions and mark both films.")
                                                      : tr("● larger than noise explains, ○ may be noise, ? nobody can say"));
    m_tempo->setText(open ? tempoText() + QStringLiteral("\n\n") + orderText()
                          : tr("How long each phase takes on both stands here."));
    refreshCurve();
}

void PairFacts::refreshCurve()
{
    if (!m_model.chosen().empty())
        m_measure->setCurrentIndex(m_measure->findData(text(m_model.chosen())));
    dressPlot(*m_plot);
    const Measure* measure =
        m_model.isOpen() ? m_model.pack()->findMeasure(m_measure->currentData().toString().toStdString()) : nullptr;
    const QPen pens[] = {QPen(colours().slate, 2), QPen(colours().chestnut, 2, Qt::DashLine)};
    for (int side = 0; side < 2; ++side) {
        QCPGraph* graph = m_plot->graph(side);
        graph->data()->clear();
        graph->setPen(pens[side]);
        if (!measure)
            continue;
        const Curve curve = calcCurve(*measure, *m_model.side(static_cast<std::size_t>(side)).prepared);
        for (std::size_t i = 0; i < curve.seconds.size(); ++i)
            if (const auto place = placeOf(m_model, static_cast<std::size_t>(side), curve.seconds[i], m_axis->currentIndex()))
                graph->addData(*place, curve.values[i]);
    }
    m_plot->xAxis->setLabel(m_axis->currentIndex() == kByTime ? tr("seconds") : tr("% of the movement"));
    m_plot->yAxis->setLabel(measure ? text(std::string(suffixOf(measure->unit))).trimmed() : QString());
    m_plot->rescaleAxes();
    m_plot->yAxis->scaleRange(1.1);
    m_now->setPen(QPen(colours().eyeRing, 2));
    const bool isEmpty = !measure || m_plot->graph(0)->dataCount() + m_plot->graph(1)->dataCount() == 0;
    m_said->setText(isEmpty ? tr("A measure over the whole movement: mark both films on every picture.")
                            : tr("Solid: %1. Dashed: %2.").arg(text(m_model.side(0).title), text(m_model.side(1).title)));
    m_plot->setAccessibleName(m_said->text());
    refreshPlace();
}

void PairFacts::refreshPlace()
{
    std::optional<double> place;
    if (m_model.isOpen())
        if (const auto now = m_model.side(0).film.clock.timeOf(m_model.player(0).frame()))
            place = placeOf(m_model, 0, now->seconds, m_axis->currentIndex());
    m_now->setVisible(place.has_value());
    if (place) {
        m_now->start->setCoords(*place, m_plot->yAxis->range().lower);
        m_now->end->setCoords(*place, m_plot->yAxis->range().upper);
    }
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

QString PairFacts::tempoText() const
{
    if (m_model.tempo().empty())
        return tr("Tempo: fewer than two key positions are placed on both.");
    const auto nameOf = [this](const std::string& id) {
        const KeyPosition* k = m_model.pack()->findKeyPosition(id);
        return text(k ? k->name : id);
    };
    QStringList lines{tr("Tempo, and the share of the whole")};
    for (const auto& p : m_model.tempo())
        lines << tr("%1 to %2:\n%3 s (%4 %) and %5 s (%6 %)")
                     .arg(nameOf(p.from), nameOf(p.to).toLower())
                     .arg(p.a, 0, 'f', 3)
                     .arg(std::lround(100 * p.shareA))
                     .arg(p.b, 0, 'f', 3)
                     .arg(std::lround(100 * p.shareB));
    return lines.join(QLatin1Char('\n'));
}

QString PairFacts::orderText() const
{
    QStringList lines{tr("Order of the segments")};
    for (std::size_t n = 0; n < 2; ++n) {
        const auto& s = m_model.sequence(n);
        lines << QStringLiteral("%1: %2").arg(text(m_model.side(n).title),
                                              s ? text(s->sentence) : tr("not marked on every picture."));
    }
    return lines.join(QLatin1Char('\n'));
}

} // namespace kestrel::app
