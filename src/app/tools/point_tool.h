#pragma once

#include "app/tools/canvas_tool.h"

#include <functional>

namespace kestrel::app {

/// Takes a place where the button is let go, with the loupe until then.
class PointTool : public CanvasTool {
public:
    explicit PointTool(std::function<void(ImagePoint)> done) : m_done(std::move(done)) {}

    bool press(const CanvasPoint&) override { return true; }
    void release(const CanvasPoint& p) override { m_done(p.film); }
    bool wantsLoupe() const override { return true; }

private:
    std::function<void(ImagePoint)> m_done;
};

} // namespace kestrel::app
