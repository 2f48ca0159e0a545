#pragma once

#include "media/picture.h"

#include <opencv2/core.hpp>

#include <vector>

namespace kestrel::vision {

/// What is held or flies is looked for on pictures so small that a standing height has as many places, whatever the film's size.
inline constexpr double kCellsOfHeight = 215;
inline constexpr double kContrast = 30; ///< grey levels that count as a plain difference

/// The picture with one place for so many pixels: blue, green, red. \param window  that part of it alone, in pixels
cv::Mat smallPicture(const media::Picture&, double cell, const cv::Rect& window);

/// What rests while other things move: of each place the middle one of its values on pictures that lie apart.
cv::Mat restingPicture(const std::vector<cv::Mat>&);

/// Of each place the greatest of its three colours' values.
cv::Mat greatest(const cv::Mat& bgr);

/// How far each place differs from what rests, grey levels. Empty where the camera has moved: then the edges of things that are
/// not the body differ as well. \param covered  by the body, at least
cv::Mat movedSince(const cv::Mat& resting, const cv::Mat& bgr, const cv::Mat& covered);

} // namespace kestrel::vision
