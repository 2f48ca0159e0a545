// How fast the simulated athlete is painted at 1280x720, against copying the picture: the goal is 30 pictures a second.

#include "sim/film_maker.h"

#include <QGuiApplication>
#include <benchmark/benchmark.h>

#include <chrono>

using namespace kestrel;

namespace {

double now()
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

void paint(benchmark::State& state, const char* skill)
{
    sim::SimulateOptions o;
    o.skill = skill;
    o.frameRate = 60;
    const auto s = sim::simulate(o);
    sim::FilmMaker maker(*s);
    QImage picture = maker.picture(0); // what stands still is painted with the first one
    double ours = 0, copying = 0;
    std::size_t frame = 0;
    for (auto _ : state) {
        double start = now();
        picture = maker.picture(frame++ % s->frames());
        ours += now() - start;
        start = now();
        benchmark::DoNotOptimize(picture.copy());
        copying += now() - start;
    }
    const double each = ours / static_cast<double>(state.iterations());
    state.counters["pictures_a_second"] = 1 / each; // goal: at least 30
    state.counters["in_copies"] = ours / copying;
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    benchmark::Initialize(&argc, argv);
    for (const char* skill : {"overhand-pitch", "overhead-serve", "table-tennis-topspin", "snap-shot"})
        benchmark::RegisterBenchmark((std::string("paint/") + skill).c_str(), [skill](benchmark::State& s) { paint(s, skill); })
            ->Iterations(150)
            ->Unit(benchmark::kMillisecond);
    benchmark::RunSpecifiedBenchmarks();
}
