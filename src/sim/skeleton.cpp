#include "sim/skeleton.h"

#include "core/angle.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

using namespace proportions;

double rad(double degrees)
{
    return Angle::degrees(degrees).asRadians();
}
const Vec3 kUp(0, 1, 0);

Vec3 facing(double yaw)
{
    return {std::sin(rad(yaw)), 0, std::cos(rad(yaw))};
}

struct Foot {
    Vec3 toe, ankle, heel;
};

Foot placeFoot(const FootPose& f)
{
    const Vec3 forward = facing(f.yaw);
    const double c = std::cos(rad(f.pitch)), s = std::sin(rad(f.pitch));
    const auto turned = [&](double back, double up) {
        return Vec3(f.toe + forward * (-back * c + up * s) + kUp * (back * s + up * c));
    };
    return {f.toe, turned(kAnkleToToe, kAnkleHeight), turned(kAnkleToToe + kHeelBehindAnkle, 0.012)};
}

/// The knee of a leg whose hip and ankle are known; it bends toward the pole.
Vec3 placeKnee(const Vec3& hip, const Vec3& ankle, const Vec3& pole)
{
    const Vec3 axis = ankle - hip;
    const double d = std::clamp(axis.norm(), 1e-6, kThigh + kShank);
    const Vec3 along = axis.normalized();
    const double toFoot = (kThigh * kThigh - kShank * kShank + d * d) / (2 * d);
    const double out = std::sqrt(std::max(0.0, kThigh * kThigh - toFoot * toFoot));
    Vec3 side = pole - along * pole.dot(along);
    if (side.norm() < 1e-9)
        side = Vec3(1, 0, 0) - along * along.x();
    return hip + along * toFoot + side.normalized() * out;
}

/// How far the hip has to sink for the ankle to be in reach.
double sinkToReach(const Vec3& hip, const Vec3& ankle)
{
    const double reach = 0.999 * (kThigh + kShank);
    const double across = std::hypot(hip.x() - ankle.x(), hip.z() - ankle.z());
    if (across >= reach)
        return 0; // no height helps
    const double highest = ankle.y() + std::sqrt(reach * reach - across * across);
    return std::max(0.0, hip.y() - highest);
}

struct Frame {
    Vec3 forward, up, right; ///< right: the athlete's own, which is the dominant side of the right-hander the pose is for
};

Frame frameOf(const Vec3& up, double yaw, double leadHigher)
{
    const Vec3 u = up.normalized();
    const Vec3 wanted = facing(yaw);
    Vec3 f = (wanted - u * wanted.dot(u)).normalized();
    // tilting about the forward axis raises the left, the lead side
    const Eigen::AngleAxisd tilt(rad(-leadHigher), f);
    const Vec3 up2 = tilt * u;
    return {f, up2, f.cross(up2)};
}

} // namespace

Skeleton place(const Pose& pose, double height, Hand hand)
{
    const Foot lead = placeFoot(pose.lead), trail = placeFoot(pose.trail);
    const Frame pelvis = frameOf(kUp, pose.pelvisYaw, pose.pelvisTilt);
    Vec3 midHip = pose.pelvis;
    const auto leadHip = [&] { return Vec3(midHip - pelvis.right * kHalfHips); };
    const auto trailHip = [&] { return Vec3(midHip + pelvis.right * kHalfHips); };
    midHip.y() -= std::max(sinkToReach(leadHip(), lead.ankle), sinkToReach(trailHip(), trail.ankle));

    const Vec3 trunkUp = Vec3(std::sin(rad(pose.trunkLean)), std::cos(rad(pose.trunkLean)) * std::cos(rad(pose.trunkBend)),
                              std::sin(rad(pose.trunkBend)))
                             .normalized();
    const Frame chest = frameOf(trunkUp, pose.shoulderYaw, pose.shoulderTilt);
    const Vec3 midShoulder = midHip + trunkUp * kTrunk;
    const Vec3 neckUp = (trunkUp + kUp).normalized();
    const Vec3 headCentre = midShoulder + neckUp * kShouldersToHeadCentre;

    Skeleton body;
    const auto put = [&](Part part, BodySide side, const Vec3& p) { body.points[Landmark{part, side, {}}] = p; };
    const auto putArm = [&](BodySide side, const ArmPose& arm, double outward) {
        const auto direction = [&](const Vec3& d) {
            const Vec3 n = d.normalized();
            return Vec3(chest.forward * n.x() + chest.up * n.y() + chest.right * (outward * n.z()));
        };
        const Vec3 shoulder = midShoulder + chest.right * (outward * kHalfShoulders);
        const Vec3 elbow = shoulder + direction(arm.upper) * kUpperArm;
        const Vec3 wrist = elbow + direction(arm.fore) * kForearm;
        put(Part::Shoulder, side, shoulder);
        put(Part::Elbow, side, elbow);
        put(Part::Wrist, side, wrist);
        put(Part::Hand, side, wrist + direction(arm.fore) * kHand);
    };
    const auto putLeg = [&](BodySide side, const Vec3& hip, Foot foot, double kneeYaw) {
        const Vec3 gap = foot.ankle - hip;
        if (const double excess = gap.norm() - 0.9999 * (kThigh + kShank); excess > 0) {
            const Vec3 pull = gap.normalized() * -excess;
            foot = {foot.toe + pull, foot.ankle + pull, foot.heel + pull};
        }
        put(Part::Hip, side, hip);
        put(Part::Knee, side, placeKnee(hip, foot.ankle, facing(kneeYaw)));
        put(Part::Ankle, side, foot.ankle);
        put(Part::Heel, side, foot.heel);
        put(Part::Toe, side, foot.toe);
    };
    putArm(BodySide::Right, pose.dom, 1);
    putArm(BodySide::Left, pose.off, -1);
    putLeg(BodySide::Left, leadHip(), lead, pose.leadKneeYaw);
    putLeg(BodySide::Right, trailHip(), trail, pose.trailKneeYaw);

    const Vec3 level = facing(pose.headYaw);
    const Vec3 headForward = (level * std::cos(rad(pose.headPitch)) - kUp * std::sin(rad(pose.headPitch))).normalized();
    const Vec3 headRight = headForward.cross(kUp).normalized();
    const Vec3 headUp = headRight.cross(headForward);
    put(Part::Nose, BodySide::None, headCentre + headForward * 0.070 - headUp * 0.008);
    put(Part::Neck, BodySide::None, midShoulder + neckUp * 0.03);
    for (const auto side : {BodySide::Left, BodySide::Right}) {
        const double s = side == BodySide::Right ? 1 : -1;
        put(Part::Eye, side, headCentre + headForward * 0.058 + headUp * 0.012 + headRight * (s * 0.020));
        put(Part::Ear, side, headCentre + headRight * (s * 0.058));
    }
    body.headCentre = headCentre;
    body.headForward = headForward;
    body.headUp = headUp;
    body.chestForward = chest.forward;

    const auto finish = [&](Vec3 p) {
        p *= height;
        if (hand == Hand::Left)
            p.z() = -p.z();
        return p;
    };
    std::map<Landmark, Vec3> points;
    for (const auto& [landmark, p] : body.points) {
        Landmark l = landmark;
        if (hand == Hand::Left)
            l.side = opposite(l.side);
        points[l] = finish(p);
    }
    body.points = std::move(points);
    body.headCentre = finish(body.headCentre);
    if (hand == Hand::Left)
        for (Vec3* v : {&body.headForward, &body.headUp, &body.chestForward})
            v->z() = -v->z();
    return body;
}

double kneeAngle(const Skeleton& s, BodySide side)
{
    const Vec3 u = s.at(Part::Hip, side) - s.at(Part::Knee, side), v = s.at(Part::Ankle, side) - s.at(Part::Knee, side);
    return Angle::radians(std::atan2(u.cross(v).norm(), u.dot(v))).asDegrees();
}

} // namespace kestrel::sim
