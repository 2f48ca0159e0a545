#pragma once

#include "core/scene/landmark.h"
#include "sim/implement.h"
#include "sim/pose.h"

#include <map>

namespace kestrel::sim {

/// Which of the athlete's sides holds the implement or the ball: the one nearer the target at landing, or the other.
enum class DominantSide { Trail, Lead };

/// What is needed beside the pose.
struct Build {
    Person person;
    DominantSide dominant = DominantSide::Trail;
    std::optional<Implement> implement;
    Hand hand = Hand::Right;

    /// Poses are written for a left lead foot.
    bool isMirrored() const { return (hand == Hand::Right) != (dominant == DominantSide::Trail); }
    BodySide domSide() const { return hand == Hand::Right ? BodySide::Right : BodySide::Left; }
    BodySide leadSide() const { return isMirrored() ? BodySide::Right : BodySide::Left; }
};

/// The implement as it lies in the hands, metres.
struct HeldImplement {
    Vec3 butt, middle, tip;
    Vec3 axis, face; ///< unit, square to each other
    Vec3 sweetSpot;
    Vec3 faceA, faceB; ///< the face's edges; both the sweet spot for a bat
};

/// Joints of a placed body, metres; those of the implement are among the points too.
struct Skeleton {
    std::map<Landmark, Vec3> points;
    Vec3 headCentre, headForward, headUp;
    Vec3 chestCentre, chestRight; ///< between the shoulders as they hang, and across the ribs; arms carry the joints from there
    std::optional<HeldImplement> implement;

    const Vec3& at(Part part, BodySide side = BodySide::None) const { return points.at(Landmark{part, side, {}}); }
};

/// As far as a joint goes, degrees: the round figures of clinical ranges of active motion for elbow, knee and neck; for
/// shoulders past hips what papers report of throwers at their most coiled.
inline constexpr double kMostElbowFlexion = 150, kMostKneeFlexion = 150, kMostHeadTurn = 85, kMostTrunkTwist = 65;

/// How far collarbone and shoulder blade carry the shoulder joint, degrees about the breastbone's top: up with an arm raised
/// straight overhead, forward with one held straight ahead and as far back with one behind. Inman, Saunders and Abbott (1944) saw
/// the collarbone rise by 36 with the arm, after the first 30 of it without; pins in the bone (Ludewig et al. 2009) by 10, while
/// the blade turns about its end, and lie some 10 further forward where the arm goes up ahead than to the side.
inline constexpr double kMostGirdleRise = 20, kMostGirdleReach = 10;
/// From the body's middle to where the collarbone turns, share of height: about 24 mm.
inline constexpr double kHalfBreastbone = 0.015;

/// Places the body. Bones keep their lengths and joints their limits: a foot out of reach pulls the pelvis down, and once
/// that is not enough, or the knee folds no further, the foot itself gives way; an implement out of reach of a hand comes
/// closer, one too near goes away; a forearm, the shoulders and the head turn as far as they can.
Skeleton place(const Pose&, const Build&);

} // namespace kestrel::sim
