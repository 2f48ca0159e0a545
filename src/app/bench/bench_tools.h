#pragma once

#include "app/bench/drawing_tools.h"

#include <map>
#include <memory>

namespace kestrel::app {

/// The tools of the Bench: what each does with the film, and its button.
class BenchTools {
public:
    explicit BenchTools(Bench&);

    struct Button {
        Tool tool;
        QString icon, name, words; ///< icon's file, on the button, in the tooltip
        QString command;           ///< whose key chooses it
    };
    static std::vector<Button> buttons();

    /// What can be drawn.
    struct DrawButton {
        DrawingKind kind;
        QString icon, words; ///< icon's file, in the tooltip
        Qt::Key key;         ///< with Shift
    };
    static std::vector<DrawButton> drawButtons();

    /// The one in hand.
    CanvasTool* inHand() const { return m_tools.at(m_bench.tools.tool()).get(); }
    /// The landmark that is being dragged; empty: none.
    std::optional<Landmark> dragged() const;
    store::DrawingId draggedDrawing() const; ///< invalid: none
    DrawTool& drawing() { return *m_drawing; }

private:
    Bench& m_bench;
    LookTool* m_look;
    DrawTool* m_drawing;
    std::map<Tool, std::unique_ptr<CanvasTool>> m_tools;
};

} // namespace kestrel::app
