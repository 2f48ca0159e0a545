#pragma once

#include "app/bench/mark_tool.h"

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

    /// The one in hand.
    CanvasTool* inHand() const { return m_tools.at(m_bench.tools.tool()).get(); }
    /// The landmark that is being dragged; empty: none.
    std::optional<Landmark> dragged() const;

private:
    Bench& m_bench;
    std::map<Tool, std::unique_ptr<CanvasTool>> m_tools;
};

} // namespace kestrel::app
