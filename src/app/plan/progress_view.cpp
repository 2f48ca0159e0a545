#include "app/plan/progress_view.h"

#include "app/shell/theme.h"
#include "app/shell/words.h"
#include "app/workspace/day_films.h"
#include "core/match/tally.h"

#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

const QString kHeight = QStringLiteral("standing height"); // in the list of measures, of which none is called so

double secondsOf(Date d)
{
    return static_cast<double>(d.time_since_epoch().count()) * 86400.0;
}

} // namespace

ProgressView::ProgressView(PlanContext& context, QWidget* parent) : QWidget(parent), m_context(context)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    m_measure = new QComboBox(this);
    m_measure->setObjectName(QStringLiteral("progressMeasure"));
    m_measure->setSizeAdjustPolicy(QComboBox::AdjustToContents); // each skill has others
    m_measure->setToolTip(tr("Which measure is shown over the filming days"));
    column->addWidget(m_measure, 0, Qt::AlignLeft);
    m_words = new QLabel(this);
    m_words->setObjectName(QStringLiteral("progressWords"));
    m_words->setProperty("subhead", true);
    m_words->setWordWrap(true);
    m_words->setTextFormat(Qt::PlainText);
    column->addWidget(m_words);
    m_plot = new QCustomPlot(this);
    m_plot->setObjectName(QStringLiteral("progressPlot"));
    m_plot->addGraph();
    m_plot->graph(0)->setScatterStyle(QCPScatterStyle::ssDisc);
    m_whiskers = new QCPErrorBars(m_plot->xAxis, m_plot->yAxis);
    m_whiskers->setDataPlottable(m_plot->graph(0));
    m_band = new QCPItemRect(m_plot);
    m_band->setLayer(QStringLiteral("background"));
    auto ticker = QSharedPointer<QCPAxisTickerDateTime>::create();
    ticker->setDateTimeSpec(Qt::UTC);
    ticker->setDateTimeFormat(QStringLiteral("yyyy-MM-dd"));
    ticker->setTickCount(5);
    m_plot->xAxis->setTicker(ticker);
    column->addWidget(m_plot, 1);
    m_more = new QLabel(this);
    m_more->setObjectName(QStringLiteral("progressMore"));
    m_more->setWordWrap(true);
    m_more->setTextFormat(Qt::PlainText);
    column->addWidget(m_more);
    connect(m_measure, &QComboBox::activated, this, &ProgressView::refresh);
    connect(&context, &PlanContext::changed, this, &ProgressView::outdate);
    connect(&Theme::instance(), &Theme::changed, this, &ProgressView::refresh);
    refresh();
}

void ProgressView::showEvent(QShowEvent*)
{
    if (m_isStale)
        gather();
}

void ProgressView::outdate()
{
    m_isStale = true;
    if (isVisible())
        gather();
}

/// On another thread: days are read where they have not been yet.
void ProgressView::gather()
{
    m_isStale = false;
    m_work.stop();
    m_days.clear();
    m_outcomes.clear();
    if (!m_context.isOpen() || !m_context.pack())
        return refresh();
    struct Gathered {
        std::vector<ProgressDay> days;
        std::vector<std::pair<int, int>> outcomes;
    };
    m_work = Background::run(
        this,
        [openLibrary = m_context.workspace().library().again(true), pack = *m_context.pack(),
         athlete = m_context.athlete().id](std::stop_token stop) -> Expected<Gathered> {
            const auto library = openLibrary();
            if (!library)
                return tl::unexpected(library.error());
            auto days = library->days().of(athlete);
            if (!days)
                return tl::unexpected(days.error());
            std::reverse(days->begin(), days->end()); // newest first there
            Gathered g;
            for (const auto& day : *days) {
                if (stop.stop_requested())
                    break;
                const auto date = parseDate(day.date);
                if (day.skill != pack.id || !date)
                    continue;
                const auto films = filmsOf(*library, pack, day.id);
                if (!films)
                    return tl::unexpected(films.error());
                g.days.push_back({*date, readingsOf(*films)});
                int made = 0, all = 0;
                for (const auto& film : *films)
                    if (const auto good = cameOff(film.marking.outcome)) {
                        ++all;
                        made += *good;
                    }
                g.outcomes.emplace_back(made, all);
            }
            return g;
        },
        [this](Expected<Gathered> g) {
            if (!g)
                return emit m_context.workspace().failed(g.error());
            m_days = std::move(g->days);
            m_outcomes = std::move(g->outcomes);
            refresh();
            emit gathered();
        });
}

QString ProgressView::outcomeWords() const
{
    QStringList parts;
    for (std::size_t n = 0; n < m_days.size(); ++n)
        if (const auto [made, all] = m_outcomes[n]; all > 0) {
            const Share share = shareOf(made, all);
            parts << tr("%1: %2 of %3 (%4 to %5 %)")
                         .arg(text(textOf(m_days[n].date)))
                         .arg(made)
                         .arg(all)
                         .arg(std::lround(100 * share.low))
                         .arg(std::lround(100 * share.high));
        }
    int attempted = 0, shot = 0;
    for (const auto& day : m_context.book().days) {
        attempted += day.attempted;
        shot += day.made;
    }
    if (attempted > 0) {
        const Share share = shareOf(shot, attempted);
        parts << tr("in the book: %1 of %2 made (%3 to %4 %)")
                     .arg(shot)
                     .arg(attempted)
                     .arg(std::lround(100 * share.low))
                     .arg(std::lround(100 * share.high));
    }
    return parts.isEmpty() ? QString() : tr("What came off: %1").arg(parts.join(QStringLiteral("; ")));
}

void ProgressView::refresh()
{
    dressPlot(*m_plot);
    const Pack* pack = m_context.pack();
    const QVariant chosen = m_measure->currentData();
    m_measure->clear();
    if (pack) {
        // the task's measure first, then the pack's order
        std::string first;
        if (const auto review = m_context.review(); review && review->oneThing && review->pack == pack->id)
            for (const auto& f : review->faults)
                if (f.fault == review->oneThing->fault && !f.measures.empty())
                    first = f.measures.front();
        if (const Measure* m = pack->findMeasure(first))
            m_measure->addItem(text(m->name), text(m->id));
        for (const auto& m : pack->measures)
            if (m.id != first)
                m_measure->addItem(text(m.name), text(m.id));
    }
    std::vector<HeightOn> heights;
    for (const auto& h : m_context.athlete().heights)
        if (const auto date = parseDate(h.date))
            heights.push_back({*date, h.metres});
    if (!heights.empty())
        m_measure->addItem(tr("Standing height"), kHeight);
    m_measure->setCurrentIndex(std::max(0, m_measure->findData(chosen)));
    m_measure->setEnabled(m_measure->count() > 0);
    const bool isHeight = m_measure->currentData().toString() == kHeight;
    m_progress = isHeight ? calcGrowth(heights)
                 : pack   ? calcProgress(*pack, m_measure->currentData().toString().toStdString(), m_days)
                          : Progress();
    m_words->setText(!m_context.isOpen()  ? tr("Choose an athlete above.")
                     : !pack && !isHeight ? tr("Nothing is filmed yet: each filming day becomes a dot here.")
                                          : text(m_progress.words));
    QVector<double> x, y, e;
    for (const auto& p : m_progress.points) {
        x << secondsOf(p.date);
        y << p.mean;
        e << 1.96 * p.uncertainty;
    }
    m_plot->graph(0)->setData(x, y, true);
    m_plot->graph(0)->setPen(QPen(colours().slate, 2));
    m_whiskers->setData(e);
    m_whiskers->setPen(QPen(colours().muted, 1.2));
    m_plot->setVisible(!x.isEmpty());
    if (!x.isEmpty()) {
        constexpr double kWeek = 7 * 86400.0;
        m_plot->xAxis->setRange(x.front() - kWeek, x.back() + kWeek);
        double low = y.front(), high = y.front();
        for (int i = 0; i < y.size(); ++i) {
            low = std::min(low, y[i] - e[i]);
            high = std::max(high, y[i] + e[i]);
        }
        low = std::min(low, m_progress.low.value_or(low));
        high = std::max(high, m_progress.high.value_or(high));
        const double room = std::max(1e-6, 0.1 * (high - low));
        m_plot->yAxis->setRange(low - room, high + room);
        const bool hasBand = m_progress.low || m_progress.high;
        m_band->setVisible(hasBand);
        m_band->topLeft->setCoords(x.front() - kWeek, m_progress.high.value_or(high + room));
        m_band->bottomRight->setCoords(x.back() + kWeek, m_progress.low.value_or(low - room));
        m_band->setPen(Qt::NoPen);
        m_band->setBrush(colours().slatePale);
        m_plot->yAxis->setLabel(text(std::string(suffixOf(m_progress.unit))).trimmed());
    }
    m_plot->setAccessibleName(m_words->text());
    m_plot->replot(QCustomPlot::rpQueuedReplot);
    QStringList more;
    if (!x.isEmpty() && !isHeight)
        more << tr("The pale band is what the pack asks for; a whisker is where the day's mean lies 19 times in 20.");
    if (const auto words = growthWords(heights); !isHeight && !words.empty())
        more << tr("Height: %1.").arg(text(words));
    std::vector<Date> planned;
    if (m_context.plan())
        for (const auto& s : m_context.plan()->sessions)
            planned.push_back(s.date);
    if (const auto words = adherenceWords(planned, m_context.book(), m_context.today()); !words.empty())
        more << text(words) + QLatin1Char('.');
    if (const QString words = outcomeWords(); !words.isEmpty())
        more << words + QLatin1Char('.');
    m_more->setText(more.join(QLatin1Char('\n')));
}

} // namespace kestrel::app
