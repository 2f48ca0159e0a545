#pragma once

#include <Eigen/Core>

namespace kestrel::sim {

using Vec3 = Eigen::Vector3d;

/// Segment lengths as shares of standing height. Lengths after Drillis and Contini (1966) as tabulated by Winter;
/// joint-centre half-widths are narrower than the outer breadths there, since marks sit on joints.
namespace proportions {
inline constexpr double kThigh = 0.245, kShank = 0.246, kAnkleHeight = 0.039;
inline constexpr double kAnkleToToe = 0.105, kHeelBehindAnkle = 0.040;
inline constexpr double kHalfHips = 0.055, kHalfShoulders = 0.100;
inline constexpr double kTrunk = 0.288, kShouldersToHeadCentre = 0.117;
inline constexpr double kUpperArm = 0.186, kForearm = 0.146, kHand = 0.052;
inline constexpr double kHeadRadius = 0.066;
} // namespace proportions

} // namespace kestrel::sim
