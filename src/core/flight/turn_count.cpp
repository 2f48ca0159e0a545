#include "core/flight/turn_count.h"

#include <cmath>
#include <iterator>

namespace kestrel {

namespace {

constexpr double kTurnSigma = 0.06;  // of a turn: how late or early "it has come round" is seen
constexpr double kAngleSigma = 0.02; // of a turn: how well a seam is pointed at
constexpr double kMostStep = 0.45;   // of a turn between two angles: beyond it the way round is a guess

/// Of a turn, 0 to 1.
double wrapped(double turns)
{
    return turns - std::floor(turns);
}

} // namespace

void TurnCount::addTurn(FrameIndex frame)
{
    if (!m_from || frame <= m_last) {
        if (m_from)
            m_angles.clear();
        m_from = m_last = frame;
        m_turns = 0;
        return;
    }
    ++m_turns;
    m_last = frame;
}

void TurnCount::setAngle(FrameIndex frame, double degrees)
{
    m_angles[frame] = degrees / 360;
}

std::optional<CountedTurns> TurnCount::counted() const
{
    if (!m_from || m_turns == 0)
        return fromAngles();
    CountedTurns whole{static_cast<double>(m_turns), *m_from, m_last, kTurnSigma};
    const auto first = m_angles.find(*m_from);
    if (first == m_angles.end() || m_angles.rbegin()->first <= m_last)
        return whole;
    const auto& [end, angle] = *m_angles.rbegin();
    const double pace = m_turns / static_cast<double>(m_last.value - m_from->value);
    const double expected = pace * static_cast<double>(end.value - m_last.value);
    const double on = wrapped(angle - first->second), back = wrapped(first->second - angle);
    // the way round, and the turns that may have gone by uncounted, are those nearest to the pace
    const double partOn = on + std::round(expected - on), partBack = back + std::round(expected - back);
    const double part = std::abs(partOn - expected) < std::abs(partBack - expected) ? partOn : partBack;
    return CountedTurns{m_turns + std::max(0.0, part), *m_from, end, std::sqrt(2.0) * kAngleSigma};
}

bool TurnCount::lacksFirstAngle() const
{
    return m_turns > 0 && !m_angles.empty() && m_angles.rbegin()->first > m_last && m_angles.count(*m_from) == 0;
}

std::optional<CountedTurns> TurnCount::fromAngles() const
{
    if (m_angles.size() < 2)
        return std::nullopt;
    double sum = 0;
    for (auto it = m_angles.begin(); std::next(it) != m_angles.end(); ++it) {
        const double step = std::next(it)->second - it->second, shortest = step - std::round(step);
        if (std::abs(shortest) > kMostStep)
            return std::nullopt;
        sum += shortest;
    }
    if (sum == 0)
        return std::nullopt;
    return CountedTurns{std::abs(sum), m_angles.begin()->first, m_angles.rbegin()->first, std::sqrt(2.0) * kAngleSigma};
}

} // namespace kestrel
