#pragma once

#include "core/read/reading.h"
#include "core/scene/drawing.h"

namespace kestrel {

/// What a measured drawing says on a picture: an angle, the angle between two lines, a length. It is read like any measure, so
/// the errors of marks, camera and scale stand in its uncertainty; a place that the coach set by hand is a careful click off.
/// Without a value, `why` says what is missing. Empty: this kind carries no number.
std::optional<Reading> valueOf(const Drawing&, const PreparedRepetition&, FrameIndex);

/// How far the head gets out of a circle that stays where it is.
struct HeadLeave {
    double widths = 0; ///< how far its middle is from the circle's at most, in widths of the circle
    FrameIndex frame;  ///< when that is
};
/// Over the pictures of the range on which the head is marked. Empty: the head is never in the circle, or the circle follows
/// something.
std::optional<HeadLeave> headLeave(const Drawing&, const PreparedRepetition&, FrameRange);

/// "112° ± 3", "head out by 0.4 of its width, at picture 143" once it has come back: what stands beside the drawing on a picture;
/// empty: nothing. \param range  the pictures on which the drawing is seen
std::string wordsOn(const Drawing&, const PreparedRepetition&, FrameRange range, FrameIndex);

} // namespace kestrel
