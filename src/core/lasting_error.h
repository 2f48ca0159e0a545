#pragma once

#include "core/marking.h"
#include "core/time.h"

#include <map>
#include <vector>

namespace kestrel {

/// What a program's mark is off by is nearly the same on the next picture, and nearly the same at the next joint of the limb:
/// it sees a leg a little beside where it is, as long as the leg is there. A coach's click errs anew each time.
///
/// Measured on simulated film of all skills (errors by their sigma, cut off at 3): how far those of one joint agree goes by how
/// far it has moved meanwhile, much less by how long that took: 0.95 where it rests (0.9 after 200 ms), 0.8 after 0.05 of
/// standing height, 0.6 after 0.1, 0.4 after 0.2, 0.2 after 0.35. Those of neighbours of a limb agree to 0.45 from a side and
/// 0.3 from the front or rear, those of different limbs to 0.1.
inline constexpr double kErrorReach = 0.15; // of standing height from one of the errors that it goes through to the next
inline constexpr double kErrorLasts = 1;    // seconds, the same at rest
inline constexpr double kErrorAnew = 0.06;  // of its variance: what is new on every picture
inline constexpr double kLimbShare = 0.4;   // of what lasts: what all of a limb have in common

constexpr bool hasLastingError(Source s)
{
    return s == Source::Network || s == Source::Tracked;
}

/// A number for the arm or leg that a landmark belongs to; 0: none.
constexpr std::uint64_t limbOf(const Landmark& l)
{
    const Part p = l.part;
    const bool isArm = p == Part::Shoulder || p == Part::Elbow || p == Part::Wrist || p == Part::Hand;
    const bool isLeg = p == Part::Hip || p == Part::Knee || p == Part::Ankle || p == Part::Heel || p == Part::Toe;
    if (l.side == BodySide::None || !(isArm || isLeg))
        return 0;
    return 1 + (l.side == BodySide::Left ? 1U : 0U) + (isLeg ? 2U : 0U);
}

/// On a picture: between which two of its errors it is, and how much of either. The squares of the shares add up to one, so
/// that it is as large in between.
struct LastingErrorAt {
    std::int64_t number = 0; ///< of the earlier one
    double earlier = 1, later = 0;

    /// \param passed  how many of them it has gone through
    static LastingErrorAt after(double passed);
};

/// Where the errors of all landmarks that a program marked are, on every picture; a limb goes through its errors as one, as far
/// as its joints move on average.
class LastingErrors {
public:
    LastingErrors() = default;
    /// \param marks  by landmark, frames rising
    /// \param first  frame of the first entry \param count  of frames \param height  of the standing athlete, pixels
    LastingErrors(const std::map<Landmark, std::vector<Mark>>& marks, const FrameClock&, FrameIndex first, std::size_t count,
                  double height);

    /// By frame from the first. Null: no program marked anything of it.
    const std::vector<LastingErrorAt>* of(const Landmark&) const;

private:
    std::map<std::uint64_t, std::vector<LastingErrorAt>> m_limbs;
    std::map<Landmark, std::vector<LastingErrorAt>> m_others;
};

} // namespace kestrel
