#include "sim/motion.h"

#include <algorithm>
#include <cmath>

namespace kestrel::sim {

namespace {

constexpr double kShortest = 0.004; // seconds between two keys of one number, however much the first is delayed

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
    std::size_t channels = 0;
    for (auto& key : m_keys) {
        std::size_t i = 0;
        eachPart(key.pose, [&](const char* part, auto& numbers) {
            const auto delay = key.delay.find(part);
            const double at = key.seconds + (delay == key.delay.end() ? 0 : delay->second);
            eachNumber(numbers, [&](double v) {
                if (i == m_channels.size())
                    m_channels.emplace_back();
                auto& times = m_channels[i].times;
                times.push_back(times.empty() ? at : std::max(at, times.back() + kShortest));
                m_channels[i++].values.push_back(v);
            });
        });
        channels = i;
    }
    for (std::size_t i = 0; i < channels; ++i)
        m_channels[i].slopes = monotoneSlopes(m_channels[i].times, m_channels[i].values);
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
    eachPart(pose, [&](const char*, auto& part) { eachNumber(part, [&](double& v) { v = m_channels[i++].at(t); }); });
    return pose;
}

double Motion::secondsOf(const std::string& keyPosition) const
{
    const auto it = std::find_if(m_keys.begin(), m_keys.end(), [&](const KeyPose& k) { return k.keyPosition == keyPosition; });
    return it == m_keys.end() ? 0 : it->seconds;
}

} // namespace kestrel::sim
