#pragma once

#include "app/bench/clip_context.h"
#include "app/film/film_player.h"

namespace kestrel::app {

/// Brings the film of the clip on the bench to the player, keeps its index in the library, and finds it again when it was moved.
class ClipFilm : public QObject {
    Q_OBJECT
public:
    ClipFilm(Workspace&, ClipContext&, FilmPlayer&, QObject* parent = nullptr);

    void relocate(const QString& folder); ///< looks there for the film by its content
    bool isSearching() const { return m_isSearching; }

signals:
    void searchingChanged();
    void message(const QString& text);

private:
    std::string knownIndex() const;
    void onClipChanged();
    void onMarkingChanged();
    void keepIndex(const std::string& indexBytes);

    Workspace& m_workspace;
    ClipContext& m_context;
    FilmPlayer& m_player;
    store::ClipId m_openClip;
    std::string m_openFile; ///< as the library names it
    bool m_isSearching = false;
};

} // namespace kestrel::app
