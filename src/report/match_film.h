#pragma once

#include "core/base/index.h"
#include "core/match/score.h"

#include <QImage>

#include <functional>
#include <stop_token>

namespace kestrel::report {

/// The rallies of a match one after another as a film, .mp4 or .webm, each with a second about it and the score it was played at
/// written in. Whole or not at all. Errors: BadArgument (none has a place on the film, another ending), CannotOpen, CannotWrite,
/// Cancelled. \param hide  on each picture what must not be recognised; empty: nothing  \param progress  0 to 1
Expected<void> writeMatchFilm(const MatchLog&, const MatchSport&, const MatchScore&, const std::vector<std::size_t>& rallies,
                              const std::string& file, const std::function<void(FrameIndex, QImage&)>& hide,
                              const std::function<void(double)>& progress, std::stop_token);

} // namespace kestrel::report
