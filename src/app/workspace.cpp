#include "app/workspace.h"

#include <QUndoCommand>

namespace kestrel::app {

class Workspace::Edit : public QUndoCommand {
public:
    Edit(Workspace& workspace, const QString& text, Work redo, Work undo)
        : QUndoCommand(text), m_workspace(workspace), m_redo(std::move(redo)), m_undo(std::move(undo))
    {
    }
    void redo() override { run(m_redo); }
    void undo() override { run(m_undo); }

private:
    void run(const Work& work)
    {
        if (!m_workspace.perform(work))
            setObsolete(true); // what cannot be done again is forgotten
    }

    Workspace& m_workspace;
    Work m_redo, m_undo;
};

Workspace::Workspace(store::Library library, std::vector<Pack> packs, QObject* parent)
    : QObject(parent), m_library(std::move(library)), m_packs(std::move(packs))
{
}

const Pack* Workspace::findPack(const std::string& id) const
{
    for (const auto& p : m_packs)
        if (p.id == id)
            return &p;
    return nullptr;
}

bool Workspace::edit(const QString& text, Work redo, Work undo)
{
    m_undo.push(new Edit(*this, text, std::move(redo), std::move(undo)));
    return !m_lastEditFailed;
}

void Workspace::note(const Work& work)
{
    if (m_library.isReadOnly())
        return;
    if (const Expected<void> done = work(m_library); !done)
        emit failed(done.error());
}

bool Workspace::perform(const Work& work)
{
    const Expected<void> done = work(m_library);
    m_lastEditFailed = !done;
    if (!done)
        emit failed(done.error());
    else
        emit changed();
    return done.has_value();
}

} // namespace kestrel::app
