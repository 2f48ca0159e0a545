#pragma once

#include "app/bench/bench.h"
#include "app/bench/mark_tool.h"
#include "app/tools/canvas_tool.h"

namespace kestrel::app {

/// Draws what is in hand, point by point: each press sets one, and so does the end of a drag.
class DrawTool : public CanvasTool {
public:
    explicit DrawTool(Bench& bench) : m_bench(bench) {}

    bool press(const CanvasPoint&) override;
    void move(const CanvasPoint&) override;
    void hover(const CanvasPoint&) override;
    void release(const CanvasPoint&) override;
    void cancel() override;
    std::vector<look::Overlay> overlays() const override;

    /// A line through points is done as it is. False: there is not enough of it.
    bool finish();

private:
    Pin pinAt(const CanvasPoint&) const;
    std::optional<Drawing> drawn(const std::optional<Pin>& next) const;
    bool addIfDone();

    Bench& m_bench;
    std::vector<Pin> m_pins;   // set so far
    std::optional<Pin> m_next; // where the next one would be
    QPointF m_pressed;
};

/// Takes hold of what is drawn: by an end, or as a whole.
class DrawingGrip : public CanvasTool {
public:
    explicit DrawingGrip(Bench& bench) : m_bench(bench) {}

    bool pressChosenEnd(const CanvasPoint&); ///< an end of the chosen one only
    bool press(const CanvasPoint&) override;
    void move(const CanvasPoint&) override;
    void release(const CanvasPoint&) override;
    void cancel() override;
    std::vector<look::Overlay> overlays() const override;
    Qt::CursorShape cursor() const override { return Qt::ArrowCursor; }

    /// Not drawn where it was while it is dragged; invalid: none.
    store::DrawingId dragged() const { return m_isDragging && m_hasMoved ? m_after.id : store::DrawingId(); }

private:
    bool take(const store::DrawingRow&, const DrawnShape&, std::optional<std::size_t> end, const CanvasPoint&);

    Bench& m_bench;
    bool m_isDragging = false, m_hasMoved = false;
    std::optional<std::size_t> m_end; // empty: the whole
    store::DrawingRow m_before, m_after;
    std::vector<ImagePoint> m_places; // of the pins when it was taken
    CanvasPoint m_pressed;
};

/// With nothing in hand: marks and drawings are chosen and moved.
class LookTool : public CanvasTool {
public:
    explicit LookTool(Bench& bench) : m_bench(bench), m_marks(bench, false), m_drawings(bench) {}

    bool press(const CanvasPoint&) override;
    void move(const CanvasPoint&) override;
    void release(const CanvasPoint&) override;
    void cancel() override;
    std::vector<look::Overlay> overlays() const override { return m_drawings.overlays(); }
    Qt::CursorShape cursor() const override { return Qt::ArrowCursor; }
    bool wantsLoupe() const override { return m_inHand && m_inHand->wantsLoupe(); }

    const MarkTool& marks() const { return m_marks; }
    const DrawingGrip& drawings() const { return m_drawings; }

private:
    Bench& m_bench;
    MarkTool m_marks;
    DrawingGrip m_drawings;
    CanvasTool* m_inHand = nullptr; // the one that has the drag
};

} // namespace kestrel::app
