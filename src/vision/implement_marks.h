#pragma once

#include "core/pack.h"
#include "vision/point_follow.h"

#include <vector>

namespace kestrel::vision {

/// Marks of a long straight implement, a bat, from the marks of the hands that hold it.
///
/// On each picture rays go out from the hands. Along the one the implement lies on, the colour differs from that to either side,
/// up to its tip. Of all sequences of rays the one is taken that shows most of it and turns least from picture to picture; the
/// pictures that show it plainly teach its colours, and all are looked at once more with them. Where too little of it is seen,
/// before the body or pointing at the camera, there is no mark.
///
/// Marks of the butt (implement.grip) and the tip, in the order of the film. Their sigma was set so that it is honest on
/// simulated film (docs/accuracy.md). Empty where the hands or a leg are not marked. Stopped early, none. \param body    marks of
/// the body on this film \param options  the stretch; Errors: those of Film::open
Expected<std::vector<Mark>> implementMarks(const std::string& film, const std::vector<Mark>& body, const HeldImplement&,
                                           const FrameClock&, const FollowOptions& options);

/// How high the athlete stands on the film, pixels, by the length of the leg (see scaleFromHeight). 0 when none was marked.
double standingHeight(const std::vector<Mark>&);

} // namespace kestrel::vision
