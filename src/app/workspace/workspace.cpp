#include "app/workspace/workspace.h"

#include "app/workspace/own_files.h"

#include "app/workspace/background.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"

#include <QElapsedTimer>
#include <QUndoCommand>

#include <filesystem>
#include <fstream>
#include <iterator>
#include <utility>

namespace kestrel::app {

namespace fs = std::filesystem;

namespace {

constexpr int kMostUndo = 1000;        // edits that can be undone
constexpr qint64 kMergeWithinMs = 800; // between small edits that belong together

} // namespace

class Workspace::Edit : public QUndoCommand {
public:
    Edit(Workspace& workspace, const EditNote& note, Work redo, Work undo, bool isDone = false)
        : QUndoCommand(note.text), m_workspace(workspace), m_change(note.change), m_mergeKey(note.mergeKey),
          m_redo(std::move(redo)), m_undo(std::move(undo)), m_isDone(isDone)
    {
        m_since.start();
    }
    void redo() override
    {
        if (!std::exchange(m_isDone, false)) // pushing it onto the stack calls this as well
            run(m_redo);
    }
    void undo() override { run(m_undo); }

    int id() const override { return m_mergeKey.isEmpty() ? -1 : 1; }
    bool mergeWith(const QUndoCommand* command) override
    {
        const auto* next = static_cast<const Edit*>(command); // only these have an id
        if (next->m_mergeKey != m_mergeKey || m_since.elapsed() > kMergeWithinMs || next->isObsolete())
            return false;
        m_redo = next->m_redo;
        m_since.start();
        return true;
    }

private:
    void run(const Work& work)
    {
        if (!m_workspace.perform(work, m_change))
            setObsolete(true); // what cannot be done again is forgotten
    }

    Workspace& m_workspace;
    Change m_change;
    QString m_mergeKey;
    Work m_redo, m_undo;
    bool m_isDone;
    QElapsedTimer m_since; // the last of those that were merged
};

Workspace::Workspace(store::Library library, const std::string& shippedFolder, QObject* parent)
    : QObject(parent), m_library(std::move(library))
{
    m_undo.setUndoLimit(kMostUndo);
    addPacks(m_shipped, shippedFolder, m_shippedProblems);
    loadOwnPacks();
    removeUnusedFiles(m_library);
}

Workspace::~Workspace()
{
    m_undo.clear(); // what was removed is gone for good now
    removeUnusedFiles(m_library);
}

void Workspace::setLibrary(store::Library library)
{
    m_undo.clear();
    m_library = std::move(library);
    loadOwnPacks();
    emit changed({});
}

void Workspace::loadOwnPacks()
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
    if (m_library.isReadOnly())
        return fail(ErrorCode::ReadOnly, "The library is read-only; nothing was changed.", file);
    std::error_code ec;
    if (content) {
        fs::create_directories(fs::path(file).parent_path(), ec);
        if (auto saved = saveText(file, *content); !saved)
            return saved;
    } else if (!fs::remove(file, ec) && ec) {
        return fail(ErrorCode::CannotWrite, "The pack could not be removed: " + ec.message() + ".", file);
    }
    loadOwnPacks();
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
               [=, this](store::Library&) { return storePack(file, before); })
        .has_value();
}

const Pack* Workspace::findPack(const std::string& id) const
{
    for (const auto& p : m_packs)
        if (p.id == id)
            return &p;
    return nullptr;
}

Expected<void> Workspace::edit(const EditNote& note, Work redo, Work undo)
{
    m_undo.push(new Edit(*this, note, std::move(redo), std::move(undo)));
    return m_lastEdit;
}

void Workspace::editLater(const EditNote& note, Work redo, Work undo, std::function<void(bool)> done)
{
    Background::run(
        this,
        [redo, openLibrary = m_library.again(false)](std::stop_token) -> Expected<void> {
            auto library = openLibrary();
            return library ? redo(*library) : tl::unexpected(library.error());
        },
        [=, this](const Expected<void>& stored) {
            if (stored) {
                m_undo.push(new Edit(*this, note, redo, undo, true));
                emit changed(note.change);
            } else {
                emit failed(stored.error());
            }
            done(stored.has_value());
        });
}

void Workspace::saveSilently(const Work& work)
{
    if (m_library.isReadOnly())
        return;
    if (const Expected<void> done = work(m_library); !done)
        emit failed(done.error());
}

Expected<void> Workspace::perform(const Work& work, const Change& change)
{
    m_lastEdit = work(m_library);
    if (!m_lastEdit)
        emit failed(m_lastEdit.error());
    else
        emit changed(change);
    return m_lastEdit;
}

} // namespace kestrel::app
