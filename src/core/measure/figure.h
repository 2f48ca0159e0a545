#pragma once

#include "core/base/geometry.h"
#include "core/base/index.h"

#include <vector>

namespace kestrel {

/// One stroke of the drawing that shows a reading on the film, in pixels of the upright picture.
struct Stroke {
    enum class Kind {
        Segment, ///< points joined in order: the measured limb or distance
        Guide,   ///< two points joined by a dashed line: what it is measured against
        Arc,     ///< three points: the angle at the second
        Dot,     ///< one point
        Faint,   ///< points joined in order: what only helps the eye, such as a grid
        Circle,  ///< two points: its middle, and where it passes
        Arrow,   ///< two points: the head is at the second
    };
    Kind kind = Kind::Segment;
    std::vector<ImagePoint> points;
    bool operator==(const Stroke&) const = default;
};

/// The drawing of one reading on the frame it belongs to.
struct Figure {
    FramePosition frame;
    std::vector<Stroke> strokes;
    bool operator==(const Figure&) const = default;
    bool isEmpty() const { return strokes.empty(); }
};

} // namespace kestrel
