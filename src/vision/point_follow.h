#pragma once

#include "core/base/error.h"
#include "core/base/geometry.h"
#include "core/base/index.h"

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::vision {

/// Where a point is known to be: a coach marked it there.
struct Seed {
    FrameIndex frame;
    ImagePoint at;
};

/// Where a point was found on one picture.
struct Followed {
    FrameIndex frame;
    ImagePoint at;
    double sigma = 0; ///< one standard deviation, pixels, in each direction: grows with the distance from the next seed
};

struct FollowOptions {
    FrameIndex first{0}, last{0}; ///< the stretch it is followed through; both belong to it
    std::string knownIndex;       ///< as media::OpenOptions
    /// Called on the thread that works: pictures done, of how many.
    std::function<void(std::int64_t, std::int64_t)> progress;
    std::stop_token stop;
};

/// Follows one point from its seeds, forward and backward, until it is lost: pyramidal optical flow (Lucas and Kanade), each
/// step of which has to lead back to where it came from and onto a patch that looks alike. A point that is lost is looked for
/// once more where its speed would have taken it, for some pictures; then it counts as lost, and the gap stays a gap. Now and
/// then the last steps are gone back as a whole: a way that does not lead back had slipped onto something else, and is lost from
/// there. Between two seeds both ways are blended, each weighted by how near its seed is, and where they disagree the sigma says
/// so. The seeds' own pictures are left out, as are those where it is lost. In the order of the film.
///
/// Stopped early, gives what is done by then. Errors: those of Film::open; NoSuchFrame where a seed lies beyond the film.
Expected<std::vector<Followed>> followPoint(const std::string& film, std::vector<Seed> seeds, const FollowOptions&);

} // namespace kestrel::vision
