#include "sim/overhand_pitch.h"

#include "core/draw.h"

#include <cmath>

namespace kestrel::sim {

namespace {

// Times in seconds with the landing of the lead foot at 0. Positions in shares of standing height with the trail toe's
// place on the plate at x = 0. The numbers draw a trained junior of about 13 and were set by looking at the film and
// at the readings together.

ArmPose gathered(double lift) // both hands meet before the chest; the arms mirror each other
{
    return {{0.35, -0.90 + lift, 0.15}, {0.60, 0.35 + lift, -0.90}};
}

Pose setPose()
{
    Pose p;
    p.pelvis = {0.066, 0.484, -0.055};
    p.trunkLean = -4;
    p.trunkBend = 15;
    p.pelvisYaw = p.shoulderYaw = 0;
    p.headYaw = 62;
    p.leadKneeYaw = 12;
    p.trailKneeYaw = -12;
    p.lead = {{0.236, 0, 0.065}, 8, 0};
    p.trail = {{0, 0, 0.06}, 0, 0};
    p.dom = p.off = gathered(0);
    return p;
}

Pose liftPose()
{
    Pose p = setPose();
    p.pelvis = {0.022, 0.515, -0.025};
    p.trunkLean = -2;
    p.trunkBend = 8;
    p.pelvisYaw = -16;
    p.pelvisTilt = 7;
    p.shoulderYaw = -8;
    p.headYaw = 72;
    p.leadKneeYaw = 0;
    p.lead = {{0.075, 0.245, 0.245}, 5, 25};
    p.dom = p.off = gathered(0.12);
    return p;
}

Pose breakPose()
{
    Pose p = liftPose();
    p.pelvis = {0.075, 0.497, -0.03};
    p.trunkLean = -5;
    p.trunkBend = 5;
    p.pelvisYaw = -10;
    p.pelvisTilt = 4;
    p.leadKneeYaw = 18;
    p.trailKneeYaw = 12;
    p.lead = {{0.10, 0.175, 0.225}, 8, 30};
    p.dom = {{0.22, -0.95, 0.18}, {0.62, -0.10, -0.70}};
    p.off = {{0.30, -0.90, 0.22}, {0.72, 0.22, -0.55}};
    return p;
}

Pose drivePose()
{
    Pose p = breakPose();
    p.pelvis = {0.208, 0.414, -0.03};
    p.trunkLean = -8;
    p.trunkBend = 3;
    p.pelvisYaw = 6;
    p.pelvisTilt = 2;
    p.shoulderYaw = -6;
    p.headYaw = 80;
    p.leadKneeYaw = 40;
    p.trailKneeYaw = 25;
    p.lead = {{0.40, 0.075, 0.11}, 35, 12};
    p.trail = {{0, 0, 0.06}, 6, 6};
    p.dom = {{-0.20, -0.72, 0.66}, {-0.10, -0.80, 0.55}};
    p.off = {{0.30, -0.12, 0.90}, {0.45, 0.15, 0.70}};
    return p;
}

Pose strikePose()
{
    Pose p = drivePose();
    p.pelvis = {0.424, 0.405, -0.015};
    p.trunkLean = 0;
    p.trunkBend = 2;
    p.pelvisYaw = 52;
    p.pelvisTilt = 1;
    p.shoulderYaw = 18;
    p.headYaw = 86;
    p.leadKneeYaw = 82;
    p.trailKneeYaw = 62;
    p.lead = {{0.845, 0, 0.030}, 76, 0};
    p.trail = {{0.02, 0, 0.06}, 44, 68};
    p.dom = {{-0.12, 0.03, 1.00}, {0.10, 0.97, 0.08}};
    p.off = {{0.30, 0.04, 0.95}, {0.62, 0.25, -0.20}};
    return p;
}

Pose laybackPose()
{
    Pose p = strikePose();
    p.pelvis = {0.478, 0.424, -0.01};
    p.trunkLean = 12;
    p.pelvisYaw = 82;
    p.shoulderYaw = 72;
    p.shoulderTilt = 8;
    p.headYaw = 88;
    p.trailKneeYaw = 80;
    p.lead = {{0.845, 0, 0.030}, 76, 0};
    p.trail = {{0.12, 0.005, 0.06}, 62, 76};
    p.dom = {{0.05, 0.10, 0.99}, {-0.80, 0.38, 0.32}};
    p.off = {{0.05, -0.62, 0.72}, {0.72, 0.52, -0.40}};
    return p;
}

Pose releasePose()
{
    Pose p = laybackPose();
    p.pelvis = {0.535, 0.462, -0.01};
    p.trunkLean = 33;
    p.pelvisYaw = 92;
    p.shoulderYaw = 100;
    p.shoulderTilt = 12;
    p.headPitch = 8;
    p.trailKneeYaw = 88;
    p.trail = {{0.20, 0.04, 0.07}, 78, 86};
    p.dom = {{0.30, 0.12, 0.94}, {0.52, 0.58, 0.55}};
    p.off = {{0.05, -0.80, 0.50}, {0.62, 0.52, -0.58}};
    return p;
}

Pose throughPose()
{
    Pose p = releasePose();
    p.pelvis = {0.625, 0.482, -0.015};
    p.trunkLean = 76;
    p.pelvisYaw = 100;
    p.pelvisTilt = 4;
    p.shoulderYaw = 118;
    p.shoulderTilt = 14;
    p.headPitch = 20;
    p.leadKneeYaw = 88;
    p.trail = {{0.30, 0.16, 0.10}, 85, 75};
    p.dom = {{0.42, -0.12, 0.86}, {0.62, 0.18, 0.60}};
    p.off = {{-0.10, -0.72, 0.55}, {0.50, 0.55, -0.60}};
    return p;
}

Pose finishPose()
{
    Pose p = throughPose();
    p.pelvis = {0.735, 0.455, 0.07};
    p.trunkLean = 36;
    p.trunkBend = 3;
    p.pelvisYaw = 92;
    p.pelvisTilt = 0;
    p.shoulderYaw = 98;
    p.headPitch = 6;
    p.trailKneeYaw = 86;
    p.trail = {{0.80, 0, 0.230}, 84, 0};
    p.dom = {{0.28, -0.92, 0.22}, {0.80, -0.30, -0.45}};
    p.off = {{0.20, -0.90, 0.35}, {0.75, 0.10, -0.50}};
    return p;
}

/// Faces the target, then steps back and turns side-on: what comes before the lift in a wind-up.
Pose windupSetPose()
{
    Pose p = setPose();
    p.pelvis = {-0.01, 0.478, 0.0};
    p.pelvisYaw = p.shoulderYaw = 62;
    p.trunkLean = 7;
    p.trunkBend = 9;
    p.headYaw = 84;
    p.leadKneeYaw = p.trailKneeYaw = 62;
    p.lead = {{0.06, 0, -0.10}, 62, 0};
    p.trail = {{0.06, 0, 0.08}, 50, 0};
    return p;
}

Pose rockPose()
{
    Pose p = windupSetPose();
    p.pelvis = {-0.035, 0.497, -0.015};
    p.pelvisYaw = p.shoulderYaw = 48;
    p.trunkLean = 1;
    p.lead = {{-0.06, 0.0, -0.13}, 50, 20};
    p.trail = {{0.03, 0, 0.07}, 22, 0};
    p.leadKneeYaw = 50;
    p.trailKneeYaw = 22;
    p.headYaw = 78;
    p.dom = p.off = gathered(0.35);
    return p;
}

/// One repetition's key poses with what the options change.
class PitchBuilder {
public:
    explicit PitchBuilder(const MotionOptions& options) : m_options(options)
    {
        if (options.variant == "windup")
            m_keys = {{"set", -2.05, windupSetPose(), 0}, {"", -1.45, rockPose(), 0}, {"lift", -0.78, liftPose(), 0}};
        else
            m_keys = {{"set", -1.45, setPose(), 0}, {"lift", -0.78, liftPose(), 0}};
        for (const KeyPose& k : {KeyPose{"break", -0.70, breakPose(), 0}, KeyPose{"drive", -0.26, drivePose(), 0},
                                 KeyPose{"strike", 0, strikePose(), 0}, KeyPose{"layback", 0.085, laybackPose(), 0},
                                 KeyPose{"release", 0.135, releasePose(), 0}, KeyPose{"through", 0.235, throughPose(), 0},
                                 KeyPose{"finish", 0.80, finishPose(), 0}})
            m_keys.push_back(k);
    }

    Motion build()
    {
        if (m_options.school == "low-drive")
            applyLowDrive();
        applyHeadDrop(amount("head_drop"));
        applyLateHands(amount("late_hands"));
        applyOpenLanding(amount("open_landing"));
        applyStiffFrontLeg(amount("stiff_front_leg"));
        applyGloveFliesOut(amount("glove_flies_out"));
        applyShortStride(amount("short_stride"));
        varyBySeed();
        return Motion(std::move(m_keys));
    }

private:
    double amount(const std::string& fault) const
    {
        const auto it = m_options.faults.find(fault);
        return it == m_options.faults.end() ? 0 : it->second;
    }

    KeyPose& key(const std::string& name)
    {
        for (auto& k : m_keys)
            if (k.keyPosition == name)
                return k;
        return m_keys.front();
    }
    Pose& pose(const std::string& name) { return key(name).pose; }

    /// The lead foot is planted from landing to the end.
    template <class Change> void changePlantedLead(Change change)
    {
        for (const char* name : {"strike", "layback", "release", "through", "finish"})
            change(pose(name));
    }

    void applyLowDrive()
    {
        pose("drive").pelvis += Vec3(0.0, -0.034, 0);
        pose("strike").pelvis += Vec3(0.036, -0.032, 0);
        pose("layback").pelvis += Vec3(0.050, -0.022, 0);
        for (const char* name : {"release", "through", "finish"})
            pose(name).pelvis.x() += 0.058;
        for (const char* name : {"layback", "release", "through"})
            pose(name).trail.toe.x() += 0.05;
        changePlantedLead([](Pose& p) { p.lead.toe.x() += 0.06; });
        pose("finish").trail.toe.x() += 0.06;
    }

    /// The back leg folds under the body as it drives, and the head sinks with it.
    void applyHeadDrop(double a)
    {
        pose("drive").pelvis += a * Vec3(-0.02, -0.135, 0);
        pose("strike").pelvis += a * Vec3(-0.055, -0.085, 0);
        pose("layback").pelvis += a * Vec3(-0.035, -0.045, 0);
    }

    /// The hands part late, so the arm is still on its way up when the foot lands.
    void applyLateHands(double a)
    {
        key("break").seconds += 0.20 * a;
        key("break").pose.pelvis += a * Vec3(0.035, -0.012, 0);
        key("drive").armDelay = 0.235 * a;
        key("strike").armDelay = 0.070 * a;
        key("layback").armDelay = 0.020 * a;
        pose("layback").dom.upper += a * Vec3(0, 0.10, 0);
    }

    /// The foot lands to the glove side with the toe and hips already open.
    void applyOpenLanding(double a)
    {
        changePlantedLead([&](Pose& p) {
            p.lead.toe.z() -= 0.14 * a;
            p.lead.yaw += 24 * a;
        });
        pose("strike").pelvisYaw += 10 * a;
        pose("strike").shoulderYaw += 20 * a;
        for (const char* name : {"strike", "layback", "release", "through"})
            pose(name).pelvis.z() -= 0.05 * a;
    }

    /// The front knee hardly bends, the body stops behind it and the head pops up.
    void applyStiffFrontLeg(double a)
    {
        pose("strike").pelvis += a * Vec3(-0.048, 0.002, 0);
        pose("layback").pelvis += a * Vec3(-0.055, 0.005, 0);
        pose("release").pelvis += a * Vec3(-0.052, 0.004, 0);
        pose("release").trunkLean -= 14 * a;
        pose("through").pelvis += a * Vec3(-0.085, 0.012, 0);
        pose("through").trunkLean -= 44 * a;
    }

    /// The glove arm swings wide and away instead of folding to the chest.
    void applyGloveFliesOut(double a)
    {
        pose("strike").off.fore += a * Vec3(-0.28, -0.10, 1.20);
        pose("layback").off.upper += a * Vec3(-0.45, 0.35, 0.35);
        pose("layback").off.fore += a * Vec3(-1.00, -0.60, 1.20);
        pose("release").off.upper += a * Vec3(-0.75, 0.30, 0.45);
        pose("release").off.fore += a * Vec3(-1.40, -0.95, 1.20);
        pose("through").off.upper += a * Vec3(-0.45, 0.25, 0.40);
        pose("through").off.fore += a * Vec3(-0.80, -0.60, 1.00);
        pose("layback").shoulderYaw += 6 * a;
    }

    void applyShortStride(double a)
    {
        changePlantedLead([&](Pose& p) { p.lead.toe.x() -= 0.17 * a; });
        pose("drive").lead.toe.x() -= 0.06 * a;
        pose("drive").pelvis.x() -= 0.03 * a;
        pose("strike").pelvis += a * Vec3(-0.115, 0.018, 0);
        for (const char* name : {"layback", "release", "through", "finish"})
            pose(name).pelvis.x() -= 0.155 * a;
        pose("finish").trail.toe.x() -= 0.17 * a;
    }

    /// No two repetitions are alike: about a degree, half a per cent of height and two per cent of the timing.
    void varyBySeed()
    {
        const Draw draw(m_options.seed);
        for (std::size_t i = 0; i < m_keys.size(); ++i) {
            KeyPose& k = m_keys[i];
            const auto some = [&](std::uint64_t what) { return draw.normal(Draw::mix(0x51b, i * 16 + what)); };
            k.pose.trunkLean += 0.8 * some(1);
            k.pose.pelvisYaw += 1.0 * some(2);
            k.pose.shoulderYaw += 1.2 * some(3);
            k.pose.pelvis.y() += 0.002 * some(4);
            k.pose.dom.upper.y() += 0.015 * some(5);
            k.pose.dom.fore.y() += 0.015 * some(6);
            if (k.keyPosition != "strike")
                k.seconds *= 1 + 0.015 * draw.normal(0x7e);
        }
    }

    MotionOptions m_options;
    std::vector<KeyPose> m_keys;
};

} // namespace

Motion overhandPitch(const MotionOptions& options)
{
    return PitchBuilder(options).build();
}

} // namespace kestrel::sim
