#pragma once

#include "core/base/error_sample.h"
#include "core/scene/landmark.h"
#include "core/scene/marking.h"

namespace kestrel {

/// How much nearer to the camera than the plane of the scale a point lies, in any unit of length, over an action: part of it
/// stays, part comes and goes.
struct Depth {
    double steady = 0, cosine = 0, sine = 0;
    /// At that phase of kDepthPeriod, given as its cosine and sine.
    double at(double cos, double sin) const { return steady + cosine * cos + sine * sin; }
    friend Depth operator*(Depth d, double by) { return {d.steady * by, d.cosine * by, d.sine * by}; }
};
/// Seconds in which an arm or an implement comes toward the camera and goes away again.
inline constexpr double kDepthPeriod = 0.5;

/// How much nearer to the camera than the plane of the scale a point may lie under one draw, as a share of standing height.
/// A camera that is turned by an unknown yaw shifts what lies off that plane, and shows it larger or smaller.
///
/// Depths run along the body: an elbow lies somewhere about its shoulder, a wrist about its elbow, so that neighbours share
/// most of theirs. The sizes say what a sport puts in depth: from the side half the width of hips and shoulders and arms
/// held away from the body; from the front or rear a stride and a lean; from above a bend. What is held before the chest, or high
/// under a camera above, is known to be nearer. Both were set so that the stated uncertainty is honest on simulated film
/// (docs/accuracy.md), not taken from a study.
Depth depthShare(const Landmark&, View, ErrorSample);

/// The whole body's way toward or away from the camera during the action.
struct DepthTravel {
    double share = 0; ///< of standing height, all in all
    double when = 0;  ///< the middle of it, from 0 at the first key position to 1 at the last
    /// At that progress from the first key position to the last, 0 to share: the scale is drawn where the athlete stands to begin
    /// with.
    double at(double progress) const;
};
DepthTravel depthTravel(View, ErrorSample);

/// Standing heights from which the filming guides say to film, on the ground or from a mast: what turns a depth into a size.
double cameraDistance(View);

} // namespace kestrel
