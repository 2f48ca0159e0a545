#include "app/workspace.h"

#include "app/background.h"
#include "core/json_reader.h"
#include "core/pack_folder.h"

#include <QUndoCommand>

#include <filesystem>
#include <fstream>
#include <iterator>
#include <utility>

namespace kestrel::app {

namespace fs = std::filesystem;

class Workspace::Edit : public QUndoCommand {
public:
    Edit(Workspace& workspace, const QString& text, Work redo, Work undo, bool isDone = false)
        : QUndoCommand(text), m_workspace(workspace), m_redo(std::move(redo)), m_undo(std::move(undo)), m_isDone(isDone)
    {
    }
    void redo() override
    {
        if (!std::exchange(m_isDone, false)) // pushing it onto the stack calls this as well
            run(m_redo);
    }
    void undo() override { run(m_undo); }

private:
    void run(const Work& work)
    {
        if (!m_workspace.perform(work))
            setObsolete(true); // what cannot be done again is forgotten
    }

    Workspace& m_workspace;
    Work m_redo, m_undo;
    bool m_isDone;
};

Workspace::Workspace(store::Library library, const std::string& shippedFolder, QObject* parent)
    : QObject(parent), m_library(std::move(library))
{
    addPacks(m_shipped, shippedFolder, m_shippedProblems);
    takeOwnPacks();
}

void Workspace::takeOwnPacks()
{
    m_packs = m_shipped;
    m_packProblems = m_shippedProblems;
    addPacks(m_packs, (fs::path(m_library.folder()) / "packs").string(), m_packProblems);
    emit packsChanged();
}

std::string Workspace::ownPackFile(const std::string& id) const
{
    return (fs::path(m_library.folder()) / "packs" / (id + ".json")).string();
}

bool Workspace::isOwnPack(const std::string& id) const
{
    const Pack* pack = findPack(id);
    return pack && pack->file == ownPackFile(id);
}

Expected<void> Workspace::storePack(const std::string& file, const std::optional<std::string>& content)
{
    std::error_code ec;
    if (content) {
        fs::create_directories(fs::path(file).parent_path(), ec);
        if (auto saved = saveText(file, *content); !saved)
            return saved;
    } else if (!fs::remove(file, ec) && ec) {
        return fail(ErrorCode::CannotWrite, "The pack could not be removed: " + ec.message() + ".", file);
    }
    takeOwnPacks();
    return {};
}

bool Workspace::editPack(const QString& text, const std::string& id, const std::optional<nlohmann::json>& after)
{
    const std::string file = ownPackFile(id);
    std::optional<std::string> before, then; // to the letter, whoever wrote it
    if (std::ifstream present(file, std::ios::binary); present)
        before.emplace(std::istreambuf_iterator<char>(present), std::istreambuf_iterator<char>());
    if (after)
        then = after->dump(1) + "\n";
    return edit(
        text, [=, this](store::Library&) { return storePack(file, then); },
        [=, this](store::Library&) { return storePack(file, before); });
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

void Workspace::editLater(const QString& text, Work redo, Work undo, std::function<void(bool)> done)
{
    Background::run(
        this,
        [redo, folder = m_library.folder()](std::stop_token) -> Expected<void> {
            auto library = store::Library::open(folder);
            return library ? redo(*library) : tl::unexpected(library.error());
        },
        [=, this](const Expected<void>& stored) {
            if (stored) {
                m_undo.push(new Edit(*this, text, redo, undo, true));
                emit changed();
            } else {
                emit failed(stored.error());
            }
            done(stored.has_value());
        });
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
