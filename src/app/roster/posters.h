#pragma once

#include "app/workspace/workspace.h"

#include <QImage>
#include <QObject>

#include <deque>
#include <map>

namespace kestrel::app {

/// Gets small pictures of clips in the background, and keeps the newest few hundred.
class Posters : public QObject {
    Q_OBJECT
public:
    explicit Posters(Workspace& workspace, QObject* parent = nullptr) : QObject(parent), m_workspace(workspace) {}

    /// Null until it is there; then ready() is announced.
    QImage poster(const store::Clip&, const std::string& file, FrameIndex);
    QImage made(store::ClipId) const; ///< null: not yet

signals:
    void ready(kestrel::store::ClipId clip);

private:
    struct Wish {
        store::ClipId clip;
        std::string file, index;
        FrameIndex frame;
    };
    void next();

    Workspace& m_workspace;
    struct Poster {
        FrameIndex frame;
        QImage image{}; // null while it is being made, or when there is none
    };
    std::map<store::ClipId, Poster> m_posters;
    std::deque<store::ClipId> m_order; // oldest first
    std::deque<Wish> m_wishes;         // the last one is wanted first: it is what has just come into sight
    int m_running = 0;
};

} // namespace kestrel::app
