#pragma once

#include <QKeySequence>
#include <QString>

#include <functional>
#include <vector>

class QKeyEvent;

namespace kestrel::app {

/// Something that can be done by a key. Said once: keys, tooltips, the sheet of all keys and the tests read it here.
struct Command {
    QString id;    ///< "nextClip"
    QString group; ///< the sheet's head: "Move through the film"
    QString words; ///< "the next clip of the day"
    std::vector<QKeySequence> keys;
    std::function<void()> act;
    QString shown{}; ///< on the sheet instead of the keys, such as "1 … 9"; several commands of the same show are one row
};

/// The commands of one place, in the order in which the sheet lists them.
class Commands {
public:
    void add(Command command) { m_all.push_back(std::move(command)); }
    const std::vector<Command>& all() const { return m_all; }
    const Command* find(const QString& id) const;
    /// Does what the key means here; false: nothing.
    bool run(const QKeyEvent&) const;
    /// "The next clip of the day (C)": a tooltip that names the key.
    QString tip(const QString& id, const QString& words) const;

private:
    std::vector<Command> m_all;
};

/// How keys are written: "← →", "Ctrl+Z".
QString textOf(const QKeySequence&);

} // namespace kestrel::app
