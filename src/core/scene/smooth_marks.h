#pragma once

#include "core/scene/curve.h"
#include "core/scene/marking.h"

#include <vector>

namespace kestrel {

/// The way of one landmark, smoothed in both directions of the picture as smoothed() in curve.h does.
/// \param marks  of one landmark, frames rising; those whose frame the clock does not know are left out
/// \param noise  if given, receives for each mark that is returned the share of its error that is left
std::vector<Mark> smoothedMarks(const std::vector<Mark>& marks, const FrameClock&, double reach,
                                std::vector<double>* noise = nullptr);

} // namespace kestrel
