#pragma once

#include "app/bench/clip_context.h"
#include "app/bench/second_camera.h"
#include "app/film/film_player.h"

namespace kestrel::app {

/// The repetitions of the clip on the bench: new ones, what is known about the one that is shown, and its second camera.
class RepetitionEditor : public QObject {
    Q_OBJECT
public:
    RepetitionEditor(Workspace& workspace, ClipContext& context, FilmPlayer& player, QObject* parent = nullptr)
        : QObject(parent), m_workspace(workspace), m_context(context), m_player(player)
    {
    }

    /// The loop, or where there is none the clip from here on, becomes a repetition of its own.
    void add();
    void change(const QString& text, const store::RepetitionRow& after);
    void remove();
    /// Repetitions on the day's other clips that this one could be filmed as from another side.
    std::vector<SecondCameraChoice> secondCameraChoices() const;
    std::optional<store::RepetitionId> secondCamera() const; ///< empty: filmed from one side only
    void setSecondCamera(std::optional<store::RepetitionId>);

private:
    Workspace& m_workspace;
    ClipContext& m_context;
    FilmPlayer& m_player;
};

} // namespace kestrel::app
