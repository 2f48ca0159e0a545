#pragma once

#include "core/pack.h"
#include "vision/point_follow.h"
#include "vision/pose_track.h"

namespace kestrel::vision {

/// All that the program marks on a film by itself: the body, and the implement where the pack says that one is held which can be
/// found. For the latter the film is gone through once more, unless the track was stopped early or the film cannot be read
/// any more; then there is the body alone.
std::vector<Mark> filmMarks(const std::string& film, const PoseTrack&, const Pack&, Hand, const FrameClock&,
                            const FollowOptions&);

} // namespace kestrel::vision
