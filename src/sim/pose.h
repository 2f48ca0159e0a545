#pragma once

#include "sim/person.h"

namespace kestrel::sim {

// World: metres. x toward the target, y up from the ground, z to the side the chest faces when standing side-on with
// the lead foot toward the target. Poses are written in shares of standing height for the athlete whose lead foot is the
// left one; the other is the mirror image in z.

/// A foot on its toe: the toe stays, the heel swings.
struct FootPose {
    Vec3 toe{0, 0, 0};
    double yaw = 0;   ///< degrees; 0 points the toe along +z, 90 along +x
    double pitch = 0; ///< degrees the heel is raised about the toe
};

/// Directions in the chest's frame: x forward, y up along the trunk, z outward on the arm's own side. Any length > 0.
/// Where both hands hold an implement the hands are placed by it, and `upper` says whither the elbow points.
struct ArmPose {
    Vec3 upper{0, -1, 0}, fore{0, -1, 0};
};

/// What is held, in world directions.
struct ImplementPose {
    Vec3 grip{0.2, -0.1, 0}; ///< the butt's end from between the shoulders, shares of height; only with two hands
    Vec3 axis{0, 1, 0};      ///< from butt to tip, any length > 0
    Vec3 face{1, 0, 0};      ///< at right angles to the face that hits the ball; made square to the axis
    double flex = 0;         ///< degrees by which the shaft is bent in the middle
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
    ArmPose off, dom;
    ImplementPose implement;
};

/// Visits each part of a pose with its name in files, always in the same order.
template <class P, class Visit> void eachPart(P& p, Visit&& visit)
{
    visit("pelvis", p.pelvis);
    visit("pelvisYaw", p.pelvisYaw);
    visit("pelvisTilt", p.pelvisTilt);
    visit("trunkLean", p.trunkLean);
    visit("trunkBend", p.trunkBend);
    visit("shoulderYaw", p.shoulderYaw);
    visit("shoulderTilt", p.shoulderTilt);
    visit("headYaw", p.headYaw);
    visit("headPitch", p.headPitch);
    visit("leadKneeYaw", p.leadKneeYaw);
    visit("trailKneeYaw", p.trailKneeYaw);
    visit("lead", p.lead);
    visit("trail", p.trail);
    visit("off", p.off);
    visit("dom", p.dom);
    visit("implement", p.implement);
}

/// Visits each number within a part.
template <class Visit> void eachNumber(double& v, Visit&& visit)
{
    visit(v);
}
template <class Visit> void eachNumber(Vec3& v, Visit&& visit)
{
    visit(v.x());
    visit(v.y());
    visit(v.z());
}
template <class Visit> void eachNumber(FootPose& f, Visit&& visit)
{
    eachNumber(f.toe, visit);
    visit(f.yaw);
    visit(f.pitch);
}
template <class Visit> void eachNumber(ArmPose& a, Visit&& visit)
{
    eachNumber(a.upper, visit);
    eachNumber(a.fore, visit);
}
template <class Visit> void eachNumber(ImplementPose& i, Visit&& visit)
{
    eachNumber(i.grip, visit);
    eachNumber(i.axis, visit);
    eachNumber(i.face, visit);
    visit(i.flex);
}

/// A pose of zeros, for what is added to another.
Pose noPose();
/// Adds so much of another pose, number by number.
void add(Pose& to, const Pose& what, double amount);

} // namespace kestrel::sim
