#include "sim/stand_in_camera.h"

#include <chrono>
#include <condition_variable>
#include <filesystem>
#include <mutex>

namespace kestrel::sim {

SimulateOptions StandInCamera::usualOptions()
{
    SimulateOptions o;
    o.skill = "overhand-pitch";
    o.motion.variant = "stretch";
    o.frameRate = 120;
    o.size = {640, 360};
    o.look = 2;
    return o;
}

void StandInCamera::start(const SimulateOptions& options, const std::string& folder, OnPicture picture, OnError error,
                          std::function<void(double)> preparing)
{
    stop();
    m_leftOut = 0;
    m_thread = std::jthread([=, this](std::stop_token stop) { play(stop, options, folder, picture, error, preparing); });
}

void StandInCamera::stop()
{
    m_thread = {};
}

void StandInCamera::play(std::stop_token stop, const SimulateOptions& options, const std::string& folder,
                         const OnPicture& picture, const OnError& error, const std::function<void(double)>& preparing)
{
    namespace fs = std::filesystem;
    std::error_code ec;
    fs::create_directories(folder, ec);
    const std::string file = (fs::path(folder) / "stand-in-camera.mp4").string();
    if (!fs::exists(file)) {
        const auto simulated = simulate(options);
        if (!simulated)
            return error(simulated.error());
        const auto saved = saveClip(
            *simulated, file,
            [&](int done, int of) {
                if (preparing)
                    preparing(static_cast<double>(done) / of);
            },
            stop);
        if (!saved)
            return saved.error().code == ErrorCode::Cancelled ? void() : error(saved.error());
    }
    auto film = media::Film::open(file, {.stop = stop});
    if (!film)
        return error(film.error());
    const auto& shown = film->info().shown;
    const auto length = std::chrono::nanoseconds(film->info().duration.nanoseconds);
    using Clock = std::chrono::steady_clock;
    const auto begin = Clock::now();
    std::mutex mutex;
    std::condition_variable_any wake;
    for (std::int64_t round = 0; !stop.stop_requested(); ++round)
        for (std::int64_t n = 0; n < film->info().frames() && !stop.stop_requested(); ++n) {
            const auto due = std::chrono::nanoseconds(shown[static_cast<std::size_t>(n)].nanoseconds) + round * length;
            const auto after = n + 1 < film->info().frames()
                                   ? std::chrono::nanoseconds(shown[static_cast<std::size_t>(n) + 1].nanoseconds) + round * length
                                   : (round + 1) * length;
            if (Clock::now() - begin > after) {
                ++m_leftOut; // its time is over
                continue;
            }
            {
                std::unique_lock lock(mutex);
                wake.wait_until(lock, stop, begin + due, [] { return false; });
            }
            if (stop.stop_requested())
                return;
            if (const auto p = film->frame(FrameIndex(n), {}, stop))
                picture(*p, {due.count()});
        }
}

} // namespace kestrel::sim
