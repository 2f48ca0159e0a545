#include "app/bench/spin_counter.h"

#include "core/flight/sum.h"

#include <cmath>
#include <numbers>

namespace kestrel::app {

SpinCounter::SpinCounter(ClipContext& context, FilmPlayer& player, QObject* parent)
    : QObject(parent), m_context(context), m_player(player)
{
    connect(&context, &ClipContext::clipChanged, this, &SpinCounter::clear);
}

void SpinCounter::count()
{
    if (!m_player.isOpen())
        return;
    m_turns.addTurn(m_player.frame());
    if (m_turns.turns() == 0)
        return emit message(
            tr("Counting turns from here: step on, and press J each time the seam has come round once. For a part "
               "of a turn, draw with Shift+J from the ball's middle to the seam, here and at the end."));
    say();
}

void SpinCounter::setAngle(ImagePoint middle, ImagePoint mark)
{
    constexpr double kShort = 2; // pixels: no direction can be told
    const ImageVector v = mark - middle;
    if (!m_player.isOpen() || v.length() < kShort)
        return;
    m_turns.setAngle(m_player.frame(), std::atan2(v.y, v.x) * 180 / std::numbers::pi);
    if (!m_turns.counted())
        return emit message(
            tr("The seam stands at %1 degrees here. Draw it once more on a later picture; between them count whole "
               "turns with J, or draw on every picture.")
                .arg(std::lround(std::atan2(-v.y, v.x) * 180 / std::numbers::pi)));
    if (m_turns.lacksFirstAngle())
        return emit message(tr("Draw the seam on the picture of the first J as well: then the part of a turn counts."));
    say();
}

void SpinCounter::say()
{
    const auto counted = m_turns.counted();
    if (!counted)
        return emit message(tr(
            "The seam moves nearly half a turn from one drawing to the next: which way it went cannot be told. Draw it on more "
            "pictures, or count whole turns with J."));
    SumInput input;
    input.values = {{"revolutions", counted->turns},
                    {"frames", static_cast<double>(counted->pictures())},
                    {"capture-rate", m_context.clip().clock.capture}};
    const auto answer = workOut(*findSumCard("spin"), input);
    if (!answer)
        return emit message(QString::fromStdString(answer.error().message));
    const SumResult& spin = answer->results.front();
    emit message(tr("%1 turns in %2 pictures at %3 a second: %4 turns a minute (%5 to %6).")
                     .arg(counted->turns, 0, 'f', counted->turns == std::floor(counted->turns) ? 0 : 2)
                     .arg(counted->pictures())
                     .arg(m_context.clip().clock.capture)
                     .arg(std::lround(spin.value))
                     .arg(std::lround(spin.low))
                     .arg(std::lround(spin.high)));
}

} // namespace kestrel::app
