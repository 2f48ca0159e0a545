#pragma once

#include "core/pack/pack.h"
#include "vision/point_follow.h"
#include "vision/pose_track.h"

namespace kestrel::vision {

/// All that the program marks on a film by itself: the body, and what the pack says of an implement and a ball. For these the
/// film is gone through twice more, unless the track was stopped early or the film cannot be read any more; then there is the
/// body alone.
///
/// The networks were made for people seen from the level: from above they take arms for legs. What is marked there has a sigma
/// so wide that it is honest, and no ball. \param hand  the athlete's dominant one
std::vector<Mark> filmMarks(const std::string& film, const PoseTrack&, const Pack&, Hand, View, const FrameClock&,
                            const FollowOptions&);

} // namespace kestrel::vision
