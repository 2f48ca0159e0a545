#pragma once

#include "app/bench/clip_context.h"
#include "app/bench/clip_film.h"
#include "app/bench/drawing_editor.h"
#include "app/bench/follow_up_model.h"
#include "app/bench/key_positions.h"
#include "app/bench/marking_editor.h"
#include "app/bench/repetition_editor.h"
#include "app/bench/review_model.h"
#include "app/bench/scene_editor.h"
#include "app/bench/spin_counter.h"
#include "app/film/film_player.h"
#include "app/tools/tool_box.h"

namespace kestrel::app {

/// The parts that work on one clip together, in the order in which they hear of a change. It does nothing by itself: who needs a
/// part asks it.
class Bench : public QObject {
    Q_OBJECT
public:
    explicit Bench(Workspace& workspace, QObject* parent = nullptr)
        : QObject(parent), context(workspace), film(workspace, context, player), positions(workspace, context, player),
          marks(workspace, context, player, positions, tools), scene(workspace, context, tools),
          drawings(workspace, context, player, positions), repetitions(workspace, context, player),
          review(workspace, context, player), followUp(workspace, context, review), spin(context, player)
    {
        connect(&context, &ClipContext::clipChanged, this, [this] { tools.setTool(Tool::Look); });
        connect(&context, &ClipContext::message, this, &Bench::message);
        connect(&player, &FilmPlayer::message, this, &Bench::message);
        connect(&film, &ClipFilm::message, this, &Bench::message);
        connect(&positions, &KeyPositions::message, this, &Bench::message);
        connect(&marks, &MarkingEditor::message, this, &Bench::message);
        connect(&drawings, &DrawingEditor::message, this, &Bench::message);
        connect(&scene, &SceneEditor::message, this, &Bench::message);
        connect(&spin, &SpinCounter::message, this, &Bench::message);
    }

    FilmPlayer player;
    ToolBox tools;
    ClipContext context;
    ClipFilm film;
    KeyPositions positions;
    MarkingEditor marks;
    SceneEditor scene;
    DrawingEditor drawings;
    RepetitionEditor repetitions;
    ReviewModel review;
    FollowUpModel followUp;
    SpinCounter spin;

signals:
    void message(const QString& text);
};

} // namespace kestrel::app
