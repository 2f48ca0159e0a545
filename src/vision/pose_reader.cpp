#include "vision/pose_reader.h"

#include "vision/heat_map.h"
#include "vision/sigmoid.h"

#include <algorithm>

namespace kestrel::vision {

namespace {

constexpr int kSide = 256;       // pixels the network looks at
constexpr std::size_t kAll = 39; // points it gives: those of the body, then two that frame it, then hands' ends
constexpr std::size_t kMiddle = 33, kRim = 34;
constexpr std::size_t kNumbers = 5; // to a point: x, y, depth, visibility, presence
constexpr double kCertain = 0.5;
constexpr int kMap = 64;        // cells of a heat map, each way
constexpr double kMargin = 1.2; // of the square that just holds a body; chosen on painted films of all skills

enum Output { kPoints, kFlag, kMaps }; // in the order of kResultsRead

/// Of a mirrored body: its left points are those of the right side.
void exchangeSides(std::array<SeenPoint, kPosePoints>& points)
{
    const auto exchange = [&](PosePoint left, PosePoint right) {
        std::swap(points[static_cast<std::size_t>(left)], points[static_cast<std::size_t>(right)]);
    };
    exchange(PosePoint::LeftEyeInner, PosePoint::RightEyeInner);
    exchange(PosePoint::LeftEye, PosePoint::RightEye);
    exchange(PosePoint::LeftEyeOuter, PosePoint::RightEyeOuter);
    for (auto n = static_cast<std::size_t>(PosePoint::LeftEar); n + 1 < points.size(); n += 2) // pairs from there on
        std::swap(points[n], points[n + 1]);
}

} // namespace

Region regionAfter(const Pose& now, const std::optional<Pose>& before, std::size_t ahead)
{
    double needed = 0;
    for (std::size_t n = 0; n < now.points.size(); ++n) {
        const ImagePoint at = now.points[n].at;
        needed = std::max(needed, now.next.sideTo(at));
        if (before)
            needed = std::max(needed, now.next.sideTo(at + (at - before->points[n].at) * static_cast<double>(ahead)));
    }
    Region region = now.next;
    region.side = std::min(region.side, kMargin * needed);
    return region;
}

Expected<PoseReader> PoseReader::load(const std::string& file)
{
    auto network = Network::load(file, kResultsRead);
    if (!network)
        return tl::unexpected(network.error());
    if (network->input().size() != kSide * kSide * 3 || network->outputs() != std::size(kResultsRead) ||
        network->output(kPoints).size() != kAll * kNumbers || network->output(kFlag).size() != 1 ||
        network->output(kMaps).size() != kMap * kMap * kAll)
        return fail(ErrorCode::BadArgument, "This is not the network that finds the points of a body.", file);
    return PoseReader(std::move(*network));
}

Expected<PoseReader> PoseReader::another() const
{
    auto network = m_network.another();
    if (!network)
        return tl::unexpected(network.error());
    return PoseReader(std::move(*network));
}

std::optional<Pose> PoseReader::read(const media::Picture& picture, const Region& region)
{
    sample(picture, region, kSide, Beyond::Border, 0, 1, m_network.input());
    if (!m_network.run() || m_network.output(kFlag).front() < kCertain)
        return std::nullopt;
    Pose pose;
    pose.certainty = m_network.output(kFlag).front();
    const auto numbers = m_network.output(kPoints);
    const HeatMaps maps{m_network.output(kMaps), kMap, kAll};
    const auto onPicture = [&](std::size_t n) {
        constexpr double kCell = static_cast<double>(kSide) / kMap; // pixels
        const ImagePoint p = topNear({numbers[n * kNumbers] / kCell, numbers[n * kNumbers + 1] / kCell}, maps, n);
        return region.at(p.x / kMap, p.y / kMap);
    };
    for (std::size_t n = 0; n < kPosePoints; ++n)
        pose.points[n] = {onPicture(n), sigmoid(numbers[n * kNumbers + 3])};
    if (region.isMirrored)
        exchangeSides(pose.points);
    pose.next = regionFrom(onPicture(kMiddle), onPicture(kRim));
    return pose;
}

} // namespace kestrel::vision
