// Reading and judging a whole pitch, against the time it takes to parse the marking's file.

#include "core/base/parallel_for.h"
#include "core/judge/review.h"
#include "core/scene/marking_json.h"
#include "support/markings.h"

#include <benchmark/benchmark.h>
#include <nlohmann/json.hpp>

#include <chrono>
#include <cmath>

using namespace kestrel;

namespace {

double now()
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

/// What a coach has after marking the whole body at every key position.
Marking coachMarking()
{
    const Marking truth = test::simulated(test::pitch(View::Side, {"head_drop"})).truth;
    Marking m = truth;
    m.events.clear();
    m.marks.clear();
    for (const auto& e : truth.events) {
        const FrameIndex f(std::llround(e.frame.value));
        m.events.push_back({e.keyPosition, FramePosition(f), 0.5, Source::Coach});
        for (const auto& l :
             landmarksAt(test::pitchPack(), e.keyPosition, View::Side, Hand::Right, "stretch", MarkExtent::WholeBody)) {
            m.marks.push_back(*findMark(truth, f, l));
            m.marks.back().sigma = 1.5;
        }
    }
    return m;
}

void readWholePack(benchmark::State& state, const Marking& marking)
{
    const std::string text = toJson(marking).dump();
    double ours = 0, parsing = 0;
    for (auto _ : state) {
        double start = now();
        benchmark::DoNotOptimize(parseMarking(nlohmann::json::parse(text), "x"));
        parsing += now() - start;
        start = now();
        benchmark::DoNotOptimize(
            calcReview(test::pitchPack(), {readRepetition(test::pitchPack(), PreparedRepetition(marking), {})}, {}));
        ours += now() - start;
    }
    state.counters["marks"] = static_cast<double>(marking.marks.size());
    state.counters["review_ms"] = 1000 * ours / static_cast<double>(state.iterations());
    state.counters["ratio_to_parsing"] = ours / parsing;
    state.counters["share_of_20_ms"] = ours / static_cast<double>(state.iterations()) / 0.020;
}

void coachsMarking(benchmark::State& state)
{
    readWholePack(state, coachMarking());
}
/// What the program leaves behind.
Marking everyFrameMarking()
{
    Marking m = test::simulated(test::pitch(View::Side, {"head_drop"})).truth;
    for (auto& mark : m.marks) {
        mark.source = Source::Network;
        mark.sigma = 3;
    }
    return m;
}

void everyFrameMarked(benchmark::State& state)
{
    readWholePack(state, everyFrameMarking());
}
/// An evening's films at once: read and judged together, the markings already parsed.
void twoHundredRepetitions(benchmark::State& state)
{
    const Marking one = everyFrameMarking();
    double seconds = 0;
    for (auto _ : state) {
        const double start = now();
        const auto all =
            parallelMap(200, [&](std::size_t) { return readRepetition(test::pitchPack(), PreparedRepetition(one), {}); });
        benchmark::DoNotOptimize(calcReview(test::pitchPack(), all, {}));
        seconds += now() - start;
    }
    state.counters["seconds"] = seconds / static_cast<double>(state.iterations());
    state.counters["share_of_2_s"] = seconds / static_cast<double>(state.iterations()) / 2;
}
BENCHMARK(twoHundredRepetitions)->Unit(benchmark::kMillisecond);
BENCHMARK(coachsMarking)->Unit(benchmark::kMillisecond);
BENCHMARK(everyFrameMarked)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
