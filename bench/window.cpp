// The longest time the window was deaf while a coach opens a clip, scrubs and marks: a 1 ms timer measures its own delay.

#include "app/bench_view.h"
#include "app/film_view.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "core/draw.h"
#include "store/content_hash.h"
#include "support/coded_film.h"
#include "support/markings.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTest>
#include <benchmark/benchmark.h>

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

struct Set {
    QTemporaryDir folder;
    std::unique_ptr<app::MainWindow> window;
    store::ClipId clip;
    int frames = 600;

    Set()
    {
        test::CodedFilm f;
        f.frames = frames;
        f.width = 1920;
        f.height = 1080;
        f.frameRate = 60;
        f.keyEvery = 60;
        const std::string file = f.write(folder.path().toStdString());
        auto library = store::Library::open(folder.path().toStdString());
        const auto athlete = *library->add(store::Athlete{{}, "Ida", "2013-03-08", Hand::Right, 1.6, true});
        const auto day = *library->add(store::FilmingDay{{}, athlete, "2026-05-01", "overhand-pitch", "tall"});
        store::Clip c;
        c.day = day;
        c.file = file;
        c.contentHash = *store::calcContentHash(file);
        c.film = {{}, f.width, f.height, frames};
        c.clock = {60, 60};
        c.scene.scale = Scale{{0, 0}, {400, 0}, 1};
        clip = *library->add(c);
        window = std::make_unique<app::MainWindow>(std::move(*library), std::vector<Pack>{test::pitchPack()});
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
        const Draw draw(5);
        for (std::uint64_t i = 0; i < 200; ++i) {
            s.window->session().setFrame(FrameIndex(static_cast<std::int64_t>((draw.even(i) + 1) / 2 * s.frames)));
            QTest::qWait(10);
        }
        QTest::qWait(400);
        report(state, d);
    }
}

void markHundredPoints(benchmark::State& state)
{
    auto& s = stage();
    auto& session = s.window->session();
    for (auto _ : state) {
        const Deafness d;
        session.setExtent(MarkExtent::WholeBody);
        for (int i = 0; i < 9; ++i) {
            session.setFrame(FrameIndex(20 + i * 10));
            session.placeKeyPosition(static_cast<std::size_t>(i));
            QTest::qWait(5);
        }
        session.setTool(app::Tool::Mark);
        session.goTo("set");
        for (int i = 0; i < 100; ++i) {
            session.placeMark({600.0 + i % 17 * 20, 300.0 + i % 13 * 25});
            QTest::qWait(5);
        }
        report(state, d);
    }
}

BENCHMARK(openClip)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(twoHundredScrubs)->Iterations(1)->Unit(benchmark::kMillisecond);
BENCHMARK(markHundredPoints)->Iterations(1)->Unit(benchmark::kMillisecond);

} // namespace

int main(int argc, char** argv)
{
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication application(argc, argv);
    QApplication::setStyle(QStringLiteral("Fusion"));
    app::Theme::instance().setDark(false);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    stageSet.reset();
}
