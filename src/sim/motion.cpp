#include "sim/motion.h"

#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

/// Visits every number of a pose, always in the same order; the dominant arm comes last.
template <class P, class Visit> void eachNumber(P& p, Visit visit)
{
    const auto vector = [&](auto& v) {
        visit(v.x());
        visit(v.y());
        visit(v.z());
    };
    const auto foot = [&](auto& f) {
        vector(f.toe);
        visit(f.yaw);
        visit(f.pitch);
    };
    vector(p.pelvis);
    visit(p.pelvisYaw);
    visit(p.pelvisTilt);
    visit(p.trunkLean);
    visit(p.trunkBend);
    visit(p.shoulderYaw);
    visit(p.shoulderTilt);
    visit(p.headYaw);
    visit(p.headPitch);
    visit(p.leadKneeYaw);
    visit(p.trailKneeYaw);
    foot(p.lead);
    foot(p.trail);
    vector(p.off.upper);
    vector(p.off.fore);
    vector(p.dom.upper);
    vector(p.dom.fore);
}

constexpr std::size_t kArmNumbers = 6; // the last ones visited: the dominant arm's

/// Slopes that keep each stretch monotone; flat at extremes and at both ends.
std::vector<double> monotoneSlopes(const std::vector<double>& t, const std::vector<double>& v)
{
    std::vector<double> slopes(t.size(), 0.0);
    for (std::size_t i = 1; i + 1 < t.size(); ++i) {
        const double h0 = t[i] - t[i - 1], h1 = t[i + 1] - t[i];
        const double d0 = (v[i] - v[i - 1]) / h0, d1 = (v[i + 1] - v[i]) / h1;
        if (d0 * d1 > 0) {
            const double w0 = 2 * h1 + h0, w1 = h1 + 2 * h0;
            slopes[i] = (w0 + w1) / (w0 / d0 + w1 / d1); // weighted harmonic mean
        }
    }
    return slopes;
}

} // namespace

Motion::Motion(std::vector<KeyPose> keys) : m_keys(std::move(keys))
{
    std::vector<std::vector<double>> columns;
    for (const auto& key : m_keys) {
        std::size_t i = 0;
        eachNumber(key.pose, [&](double v) {
            if (i == columns.size())
                columns.emplace_back();
            columns[i++].push_back(v);
        });
    }
    for (std::size_t i = 0; i < columns.size(); ++i) {
        Channel c;
        const bool isArm = i + kArmNumbers >= columns.size();
        for (const auto& key : m_keys)
            c.times.push_back(key.seconds + (isArm ? key.armDelay : 0));
        c.values = std::move(columns[i]);
        c.slopes = monotoneSlopes(c.times, c.values);
        m_channels.push_back(std::move(c));
    }
}

double Motion::Channel::at(double t) const
{
    if (t <= times.front())
        return values.front();
    if (t >= times.back())
        return values.back();
    const auto i = static_cast<std::size_t>(std::upper_bound(times.begin(), times.end(), t) - times.begin()) - 1;
    const double h = times[i + 1] - times[i], s = (t - times[i]) / h;
    const double a = s * s * (3 - 2 * s);
    return values[i] + (values[i + 1] - values[i]) * a +
           h * (s * (1 - s) * (1 - s) * slopes[i] - s * s * (1 - s) * slopes[i + 1]);
}

Pose Motion::at(double t) const
{
    Pose pose;
    std::size_t i = 0;
    eachNumber(pose, [&](double& v) { v = m_channels[i++].at(t); });
    return pose;
}

double Motion::secondsOf(const std::string& keyPosition) const
{
    const auto it = std::find_if(m_keys.begin(), m_keys.end(), [&](const KeyPose& k) { return k.keyPosition == keyPosition; });
    return it == m_keys.end() ? 0 : it->seconds;
}

} // namespace kestrel::sim
