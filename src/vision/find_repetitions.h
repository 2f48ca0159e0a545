#pragma once

#include "core/scene/marking.h"

#include <optional>
#include <vector>

namespace kestrel::vision {

/// The repetitions of a long film, from the marks of both wrists on every picture.
///
/// A hand that throws, hits or shoots is many times as fast as one that walks back or waits. Each time a hand reaches near to
/// its top speed of the whole film counts as one repetition; it begins when the hands last began to move before that and ends
/// when they have come to rest, within bounds. Speeds are those of the faster hand against the hips, in trunk lengths.
/// In the order of the film, not overlapping; empty where nobody was marked.
std::vector<FrameRange> findRepetitions(const std::vector<Mark>&, const FrameClock&);

/// The hand that is plainly the faster one at its fastest, by more than half: the one that throws or hits. Empty: neither, as
/// where two hands hold a bat.
std::optional<BodySide> fasterHand(const std::vector<Mark>&, const FrameClock&);

} // namespace kestrel::vision
