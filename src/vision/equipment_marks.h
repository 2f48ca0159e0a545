#pragma once

#include "core/pack/pack.h"
#include "vision/point_follow.h"

#include <vector>

namespace kestrel::vision {

/// Marks of what is held to hit with, a bat, racket or stick, and of the ball in the air, where the pack says what they are.
///
/// *Held.* Evidence for it at a place is that something narrow stands out there, which does not rest (the middle of many pictures
/// is what rests; where the camera moves, that says nothing) and is not the body. On each picture rays go out from the hands;
/// along the one it lies on there is evidence, or for a face evidence on both sides, up to its tip. Of all sequences of rays the
/// one is taken that shows most of it and turns least from picture to picture, or at once, past the camera; the pictures that
/// show it plainly teach its colours, and all are looked at once more with them. At last the line is laid through the middles of
/// what is seen across it; a racket's ends where its face does. Where too little is seen, before the body or pointing at the
/// camera, there is no mark. Marks of the butt (implement.grip), the tip, and the middle of what does not bend; of a face its two
/// edges, where it stands out (see face_finder.h).
///
/// *Ball.* Whatever moved, is about as large and does not hang together with the body may be it. Of all chains of such spots in
/// which each is where the ones before lead, the longest are taken, one ball at a time. A ball in a hand, or before the body, or
/// on a film whose camera moves, has no mark.
///
/// In the order of the film; their sigma was set so that it is honest on simulated film (docs/accuracy.md). Empty where no leg is
/// marked, and nothing held where the hands are not. Stopped early, none.
/// \param body  marks of the body on this film, of each landmark frames rising
/// \param hand  the athlete's dominant one
/// \param options  the stretch
/// Errors: those of Film::open
Expected<std::vector<Mark>> equipmentMarks(const std::string& film, const std::vector<Mark>& body, const Pack&, Hand,
                                           const FrameClock&, const FollowOptions& options);

} // namespace kestrel::vision
