#pragma once

#include "core/base/geometry.h"

#include <functional>
#include <optional>
#include <stop_token>
#include <vector>

namespace kestrel::vision {

/// What one picture shows of a racket's shaft.
struct SeenShaft {
    ImagePoint tip;
    ImageVector along; ///< unit vector from the hands to the tip
    double share = 1;  ///< of its length that the view shows
    double length = 1; ///< from the hands to the tip
};

/// How much speaks for the implement at each place of a picture, 0 to 1, row by row.
struct Evidence {
    int width = 0, height = 0;
    std::vector<float> values;
};

struct FoundFace {
    ImagePoint a, b; ///< the same edge is called a from picture to picture
    ImagePoint tip;  ///< the shaft's, as the face shows it
};

/// Finds the edges of a racket's face on pictures on which its shaft was found. The face is seen as an ellipse of which one half
/// diameter lies along the shaft and ends at the tip, about where and as the shaft was found; the other one, from the middle to
/// an edge, is the one whose rim differs most from what lies just outside it, and that turns little from picture to picture.
/// Shaft and width are square to each other and as long as the pack says: an ellipse that no such face could be seen as counts
/// less. How long the face is for its width is the same on all pictures, and told from some of them. All lengths in the same
/// unit, the places of the evidence.
///
/// \param shafts  by picture; empty: none was found there
/// \param halfWidth  of the face seen square
/// \param evidenceOf  of a picture with a shaft; asked for more than once, on several threads
/// \return by picture. Empty: no face stands out, or there is no shaft; all are when it was stopped.
std::vector<std::optional<FoundFace>> findFaces(const std::vector<std::optional<SeenShaft>>& shafts, double halfWidth,
                                                const std::function<Evidence(std::size_t)>& evidenceOf,
                                                const std::stop_token& stop = {});

} // namespace kestrel::vision
