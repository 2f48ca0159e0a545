#pragma once

#include "core/base/geometry.h"
#include "core/scene/landmark.h"

#include <opencv2/core.hpp>

#include <map>

namespace kestrel::vision {

/// Where the body is marked on one picture, pixels.
using Body = std::map<Landmark, ImagePoint>;

/// Null: it is not marked.
const ImagePoint* pointOf(const Body&, Part, BodySide);

/// What the body covers, as a mask of that size. \param cell  pixels to one place of the mask \param height  a standing height,
/// places \param corner  the mask's place in the whole picture
cv::Mat coveredBy(const Body&, double cell, double height, cv::Size size, cv::Point corner);

} // namespace kestrel::vision
