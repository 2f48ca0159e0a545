#pragma once

#include "core/read/reading.h"

#include <string>
#include <vector>

namespace kestrel::report {

/// One repetition with its film, as sheets and walk-throughs want it.
struct RepetitionFilm {
    std::string file, knownIndex; ///< as media::OpenOptions
    Marking marking;              ///< with its drawings
    FrameClock clock;
    FrameRange repetition;         ///< the pictures that belong to it
    std::vector<Reading> readings; ///< of it; may be empty
};

} // namespace kestrel::report
