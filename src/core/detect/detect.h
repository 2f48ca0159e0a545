#pragma once

#include "core/pack/pack.h"
#include "core/scene/prepared_repetition.h"

#include <string>
#include <vector>

namespace kestrel {

/// Marks that a network set and nobody corrected: over how many seconds they are smoothed before key positions are looked for,
/// and how rough they are then.
inline constexpr double kNetworkReach = 0.05, kNetworkRoughness = 2.5;

/// A key position that was looked for.
struct Detection {
    std::string keyPosition;
    std::optional<FramePosition> frame; ///< to a fraction of a frame; empty: not found
    double uncertaintyFrames = 0.5;     ///< half the width of its doubt, as Event
    std::string why;                    ///< what was found, or what is missing; a sentence
    bool operator==(const Detection&) const = default;
};

/// The marking as key positions are looked for in it: what nobody but a network marked is smoothed over kNetworkReach.
Marking smoothedForDetection(Marking, const FrameClock&);

/// Looks for every key position of the pack that names a detector, on the frames that are marked, in the pack's order. One
/// that has to lie after or before another is looked for from or up to where that other was found; if that one was not
/// found, neither is this. Where the first detector finds nothing, the one that stands in for it is asked. Of a detector with
/// further signs the middle one of those found counts, between two of them what lies in the middle; the doubt is then at least
/// half of what lies between it and the nearest other one.
///
/// Extremes and peaks are refined by the parabola through three frames. "Still", "lands", "leaves" and "come apart" go by the
/// first instant at which a threshold is passed (speeds as shares of the point's own top speed, places as shares of
/// standing height, see detect.cpp), placed between the two frames by straight interpolation. From there a movement is traced
/// back to where it began, or on to where it ends, as if with a constant acceleration. What is never marked near each other does
/// not come apart.
///
/// \param roughness  how much wider the thresholds are than for marks set with care: what a network saw trembles. Above 1 a
/// rule's delay and doubt are those it has on film
std::vector<Detection> detectKeyPositions(const Pack&, const PreparedRepetition&, double roughness = 1);

/// What one rule sees between two frames, before its delay: what detectors are chosen by. Empty: nothing.
std::optional<RealTime> instantByRule(const Pack&, const PreparedRepetition&, const DetectorRule&, FramePosition from,
                                      FramePosition to, double roughness = 1);

} // namespace kestrel
