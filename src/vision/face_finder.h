#pragma once

#include "core/geometry.h"

#include <array>
#include <functional>
#include <optional>
#include <vector>

namespace kestrel::vision {

/// Finds the edges of a racket's face on pictures on which its shaft was found. The face is seen as an ellipse of which one half
/// diameter lies along the shaft and ends at the tip, about where and as the shaft was found; the other one, from the middle to
/// an edge, is the one whose rim differs most from what lies just outside it, and that turns little from picture to picture.
/// Shaft and width are square to each other and as long as the pack says: an ellipse that no such face could be seen as counts
/// less. All lengths in the same unit.
class FaceFinder {
public:
    /// What one picture shows of the shaft.
    struct Shaft {
        ImagePoint tip;
        ImageVector along; ///< unit vector from the hands to the tip
        double share = 1;  ///< of its length that the view shows
        double length = 1; ///< from the hands to the tip
    };
    struct FoundFace {
        ImagePoint a, b; ///< the same edge is called a from picture to picture
        ImagePoint tip;  ///< the shaft's, as the face shows it
    };

    FaceFinder(double halfWidth, std::size_t pictures) : m_halfWidth(halfWidth), m_views(pictures) {}

    /// \param evidence  how much speaks for the implement at a place, 0 to 1
    void look(std::size_t picture, const Shaft&, const std::function<double(ImagePoint)>& evidence);

    /// On each picture, after all were looked at. Empty: no face stands out.
    std::vector<std::optional<FoundFace>> find() const;

private:
    static constexpr int kTurns = 72, kLengths = 11; ///< directions all round; lengths up to a little more than the half width
    static constexpr int kStates = kTurns * kLengths;
    struct Fit {
        float contrast = 0;
        ImageVector middle, tip; ///< from the tip of the shaft
    };
    struct View {
        Shaft shaft;
        std::array<Fit, kStates> fits{}; ///< by direction and length
    };

    ImageVector halfOf(int state, double turn = 0) const;
    Fit lookAt(const Shaft&, int state, const std::function<double(ImagePoint)>& evidence) const;

    double m_halfWidth;
    std::vector<std::optional<View>> m_views;
};

} // namespace kestrel::vision
