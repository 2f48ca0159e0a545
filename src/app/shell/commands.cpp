#include "app/shell/commands.h"

#include <QKeyEvent>

#include <algorithm>

namespace kestrel::app {

namespace {

/// Where a symbol sits on a keyboard differs from country to country: whether Shift was needed for it says nothing.
bool isSymbol(int key)
{
    return key > Qt::Key_Space && key <= Qt::Key_AsciiTilde && !(key >= Qt::Key_A && key <= Qt::Key_Z) &&
           !(key >= Qt::Key_0 && key <= Qt::Key_9);
}

} // namespace

const Command* Commands::find(const QString& id) const
{
    const auto it = std::find_if(m_all.begin(), m_all.end(), [&](const Command& c) { return c.id == id; });
    return it == m_all.end() ? nullptr : &*it;
}

bool Commands::run(const QKeyEvent& event) const
{
    auto modifiers = event.modifiers() & ~Qt::KeypadModifier;
    if (isSymbol(event.key()))
        modifiers &= ~Qt::ShiftModifier;
    const QKeySequence pressed(QKeyCombination(modifiers, static_cast<Qt::Key>(event.key())));
    for (const auto& c : m_all)
        if (std::find(c.keys.begin(), c.keys.end(), pressed) != c.keys.end()) {
            c.act();
            return true;
        }
    return false;
}

QString Commands::tip(const QString& id, const QString& words) const
{
    const Command* c = find(id);
    return c && !c->keys.empty() ? words + QStringLiteral(" (%1)").arg(textOf(c->keys.front())) : words;
}

QString textOf(const QKeySequence& keys)
{
    QString text = keys.toString(QKeySequence::PortableText);
    const std::pair<const char*, QString> arrows[] = {
        {"Left", QStringLiteral("←")},     {"Right", QStringLiteral("→")},      {"Up", QStringLiteral("↑")},
        {"Down", QStringLiteral("↓")},     {"PgUp", QStringLiteral("Page Up")}, {"PgDown", QStringLiteral("Page Down")},
        {"Del", QStringLiteral("Delete")}, {"Return", QStringLiteral("Enter")}};
    for (const auto& [word, sign] : arrows)
        if (text.endsWith(QLatin1String(word)))
            text = text.left(text.size() - static_cast<qsizetype>(std::char_traits<char>::length(word))) + sign;
    return text;
}

} // namespace kestrel::app
