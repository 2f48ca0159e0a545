#pragma once

#include "core/landmark.h"
#include "sim/proportions.h"

#include <map>

namespace kestrel::sim {

// World: metres. x toward the target, y up from the ground, z to the side a right-hander's chest faces at address.
// Poses are written for a right-hander in shares of standing height; a left-hander is the mirror image in z.

/// A foot on its toe: the toe stays, the heel swings.
struct FootPose {
    Vec3 toe{0, 0, 0};
    double yaw = 0;   ///< degrees; 0 points the toe along +z, 90 along +x
    double pitch = 0; ///< degrees the heel is raised about the toe
};

/// Directions in the chest's frame: x forward, y up along the trunk, z outward on the arm's own side. Any length > 0.
struct ArmPose {
    Vec3 upper{0, -1, 0}, fore{0, -1, 0};
};

/// Everything that has to be said for the body to be placed; the joints follow.
struct Pose {
    Vec3 pelvis{0, 0.53, 0};                  ///< midway between the hip joints
    double pelvisYaw = 0;                     ///< degrees from facing +z toward facing +x
    double pelvisTilt = 0;                    ///< degrees, lead side higher
    double trunkLean = 0;                     ///< degrees toward the target
    double trunkBend = 0;                     ///< degrees toward +z
    double shoulderYaw = 0, shoulderTilt = 0; ///< as for the pelvis
    double headYaw = 70, headPitch = 0;       ///< pitch: degrees of nodding down
    double leadKneeYaw = 0, trailKneeYaw = 0; ///< degrees, where the knee points
    FootPose lead, trail;
    ArmPose dom, off;
};

/// Joints of a placed body, metres.
struct Skeleton {
    std::map<Landmark, Vec3> points;
    Vec3 headCentre, headForward, headUp;
    Vec3 chestForward;

    const Vec3& at(Part part, BodySide side = BodySide::None) const { return points.at(Landmark{part, side, {}}); }
};

/// Places the body. Bones keep their lengths: a foot out of reach pulls the pelvis down, and once that is not enough
/// the foot itself gives way.
Skeleton place(const Pose&, double heightMetres, Hand);

/// Interior angle at the knee, degrees, for tests of the poses.
double kneeAngle(const Skeleton&, BodySide);

} // namespace kestrel::sim
