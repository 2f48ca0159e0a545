// What a coach waits for besides the film: the due list of a club, a plot of forty filming days, a plan, two films laid over each
// other, the model painted, a sum answered. Goals stand beside the times.

#include "support/markings.h"

#include "app/pair/pair_overlays.h"
#include "app/shell/plot.h"
#include "app/workspace/due_list.h"
#include "core/base/error_sample.h"
#include "core/flight/sum.h"
#include "core/match/tally.h"
#include "core/pack/pack_folder.h"
#include "core/plan/planner.h"
#include "look/overlay.h"
#include "sim/film_maker.h"
#include "window_main.h"

#include <QPainter>
#include <QTemporaryDir>
#include <benchmark/benchmark.h>

using namespace kestrel;
using namespace kestrel::test;
using std::chrono::days;

namespace {

void dueListOfAClub(benchmark::State& state)
{
    QTemporaryDir folder;
    auto library = store::Library::open(folder.path().toStdString());
    const Date today = *parseDate("2026-11-29");
    if (const auto done = library->together([&]() -> Expected<void> {
            for (int a = 0; a < 100; ++a) {
                store::Athlete athlete;
                athlete.name = "Athlete " + std::to_string(a);
                athlete.birthDate = "2013-06-01";
                const auto id = library->add(athlete);
                for (int d = 0; d < 365; d += 2) {
                    BookDay day;
                    day.date = today - days(d);
                    day.counts["pitch"] = 20 + d % 30;
                    if (auto stored = library->books().set(*id, day); !stored)
                        return stored;
                }
            }
            return {};
        });
        !done)
        return state.SkipWithError(done.error().message.c_str());
    const auto athletes = *library->athletes().all();
    for (auto _ : state)
        benchmark::DoNotOptimize(app::dueList(*library, athletes, today));
    state.counters["goal_ms"] = 50;
}

void plotOfFortyDays(benchmark::State& state)
{
    QCustomPlot plot;
    plot.resize(800, 400);
    plot.addGraph();
    QVector<double> x, y, e;
    for (int n = 0; n < 40; ++n) {
        x << n;
        y << 60 + 10 * std::sin(n);
        e << 3;
    }
    plot.graph(0)->setData(x, y);
    auto* whiskers = new QCPErrorBars(plot.xAxis, plot.yAxis);
    whiskers->setDataPlottable(plot.graph(0));
    whiskers->setData(e);
    app::dressPlot(plot);
    plot.rescaleAxes();
    for (auto _ : state)
        benchmark::DoNotOptimize(plot.toPixmap(800, 400));
    state.counters["goal_ms"] = 30;
}

void planOfSixWeeks(benchmark::State& state)
{
    const Pack pack = *findPack("overhand-pitch");
    const WorkloadRule rule = *shippedWorkloadRule();
    PlanWish wish;
    wish.faults = {pack.faults[0].id, pack.faults[1].id, pack.faults[2].id};
    wish.start = *parseDate("2026-11-30");
    wish.intake.weekdays = {1, 3, 6};
    wish.weeks = 6;
    for (auto _ : state)
        benchmark::DoNotOptimize(makePlan(pack, rule, wish));
    state.counters["goal_ms"] = 20;
}

app::PairSide sideOf(const sim::Simulated& s)
{
    app::PairSide side;
    side.film.marking = s.truth;
    side.film.clock = evenClock(s.truth.film.frames, 120);
    side.prepared = std::make_shared<const PreparedRepetition>(side.film.marking, side.film.clock);
    return side;
}

void ghostOverAFilm(benchmark::State& state)
{
    const auto s = simulated(pitch(View::Side));
    const app::PairSide a = sideOf(s), b = sideOf(s);
    QImage under(1000, 562, QImage::Format_RGB32), over(1000, 562, QImage::Format_RGB32);
    under.fill(Qt::darkGreen);
    over.fill(Qt::darkBlue);
    for (auto _ : state) {
        std::vector<look::Overlay> overlays;
        addGhost(overlays, a, b, {FrameIndex(20), FrameIndex(20), "midHip"}, over, 0.5);
        QPainter painter(&under);
        painter.scale(1000.0 / a.film.marking.film.width, 1000.0 / a.film.marking.film.width);
        look::paintOverlays(painter, overlays, {}, look::lightPalette(), 1);
    }
    state.counters["goal_ms"] = 8;
}

void modelPainted(benchmark::State& state)
{
    auto options = pitch(View::Side);
    options.size = {960, 540};
    const auto s = simulated(options);
    sim::FilmMaker maker(s);
    double t = s.instants.front();
    for (auto _ : state) {
        benchmark::DoNotOptimize(maker.moment(t));
        t += 1.0 / 120;
        if (t > s.instants.back())
            t = s.instants.front();
    }
    state.counters["goal_ms"] = 33;
}

void sumAnswered(benchmark::State& state)
{
    const SumCard& card = sumCards()[static_cast<std::size_t>(state.range(0))];
    state.SetLabel(card.id);
    for (auto _ : state)
        benchmark::DoNotOptimize(workOut(card, {}));
    state.counters["goal_ms"] = 16;
}

/// Score and tallies of fifty matches of about a hundred rallies.
void talliesOfFiftyMatches(benchmark::State& state)
{
    const MatchSport sport = *findMatchSport("table-tennis");
    const ErrorSample sample(3);
    std::vector<MatchLog> logs(50);
    std::uint64_t what = 0;
    for (auto& log : logs) {
        log.sport = sport.id;
        log.bestOf = 5;
        log.players = {"Mira", "Joost"};
        log.firstServer = "Mira";
        for (int n = 0; n < 100 && !scoreOf(log, sport).now.winner; ++n) {
            Rally r;
            r.won = sample.even(what++) > 0 ? "Mira" : "Joost";
            r.how = sample.even(what++) > 0 ? "winner" : "error_net";
            r.serve = sample.even(what++) > 0 ? "topspin" : "backspin_short";
            r.strokes = {"serve", sample.even(what++) > 0 ? "push" : "forehand", "backhand"};
            log.rallies.push_back(r);
        }
    }
    for (auto _ : state)
        for (const auto& log : logs)
            benchmark::DoNotOptimize(talliesOf(log, sport, scoreOf(log, sport)));
    state.counters["goal_ms"] = 100;
}

} // namespace

BENCHMARK(talliesOfFiftyMatches)->Unit(benchmark::kMillisecond);
BENCHMARK(dueListOfAClub)->Unit(benchmark::kMillisecond);
BENCHMARK(plotOfFortyDays)->Unit(benchmark::kMillisecond);
BENCHMARK(planOfSixWeeks)->Unit(benchmark::kMillisecond);
BENCHMARK(ghostOverAFilm)->Unit(benchmark::kMillisecond);
BENCHMARK(modelPainted)->Unit(benchmark::kMillisecond);
BENCHMARK(sumAnswered)->DenseRange(0, 13)->Unit(benchmark::kMillisecond);

int main(int argc, char** argv)
{
    kestrel::bench::runInWindow(argc, argv, [] {});
}
