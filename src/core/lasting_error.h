#pragma once

#include "core/geometry.h"
#include "core/marking.h"
#include "core/time.h"

#include <cmath>
#include <numbers>

namespace kestrel {

/// What a program's mark is off by is nearly the same on the next picture, and nearly the same at the next joint of the limb:
/// it sees a leg a little beside where it is, as long as the body stands so. A coach's click errs anew each time.
///
/// Measured on simulated film of all skills (errors by their sigma, cut off at 3): those of one landmark agree over 17 ms to
/// 0.92 (median of the landmarks; 1: alike), over 100 ms to 0.8, over 300 ms to 0.5, over a second to 0.15; those of neighbours
/// of a limb to 0.45 from a side and 0.3 from the front or rear, those of different limbs to 0.1.
inline constexpr double kErrorLasts = 0.35; // seconds from one of the errors that it goes through to the next
inline constexpr double kErrorAnew = 0.08;  // of its variance: what is new on every picture
inline constexpr double kLimbShare = 0.4;   // of what lasts: what all of a limb have in common

constexpr bool hasLastingError(Source s)
{
    return s == Source::Network || s == Source::Tracked;
}

/// A number for the arm or leg that a landmark belongs to; 0: none.
constexpr std::uint64_t limbOf(Part part, BodySide side)
{
    const bool isArm = part == Part::Shoulder || part == Part::Elbow || part == Part::Wrist || part == Part::Hand;
    const bool isLeg = part == Part::Hip || part == Part::Knee || part == Part::Ankle || part == Part::Heel || part == Part::Toe;
    if (side == BodySide::None || !(isArm || isLeg))
        return 0;
    return 1 + (side == BodySide::Left ? 1U : 0U) + (isLeg ? 2U : 0U);
}

/// At an instant: between which two of its errors it is, and how much of either. The squares of the shares add up to one, so
/// that it is as large in between.
struct LastingErrorAt {
    std::int64_t number = 0; ///< of the earlier one
    double earlier = 1, later = 0;

    static LastingErrorAt of(RealTime time)
    {
        const double passed = time.seconds / kErrorLasts, whole = std::floor(passed);
        const double phase = (passed - whole) * std::numbers::pi / 2;
        return {static_cast<std::int64_t>(whole), std::cos(phase), std::sin(phase)};
    }
};

} // namespace kestrel
