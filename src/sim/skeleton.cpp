#include "sim/skeleton.h"

#include "core/base/angle.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <array>
#include <cmath>

namespace kestrel::sim {

namespace {

double rad(double degrees)
{
    return Angle::degrees(degrees).asRadians();
}
const Vec3 kUp(0, 1, 0);
constexpr double kGirdleStill = 30; // degrees an arm is raised before collarbone and shoulder blade go with it
constexpr double kSole = 0.012;     // how high the heel's mark lies above the ground, share of height

Vec3 facing(double yaw)
{
    return {std::sin(rad(yaw)), 0, std::cos(rad(yaw))};
}

struct Frame {
    Vec3 forward, up, right; ///< right: the trail side's
};

Frame frameOf(const Vec3& up, double yaw, double leadHigher)
{
    const Vec3 u = up.normalized();
    const Vec3 wanted = facing(yaw);
    const Vec3 f = (wanted - u * wanted.dot(u)).normalized();
    // turning the trunk's axis toward the trail side raises the left, the lead side
    const Vec3 up2 = Eigen::AngleAxisd(rad(leadHigher), f) * u;
    return {f, up2, f.cross(up2)};
}

/// How far apart the ends of two bones are when the joint between them is flexed by so much.
double spanAt(double flexion, double first, double second)
{
    return std::sqrt(first * first + second * second + 2 * first * second * std::cos(rad(flexion)));
}

/// An angle no more than so far from another, degrees.
double within(double most, double yaw, double of)
{
    return of + std::clamp(std::remainder(yaw - of, 360.0), -most, most);
}

/// The joint between two bones whose ends are known; it bends toward the pole.
Vec3 bend(const Vec3& from, const Vec3& to, double first, double second, const Vec3& pole)
{
    const Vec3 axis = to - from;
    const double d = std::clamp(axis.norm(), std::abs(first - second) + 1e-6, first + second);
    const Vec3 along = axis.normalized();
    const double toFoot = (first * first - second * second + d * d) / (2 * d);
    const double out = std::sqrt(std::max(0.0, first * first - toFoot * toFoot));
    Vec3 side = pole - along * pole.dot(along);
    if (side.norm() < 1e-9)
        side = along.unitOrthogonal();
    return from + along * toFoot + side.normalized() * out;
}

/// Places one body in shares of height, the lead foot left.
class Placing {
public:
    Placing(const Pose& pose, const Build& build) : m_pose(pose), m_build(build), m_p(proportionsOf(build.person)) {}

    Skeleton run()
    {
        const Foot lead = placeFoot(m_pose.lead), trail = placeFoot(m_pose.trail);
        m_pelvis = frameOf(kUp, m_pose.pelvisYaw, m_pose.pelvisTilt);
        Vec3 midHip = m_pose.pelvis * m_p.lower;
        const Vec3 toHip = m_pelvis.right * m_p.halfHips;
        midHip.y() -= std::max(sinkToReach(midHip - toHip, lead.ankle), sinkToReach(midHip + toHip, trail.ankle));
        const Vec3 trunkUp =
            Vec3(std::sin(rad(m_pose.trunkLean)), std::cos(rad(m_pose.trunkLean)) * std::cos(rad(m_pose.trunkBend)),
                 std::sin(rad(m_pose.trunkBend)))
                .normalized();
        m_shoulderYaw = within(kMostTrunkTwist, m_pose.shoulderYaw, m_pose.pelvisYaw);
        m_chest = frameOf(trunkUp, m_shoulderYaw, m_pose.shoulderTilt);
        m_midShoulder = midHip + trunkUp * m_p.trunk;
        const Vec3 neckUp = (trunkUp + kUp).normalized();
        putLeg(BodySide::Left, midHip - toHip, lead, m_pose.leadKneeYaw);
        putLeg(BodySide::Right, midHip + toHip, trail, m_pose.trailKneeYaw);
        putArms();
        putHead(neckUp);
        return finished();
    }

private:
    struct Foot {
        Vec3 toe, ankle, heel;
    };

    Foot placeFoot(const FootPose& f) const
    {
        const Vec3 toe = f.toe * m_p.lower, forward = facing(f.yaw);
        const double c = std::cos(rad(f.pitch)), s = std::sin(rad(f.pitch));
        const auto turned = [&](double back, double up) {
            return Vec3(toe + forward * (-back * c + up * s) + kUp * (back * s + up * c));
        };
        return {toe, turned(m_p.ankleToToe, m_p.ankleHeight), turned(m_p.ankleToToe + m_p.heelBehindAnkle, kSole)};
    }

    /// How far the hip has to sink for the ankle to be in reach.
    double sinkToReach(const Vec3& hip, const Vec3& ankle) const
    {
        const double reach = 0.999 * (m_p.thigh + m_p.shank);
        const double across = std::hypot(hip.x() - ankle.x(), hip.z() - ankle.z());
        if (across >= reach)
            return 0; // no height helps
        return std::max(0.0, hip.y() - (ankle.y() + std::sqrt(reach * reach - across * across)));
    }

    void put(Part part, BodySide side, const Vec3& p) { m_body.points[Landmark{part, side, {}}] = p; }

    void putLeg(BodySide side, const Vec3& hip, Foot foot, double kneeYaw)
    {
        const Vec3 gap = foot.ankle - hip;
        const double reached =
            std::clamp(gap.norm(), spanAt(kMostKneeFlexion, m_p.thigh, m_p.shank), 0.9999 * (m_p.thigh + m_p.shank));
        if (reached != gap.norm()) {
            const Vec3 pull = gap.normalized() * (reached - gap.norm());
            foot = {foot.toe + pull, foot.ankle + pull, foot.heel + pull};
        }
        put(Part::Hip, side, hip);
        put(Part::Knee, side, bend(hip, foot.ankle, m_p.thigh, m_p.shank, facing(kneeYaw)));
        put(Part::Ankle, side, foot.ankle);
        put(Part::Heel, side, foot.heel);
        put(Part::Toe, side, foot.toe);
    }

    struct Arm {
        BodySide side;
        const ArmPose& pose;
        double outward; // of the chest's right
        Vec3 shoulder;
    };
    Vec3 inChest(const Vec3& d, double outward) const
    {
        const Vec3 n = d.normalized();
        return m_chest.forward * n.x() + m_chest.up * n.y() + m_chest.right * (outward * n.z());
    }
    static Vec3 foldedNoFurther(const Vec3& forearm, const Vec3& upper)
    {
        if (forearm.dot(upper) >= std::cos(rad(kMostElbowFlexion)))
            return forearm;
        const Vec3 out = forearm - upper * forearm.dot(upper);
        const Vec3 side = out.norm() < 1e-9 ? upper.unitOrthogonal() : Vec3(out.normalized());
        return upper * std::cos(rad(kMostElbowFlexion)) + side * std::sin(rad(kMostElbowFlexion));
    }
    /// The shoulder joint goes with the arm: collarbone and shoulder blade carry it about the top of the breastbone.
    Vec3 shoulderCarried(double outward, const Vec3& upperArm) const
    {
        const double raised = Angle::radians(std::acos(std::clamp(-upperArm.dot(m_chest.up), -1.0, 1.0))).asDegrees();
        const double rise = rad(kMostGirdleRise * std::max(0.0, raised - kGirdleStill) / (180 - kGirdleStill));
        const double reach = rad(kMostGirdleReach * upperArm.dot(m_chest.forward));
        const Vec3 out = m_chest.right * outward, level = out * std::cos(reach) + m_chest.forward * std::sin(reach);
        return m_midShoulder + out * kHalfBreastbone +
               (level * std::cos(rise) + m_chest.up * std::sin(rise)) * (m_p.halfShoulders - kHalfBreastbone);
    }
    void putArm(const Arm& arm, const Vec3& elbow, const Vec3& alongForearm)
    {
        put(Part::Shoulder, arm.side, arm.shoulder);
        put(Part::Elbow, arm.side, elbow);
        put(Part::Wrist, arm.side, elbow + alongForearm * m_p.forearm);
        put(Part::Hand, arm.side, elbow + alongForearm * (m_p.forearm + m_p.hand));
    }

    void putArms()
    {
        const bool domIsTrail = m_build.dominant == DominantSide::Trail;
        const auto arm = [&](bool isDom) {
            const bool isTrail = isDom == domIsTrail;
            const double outward = isTrail ? 1 : -1;
            return Arm{isTrail ? BodySide::Right : BodySide::Left, isDom ? m_pose.dom : m_pose.off, outward,
                       m_midShoulder + m_chest.right * (outward * m_p.halfShoulders)};
        };
        const Arm dom = arm(true), off = arm(false);
        const auto& held = m_build.implement;
        const Vec3 axis = m_pose.implement.axis.normalized();
        if (held && held->offHand) {
            Vec3 butt = m_midShoulder + m_pose.implement.grip;
            const double fore = m_p.forearm + m_p.hand, least = spanAt(kMostElbowFlexion, m_p.upperArm, fore);
            const double most = 0.998 * (m_p.upperArm + fore);
            std::array hands{std::pair{dom, held->domHand}, std::pair{off, *held->offHand}};
            const auto elbowOf = [&](const Arm& a, double along) {
                return bend(a.shoulder, butt + axis * along, m_p.upperArm, fore, inChest(a.pose.upper, a.outward));
            };
            for (auto& [a, along] : hands)
                a.shoulder = shoulderCarried(a.outward, (elbowOf(a, along) - a.shoulder).normalized());
            for (int round = 0; round < 8; ++round) // each pull may take the other hand's reach
                for (const auto& [a, along] : hands) {
                    const Vec3 gap = butt + axis * along - a.shoulder;
                    butt += gap.normalized() * (std::clamp(gap.norm(), least, most) - gap.norm());
                }
            for (const auto& [a, along] : hands) {
                const Vec3 elbow = elbowOf(a, along);
                putArm(a, elbow, (butt + axis * along - elbow).normalized());
            }
            putImplement(butt, axis);
            return;
        }
        for (Arm a : {dom, off}) {
            const Vec3 upper = inChest(a.pose.upper, a.outward);
            a.shoulder = shoulderCarried(a.outward, upper);
            putArm(a, a.shoulder + upper * m_p.upperArm, foldedNoFurther(inChest(a.pose.fore, a.outward), upper));
        }
        if (held)
            putImplement(m_body.at(Part::Hand, dom.side) - axis * held->domHand, axis);
    }

    void putImplement(const Vec3& butt, const Vec3& axis)
    {
        const Implement& held = *m_build.implement;
        Vec3 face = m_pose.implement.face - axis * m_pose.implement.face.dot(axis);
        face = face.norm() < 1e-9 ? axis.unitOrthogonal() : Vec3(face.normalized());
        const Vec3 wide = axis.cross(face);
        HeldImplement h;
        h.butt = butt;
        h.tip = butt + axis * held.length;
        h.middle = butt + axis * (held.length / 2) + face * (held.length / 2 * std::sin(rad(m_pose.implement.flex) / 2));
        h.axis = axis;
        h.face = face;
        h.sweetSpot = butt + axis * held.sweetSpot();
        h.faceA = h.sweetSpot + wide * held.halfWidth();
        h.faceB = h.sweetSpot - wide * held.halfWidth();
        put(Part::ImplementGrip, BodySide::None, h.butt);
        put(Part::ImplementMid, BodySide::None, h.middle);
        put(Part::ImplementTip, BodySide::None, h.tip);
        if (held.halfWidth() > 0) {
            put(Part::ImplementFaceA, BodySide::None, h.faceA);
            put(Part::ImplementFaceB, BodySide::None, h.faceB);
        }
        m_body.implement = h;
    }

    void putHead(const Vec3& neckUp)
    {
        const Vec3 centre = m_midShoulder + neckUp * m_p.shouldersToHead;
        const Vec3 level = facing(within(kMostHeadTurn, m_pose.headYaw, m_shoulderYaw));
        const Vec3 forward = (level * std::cos(rad(m_pose.headPitch)) - kUp * std::sin(rad(m_pose.headPitch))).normalized();
        const Vec3 right = forward.cross(kUp).normalized(), up = right.cross(forward);
        const double r = m_p.headRadius;
        put(Part::Nose, BodySide::None, centre + forward * (1.06 * r) - up * (0.12 * r));
        put(Part::Neck, BodySide::None, m_midShoulder + neckUp * 0.03);
        for (const auto side : {BodySide::Left, BodySide::Right}) {
            const double s = side == BodySide::Right ? 1 : -1;
            put(Part::Eye, side, centre + forward * (0.88 * r) + up * (0.18 * r) + right * (s * 0.30 * r));
            put(Part::Ear, side, centre + right * (s * 0.88 * r));
        }
        m_body.headCentre = centre;
        m_body.chestCentre = m_midShoulder;
        m_body.chestRight = m_chest.right;
        m_body.headForward = forward;
        m_body.headUp = up;
    }

    /// In metres, and mirrored when need be.
    Skeleton finished()
    {
        const double height = m_build.person.heightMetres, z = m_build.isMirrored() ? -1 : 1;
        const auto direction = [z](const Vec3& d) { return Vec3(d.x(), d.y(), z * d.z()); };
        const auto place = [&](const Vec3& p) { return Vec3(height * direction(p)); };
        Skeleton done;
        for (const auto& [landmark, p] : m_body.points) {
            Landmark l = landmark;
            if (m_build.isMirrored())
                l.side = opposite(l.side);
            done.points[l] = place(p);
        }
        done.headCentre = place(m_body.headCentre);
        done.chestCentre = place(m_body.chestCentre);
        done.chestRight = direction(m_body.chestRight) * z; // in a mirror right is left
        done.headForward = direction(m_body.headForward);
        done.headUp = direction(m_body.headUp);
        if (const auto& h = m_body.implement)
            done.implement = HeldImplement{place(h->butt),     place(h->middle),    place(h->tip),   direction(h->axis),
                                           direction(h->face), place(h->sweetSpot), place(h->faceA), place(h->faceB)};
        return done;
    }

    const Pose& m_pose;
    const Build& m_build;
    Proportions m_p;
    Frame m_pelvis, m_chest;
    double m_shoulderYaw = 0; ///< as far as the trunk twists
    Vec3 m_midShoulder;
    Skeleton m_body;
};

} // namespace

Skeleton place(const Pose& pose, const Build& build)
{
    return Placing(pose, build).run();
}

Pose noPose()
{
    Pose p;
    eachPart(p, [](const char*, auto& part) { eachNumber(part, [](double& v) { v = 0; }); });
    return p;
}

void add(Pose& to, const Pose& what, double amount)
{
    std::vector<double> numbers;
    Pose copy = what;
    eachPart(copy, [&](const char*, auto& part) { eachNumber(part, [&](double& v) { numbers.push_back(v); }); });
    std::size_t i = 0;
    eachPart(to, [&](const char*, auto& part) { eachNumber(part, [&](double& v) { v += amount * numbers[i++]; }); });
}

} // namespace kestrel::sim
