// The window's side of speed: the longest time it was deaf while a coach opens a clip, scrubs and marks (a 1 ms timer
// measures its own delay), how long a step takes until it is painted, and whether playing keeps true speed.

#include "app/bench/bench.h"
#include "app/bench/bench_view.h"
#include "app/film/film_canvas.h"
#include "app/pair/pair_view.h"
#include "app/show/show_view.h"
#include "app/show/walk_view.h"
#include "app/window/main_window.h"
#include "app/workspace/background.h"
#include "app/workspace/clip_import.h"
#include "core/base/error_sample.h"
#include "made_film.h"
#include "media/film.h"
#include "sim/simulate.h"
#include "store/content_hash.h"
#include "support/markings.h"
#include "window_main.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTest>
#include <benchmark/benchmark.h>

#include <array>
#include <set>
#include <unistd.h>

using namespace kestrel;

namespace {

/// Watches the event loop: the longest gap between two turns.
class Deafness {
public:
    Deafness()
    {
        m_timer.setTimerType(Qt::PreciseTimer);
        QObject::connect(&m_timer, &QTimer::timeout, [this] {
            m_longest = std::max(m_longest, m_since.nsecsElapsed());
            m_since.restart();
        });
        m_since.start();
        m_timer.start(1);
    }
    double longestMs() const { return static_cast<double>(m_longest) * 1e-6; }

private:
    QTimer m_timer;
    QElapsedTimer m_since;
    qint64 m_longest = 0;
};

/// Tells when the film view has painted the exact picture of the frame the coach stands at.
class Painted : public QObject {
public:
    explicit Painted(app::MainWindow& window) : Painted(window.bench().player, *window.findChild<app::FilmCanvas*>()) {}
    Painted(app::FilmPlayer& player, app::FilmCanvas& view) : m_view(&view)
    {
        connect(&player, &app::FilmPlayer::pictureReady, this, [this] { m_hasNew = true; });
        m_view->installEventFilter(this);
    }
    /// So many in all.
    int count() const { return m_count; }
    bool waitFor(int count)
    {
        QElapsedTimer patience;
        for (patience.start(); m_count < count && patience.elapsed() < 20'000;)
            QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
        return m_count >= count;
    }

protected:
    bool eventFilter(QObject* watched, QEvent* e) override
    {
        if (e->type() != QEvent::Paint || !m_hasNew)
            return false;
        m_hasNew = false;
        watched->event(e); // so that the painting itself is within the time
        ++m_count;
        return true;
    }

private:
    app::FilmCanvas* m_view;
    bool m_hasNew = false;
    int m_count = 0;
};

/// What the program holds of the machine's memory now.
double residentMegabytes()
{
    QFile file(QStringLiteral("/proc/self/statm"));
    if (!file.open(QIODevice::ReadOnly))
        return 0;
    const auto pages = file.readAll().split(' ').value(1).toDouble();
    return pages * static_cast<double>(sysconf(_SC_PAGESIZE)) / 1e6;
}

struct Set {
    QTemporaryDir folder;
    std::unique_ptr<app::MainWindow> window;
    store::DayId day;
    store::ClipId clip, fastClip; ///< 1080p at 60 pictures a second; 720p at 240
    int frames = 600;

    static store::ClipId add(store::Library& library, store::DayId day, const std::string& file)
    {
        const auto film = media::Film::open(file);
        store::Clip c;
        c.day = day;
        c.file = file;
        c.contentHash = *store::calcContentHash(file);
        c.film = {{}, film->info().size.width, film->info().size.height, film->info().frames()};
        c.clock = {film->info().frameRate, film->info().frameRate};
        c.scene.scale = Scale{{0, 0}, {400, 0}, 1};
        return *library.add(c);
    }

    /// The repetitions of two clips of one day, made when they are wanted.
    std::array<store::RepetitionId, 2> pairOf(const char* name, const char* size, int seconds)
    {
        std::array<store::RepetitionId, 2> two;
        window->workspace().saveSilently([&](store::Library& library) -> Expected<void> {
            for (auto& id : two)
                id = library.repetitions().of(add(library, day, bench::makeFilm(name, size, 60, seconds, 60)))->front().id;
            return {};
        });
        return two;
    }
    std::array<store::RepetitionId, 2> longPair() { return pairOf("minute.mp4", "1280x720", 60); }
    std::array<store::RepetitionId, 2> largePair() { return pairOf("short_groups.mp4", "1920x1080", 10); }

    Set()
    {
        auto library = store::Library::open(folder.path().toStdString());
        const auto athlete = *library->add(store::Athlete{{}, "Ida", "2013-03-08", Hand::Right, {{"2026-05-01", 1.6}}, true});
        day = *library->add(store::FilmingDay{{}, athlete, "2026-05-01", "overhand-pitch", "tall"});
        clip = add(*library, day, bench::makeFilm("short_groups.mp4", "1920x1080", 60, 10, 60));
        fastClip = add(*library, day, bench::makeFilm("fast.mp4", "1280x720", 240, 5, 240));
        window = std::make_unique<app::MainWindow>(std::move(*library), test::packFolder());
        window->resize(1280, 800);
        window->show();
        QTest::qWait(300);
    }
};

std::unique_ptr<Set> stageSet; // made with the first benchmark, gone before the application

Set& stage()
{
    if (!stageSet)
        stageSet = std::make_unique<Set>();
    return *stageSet;
}

void report(benchmark::State& state, const Deafness& d)
{
    state.counters["longest_deaf_ms"] = d.longestMs();
    state.counters["share_of_50_ms"] = d.longestMs() / 50; // goal: at most 1
}

void openClip(benchmark::State& state)
{
    auto& s = stage();
    for (auto _ : state) {
        const Deafness d;
        s.window->openClip(s.clip);
        QTest::qWait(1200);
        report(state, d);
    }
}

void twoHundredScrubs(benchmark::State& state)
{
    auto& s = stage();
    for (auto _ : state) {
        const Deafness d;
        const ErrorSample sample(5);
        for (std::uint64_t i = 0; i < 200; ++i) {
            s.window->bench().player.setFrame(FrameIndex(static_cast<std::int64_t>((sample.even(i) + 1) / 2 * s.frames)));
            QTest::qWait(10);
        }
        QTest::qWait(400);
        report(state, d);
    }
}

void markHundredPoints(benchmark::State& state)
{
    auto& s = stage();
    auto& bench = s.window->bench();
    for (auto _ : state) {
        const Deafness d;
        bench.marks.setExtent(MarkExtent::WholeBody);
        for (int i = 0; i < 9; ++i) {
            bench.player.setFrame(FrameIndex(20 + i * 10));
            bench.positions.place(static_cast<std::size_t>(i));
            QTest::qWait(5);
        }
        bench.tools.setTool(app::Tool::Mark);
        bench.positions.goTo("set");
        for (int i = 0; i < 100; ++i) {
            bench.marks.placeMark({600.0 + i % 17 * 20, 300.0 + i % 13 * 25});
            QTest::qWait(5);
        }
        report(state, d);
    }
}

/// What a program made of two seconds at 240 pictures a second: the whole body on every picture.
store::ProgramWork twoSeconds(store::ClipId clip, app::MainWindow& window)
{
    sim::SimulateOptions o;
    o.skill = "overhand-pitch";
    store::ProgramWork work{FrameIndex(0), FrameIndex(479), {}, {}, {}, {}};
    const Marking truth = test::simulated(o).truth;
    for (Mark m : truth.marks)
        if (m.landmark.part < Part::ImplementGrip && m.frame <= work.last) {
            m.source = Source::Network;
            m.sigma = 3;
            work.marks.push_back(m);
        }
    for (const auto& e : truth.events)
        work.events[e.keyPosition] = Event{e.keyPosition, e.frame, 1, Source::Network};
    work.clip = *window.workspace().library().clips().find(clip);
    return work;
}

/// Writes a film of a swing, as an export does.
Expected<int> writeAFilm(const std::string& file, std::stop_token stop)
{
    sim::SimulateOptions options;
    options.size = {640, 360};
    const auto swing = sim::simulate(options);
    const auto saved = swing ? sim::saveClip(*swing, file, {}, stop) : tl::unexpected(swing.error());
    return saved.map([] { return 0; });
}

/// Films are brought in, one is marked and one is written, while the coach steps through another.
void whileThreeWorksRun(benchmark::State& state)
{
    auto& s = stage();
    for (auto _ : state) {
        s.window->openClip(s.clip);
        QTest::qWait(1500);
        app::ClipImport import(s.window->workspace());
        QStringList films;
        for (int n = 0; n < 6; ++n) {
            films << s.folder.filePath(QStringLiteral("copy%1.mp4").arg(n));
            QFile::copy(QString::fromStdString(bench::makeFilm("short_groups.mp4", "1920x1080", 60, 10, 60)), films.back());
        }
        const auto day = s.window->workspace().library().clips().find(s.clip)->day;
        int written = 0;
        const Deafness d;
        import.add(day, films);
        auto writing = app::Background::run(
            s.window.get(),
            [&](std::stop_token stop) { return writeAFilm(s.folder.filePath(QStringLiteral("out.mp4")).toStdString(), stop); },
            [&](const Expected<int>&) { ++written; });
        QTest::keyClick(s.window->benchView(), Qt::Key_G);
        for (int n = 0; n < 100; ++n) {
            s.window->bench().player.setFrame(FrameIndex(n));
            QTest::qWait(50);
        }
        report(state, d);
        state.counters["still_running"] = static_cast<double>(import.isRunning()) + (written == 0);
        writing.stop();
        import.cancel();
        QTest::keyClick(s.window->benchView(), Qt::Key_G); // and stop marking
        QTest::qWait(500);
    }
}

/// Some eleven thousand marks are stored and judged, as after *Mark for me*; then twenty of them are corrected.
void correctAMarkedFilm(benchmark::State& state)
{
    auto& s = stage();
    auto& bench = s.window->bench();
    for (auto _ : state) {
        s.window->openClip(s.fastClip);
        QTest::qWait(2500);
        const auto work = twoSeconds(s.fastClip, *s.window);
        const auto repetition = bench.context.repetition().id;
        double taking = 0;
        {
            const Deafness d;
            s.window->workspace().editLater(
                QStringLiteral("mark for me"),
                [=, clip = s.fastClip](store::Library& l) { return l.marks().setProgramWork(clip, repetition, work); },
                [](store::Library&) { return Expected<void>{}; }, [](bool) {});
            QTest::qWait(1000);
            taking = d.longestMs();
        }
        const Deafness d;
        bench.positions.goTo("strike");
        const auto marks = bench.marks.marksHere();
        for (int i = 0; i < 20; ++i) {
            bench.marks.moveMark(marks[static_cast<std::size_t>(i)].landmark, {600.0 + i, 300.0 + i});
            QTest::qWait(60);
        }
        report(state, d);
        state.counters["marks"] = static_cast<double>(work.marks.size());
        state.counters["taking_ms"] = taking; // goal: at most 50
    }
}

/// Steps onto pictures that lie in the cache, to and fro, up to painted.
void cachedStep(benchmark::State& state)
{
    auto& s = stage();
    auto& bench = s.window->bench();
    Painted painted(*s.window);
    std::vector<double> waits;
    for (auto _ : state) {
        bench.player.setFrame(FrameIndex(300));
        QTest::qWait(4000); // both sides are filled
        for (const int direction : {-1, 1, 1, -1})
            for (int i = 0; i < 50; ++i) {
                const int before = painted.count();
                QElapsedTimer timer;
                timer.start();
                bench.player.step(direction);
                if (!painted.waitFor(before + 1))
                    return state.SkipWithError("a step was never painted");
                waits.push_back(static_cast<double>(timer.nsecsElapsed()) * 1e-6);
            }
    }
    std::sort(waits.begin(), waits.end());
    state.counters["median_ms"] = waits[waits.size() / 2];
    state.counters["p95_ms"] = waits[waits.size() * 95 / 100]; // goal: at most 12
}

/// Plays three seconds at true speed from the middle of nowhere.
void play(benchmark::State& state, store::ClipId clip)
{
    constexpr int kMs = 3000;
    auto& s = stage();
    auto& bench = s.window->bench();
    for (auto _ : state) {
        s.window->openClip(clip);
        QTest::qWait(1500);
        bench.player.setFrame(FrameIndex(0));
        QTest::qWait(1000);
        Painted painted(*s.window);
        bench.player.setSpeed(1);
        QElapsedTimer timer;
        double late = 0;
        const auto begin = bench.player.clock().timeOf(bench.player.frame())->seconds;
        const auto watch = QObject::connect(&bench.player, &app::FilmPlayer::pictureReady, [&] {
            late = std::max(late, static_cast<double>(timer.nsecsElapsed()) * 1e-9 + begin -
                                      bench.player.clock().timeOf(bench.player.frame())->seconds);
        });
        timer.start();
        bench.player.setPlaying(true);
        QTest::qWait(kMs);
        const double film = bench.player.clock().timeOf(bench.player.frame())->seconds - begin;
        const double elapsed = static_cast<double>(timer.nsecsElapsed()) * 1e-9;
        bench.player.setPlaying(false);
        QObject::disconnect(watch);
        state.counters["film_s_a_real_s"] = film / elapsed; // goal: 1
        state.counters["latest_ms"] = 1000 * late;
        state.counters["painted"] = painted.count();
        state.counters["dropped"] = static_cast<double>(bench.player.droppedPictures());
    }
}
void play1080p60(benchmark::State& state)
{
    play(state, stage().clip);
}
void play720p240(benchmark::State& state)
{
    play(state, stage().fastClip);
}

bool openPair(app::PairModel& pair, const std::array<store::RepetitionId, 2>& repetitions)
{
    pair.open(repetitions[0], repetitions[1]);
    return QTest::qWaitFor([&] { return pair.isOpen() && pair.player(0).isOpen() && pair.player(1).isOpen(); }, 20'000);
}

/// A minute of two films together: how long after the one picture the other of the same step ever came, and how many were never
/// shown.
void playTwo720p60(benchmark::State& state)
{
    constexpr int kSeconds = 60, kRate = 60;
    auto& s = stage();
    auto& pair = s.window->pair()->model();
    for (auto _ : state) {
        const auto repetitions = s.longPair();
        s.window->goTo(app::MainWindow::Place::Pair);
        if (!openPair(pair, repetitions))
            return state.SkipWithError("the pair does not open");
        QTest::qWait(2000);
        pair.setFrame(FrameIndex(0));
        pair.setSpeed(1);
        double farthest = 0;
        std::array<double, 2> came{};
        std::array<std::set<FrameIndex>, 2> shown;
        QElapsedTimer timer;
        timer.start();
        const Deafness d;
        const QObject watch;
        for (std::size_t n = 0; n < 2; ++n)
            QObject::connect(&pair.player(n), &app::FilmPlayer::pictureReady, &watch, [&, n] {
                shown[n].insert(pair.player(n).pictured());
                came[n] = static_cast<double>(timer.nsecsElapsed()) * 1e-6;
                if (pair.player(0).pictured() == pair.player(1).pictured())
                    farthest = std::max(farthest, std::abs(came[0] - came[1]));
            });
        pair.setPlaying(true);
        QTest::qWait(kSeconds * 1000 - 500);
        const auto reached = pair.player(0).frame().value;
        pair.setPlaying(false);
        state.counters["film_s_a_real_s"] = static_cast<double>(reached) / (kRate * (kSeconds - 0.5));
        state.counters["apart_ms"] = farthest; // goal: at most 17, a picture of the display
        for (std::size_t n = 0; n < 2; ++n)
            state.counters[n == 0 ? "dropped_first_percent" : "dropped_second_percent"] =
                100 - 100.0 * static_cast<double>(shown[n].size()) / static_cast<double>(reached + 1); // goal: under 10
        report(state, d);
        pair.close();
    }
}

/// Both films of a pair a picture on, out of the cache, until both are painted.
void cachedStepOfTwo1080p(benchmark::State& state)
{
    auto& s = stage();
    auto& pair = s.window->pair()->model();
    std::vector<double> waits;
    for (auto _ : state) {
        const auto repetitions = s.largePair();
        s.window->goTo(app::MainWindow::Place::Pair);
        if (!openPair(pair, repetitions))
            return state.SkipWithError("the pair does not open");
        pair.setFrame(FrameIndex(100));
        QTest::qWait(4000); // both sides are filled
        const auto views = s.window->pair()->findChildren<app::FilmCanvas*>();
        Painted first(pair.player(0), *views[0]), second(pair.player(1), *views[1]);
        for (const int direction : {-1, 1, 1, -1})
            for (int i = 0; i < 25; ++i) {
                const int one = first.count(), two = second.count();
                QElapsedTimer timer;
                timer.start();
                pair.step(direction);
                if (!first.waitFor(one + 1) || !second.waitFor(two + 1))
                    return state.SkipWithError("a step was never painted");
                waits.push_back(static_cast<double>(timer.nsecsElapsed()) * 1e-6);
            }
        pair.close();
    }
    std::sort(waits.begin(), waits.end());
    state.counters["median_ms"] = waits[waits.size() / 2];
    state.counters["p95_ms"] = waits[waits.size() * 95 / 100]; // goal: at most 16
}

/// A walk-through is written while the coach looks at other things: how long the window is deaf, and what it takes of memory.
void whileAWalkThroughIsWritten(benchmark::State& state)
{
    auto& s = stage();
    for (auto _ : state) {
        s.window->openClip(s.clip);
        QTest::qWait(1500);
        auto* walk = s.window->showView()->walk();
        s.window->showView()->turnTo(app::ShowView::Leaf::Walk);
        s.window->goTo(app::MainWindow::Place::Show);
        if (!QTest::qWaitFor([&] { return walk->editor().day() && !walk->editor().isGathering(); }, 20'000))
            return state.SkipWithError("nothing to write");
        report::WalkStop stretch;
        stretch.frames = {FrameIndex(0), FrameIndex(200)};
        stretch.speed = 0.5;
        stretch.text = "The whole movement, slowly.";
        walk->editor().change(QStringLiteral("a talk"), {"", {stretch, stretch}});
        QTest::qWait(300);
        bool isDone = false, isWritten = false;
        const QObject watch;
        QObject::connect(walk, &app::WalkView::wrote, &watch, [&](bool done) {
            isDone = true;
            isWritten = done;
        });
        const double before = residentMegabytes();
        double most = before;
        const Deafness d;
        QElapsedTimer timer;
        timer.start();
        walk->write(s.folder.filePath(QStringLiteral("walk.mp4")));
        while (!isDone && timer.elapsed() < 180'000) {
            QTest::qWait(20);
            most = std::max(most, residentMegabytes());
        }
        report(state, d);
        if (!isWritten)
            return state.SkipWithError("not written");
        state.counters["seconds"] = static_cast<double>(timer.elapsed()) / 1000;
        state.counters["more_memory_MB"] = most - before;
    }
}

BENCHMARK(openClip)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(twoHundredScrubs)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(markHundredPoints)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(whileThreeWorksRun)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(correctAMarkedFilm)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(cachedStep)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(play1080p60)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(play720p240)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(playTwo720p60)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(cachedStepOfTwo1080p)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(whileAWalkThroughIsWritten)->Iterations(1)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv)
{
    kestrel::bench::runInWindow(argc, argv, [] { stageSet.reset(); });
}
