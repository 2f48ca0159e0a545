#pragma once

#include <vector>

namespace kestrel {

/// How much moves, at one moment of a film.
struct MovementSample {
    double seconds = 0;
    double share = 0; ///< of the picture that changed since the last sample
};

struct FoundRally {
    double from = 0, to = 0; ///< seconds
    bool operator==(const FoundRally&) const = default;
};

/// Stretches in which clearly more moves than between them. The level that parts play from pause is found in the samples
/// themselves (Otsu, 1979, on the logarithm); gaps shorter than \p join seconds belong to a rally, what is shorter than \p least
/// is none. Empty: nothing moves, or everything moves alike.
std::vector<FoundRally> findRallies(const std::vector<MovementSample>&, double join = 1.6, double least = 0.8);

} // namespace kestrel
