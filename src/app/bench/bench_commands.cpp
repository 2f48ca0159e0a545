// What can be done on the Bench by a key.

#include "app/bench/bench_view.h"

#include "app/bench/repetition_bar.h"
#include "app/film/film_canvas.h"

#include <algorithm>

namespace kestrel::app {

void BenchView::addCommands()
{
    const QString move = tr("Move through the film"), day = tr("The day"), mark = tr("Mark");
    const auto add = [this](const char* id, const QString& group, const QString& words, std::vector<QKeySequence> keys, auto act,
                            const QString& shown = {}) {
        m_commands.add({QLatin1String(id), group, words, std::move(keys), act, shown});
    };
    // arrows move the chosen point where there is one
    const auto arrow = [this](double dx, double dy, double by, auto otherwise) {
        return [=, this] {
            if (m_bench.marks.selectedMark())
                m_bench.marks.nudgeSelected(dx * by, dy * by);
            else
                otherwise();
        };
    };
    constexpr double kFine = 0.25;
    const auto key = [](auto k) { return QKeySequence(k); };
    const auto shift = [](Qt::Key k) { return QKeySequence(Qt::SHIFT | k); };
    const auto steps = [this](int n) { return [this, n] { m_bench.player.step(n); }; };
    const auto positions = [this](int n) { return [this, n] { m_bench.positions.step(n); }; };

    const QString oneStep = QStringLiteral("← →"), tenSteps = QStringLiteral("Shift ← →"), between = QStringLiteral("↑ ↓");
    add("back", move, tr("one picture back, on"), {key(Qt::Key_Left)}, arrow(-1, 0, 1, steps(-1)), oneStep);
    add("on", move, tr("one picture back, on"), {key(Qt::Key_Right)}, arrow(1, 0, 1, steps(1)), oneStep);
    add("tenBack", move, tr("ten pictures"), {shift(Qt::Key_Left)}, arrow(-1, 0, kFine, steps(-10)), tenSteps);
    add("tenOn", move, tr("ten pictures"), {shift(Qt::Key_Right)}, arrow(1, 0, kFine, steps(10)), tenSteps);
    add("positionBefore", move, tr("key position before, next"), {key(Qt::Key_Up)}, arrow(0, -1, 1, positions(-1)), between);
    add("positionNext", move, tr("key position before, next"), {key(Qt::Key_Down)}, arrow(0, 1, 1, positions(1)), between);
    add(
        "first", move, tr("first, last picture"), {key(Qt::Key_Home)}, [this] { m_bench.player.setFrame(FrameIndex(0)); },
        tr("Home  End"));
    add(
        "last", move, tr("first, last picture"), {key(Qt::Key_End)},
        [this] { m_bench.player.setFrame(FrameIndex(m_bench.player.frames() - 1)); }, tr("Home  End"));
    add(
        "play", move, tr("play, pause (Shift: backward)"), {key(Qt::Key_Space)}, [this] { togglePlaying(false); },
        QStringLiteral("Space"));
    add(
        "playBack", move, tr("play, pause (Shift: backward)"), {shift(Qt::Key_Space)}, [this] { togglePlaying(true); },
        QStringLiteral("Space"));
    add(
        "slower", move, tr("slower, faster"), {key(Qt::Key_BracketLeft)}, [this] { changeSpeed(1); }, QStringLiteral("[  ]"));
    add(
        "faster", move, tr("slower, faster"), {key(Qt::Key_BracketRight)}, [this] { changeSpeed(-1); }, QStringLiteral("[  ]"));
    add("loop", move, tr("loop around here"), {key(Qt::Key_L)}, [this] { m_bench.positions.toggleLoop(); });
    add(
        "loopFirst", move, tr("the loop begins, ends here"), {key(Qt::Key_I)}, [this] { m_bench.player.setLoopFirst(); },
        QStringLiteral("I  O"));
    add(
        "loopLast", move, tr("the loop begins, ends here"), {key(Qt::Key_O)}, [this] { m_bench.player.setLoopLast(); },
        QStringLiteral("I  O"));
    add(
        "zoomIn", move, tr("zoom in, out, whole picture"), {key(Qt::Key_Plus), key(Qt::Key_Equal)},
        [this] { m_film->zoomBy(1.25, m_film->rect().center()); }, QStringLiteral("+  −  0"));
    add(
        "zoomOut", move, tr("zoom in, out, whole picture"), {key(Qt::Key_Minus)},
        [this] { m_film->zoomBy(0.8, m_film->rect().center()); }, QStringLiteral("+  −  0"));
    add(
        "zoomWhole", move, tr("zoom in, out, whole picture"), {key(Qt::Key_0)}, [this] { m_film->showWhole(); },
        QStringLiteral("+  −  0"));

    add(
        "nextClip", day, tr("next clip of the day (Shift: the one before)"), {key(Qt::Key_C)},
        [this] { m_bench.context.stepClip(1); }, QStringLiteral("C"));
    add(
        "clipBefore", day, tr("next clip of the day (Shift: the one before)"), {shift(Qt::Key_C)},
        [this] { m_bench.context.stepClip(-1); }, QStringLiteral("C"));
    const QString pages = tr("PgUp  PgDn");
    add(
        "repetitionBefore", day, tr("repetition before, next"), {key(Qt::Key_PageUp)},
        [this] { m_bench.context.stepRepetition(-1); }, pages);
    add(
        "repetitionNext", day, tr("repetition before, next"), {key(Qt::Key_PageDown)},
        [this] { m_bench.context.stepRepetition(1); }, pages);
    add("newRepetition", day, tr("the loop becomes a repetition"), {key(Qt::Key_N)}, [this] { m_bench.repetitions.add(); });
    add("describe", day, tr("describe the repetition"), {key(Qt::Key_R)}, [this] { m_repetitions->edit(); });
    add("countTurn", day, tr("count a turn of the ball: its spin"), {key(Qt::Key_J)}, [this] { m_bench.spin.count(); });
    add("seamAngle", day, tr("draw from the ball's middle to its seam: a part of a turn"), {QKeySequence(Qt::SHIFT | Qt::Key_J)},
        [this] { m_bench.tools.setTool(Tool::Seam); });
    add("filmCheck", day, tr("what this film can show"), {key(Qt::Key_F)}, [this] { toggleFilmCheck(); });

    const QString still = tr("Stills");
    add("copyStill", still, tr("copy this picture with the chosen reading"), {QKeySequence(QKeySequence::Copy)},
        [this] { copyStill(); });
    add("saveStill", still, tr("save it as a PNG, as large as the film"), {QKeySequence(QKeySequence::Save)},
        [this] { saveStill(); });

    for (std::size_t n = 0; n < 9; ++n)
        add(
            "place", mark, tr("place the key position here"), {key(static_cast<Qt::Key>(Qt::Key_1 + static_cast<int>(n)))},
            [this, n] { m_bench.positions.place(n); }, QStringLiteral("1 … 9"));
    add("acceptAll", mark, tr("accept every proposed key position"), {key(Qt::Key_A)}, [this] { m_bench.positions.acceptAll(); });
    add("takeBack", mark, tr("take back a key position out of order"), {key(Qt::Key_B)},
        [this] { m_bench.positions.takeBack(); });
    add("mark", mark, tr("mark the body, in the guided order"), {key(Qt::Key_M)},
        [this] { m_bench.tools.setTool(m_bench.tools.tool() == Tool::Mark ? Tool::Look : Tool::Mark); });
    add("markForMe", mark, tr("let the program mark: body and key positions"), {key(Qt::Key_G)},
        [this] { m_marker.isRunning() ? m_marker.stop() : m_marker.start(); });
    add("follow", mark, tr("follow the chosen point through the film"), {key(Qt::Key_K)}, [this] { followSelected(); });
    add("uncertain", mark, tr("to the least sure mark of the program's"), {key(Qt::Key_W)},
        [this] { m_bench.marks.goToUncertainMark(); });
    add("skip", mark, tr("leave out a point that cannot be seen"), {key(Qt::Key_X)}, [this] { m_bench.marks.skipLandmark(); });
    add("nudgeUp", mark, tr("nudge the chosen point (Shift: a quarter pixel)"), {shift(Qt::Key_Up)}, arrow(0, -1, kFine, [] {}),
        tr("arrows"));
    add("nudgeDown", mark, tr("nudge the chosen point (Shift: a quarter pixel)"), {shift(Qt::Key_Down)},
        arrow(0, 1, kFine, [] {}), tr("arrows"));
    add("removePoint", mark, tr("remove the chosen point, or drawing"), {key(Qt::Key_Delete), key(Qt::Key_Backspace)},
        [this] { m_bench.marks.selectedMark() ? m_bench.marks.removeSelected() : m_bench.drawings.removeChosen(); });
    const QString lines = QStringLiteral("S  U  T");
    add(
        "scale", mark, tr("draw the scale, up, the target direction"), {key(Qt::Key_S)},
        [this] { m_bench.tools.setTool(Tool::ScaleLine); }, lines);
    add(
        "up", mark, tr("draw the scale, up, the target direction"), {key(Qt::Key_U)},
        [this] { m_bench.tools.setTool(Tool::UpLine); }, lines);
    add(
        "target", mark, tr("draw the scale, up, the target direction"), {key(Qt::Key_T)},
        [this] { m_bench.tools.setTool(Tool::TargetLine); }, lines);
    add("letGo", mark, tr("let go of tool and point"), {key(Qt::Key_Escape)}, [this] {
        m_bench.marks.selectMark({});
        m_bench.drawings.choose({});
        m_bench.tools.setTool(Tool::Look);
    });
    addDrawingCommands();
}

void BenchView::addDrawingCommands()
{
    const QString draw = tr("Draw on the film");
    for (const auto& button : BenchTools::drawButtons())
        m_commands.add(
            {button.icon, draw, nameOf(button.kind), {QKeySequence(Qt::SHIFT | button.key)}, [this, kind = button.kind] {
                 if (kind == DrawingKind::Strobe)
                     m_bench.drawings.addStrobe();
                 else
                     m_bench.tools.setDrawing(kind);
             }});
    const auto add = [&](const char* id, const QString& words, std::vector<QKeySequence> keys, auto act) {
        m_commands.add({QLatin1String(id), draw, words, std::move(keys), act});
    };
    add("finishDrawing", tr("end the line through points"), {QKeySequence(Qt::Key_Return), QKeySequence(Qt::Key_Enter)},
        [this] { m_tools.drawing().finish(); });
    add("duplicateDrawing", tr("the chosen drawing once more"), {QKeySequence(Qt::CTRL | Qt::Key_D)},
        [this] { m_bench.drawings.duplicateChosen(); });
    add("hideDrawings", tr("hide all drawings, show them"), {QKeySequence(Qt::Key_H)},
        [this] { m_bench.drawings.setHidden(!m_bench.drawings.areHidden()); });
}

void BenchView::changeSpeed(int by)
{
    const int next = std::clamp(m_speed->currentIndex() + by, 0, m_speed->count() - 1);
    m_bench.player.setSpeed(m_speed->itemData(next).toDouble());
}

} // namespace kestrel::app
