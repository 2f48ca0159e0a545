#pragma once

#include "app/tools/canvas_tool.h"

#include <functional>
#include <optional>
#include <utility>

namespace kestrel::app {

/// Draws a line, or a box from corner to corner, and gives it away.
class LineTool : public CanvasTool {
public:
    using Done = std::function<void(ImagePoint from, ImagePoint to)>;
    enum class Shape { Line, Box };
    explicit LineTool(Done done, Shape shape = Shape::Line) : m_done(std::move(done)), m_shape(shape) {}

    bool press(const CanvasPoint& p) override
    {
        m_from = m_to = p.film;
        return true;
    }
    void move(const CanvasPoint& p) override { m_to = p.film; }
    void release(const CanvasPoint& p) override
    {
        if (const auto from = std::exchange(m_from, std::nullopt))
            m_done(*from, p.film);
    }
    void cancel() override { m_from.reset(); }
    std::vector<look::Overlay> overlays() const override
    {
        if (!m_from)
            return {};
        if (m_shape == Shape::Box)
            return {look::BoxOverlay{*m_from, m_to}};
        return {look::LineOverlay{*m_from, m_to}};
    }

private:
    Done m_done;
    Shape m_shape;
    std::optional<ImagePoint> m_from;
    ImagePoint m_to;
};

} // namespace kestrel::app
