#pragma once

#include "core/scene/marking.h"
#include "vision/pose_track.h"

#include <vector>

namespace kestrel::vision {

/// Marks of the body from what the network saw on each picture.
///
/// Sides that the network swapped for a while are swapped back, by the way from picture to picture and, for an athlete who stays
/// in profile, by the view. Pictures on which a point jumps away, for up to 50 ms, are left out. What pictures say that were
/// looked at as they are, and those that were looked at mirrored, is brought together, and from 50 pictures a second on smoothed
/// without delay, over three pictures and 25 ms to either side at least (core/scene/curve.h). Points the network calls hidden get
/// a mark that is not visible. Nothing is made up where nobody was seen.
///
/// The sigma of a mark is a share of the trunk's length on this film, by part of the body, by the network and by how well it
/// saw the part, set so that the true point of simulated film lies within two of them in 90 to 98 % (docs/accuracy.md).
std::vector<Mark> bodyMarks(const PoseTrack&, const FrameClock&, View);

} // namespace kestrel::vision
