#include "app/bench/spin_counter.h"

#include "core/flight/sum.h"

#include <cmath>

namespace kestrel::app {

SpinCounter::SpinCounter(ClipContext& context, FilmPlayer& player, QObject* parent)
    : QObject(parent), m_context(context), m_player(player)
{
    connect(&context, &ClipContext::clipChanged, this, &SpinCounter::clear);
}

std::optional<SpinCounter::Count> SpinCounter::counted() const
{
    return m_from && m_turns > 0 ? std::optional(Count{m_turns, *m_from, m_last}) : std::nullopt;
}

void SpinCounter::clear()
{
    m_from.reset();
    m_turns = 0;
}

void SpinCounter::count()
{
    if (!m_player.isOpen())
        return;
    const FrameIndex now = m_player.frame();
    if (!m_from || now <= m_last) {
        m_from = m_last = now;
        m_turns = 0;
        return emit message(tr("Counting turns from here: step on, and press J each time the seam has come round once."));
    }
    ++m_turns;
    m_last = now;
    SumInput input;
    input.values = {{"revolutions", static_cast<double>(m_turns)},
                    {"frames", static_cast<double>(now.value - m_from->value)},
                    {"capture-rate", m_context.clip().clock.capture}};
    const auto answer = workOut(*findSumCard("spin"), input);
    if (!answer)
        return emit message(QString::fromStdString(answer.error().message));
    const SumResult& spin = answer->results.front();
    emit message(tr("%1 turns in %2 pictures at %3 a second: %4 turns a minute (%5 to %6).")
                     .arg(m_turns)
                     .arg(now.value - m_from->value)
                     .arg(m_context.clip().clock.capture)
                     .arg(std::lround(spin.value))
                     .arg(std::lround(spin.low))
                     .arg(std::lround(spin.high)));
}

} // namespace kestrel::app
