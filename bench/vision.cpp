// How fast the program marks by itself, against the bare network on the same cores in the same run.

#include "core/pack/pack_folder.h"
#include "sim/simulate.h"
#include "vision/network.h"
#include "vision/pose_track.h"

#include <QGuiApplication>
#include <QTemporaryDir>

#include <benchmark/benchmark.h>

#include <chrono>
#include <span>
#include <thread>

using namespace kestrel;

namespace {

constexpr int kThreads = 2; // as trackPose
constexpr int kRuns = 40;

double seconds()
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

/// The same movement of three seconds at 60 pictures a second and at 240, as on slow-motion film.
std::string g_film, g_slowMotion;

/// Pictures a second of the network alone, on as many threads as marking uses. \param wanted  as Network::load
double bareRate(const std::string& model, std::span<const std::size_t> wanted = {})
{
    std::vector<vision::Network> networks;
    for (int n = 0; n < kThreads; ++n)
        networks.push_back(std::move(*vision::Network::load(model, wanted)));
    const double begin = seconds();
    {
        std::vector<std::jthread> threads;
        for (auto& network : networks)
            threads.emplace_back([&network] {
                for (int n = 0; n < kRuns; ++n)
                    network.run();
            });
    }
    return kThreads * kRuns / (seconds() - begin);
}

void marking(benchmark::State& state, const std::string& film, vision::BodyNetwork body)
{
    vision::TrackOptions options;
    options.models = shippedFolder("models");
    options.body = body;
    const std::string model = options.models + "/" + vision::fileOf(body);
    double bare = 0, bareRead = 0, own = 0;
    int rounds = 0;
    for (auto _ : state) { // the bare network before and after, so that a busy machine is the same for both
        const double before = bareRate(model), beforeRead = bareRate(model, vision::kResultsRead);
        const double begin = seconds();
        const auto track = vision::trackPose(film, options);
        own += static_cast<double>(track->looked) / (seconds() - begin);
        bare += (before + bareRate(model)) / 2;
        bareRead += (beforeRead + bareRate(model, vision::kResultsRead)) / 2;
        ++rounds;
    }
    state.counters["pictures_a_second"] = own / rounds;
    state.counters["bare_network"] = bare / rounds;
    state.counters["ratio"] = own / bare;
    state.counters["bare_network_of_what_is_read"] = bareRead / rounds;
    state.counters["ratio_to_that"] = own / bareRead;
}

} // namespace

BENCHMARK_CAPTURE(marking, full, g_film, vision::BodyNetwork::Usual)->Unit(benchmark::kMillisecond)->Iterations(3);
BENCHMARK_CAPTURE(marking, quick, g_film, vision::BodyNetwork::Quick)->Unit(benchmark::kMillisecond)->Iterations(3);
BENCHMARK_CAPTURE(marking, full_240, g_slowMotion, vision::BodyNetwork::Usual)->Unit(benchmark::kMillisecond)->Iterations(2);
BENCHMARK_CAPTURE(marking, quick_240, g_slowMotion, vision::BodyNetwork::Quick)->Unit(benchmark::kMillisecond)->Iterations(2);

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const QTemporaryDir folder;
    const auto make = [&](std::string& film, const char* name, double rate) {
        film = folder.filePath(QString::fromLatin1(name)).toStdString();
        sim::SimulateOptions o;
        o.skill = "overhand-pitch";
        o.frameRate = rate;
        const auto s = sim::simulate(o);
        return s && sim::saveClip(*s, film);
    };
    if (!make(g_film, "clip.mp4", 60) || !make(g_slowMotion, "slow.mp4", 240))
        return 1;
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
