#pragma once

#include "core/pack/pack.h"

#include <optional>
#include <string>
#include <vector>

namespace kestrel {

/// What a film is like, as far as readings depend on it.
struct FilmQuality {
    double captureRate = 0;   ///< pictures per second when filmed
    double athletePixels = 0; ///< the athlete's height in the picture, about; 0: not known
    View view = View::Side;
    bool operator==(const FilmQuality&) const = default;
};

/// Whether a key position can be found on a film.
struct KeyPositionSupport {
    std::string keyPosition, name;
    double neededRate = 0; ///< pictures per second at which one always falls into it; 0: any film shows it
    bool isShown = true;   ///< one picture at least falls into it
    bool operator==(const KeyPositionSupport&) const = default;
};

/// Whether a measure can be read from a film.
struct MeasureSupport {
    std::string measure, name;
    bool isReadable = true;
    std::string why; ///< a sentence, when it is not
    bool operator==(const MeasureSupport&) const = default;
};

struct FilmSupport {
    std::vector<KeyPositionSupport> keyPositions;
    std::vector<MeasureSupport> measures;
    std::vector<std::string> consequences; ///< in words, most important first
    bool operator==(const FilmSupport&) const = default;
};

/// Which key positions and readings a film can support.
///
/// A position that lasts t ms shows on every film of at least 1000/t pictures per second; on a slower one it may fall
/// between two pictures, and readings taken there are not trusted. A point marked kMarkError pixels off turns the
/// shortest segment that is read, a forearm of 14.6 % of standing height (Drillis and Contini 1966), by
/// atan(sqrt(2) x error / length).
FilmSupport calcFilmSupport(const Pack&, const FilmQuality&);

/// Degrees by which a careful click turns a forearm when the athlete is so many pixels high. Empty: not known.
std::optional<double> forearmError(double athletePixels);

/// Pictures per second for the fastest key position of the pack; 0 when none says how long it lasts.
double neededRate(const Pack&);

} // namespace kestrel
