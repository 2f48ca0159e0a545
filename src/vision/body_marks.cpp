#include "vision/body_marks.h"

#include "core/smooth_marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <span>

namespace kestrel::vision {

namespace {

/// A landmark, what the network calls it (the mean of two where it has no such point), and its sigma as a share of the
/// trunk's length when seen well.
struct Seat {
    Part part;
    BodySide side;
    PosePoint a, b;
    double sigma;
};
constexpr BodySide L = BodySide::Left, R = BodySide::Right, N = BodySide::None;
constexpr Seat kSeats[] = {
    {Part::Nose, N, PosePoint::Nose, PosePoint::Nose, 0.045},
    {Part::Eye, L, PosePoint::LeftEye, PosePoint::LeftEye, 0.055},
    {Part::Eye, R, PosePoint::RightEye, PosePoint::RightEye, 0.055},
    {Part::Ear, L, PosePoint::LeftEar, PosePoint::LeftEar, 0.07},
    {Part::Ear, R, PosePoint::RightEar, PosePoint::RightEar, 0.07},
    {Part::Shoulder, L, PosePoint::LeftShoulder, PosePoint::LeftShoulder, 0.055},
    {Part::Shoulder, R, PosePoint::RightShoulder, PosePoint::RightShoulder, 0.055},
    {Part::Elbow, L, PosePoint::LeftElbow, PosePoint::LeftElbow, 0.08},
    {Part::Elbow, R, PosePoint::RightElbow, PosePoint::RightElbow, 0.08},
    {Part::Wrist, L, PosePoint::LeftWrist, PosePoint::LeftWrist, 0.08},
    {Part::Wrist, R, PosePoint::RightWrist, PosePoint::RightWrist, 0.08},
    {Part::Hand, L, PosePoint::LeftIndexFinger, PosePoint::LeftLittleFinger, 0.10},
    {Part::Hand, R, PosePoint::RightIndexFinger, PosePoint::RightLittleFinger, 0.10},
    {Part::Hip, L, PosePoint::LeftHip, PosePoint::LeftHip, 0.04},
    {Part::Hip, R, PosePoint::RightHip, PosePoint::RightHip, 0.04},
    {Part::Knee, L, PosePoint::LeftKnee, PosePoint::LeftKnee, 0.05},
    {Part::Knee, R, PosePoint::RightKnee, PosePoint::RightKnee, 0.05},
    {Part::Ankle, L, PosePoint::LeftAnkle, PosePoint::LeftAnkle, 0.06},
    {Part::Ankle, R, PosePoint::RightAnkle, PosePoint::RightAnkle, 0.06},
    {Part::Heel, L, PosePoint::LeftHeel, PosePoint::LeftHeel, 0.07},
    {Part::Heel, R, PosePoint::RightHeel, PosePoint::RightHeel, 0.07},
    {Part::Toe, L, PosePoint::LeftToe, PosePoint::LeftToe, 0.07},
    {Part::Toe, R, PosePoint::RightToe, PosePoint::RightToe, 0.07},
};
constexpr std::size_t kCount = std::size(kSeats);
constexpr double kHidden = 0.5; // less visible than that: something is in front of it
constexpr double kUnsure = 2.0; // how much wider the sigma of a point is that is hidden
constexpr double kLegShare = 0.491;
constexpr double kSwapCost = 1; // trunk lengths for each second in which a limb's sides are swapped
constexpr double kJump = 0.35;  // of the trunk's length: farther off its neighbours' middle is a slip

/// Where each landmark was seen on one picture.
struct Seen {
    std::array<ImagePoint, kCount> at;
    std::array<double, kCount> visible;
};

Seen seenIn(const Pose& pose)
{
    Seen s;
    for (std::size_t n = 0; n < kCount; ++n) {
        const SeenPoint &a = pose[kSeats[n].a], &b = pose[kSeats[n].b];
        s.at[n] = midpoint(a.at, b.at);
        s.visible[n] = std::min(a.visible, b.visible);
    }
    return s;
}

double distance(ImagePoint a, ImagePoint b)
{
    return (a - b).length();
}

/// Paired landmarks follow each other in the list, the left one first. The network takes arms and legs for each other now
/// and then, each limb as a whole.
constexpr Part kArm[] = {Part::Shoulder, Part::Elbow, Part::Wrist, Part::Hand};
constexpr Part kLeg[] = {Part::Hip, Part::Knee, Part::Ankle, Part::Heel, Part::Toe};

bool isLeftOf(const Seat& seat, std::span<const Part> limb)
{
    return seat.side == L && std::find(limb.begin(), limb.end(), seat.part) != limb.end();
}

/// How far the landmarks of a limb, both sides, go from one picture to the next, pixels.
double wayOf(const Seen& from, const Seen& to, std::span<const Part> limb, bool isCrossed)
{
    double way = 0;
    for (std::size_t n = 0; n < kCount; ++n)
        if (isLeftOf(kSeats[n], limb))
            way += distance(from.at[n], to.at[isCrossed ? n + 1 : n]) + distance(from.at[n + 1], to.at[isCrossed ? n : n + 1]);
    return way;
}

void swapSides(Seen& s, std::span<const Part> limb)
{
    for (std::size_t n = 0; n < kCount; ++n)
        if (isLeftOf(kSeats[n], limb)) {
            std::swap(s.at[n], s.at[n + 1]);
            std::swap(s.visible[n], s.visible[n + 1]);
        }
}

/// Swaps a limb's sides back where the network took them for each other for a while: of all ways to swap or leave each
/// picture, the one that makes the limbs go the shortest way, where every swapped picture costs something, so that what
/// the network says most of the time counts as right.
void mendSides(std::vector<std::optional<Seen>>& all, std::span<const Part> limb, double costPerPicture)
{
    struct Choice {
        double cost[2]{};  // up to here, with this picture as it is and swapped
        bool crossed[2]{}; // whether the picture before is in the other state then
    };
    std::vector<Choice> choices(all.size());
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Choice before = i > 0 ? choices[i - 1] : Choice{};
        const bool hasBoth = i > 0 && all[i] && all[i - 1];
        const double straight = hasBoth ? wayOf(*all[i - 1], *all[i], limb, false) : 0;
        const double crossed = hasBoth ? wayOf(*all[i - 1], *all[i], limb, true) : 0;
        for (const int state : {0, 1}) {
            const double keep = before.cost[state] + straight, change = before.cost[1 - state] + crossed;
            choices[i].crossed[state] = change < keep;
            choices[i].cost[state] = std::min(keep, change) + (state == 1 ? costPerPicture : 0);
        }
    }
    if (all.empty())
        return;
    int state = choices.back().cost[1] < choices.back().cost[0] ? 1 : 0;
    for (std::size_t i = all.size(); i-- > 0;) {
        const bool isCrossed = choices[i].crossed[state];
        if (state == 1 && all[i])
            swapSides(*all[i], limb);
        state = isCrossed ? 1 - state : state;
    }
}

std::size_t ordinalOf(Part part, BodySide side)
{
    for (std::size_t n = 0; n < kCount; ++n)
        if (kSeats[n].part == part && kSeats[n].side == side)
            return n;
    return 0;
}

/// The trunk's length on the film, pixels: nine tenths of the way up those measured, since a turned or bent trunk looks shorter.
double trunkLength(const std::vector<std::optional<Seen>>& all)
{
    std::vector<double> lengths;
    const auto shoulder = ordinalOf(Part::Shoulder, L), hip = ordinalOf(Part::Hip, L);
    for (const auto& s : all)
        if (s)
            lengths.push_back(distance(midpoint(s->at[shoulder], s->at[shoulder + 1]), midpoint(s->at[hip], s->at[hip + 1])));
    if (lengths.empty())
        return 0;
    const auto at = lengths.begin() + static_cast<std::ptrdiff_t>(0.9 * static_cast<double>(lengths.size() - 1));
    std::nth_element(lengths.begin(), at, lengths.end());
    return *at;
}

/// A point that is far from where both neighbours say it should be, while they agree.
bool isSlip(const std::vector<std::optional<Seen>>& all, std::size_t i, std::size_t n, double trunk)
{
    if (i == 0 || i + 1 >= all.size() || !all[i - 1] || !all[i + 1])
        return false;
    const ImagePoint a = all[i - 1]->at[n], b = all[i + 1]->at[n];
    return distance(all[i]->at[n], midpoint(a, b)) > kJump * trunk + 0.5 * distance(a, b);
}

} // namespace

std::vector<Mark> bodyMarks(const PoseTrack& track, const FrameClock& clock)
{
    std::vector<std::optional<Seen>> all;
    for (const auto& pose : track.poses)
        all.push_back(pose ? std::optional(seenIn(*pose)) : std::nullopt);
    const double trunk = trunkLength(all);
    for (const std::span<const Part> limb : {std::span<const Part>(kArm), std::span<const Part>(kLeg)})
        mendSides(all, limb, kSwapCost * trunk * clock.meanInterval());
    std::vector<Mark> marks;
    for (std::size_t n = 0; n < kCount; ++n) {
        std::vector<Mark> own;
        for (std::size_t i = 0; i < all.size(); ++i) {
            const FrameIndex frame(track.first.value + static_cast<std::int64_t>(i));
            if (!all[i] || isSlip(all, i, n, trunk))
                continue;
            const bool isSeen = all[i]->visible[n] >= kHidden;
            own.push_back({frame,
                           {kSeats[n].part, kSeats[n].side, {}},
                           all[i]->at[n],
                           trunk * kSeats[n].sigma * (isSeen ? 1 : kUnsure),
                           Source::Network,
                           isSeen});
        }
        const bool isFast = clock.meanInterval() > 0 && clock.meanInterval() <= kSmoothReach / 2;
        if (isFast)
            own = smoothedMarks(own, clock, kSmoothReach);
        marks.insert(marks.end(), own.begin(), own.end());
    }
    return marks;
}

std::optional<Scale> scaleFromHeight(const std::vector<Mark>& marks, double heightMetres)
{
    std::map<std::int64_t, std::array<const Mark*, 2>> legs[2];
    for (const auto& m : marks)
        if (m.landmark.part == Part::Hip || m.landmark.part == Part::Ankle)
            legs[m.landmark.side == L ? 0 : 1][m.frame.value][m.landmark.part == Part::Hip ? 0 : 1] = &m;
    std::vector<Scale> all;
    for (const auto& leg : legs)
        for (const auto& [frame, ends] : leg)
            if (ends[0] && ends[1])
                all.push_back({ends[0]->at, ends[1]->at, kLegShare * heightMetres});
    if (all.empty())
        return std::nullopt;
    // not the longest, which is the noise's, but nearly
    const auto at = all.begin() + static_cast<std::ptrdiff_t>(0.95 * static_cast<double>(all.size() - 1));
    std::nth_element(all.begin(), at, all.end(),
                     [](const Scale& a, const Scale& b) { return distance(a.from, a.to) < distance(b.from, b.to); });
    return *at;
}

} // namespace kestrel::vision
