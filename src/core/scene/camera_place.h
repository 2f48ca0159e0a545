#pragma once

#include "core/scene/ground_plane.h"

namespace kestrel {

/// Where a still camera stands, in the ground's own metres.
struct CameraPlace {
    double x = 0, y = 0; ///< below the lens, along the court's lines
    double height = 0;   ///< of the lens above the ground
    double focal = 0;    ///< pixels
};

/// From how the ground looks on the picture: the map from ground to picture is the camera's turn and place, if its pixels are
/// square and its middle is the picture's (Zhang, 2000, for one plane). Empty: the picture does not tell, as when the camera
/// looks straight down, and a longer lens from farther up shows the same. \param width, height  of the picture, pixels
std::optional<CameraPlace> cameraPlace(const GroundPlane&, int width, int height);

} // namespace kestrel
