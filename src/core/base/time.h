#pragma once

#include "core/base/index.h"

#include <algorithm>
#include <compare>
#include <cstdint>
#include <optional>
#include <vector>

namespace kestrel {

/// What the film file says, from the start of its first picture. Whole nanoseconds: every time base in use
/// (1/90000, 1/1000, 1001/30000 ...) is within half a nanosecond.
struct MediaTime {
    std::int64_t nanoseconds = 0;
    friend constexpr auto operator<=>(MediaTime, MediaTime) = default;
    constexpr double seconds() const { return static_cast<double>(nanoseconds) * 1e-9; }
    static constexpr MediaTime fromSeconds(double s) { return {static_cast<std::int64_t>(s * 1e9 + (s < 0 ? -0.5 : 0.5))}; }
};

/// Time as the athlete lived it: film time divided by the slow-motion factor.
struct RealTime {
    double seconds = 0;
    friend constexpr auto operator<=>(RealTime, RealTime) = default;
    friend constexpr double operator-(RealTime a, RealTime b) { return a.seconds - b.seconds; }
    constexpr double milliseconds() const { return seconds * 1e3; }
};

/// What the file says about each picture's time, and how much slower than life it plays.
class FrameClock {
public:
    FrameClock() = default;

    /// \param shown       when each picture appears, strictly rising
    /// \param slowFactor  capture rate / playback rate, > 0; 8 for 240 pictures/s shown at 30
    FrameClock(std::vector<MediaTime> shown, double slowFactor)
        : m_shown(std::move(shown)), m_slowFactor(slowFactor > 0 ? slowFactor : 1.0)
    {
    }

    std::int64_t frames() const { return static_cast<std::int64_t>(m_shown.size()); }
    double slowFactor() const { return m_slowFactor; }

    /// Empty: no such frame.
    std::optional<RealTime> timeOf(FrameIndex f) const
    {
        if (f.value < 0 || f.value >= frames())
            return std::nullopt;
        return real(m_shown[static_cast<std::size_t>(f.value)]);
    }

    /// Between pictures by straight interpolation, beyond the ends by the nearest interval. Empty for an empty film.
    std::optional<RealTime> timeOf(FramePosition p) const
    {
        if (m_shown.empty())
            return std::nullopt;
        if (m_shown.size() == 1)
            return real(m_shown.front());
        const auto last = static_cast<std::int64_t>(m_shown.size()) - 2;
        const auto i = std::clamp(static_cast<std::int64_t>(p.value), std::int64_t{0}, last);
        const double a = real(m_shown[static_cast<std::size_t>(i)]).seconds;
        const double b = real(m_shown[static_cast<std::size_t>(i) + 1]).seconds;
        return RealTime{a + (b - a) * (p.value - static_cast<double>(i))};
    }

    /// The picture on screen then; the first before the film, the last after it.
    FrameIndex frameAt(RealTime t) const
    {
        const auto it =
            std::upper_bound(m_shown.begin(), m_shown.end(), t, [this](RealTime x, MediaTime m) { return x < real(m); });
        return FrameIndex(std::max<std::int64_t>(0, std::distance(m_shown.begin(), it) - 1));
    }

    /// Between two pictures where the time lies between theirs: the inverse of timeOf(). 0 for fewer than two pictures.
    FramePosition positionAt(RealTime t) const
    {
        if (m_shown.size() < 2)
            return FramePosition(0);
        const std::int64_t i = std::min(frameAt(t).value, frames() - 2);
        const double a = real(m_shown[static_cast<std::size_t>(i)]).seconds,
                     b = real(m_shown[static_cast<std::size_t>(i) + 1]).seconds;
        return FramePosition(static_cast<double>(i) + (t.seconds - a) / (b - a));
    }

    /// Mean time between pictures. Zero for fewer than two pictures.
    double meanInterval() const
    {
        if (m_shown.size() < 2)
            return 0;
        return (real(m_shown.back()) - real(m_shown.front())) / static_cast<double>(m_shown.size() - 1);
    }

private:
    RealTime real(MediaTime m) const { return {m.seconds() / m_slowFactor}; }

    std::vector<MediaTime> m_shown;
    double m_slowFactor = 1.0;
};

/// A clock for a marking that comes without its film: pictures evenly spaced at the capture rate.
inline FrameClock evenClock(std::int64_t frames, double captureRate)
{
    std::vector<MediaTime> shown;
    shown.reserve(static_cast<std::size_t>(std::max<std::int64_t>(0, frames)));
    for (std::int64_t i = 0; i < frames; ++i)
        shown.push_back(MediaTime::fromSeconds(static_cast<double>(i) / captureRate));
    return FrameClock(std::move(shown), 1.0);
}

} // namespace kestrel
