#pragma once

#include "core/base/geometry.h"
#include "look/overlay.h"

#include <QPointF>
#include <Qt>

#include <vector>

namespace kestrel::app {

/// A place on the film, as the pointer has it.
struct CanvasPoint {
    QPointF widget;      ///< pixels of the canvas
    ImagePoint film;     ///< pixels of the film's upright picture
    double scale = 1;    ///< pixels of the canvas in one of the film
    bool isFree = false; ///< Shift is held: what would be drawn to something is left where it is
};

/// What a press on the film does while this tool is in hand. Each is a class of its own.
class CanvasTool {
public:
    virtual ~CanvasTool() = default;

    /// The left button goes down. False: it is nothing to this tool, and the picture may be moved instead.
    virtual bool press(const CanvasPoint&) = 0;
    virtual void move(const CanvasPoint&) {}
    /// The pointer moves while no button is down.
    virtual void hover(const CanvasPoint&) {}
    virtual void release(const CanvasPoint&) = 0;
    /// The drag is over without a release, or the tool is laid away with something half done.
    virtual void cancel() {}

    /// What is being drawn.
    virtual std::vector<look::Overlay> overlays() const { return {}; }
    virtual Qt::CursorShape cursor() const { return Qt::CrossCursor; }
    virtual bool wantsLoupe() const { return false; } ///< while dragging: the place has to be exact
};

} // namespace kestrel::app
