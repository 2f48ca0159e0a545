#pragma once

#include "media/film.h"
#include "sim/simulate.h"

#include <atomic>
#include <functional>
#include <string>
#include <thread>

namespace kestrel::sim {

/// A high-speed camera that is not there: it shows a simulated athlete over and over at true speed, on a thread of its
/// own. What cannot be shown in time is left out and counted, as a real camera would.
class StandInCamera {
public:
    /// \param picture  called on the camera's thread; times are since start() and rise
    using OnPicture = std::function<void(const media::Picture&, MediaTime)>;
    using OnError = std::function<void(const Error&)>;

    /// What it shows: a pitcher at 120 pictures a second, 640x360.
    static SimulateOptions usualOptions();

    ~StandInCamera() { stop(); }

    /// Paints its film into the folder the first time, and plays it from there. \param preparing  0 to 1
    void start(const SimulateOptions&, const std::string& folder, OnPicture, OnError, std::function<void(double)> preparing = {});
    void stop();
    std::int64_t leftOut() const { return m_leftOut; }

private:
    void play(std::stop_token, const SimulateOptions&, const std::string& folder, const OnPicture&, const OnError&,
              const std::function<void(double)>& preparing);

    std::atomic<std::int64_t> m_leftOut = 0;
    std::jthread m_thread;
};

} // namespace kestrel::sim
