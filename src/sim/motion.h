#pragma once

#include "sim/pose.h"

#include <map>
#include <string>
#include <vector>

namespace kestrel::sim {

/// A pose at an instant, seconds; a name makes it one of the skill's key positions.
struct KeyPose {
    std::string keyPosition;
    double seconds = 0;
    Pose pose;
    std::map<std::string, double> delay; ///< part of the pose -> seconds by which it comes later than the rest
};

/// A whole movement through key poses. Each number of the pose follows a monotone cubic (Fritsch and Carlson 1980):
/// it never overshoots a key pose, so planted feet stay where they are and an extreme lies at its key pose.
class Motion {
public:
    /// \param keys  at least two, in rising time order
    explicit Motion(std::vector<KeyPose> keys);

    const std::vector<KeyPose>& keys() const { return m_keys; }
    double begin() const { return m_keys.front().seconds; }
    double end() const { return m_keys.back().seconds; }
    /// Before the first and after the last key pose the body holds still.
    Pose at(double seconds) const;
    /// Instant of a key position. The key position must exist.
    double secondsOf(const std::string& keyPosition) const;

private:
    struct Channel {
        std::vector<double> times, values, slopes;
        double at(double t) const;
    };
    std::vector<KeyPose> m_keys;
    std::vector<Channel> m_channels; // in the order the numbers are visited
};

} // namespace kestrel::sim
