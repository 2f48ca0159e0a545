#pragma once

#include "app/bench/bench.h"
#include "app/tools/canvas_tool.h"

namespace kestrel::app {

/// Chooses and drags marks. With the guide, a press beside them sets the point it asks for.
class MarkTool : public CanvasTool {
public:
    MarkTool(Bench& bench, bool hasGuide) : m_bench(bench), m_hasGuide(hasGuide) {}

    bool press(const CanvasPoint&) override;
    void move(const CanvasPoint&) override;
    void release(const CanvasPoint&) override;
    void cancel() override;
    Qt::CursorShape cursor() const override { return m_hasGuide ? Qt::CrossCursor : Qt::ArrowCursor; }
    bool wantsLoupe() const override { return true; }

    /// Not drawn where it was while it is dragged.
    const std::optional<Landmark>& dragged() const { return m_dragged; }

private:
    std::optional<Landmark> markAt(const CanvasPoint&) const;

    Bench& m_bench;
    bool m_hasGuide;
    std::optional<Landmark> m_dragged;
    QPointF m_pressed;
    bool m_hasMoved = false;
};

} // namespace kestrel::app
