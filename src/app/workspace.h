#pragma once

#include "core/pack.h"
#include "store/library.h"

#include <QObject>
#include <QUndoStack>

#include <functional>
#include <vector>

namespace kestrel::app {

/// What the window works on: the open library, the packs, and everything that can be undone. The library is the truth;
/// views read it anew when changed() is announced.
class Workspace : public QObject {
    Q_OBJECT
public:
    using Work = std::function<Expected<void>(store::Library&)>;

    Workspace(store::Library library, std::vector<Pack> packs, QObject* parent = nullptr);

    const store::Library& library() const { return m_library; }
    const std::vector<Pack>& packs() const { return m_packs; }
    /// Null: there is no such pack.
    const Pack* findPack(const std::string& id) const;
    QUndoStack& undoStack() { return m_undo; }

    /// Does it now and remembers how to undo it. False, with failed() announced and nothing changed, when it cannot
    /// be done. \param text  what the coach reads after "Undo"
    bool edit(const QString& text, Work redo, Work undo);

    /// Stores what the program found out by itself: nothing to undo, and what is shown does not change.
    void note(const Work&);

    /// The value, or an empty one with failed() announced.
    template <class T> T valueOr(Expected<T> result, T instead = {})
    {
        if (result)
            return std::move(*result);
        emit failed(result.error());
        return instead;
    }

signals:
    void changed();
    void failed(const kestrel::Error& error);

private:
    class Edit;
    bool perform(const Work&);

    store::Library m_library;
    std::vector<Pack> m_packs;
    QUndoStack m_undo;
    bool m_lastEditFailed = false;
};

} // namespace kestrel::app
