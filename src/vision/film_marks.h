#pragma once

#include "core/pack.h"
#include "vision/point_follow.h"
#include "vision/pose_track.h"

namespace kestrel::vision {

/// All that the program marks on a film by itself: the body, and what the pack says of an implement and a ball. For these the
/// film is gone through twice more, unless the track was stopped early or the film cannot be read any more; then there is the
/// body alone. \param hand  the athlete's dominant one
std::vector<Mark> filmMarks(const std::string& film, const PoseTrack&, const Pack&, Hand, const FrameClock&,
                            const FollowOptions&);

} // namespace kestrel::vision
