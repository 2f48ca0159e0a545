#pragma once

#include "core/measure/figure.h"
#include "core/scene/drawing.h"
#include "core/scene/prepared_repetition.h"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace kestrel {

/// A drawing as it lies on one picture, in pixels of the upright picture.
struct DrawnShape {
    Figure figure;
    std::vector<std::pair<ImagePoint, std::string>> words; ///< centred there
    std::vector<ImagePoint> ends;                          ///< the pins, in their order, then the rim: what can be taken hold of
    bool operator==(const DrawnShape&) const = default;
};

/// The pictures of a repetition on which a drawing is seen; empty: its key position is not placed.
/// \param repetition  the pictures that belong to it
std::optional<FrameRange> rangeOf(const Lives&, const Marking&, FrameRange repetition);

/// Where each pin is on that picture. Empty: a landmark is not marked there, and the drawing is not shown.
std::optional<std::vector<ImagePoint>> placesOf(const Drawing&, const PreparedRepetition&, FrameIndex);

/// As it lies on a picture of its range; a trail as far as that picture. Empty: as placesOf.
std::optional<DrawnShape> shapeOn(const Drawing&, const PreparedRepetition&, FrameRange range, FrameIndex);

} // namespace kestrel
