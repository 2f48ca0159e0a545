#pragma once

#include "media/film.h"

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::media {

/// One part of a film, as the eye would judge it.
struct RangeQuality {
    FrameIndex first, last;
    double brightness = 0; ///< mean, 0 black to 1 white
    double clipped = 0;    ///< share of the picture that is black or white without detail
    double sharpness = 0;  ///< of what moves, against what stands still in the same film: 1 as sharp, 0 smeared away
};

/// What can be said about a film without knowing what it shows.
struct FilmCheck {
    std::vector<RangeQuality> stretches; ///< ten or fewer, one after the other
    double athletePixels = 0;            ///< height of all that moves; 0: nothing moves
    double shakePixels = 0;              ///< root mean square movement of the background from picture to picture
    std::int64_t duplicates = 0;         ///< pictures of those examined that repeat the one before while others move
    std::int64_t examined = 0;           ///< pictures looked at
    /// Area that changes where the body moves, at the busiest, in squares of the athlete's height per second of film
    /// time; 0: not known.
    double sweep = 0;
    bool looksSlow = false;            ///< it seems to play much slower than life
    std::vector<std::string> findings; ///< sentences, most important first
};

/// Looks through the film, all of a short one, parts of a long one. Errors: Damaged, Cancelled.
///
/// Slow motion is told by how much changes: simulated pitchers at true speed sweep 6.5 to 15 squares of their height a
/// second at their busiest from the side and 4 from behind, eight times slowed down less than 2. Below 3 the coach is
/// asked; a film slowed down four times may pass unasked.
Expected<FilmCheck> checkFilm(Film&, const std::function<void(double)>& progress = {}, std::stop_token stop = {});

} // namespace kestrel::media
