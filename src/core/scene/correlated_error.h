#pragma once

#include "core/base/error_sample.h"
#include "core/base/time.h"
#include "core/scene/marking.h"

#include <map>
#include <vector>

namespace kestrel {

/// What a program's mark is off by is nearly the same on the next picture, and nearly the same at the next joint of the limb:
/// it sees a leg a little beside where it is, as long as the leg is there. A coach's click errs anew each time.
///
/// Measured on simulated film of all skills (errors by their sigma, cut off at 3): how far those of one joint agree goes by how
/// far it has moved meanwhile, much less by how long that took: 0.99 where it rests (0.9 after 200 ms), 0.75 after 0.05 of
/// standing height, 0.55 after 0.1, 0.35 after 0.2, not at all after 0.35. Those of neighbours of a limb agree to 0.45 from a
/// side and 0.3 from the front or rear, those of different limbs to 0.1.
inline constexpr double kErrorReach = 0.15; // of standing height from one of the errors that it goes through to the next
inline constexpr double kErrorLasts = 2;    // seconds, the same at rest
inline constexpr double kErrorAnew = 0.03;  // of its variance: what is new on every picture
inline constexpr double kLimbShare = 0.4;   // of what lasts: what all of a limb have in common

/// What the errors of one landmark that a program marked are on every picture, as one draw has them. Between two of those that it
/// goes through it is as large: the squares of their shares add up to one.
class CorrelatedError {
public:
    /// How many errors it has gone through on each picture.
    using Course = std::vector<double>;

    CorrelatedError(const Landmark&, const Course&);

    /// In standard deviations, to the right and down. \param picture  of the course
    ImageVector on(std::size_t picture, ErrorSample) const;

private:
    /// Between which two, the earlier one's number, and how much of either.
    struct Place {
        std::size_t number = 0;
        double earlier = 1, later = 0;
    };
    std::vector<Place> m_places;
    std::vector<ImageVector> m_errors; // by number, then by draw
};

/// For each landmark of which a program marked anything; a limb goes through its errors as one, as far as its joints move on
/// average.
/// \param marks  by landmark, frames rising
/// \param first  frame of the first picture \param count  of pictures \param height  of the standing athlete, pixels
std::map<Landmark, CorrelatedError> lastingErrors(const std::map<Landmark, std::vector<Mark>>& marks, const FrameClock&,
                                                  FrameIndex first, std::size_t count, double height);

/// What random numbers of a landmark come from (see draw.h).
std::uint64_t keyOf(const Landmark&);

} // namespace kestrel
