#pragma once

#include "core/base/error.h"
#include "core/scene/marking.h"

#include <array>
#include <optional>
#include <vector>

namespace kestrel {

/// A place on the ground, metres along the court's own lines.
struct GroundPlace {
    double x = 0, y = 0;
    double sigma = 0; ///< one standard deviation in each direction, metres: by where the court was marked and where the point was
};

inline constexpr std::size_t kLeastGroundMarks = 4, kMostGroundMarks = 50;
inline constexpr double kCarefulClick = 1.5; ///< pixels, one standard deviation of a point that a coach placed

/// To be said wherever a place or distance on the ground is shown.
inline constexpr const char* kGroundCaution = "True only for what touches the ground: what is in the air comes out too far away.";

/// How far two places on the ground lie apart.
struct GroundDistance {
    double metres = 0;
    double sigma = 0; ///< one standard deviation
};

/// The plane of the ground as a still camera sees it, from four or more places on it whose distances are known.
///
/// A projective map (homography), least squares over the marks after they were brought to one size about their middle (the
/// normalised direct linear transformation; Hartley, 1997). Only what touches the ground lies in this plane: a foot in the air
/// comes out farther from the camera than it is, by its height times the distance over the camera's height.
class GroundPlane {
public:
    /// Errors: BadArgument with what is wrong when there are fewer than four marks or more than fifty, three of four lie on one
    /// line (on the picture or by their distances), or they cannot be one plane seen from above.
    static Expected<GroundPlane> fit(const std::vector<GroundMark>&);

    /// \param sigma  how well the point is known on the picture, pixels. Empty: not on the ground, but at or above the horizon.
    std::optional<GroundPlace> at(ImagePoint, double sigma) const;
    /// Of two points on the ground; the errors of the marks move both.
    std::optional<GroundDistance> distance(ImagePoint, ImagePoint, double sigma) const;
    /// Where a place is on the picture. Empty: behind the camera.
    std::optional<ImagePoint> imageOf(double x, double y) const;

    /// The map from the ground to the picture, rows of a matrix.
    const std::array<double, 9>& toImage() const { return m_toImage; }

    /// How far each mark lies from where the plane puts it, pixels, in their order; all 0 of just four.
    const std::vector<double>& misses() const { return m_misses; }
    /// One standard deviation of a mark on the picture, pixels: by their misses, and at least what a careful click has.
    double markSigma() const { return m_markSigma; }

private:
    using Map = std::array<double, 9>; // rows of the matrix from picture to ground
    static std::optional<Map> solve(const std::vector<GroundMark>&);
    static std::optional<std::array<double, 2>> apply(const Map&, ImagePoint);

    Map m_toGround{}, m_toImage{};
    std::vector<Map> m_moved; // with each mark a little to the right, then each a little down
    double m_markSigma = 0;
    std::vector<double> m_misses;
};

} // namespace kestrel
