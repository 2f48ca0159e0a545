#pragma once

#include "core/base/geometry.h"
#include "media/picture.h"

#include <span>

namespace kestrel::vision {

/// A square of the picture, turned clockwise: what a network looks at.
struct Region {
    ImagePoint centre;       ///< pixels, the centre of the first pixel is (0.5, 0.5)
    double side = 0;         ///< pixels
    double angle = 0;        ///< radians
    bool isMirrored = false; ///< looked at with its left and right exchanged

    /// Where a point of the square lies on the picture; as the network looks at it, (0, 0) is its top left corner, (1, 1) the
    /// bottom right one.
    ImagePoint at(double across, double down) const;
    /// Pixels: the side of the square with this centre and turn on whose edge a point of the picture lies.
    double sideTo(ImagePoint) const;
    bool operator==(const Region&) const = default;
};

/// The square that has its middle at one point and reaches past another: how the networks say where a body is.
Region regionFrom(ImagePoint middle, ImagePoint rim);
/// The square for a box that a person drew round a standing body. \p box corner and size in pixels.
Region regionOfBox(ImagePoint corner, double width, double height);

/// What beyond the picture looks like: its border goes on, or black.
enum class Beyond { Border, Black };

/// The picture within the region at \p side by \p side pixels: rows of red, green, blue, each from \p least to \p most. Pixels in
/// between are interpolated; where the region is much larger than the wanted picture, several are averaged.
void sample(const media::Picture&, const Region&, int side, Beyond, float least, float most, std::span<float> rgb);

} // namespace kestrel::vision
