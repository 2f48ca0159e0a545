#pragma once

#include "vision/network.h"
#include "vision/region.h"

#include <array>
#include <optional>

namespace kestrel::vision {

/// The network's points, in its order. Left and right are the body's own.
enum class PosePoint {
    Nose,
    LeftEyeInner,
    LeftEye,
    LeftEyeOuter,
    RightEyeInner,
    RightEye,
    RightEyeOuter,
    LeftEar,
    RightEar,
    MouthLeft,
    MouthRight,
    LeftShoulder,
    RightShoulder,
    LeftElbow,
    RightElbow,
    LeftWrist,
    RightWrist,
    LeftLittleFinger,
    RightLittleFinger,
    LeftIndexFinger,
    RightIndexFinger,
    LeftThumb,
    RightThumb,
    LeftHip,
    RightHip,
    LeftKnee,
    RightKnee,
    LeftAnkle,
    RightAnkle,
    LeftHeel,
    RightHeel,
    LeftToe,
    RightToe,
};
inline constexpr std::size_t kPosePoints = 33;

/// Where the network sees a point on the picture.
struct SeenPoint {
    ImagePoint at;
    double visible = 0; ///< 0 to 1: not hidden by something
};

struct Pose {
    std::array<SeenPoint, kPosePoints> points;
    Region next;          ///< where the network would look on the next picture; see regionAfter()
    double certainty = 0; ///< 0 to 1: there is a person

    const SeenPoint& operator[](PosePoint p) const { return points[static_cast<std::size_t>(p)]; }
};

/// Where to look for a body on the pictures after \p now. What the network itself says has room for arms and legs held out to all
/// sides; the less of that the body needs, now and as it goes on moving, the closer it is looked at, and the better it is seen:
/// in the square about its middle that just holds it, and a fifth more.
///
/// \param before the picture before \p now, in the order in which they are read; empty: nobody was seen on it
/// \param ahead how many pictures on the square is still looked at
Region regionAfter(const Pose& now, const std::optional<Pose>& before, std::size_t ahead);

/// Those of the network's results that are read: the points, the certainty and the maps of where each point may be; neither the
/// outline of the body nor its points in space.
inline constexpr std::size_t kResultsRead[]{0, 1, 3};

/// Finds the points of the one person in a region.
class PoseReader {
public:
    /// Errors: those of Network::load; BadArgument when the network is another one.
    static Expected<PoseReader> load(const std::string& file);
    /// The same for another thread, as Network::another().
    Expected<PoseReader> another() const;

    /// Empty: nobody there. In a mirrored region left and right are the body's own all the same, and where to look next is not
    /// mirrored.
    std::optional<Pose> read(const media::Picture&, const Region&);

private:
    explicit PoseReader(Network network) : m_network(std::move(network)) {}
    Network m_network;
};

} // namespace kestrel::vision
