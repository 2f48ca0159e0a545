#include "app/bench/key_positions.h"

#include "core/read/time_order.h"

#include <algorithm>
#include <cmath>

namespace kestrel::app {

KeyPositions::KeyPositions(Workspace& workspace, ClipContext& context, FilmPlayer& player, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_player(player)
{
    const auto forget = [this] { m_lastPlaced.clear(); };
    connect(&m_context, &ClipContext::clipChanged, this, forget);
    connect(&m_context, &ClipContext::repetitionChosen, this, forget);
}

void KeyPositions::step(int direction)
{
    std::optional<std::int64_t> best;
    for (const auto& e : m_context.marking().events) {
        const std::int64_t f = std::llround(e.frame.value);
        if (direction > 0 ? f > m_player.frame().value && (!best || f < *best)
                          : f < m_player.frame().value && (!best || f > *best))
            best = f;
    }
    if (best)
        m_player.setFrame(FrameIndex(*best));
    else if (m_context.marking().events.empty())
        emit message(tr("No key position is placed yet. Stand at one and press its number."));
}

void KeyPositions::goTo(const std::string& keyPosition)
{
    if (const Event* e = findEvent(m_context.marking(), keyPosition))
        m_player.setFrame(FrameIndex(std::llround(e->frame.value)));
}

const KeyPosition* KeyPositions::here() const
{
    if (m_context.pack())
        for (const auto& e : m_context.marking().events)
            if (std::llround(e.frame.value) == m_player.frame().value)
                return m_context.pack()->findKeyPosition(e.keyPosition);
    return nullptr;
}

void KeyPositions::toggleLoop()
{
    if (m_player.loop())
        return m_player.setLoop({});
    const auto& repetition = m_context.repetition();
    std::int64_t from = repetition.first.value, to = std::min(repetition.last.value, m_player.frames() - 1);
    for (const auto& e : m_context.marking().events) {
        const std::int64_t f = std::llround(e.frame.value);
        if (f <= m_player.frame().value)
            from = std::max(from, f);
        else
            to = std::min(to, f);
    }
    if (to > from)
        m_player.setLoop(FrameRange{FrameIndex(from), FrameIndex(to)});
}

void KeyPositions::edit(const QString& text, const std::string& id, const std::optional<Event>& after)
{
    const Event* present = findEvent(m_context.marking(), id);
    const std::optional<Event> before = present ? std::optional(*present) : std::nullopt;
    if (before == after)
        return;
    const auto repetition = m_context.repetition().id;
    m_workspace.edit(
        text, [=](store::Library& l) { return l.repetitions().setEvent(repetition, id, after); },
        [=](store::Library& l) { return l.repetitions().setEvent(repetition, id, before); });
}

void KeyPositions::place(std::size_t ordinal)
{
    if (m_context.pack() && ordinal < m_context.pack()->keyPositions.size())
        move(m_context.pack()->keyPositions[ordinal].id, m_player.frame());
}

void KeyPositions::move(const std::string& id, FrameIndex f)
{
    const KeyPosition* k = m_context.pack() ? m_context.pack()->findKeyPosition(id) : nullptr;
    if (!k)
        return;
    f = m_player.clamped(f);
    const Event* present = findEvent(m_context.marking(), id);
    m_beforeIt = present ? std::optional(*present) : std::nullopt;
    m_lastPlaced = id;
    edit(tr("place %1").arg(QString::fromStdString(k->name)), id,
         Event{id, FramePosition(static_cast<double>(f.value)), 0.5, Source::Coach});
}

void KeyPositions::remove(const std::string& id)
{
    const KeyPosition* k = m_context.pack() ? m_context.pack()->findKeyPosition(id) : nullptr;
    edit(tr("remove %1").arg(QString::fromStdString(k ? k->name : id)), id, std::nullopt);
}

void KeyPositions::acceptAll()
{
    if (!m_context.pack())
        return;
    std::vector<Event> proposed;
    for (const auto& e : m_context.marking().events)
        if (e.source != Source::Coach && m_context.pack()->findKeyPosition(e.keyPosition))
            proposed.push_back(e);
    if (proposed.empty()) {
        emit message(tr("There is no proposed key position here to accept."));
        return;
    }
    const auto repetition = m_context.repetition().id;
    const auto set = [repetition](store::Library& l, const Event& e) {
        return l.repetitions().setEvent(repetition, e.keyPosition, e);
    };
    m_workspace.edit(
        tr("accept the proposed key positions"),
        [=](store::Library& l) {
            return l.together([&]() -> Expected<void> {
                for (Event e : proposed) {
                    e.source = Source::Coach;
                    e.frame = FramePosition(e.frame.nearest());
                    e.uncertaintyFrames = 0.5;
                    if (auto done = set(l, e); !done)
                        return done;
                }
                return {};
            });
        },
        [=](store::Library& l) {
            return l.together([&]() -> Expected<void> {
                for (const Event& e : proposed)
                    if (auto done = set(l, e); !done)
                        return done;
                return {};
            });
        });
    emit message(tr("%1 proposed key positions are yours now.").arg(proposed.size()));
}

QString KeyPositions::orderProblem() const
{
    return m_context.pack() ? QString::fromStdString(sentenceAboutOrder(*m_context.pack(), m_context.marking().events))
                            : QString();
}

void KeyPositions::takeBack()
{
    if (!m_context.pack())
        return;
    const auto wrong = findOutOfOrder(*m_context.pack(), m_context.marking().events);
    if (wrong.empty())
        return;
    const bool isLast = std::find(wrong.begin(), wrong.end(), m_lastPlaced) != wrong.end();
    const std::string id = isLast ? m_lastPlaced : wrong.front();
    const KeyPosition* k = m_context.pack()->findKeyPosition(id);
    edit(tr("take %1 back").arg(QString::fromStdString(k->name)), id, isLast ? m_beforeIt : std::nullopt);
    m_lastPlaced.clear();
}

} // namespace kestrel::app
