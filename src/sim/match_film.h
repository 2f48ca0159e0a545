#pragma once

#include "core/match/match_log.h"
#include "sim/simulate.h"

namespace kestrel::sim {

/// A match that never was: rallies of strokes the simulator knows, pauses, and the camera on a stand.
struct MatchFilmOptions {
    int rallies = 12;
    std::uint32_t seed = 1;
    media::PixelSize size{640, 360};
    double frameRate = 30;
};

/// Paints it and tells its truth: who won, the strokes, who served, and when each rally began and ended, in seconds of the film.
/// One player is seen, the one near the camera; strokes of the other are pauses between two of hers. \param progress  0 to 1
/// Errors: BadArgument for sizes and counts out of range, CannotWrite, Cancelled.
Expected<MatchLog> saveMatchFilm(const MatchFilmOptions&, const std::string& file,
                                 const std::function<void(double)>& progress = {}, std::stop_token stop = {});

} // namespace kestrel::sim
