#include "sim/style.h"

#include "core/base/error_sample.h"

#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kAngle = 4, kPoseAngle = 1.5; // degrees: in all poses alike, and from pose to pose
constexpr double kTempo = 0.1, kStance = 0.05, kHeight = 0.006, kArms = 0.02, kBreadth = 0.04, kThighs = 0.015;
constexpr double kMost = 2; // times the usual

/// The draws of one style.
class Draws {
public:
    explicit Draws(const Style& style) : m_style(style), m_sample(style.number) {}

    /// About so large, never more than twice.
    double some(StylePart part, std::uint64_t what, double usual) const
    {
        const std::uint8_t redraws = m_style.redraws[static_cast<std::size_t>(part)];
        const double left = 1 - static_cast<double>(redraws) / kMostRedraws;
        const std::uint64_t key = (static_cast<std::uint64_t>(part) * 16 + redraws) * 4096 + what;
        return left * usual * std::clamp(m_sample.normal(ErrorSample::mix(0x57e, key)), -kMost, kMost);
    }

private:
    Style m_style;
    ErrorSample m_sample;
};

/// One key pose of a person.
class PoseStyler {
public:
    PoseStyler(const Draws& draws, std::size_t pose) : m_draws(draws), m_pose(pose) {}

    void change(Pose& p)
    {
        const double alongTarget = 1 + m_draws.some(StylePart::Stance, 1, kStance),
                     across = 1 + m_draws.some(StylePart::Stance, 2, kStance);
        for (Vec3* at : {&p.pelvis, &p.lead.toe, &p.trail.toe}) {
            at->x() *= alongTarget;
            at->z() *= across;
        }
        p.pelvis.y() += m_draws.some(StylePart::Hips, 1, kHeight);
        turn(StylePart::Hips, {&p.pelvisYaw, &p.pelvisTilt});
        turn(StylePart::Trunk, {&p.trunkLean, &p.trunkBend});
        turn(StylePart::Shoulders, {&p.shoulderYaw, &p.shoulderTilt});
        turn(StylePart::Head, {&p.headYaw, &p.headPitch});
        turn(StylePart::Feet, {&p.lead.yaw, &p.trail.yaw, &p.leadKneeYaw, &p.trailKneeYaw});
        swing(StylePart::OffArm, {&p.off.upper, &p.off.fore});
        swing(StylePart::DomArm, {&p.dom.upper, &p.dom.fore});
        swing(StylePart::Implement, {&p.implement.axis, &p.implement.face});
    }

private:
    double angle(StylePart part)
    {
        const std::uint64_t what = 8 + m_number++;
        return m_draws.some(part, what, kAngle) + m_draws.some(part, what + 64 * (1 + m_pose), kPoseAngle);
    }
    void turn(StylePart part, std::initializer_list<double*> angles)
    {
        for (double* a : angles)
            *a += angle(part);
    }
    void swing(StylePart part, std::initializer_list<Vec3*> directions)
    {
        constexpr double kDegree = std::numbers::pi / 180;
        for (Vec3* d : directions) {
            Vec3 about;
            for (double& a : about)
                a = angle(part);
            if (about.norm() > 0)
                *d = Eigen::AngleAxisd(about.norm() * kDegree / std::sqrt(2), about.normalized()) * *d;
        }
    }

    const Draws& m_draws;
    std::size_t m_pose;
    std::uint64_t m_number = 0;
};

/// Whether somebody who holds one also holds the other.
bool isHeld(Pose a, Pose b)
{
    constexpr double kSlack = 0.02;
    std::vector<double> numbers;
    eachPart(a, [&](const char*, auto& part) { eachNumber(part, [&](double& v) { numbers.push_back(v); }); });
    std::size_t i = 0;
    bool isSame = true;
    eachPart(b, [&](const char*, auto& part) {
        eachNumber(part, [&](double& v) { isSame = isSame && std::abs(v - numbers[i++]) <= kSlack; });
    });
    return isSame;
}

} // namespace

void apply(std::vector<KeyPose>& keys, const Style& style)
{
    if (style.number == 0 || keys.empty())
        return;
    const Draws draws(style);
    std::vector<std::size_t> numbers; // a pose that comes back is held in the same way
    for (std::size_t i = 0; i < keys.size(); ++i) {
        std::size_t first = 0;
        while (!isHeld(keys[first].pose, keys[i].pose))
            ++first;
        numbers.push_back(first);
    }
    for (std::size_t i = 0; i < keys.size(); ++i)
        PoseStyler(draws, numbers[i]).change(keys[i].pose);
    std::vector<double> seconds{keys.front().seconds};
    for (std::size_t i = 1; i < keys.size(); ++i)
        seconds.push_back(seconds.back() +
                          (keys[i].seconds - keys[i - 1].seconds) * (1 + draws.some(StylePart::Tempo, i, kTempo)));
    std::size_t still = 0;
    for (std::size_t i = 0; i < keys.size(); ++i)
        if (std::abs(keys[i].seconds) < std::abs(keys[still].seconds))
            still = i;
    const double shift = keys[still].seconds - seconds[still];
    for (std::size_t i = 0; i < keys.size(); ++i)
        keys[i].seconds = seconds[i] + shift;
}

Person styled(Person person, const Style& style)
{
    if (style.number == 0)
        return person;
    const Draws draws(style);
    person.breadth *= 1 + draws.some(StylePart::Build, 1, kBreadth);
    person.arms *= 1 + draws.some(StylePart::Build, 2, kArms);
    person.thighs *= 1 + draws.some(StylePart::Build, 3, kThighs);
    return person;
}

} // namespace kestrel::sim
