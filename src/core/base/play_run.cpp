#include "core/base/play_run.h"

#include <cmath>

namespace kestrel {

PlayRun::PlayRun(const FrameClock& clock, FrameIndex from, FrameRange range, double speed, bool isLoop)
    : m_clock(&clock), m_from(from), m_range(range), m_speed(speed), m_isLoop(isLoop)
{
    // each picture is on screen until the next one comes; the last one for a mean interval
    const double start = clock.timeOf(range.first)->seconds;
    const auto after = clock.timeOf(FrameIndex(range.last.value + 1));
    const double end = after ? after->seconds : clock.timeOf(range.last)->seconds + clock.meanInterval();
    const double at = clock.timeOf(from)->seconds;
    m_length = end - start;
    if (speed >= 0) {
        m_begin = at - start;
    } else { // backwards a picture's turn begins where forwards it ends
        const auto next = clock.timeOf(FrameIndex(from.value + 1));
        m_begin = end - std::min(end, next ? next->seconds : at + clock.meanInterval());
    }
}

PlayRun::Place PlayRun::at(double elapsed) const
{
    const double gone = m_begin + elapsed * std::abs(m_speed);
    const double start = m_clock->timeOf(m_range.first)->seconds;
    double rounds = 0, within = gone;
    if (m_isLoop && m_length > 0) {
        rounds = std::floor(gone / m_length);
        within = gone - rounds * m_length;
    }
    const bool forward = m_speed >= 0;
    // a picture's turn includes its beginning; the smallest step keeps rounding from showing the one before
    constexpr double kSlack = 1e-9;
    const double t = forward ? start + within + kSlack : start + m_length - within - kSlack;
    const std::int64_t frame = std::clamp(m_clock->frameAt({t}).value, m_range.first.value, m_range.last.value);
    const std::int64_t count = m_range.last.value - m_range.first.value + 1;
    const std::int64_t steps = forward ? frame - m_from.value : m_from.value - frame;
    return {FrameIndex(frame), static_cast<std::int64_t>(rounds) * count + steps, !m_isLoop && gone >= m_length - kSlack};
}

} // namespace kestrel
