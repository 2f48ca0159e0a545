#pragma once

#include "core/pack/pack.h"
#include "core/scene/curve.h"
#include "core/scene/prepared_repetition.h"

#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace kestrel {

/// The parts of the body that hand the movement on, from the ground outward, and what is held.
enum class Segment { Pelvis, Trunk, UpperArm, Forearm, Implement };

/// When one segment turns fastest as one camera shows it.
struct SegmentPeak {
    Segment segment = Segment::Pelvis;
    double seconds = 0;     ///< real time from the start of the span that is looked at
    double uncertainty = 0; ///< of that instant, one standard deviation, seconds
    double rate = 0;        ///< degrees per second; never more than the true one (see turningAlong)
    bool operator==(const SegmentPeak&) const = default;
};

/// Whether the segments come one after another.
enum class Order { InOrder, OutOfOrder, TooCloseToCall };

/// The order and spacing of the segments' peaks in one view.
struct Sequence {
    View view = View::Side;
    std::vector<SegmentPeak> peaks; ///< pelvis first; those that are marked on every frame, two at least
    Order order = Order::InOrder;
    std::string sentence; ///< what it means, with the view it was seen from
    bool operator==(const Sequence&) const = default;
};

/// How fast each segment turns over the pack's span for the sequence, for drawing.
struct SegmentCurve {
    Segment segment = Segment::Pelvis;
    Curve turning; ///< degrees per second over seconds of real time from the film's first picture
};

/// Empty: the pack names no span, its ends are not placed, or fewer than two segments are marked on every frame.
std::vector<SegmentCurve> segmentCurves(const Pack&, const PreparedRepetition&);
/// Empty as segmentCurves.
std::optional<Sequence> calcSequence(const Pack&, const PreparedRepetition&);

/// A measure's value over the repetition, in the measure's unit: at every frame on which its points are marked, and for a kind
/// over a span from the start of its span on. Empty: nothing is marked, or the view cannot show it.
Curve calcCurve(const Measure&, const PreparedRepetition&);

/// The word used in files: "upper_arm".
std::string_view wordOf(Segment);
std::optional<Segment> findSegment(std::string_view);
/// "upper arm"
std::string_view plainWordsOf(Segment);
std::string_view wordOf(Order);
std::optional<Order> findOrder(std::string_view);

} // namespace kestrel
