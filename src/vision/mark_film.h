#pragma once

#include "core/detect/detect.h"
#include "core/pack/pack.h"
#include "vision/pose_track.h"
#include "vision/scene_check.h"

namespace kestrel::vision {

/// A stretch of film that looks like one repetition, with the key positions the program finds in it.
struct SeenRepetition {
    FrameRange frames;
    std::vector<Event> events;
};

/// All that the program makes of a film by itself. Nothing in it is by a coach.
struct MarkedFilm {
    std::vector<Mark> marks;
    std::optional<Scale> scale;              ///< from the standing height; empty: there was one, or no height is known
    std::vector<Detection> positions;        ///< found or not, in the pack's order; empty: stopped early, or several repetitions
    std::vector<SeenRepetition> repetitions; ///< fewer than two: it is one
    std::int64_t of = 0, looked = 0, seen = 0; ///< pictures: in all, looked at, and with the player on them
    std::optional<BodySide> fasterHand;        ///< plainly; empty: neither, or filmed from above
    std::vector<SceneDoubt> doubts;
    bool isDamaged = false; ///< some pictures could not be decoded
};

/// Marks body, implement and ball, and finds the scale and the key positions.
///
/// \param known    what is known before: scene, athlete, and marks. Marks of the coach, and those followed from them, count where
///                 they lie; nothing of them is given back
/// \param options  which stretch and which network; `progress` is told of all the work, not of the body alone
/// \param mayBeSeveral  whether to look for more than one repetition
/// Errors: those of trackPose.
Expected<MarkedFilm> markFilm(const std::string& film, const Pack&, const Marking& known, const FrameClock&, TrackOptions options,
                              bool mayBeSeveral);

/// As events that a program proposes; what was not found is left out.
std::vector<Event> proposalsOf(const std::vector<Detection>&);

} // namespace kestrel::vision
