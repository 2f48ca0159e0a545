#pragma once

#include "core/pack/pack.h"
#include "store/library.h"

#include <QObject>
#include <QUndoStack>

#include <functional>
#include <nlohmann/json.hpp>
#include <optional>
#include <vector>

namespace kestrel::app {

/// What an edit was about, so that who shows something else need not look again.
struct Change {
    enum class Subject { Anything, Athlete, Day, Clip, Repetition, Marks, Drawings, Walk, Page, Book, Plan, Match };
    Subject subject = Subject::Anything;
    std::int64_t id = 0; ///< of the row; of marks, their clip's. 0: any
    bool operator==(const Change&) const = default;
};

/// How an edit is told and remembered.
struct EditNote {
    QString text; ///< what the coach reads after "Undo"
    Change change{};
    QString mergeKey{}; ///< small edits of the same key in quick succession are undone as one; empty: each by itself
    EditNote(const QString& words) : text(words) {}
    EditNote(const QString& words, Change about, const QString& key = {}) : text(words), change(about), mergeKey(key) {}
};

/// What the window works on: the open library, the packs, and everything that can be undone. The library is the truth;
/// views read it anew when changed() is announced.
class Workspace : public QObject {
    Q_OBJECT
public:
    using Work = std::function<Expected<void>(store::Library&)>;

    /// \param shippedFolder  of the packs that come with the program; the coach's own lie in the library's folder "packs" and
    ///                       stand in for those of the same id
    Workspace(store::Library library, const std::string& shippedFolder, QObject* parent = nullptr);
    ~Workspace() override;

    const store::Library& library() const { return m_library; }
    /// Another connection to the same library, as when it may be written to now. What could be undone is forgotten.
    void setLibrary(store::Library library);
    const std::vector<Pack>& packs() const { return m_packs; }
    /// Null: there is no such pack.
    const Pack* findPack(const std::string& id) const;
    /// What is wrong with the packs that could not be read.
    const std::vector<Error>& packProblems() const { return m_packProblems; }
    /// Whether the coach has an own version of it.
    bool isOwnPack(const std::string& id) const;
    /// Stores the coach's version of a pack, or gives it up for the shipped one; can be undone.
    bool editPack(const QString& text, const std::string& id, const std::optional<nlohmann::json>& after);
    QUndoStack& undoStack() { return m_undo; }

    /// Does it now and remembers how to undo it. On an error failed() is announced besides, and nothing is changed.
    Expected<void> edit(const EditNote&, Work redo, Work undo);

    /// The same for work that takes longer than a person should wait for: it is done on another thread, on a library of its own,
    /// and can be undone once it is done. \param done  told then whether it was
    void editLater(const EditNote&, Work redo, Work undo, std::function<void(bool)> done);

    /// Stores what the program found out by itself: nothing to undo, and what is shown does not change.
    void saveSilently(const Work&);

    /// The value, or an empty one with failed() announced.
    template <class T> T valueOr(Expected<T> result, T instead = {})
    {
        if (result)
            return std::move(*result);
        emit failed(result.error());
        return instead;
    }

signals:
    void changed(const kestrel::app::Change& change);
    /// A pack is another now; changed() follows.
    void packsChanged();
    void failed(const kestrel::Error& error);

private:
    class Edit;
    Expected<void> perform(const Work&, const Change&);
    void loadOwnPacks();
    std::string ownPackFile(const std::string& id) const;
    Expected<void> storePack(const std::string& file, const std::optional<std::string>& content);

    store::Library m_library;
    std::vector<Pack> m_shipped; // read once
    std::vector<Error> m_shippedProblems;
    std::vector<Pack> m_packs;
    std::vector<Error> m_packProblems;
    QUndoStack m_undo;
    Expected<void> m_lastEdit;
};

} // namespace kestrel::app
