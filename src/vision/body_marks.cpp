#include "vision/body_marks.h"

#include "core/scene/smooth_marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <functional>
#include <limits>
#include <map>

namespace kestrel::vision {

namespace {

/// A landmark, what the network calls it (the mean of two where it has no such point), and its sigma as a share of the
/// trunk's length when seen well.
struct LandmarkSource {
    Part part;
    BodySide side;
    PosePoint a, b;
    double sigma;
};
constexpr BodySide L = BodySide::Left, R = BodySide::Right, N = BodySide::None;
constexpr LandmarkSource kLandmarkSources[] = {
    {Part::Nose, N, PosePoint::Nose, PosePoint::Nose, 0.028},
    {Part::Eye, L, PosePoint::LeftEye, PosePoint::LeftEye, 0.035},
    {Part::Eye, R, PosePoint::RightEye, PosePoint::RightEye, 0.035},
    {Part::Ear, L, PosePoint::LeftEar, PosePoint::LeftEar, 0.054},
    {Part::Ear, R, PosePoint::RightEar, PosePoint::RightEar, 0.054},
    {Part::Shoulder, L, PosePoint::LeftShoulder, PosePoint::LeftShoulder, 0.034},
    {Part::Shoulder, R, PosePoint::RightShoulder, PosePoint::RightShoulder, 0.034},
    {Part::Elbow, L, PosePoint::LeftElbow, PosePoint::LeftElbow, 0.029},
    {Part::Elbow, R, PosePoint::RightElbow, PosePoint::RightElbow, 0.029},
    {Part::Wrist, L, PosePoint::LeftWrist, PosePoint::LeftWrist, 0.037},
    {Part::Wrist, R, PosePoint::RightWrist, PosePoint::RightWrist, 0.037},
    {Part::Hand, L, PosePoint::LeftIndexFinger, PosePoint::LeftLittleFinger, 0.034},
    {Part::Hand, R, PosePoint::RightIndexFinger, PosePoint::RightLittleFinger, 0.034},
    {Part::Hip, L, PosePoint::LeftHip, PosePoint::LeftHip, 0.031},
    {Part::Hip, R, PosePoint::RightHip, PosePoint::RightHip, 0.031},
    {Part::Knee, L, PosePoint::LeftKnee, PosePoint::LeftKnee, 0.031},
    {Part::Knee, R, PosePoint::RightKnee, PosePoint::RightKnee, 0.031},
    {Part::Ankle, L, PosePoint::LeftAnkle, PosePoint::LeftAnkle, 0.029},
    {Part::Ankle, R, PosePoint::RightAnkle, PosePoint::RightAnkle, 0.029},
    {Part::Heel, L, PosePoint::LeftHeel, PosePoint::LeftHeel, 0.043},
    {Part::Heel, R, PosePoint::RightHeel, PosePoint::RightHeel, 0.043},
    {Part::Toe, L, PosePoint::LeftToe, PosePoint::LeftToe, 0.040},
    {Part::Toe, R, PosePoint::RightToe, PosePoint::RightToe, 0.040},
};
constexpr std::size_t kCount = std::size(kLandmarkSources);
constexpr double kHidden = 0.5; // less visible than that: something is in front of it
// Further sigma of a point that the network does not see at all, shares of the trunk's length: an arm may be anywhere, a leg is
// known by what is above and below. Of one that it sees in part, that part of it.
constexpr double kUnseen = 0.17, kUnseenLeg = 0.057, kUnseenHip = 0.11;
// The way of a point that the network only guesses counts that share of one that is seen; to come into sight or out of it, so
// many trunk lengths.
constexpr double kGuess = 0.2, kFade = 0.05;
constexpr double kSwapCost = 1;   // trunk lengths for each second in which a limb's sides are swapped
constexpr double kFeetStay = 0.2; // seconds in which the legs do not change places
// An arm that rests where the other one rested so many seconds ago: elbow and wrist within so many trunk lengths and no faster
// than so many a second, while their own place is farther away than so many or out of sight. What it costs, trunk lengths.
constexpr double kArmsApart = 0.15, kTaken = 0.25, kResting = 4, kElsewhere = 0.4, kTakenCost = 3;
// Shoulders that lie the other way round than the hips: how wide both have to look, as the product of their widths in trunk
// lengths, and what each second of it costs for each such square beyond, trunk lengths.
constexpr double kFacingSeen = 0.05, kTwistCost = 80;
// An athlete who stays in profile looks that narrow on average at the most, trunk lengths: the network cannot tell one arm from
// the other, but chest or back, as the view has it, says which shoulder lies to the left. What each second the other way round
// costs for each trunk length of width, trunk lengths. Whoever turns away in the end is believed throughout.
constexpr double kProfile = 0.07, kProfileCost = 40;
constexpr double kSlipLasts = 0.05; // seconds
constexpr double kJump = 0.12;      // of the trunk's length: farther off its neighbours' middle is a slip

// Marks are smoothed where there are no more than so many seconds between pictures: 50 a second; and over that many pictures
// to either side at least, a little more than three since no film is quite even.
constexpr double kSmoothed = 0.0201, kSmoothPictures = 3.2;

/// How far off a network is against the usual one.
double sigmaOf(BodyNetwork network)
{
    switch (network) {
    case BodyNetwork::Quick:
        return 1.3;
    case BodyNetwork::Usual:
        break;
    case BodyNetwork::Thorough:
        return 0.88;
    }
    return 1;
}

/// Where each landmark was seen on one picture.
struct Seen {
    std::array<ImagePoint, kCount> at;
    std::array<double, kCount> visible;
};

Seen seenIn(const Pose& pose)
{
    Seen s;
    for (std::size_t n = 0; n < kCount; ++n) {
        const SeenPoint &a = pose[kLandmarkSources[n].a], &b = pose[kLandmarkSources[n].b];
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
using IsOfLimb = bool (*)(Part);

/// Its sigma as a share of the trunk's length.
double sigmaOf(const LandmarkSource& source, double visible)
{
    const double unseen = source.part == Part::Hip ? kUnseenHip : isOfLeg(source.part) ? kUnseenLeg : kUnseen;
    return std::hypot(source.sigma, unseen * (1 - visible));
}

bool isLeftOf(const LandmarkSource& source, IsOfLimb isOfLimb)
{
    return source.side == L && isOfLimb(source.part);
}

/// How far the landmarks of a limb, both sides, go from one picture to the next, pixels; guesses jump, so that they count less.
/// \param fade  what it counts when a point comes into sight or out of it, pixels
double wayOf(const Seen& from, const Seen& to, IsOfLimb isOfLimb, double fade, bool isCrossed)
{
    const auto between = [&](std::size_t a, std::size_t b) {
        return std::lerp(kGuess, 1, std::min(from.visible[a], to.visible[b])) * distance(from.at[a], to.at[b]) +
               fade * std::abs(from.visible[a] - to.visible[b]);
    };
    double distance = 0;
    for (std::size_t n = 0; n < kCount; ++n)
        if (isLeftOf(kLandmarkSources[n], isOfLimb))
            distance += between(n, isCrossed ? n + 1 : n) + between(n + 1, isCrossed ? n : n + 1);
    return distance;
}

/// The same onto a picture from so many before; 0 where one of them is not known.
double distanceTo(const std::vector<std::optional<Seen>>& all, std::size_t picture, std::size_t back, IsOfLimb isOfLimb,
                  double trunk, bool isCrossed)
{
    return picture >= back && all[picture] && all[picture - back]
               ? wayOf(*all[picture - back], *all[picture], isOfLimb, kFade * trunk, isCrossed)
               : 0;
}

void swapSides(Seen& s, IsOfLimb isOfLimb)
{
    for (std::size_t n = 0; n < kCount; ++n)
        if (isLeftOf(kLandmarkSources[n], isOfLimb)) {
            std::swap(s.at[n], s.at[n + 1]);
            std::swap(s.visible[n], s.visible[n + 1]);
        }
}

/// What it costs that the sides of a limb are as the network says on one picture, and that they are swapped, pixels.
struct SideCost {
    double asSeen = 0, swapped = 0;
};

std::size_t ordinalOf(Part part, BodySide side)
{
    for (std::size_t n = 0; n < kCount; ++n)
        if (kLandmarkSources[n].part == part && kLandmarkSources[n].side == side)
            return n;
    return 0;
}

/// How many arms rest on a picture where the other one rested some pictures before, while their own place is elsewhere.
/// \param isCrossed  the sides are swapped between those pictures
int takenPlaces(const std::vector<std::optional<Seen>>& all, std::size_t picture, std::size_t reach, double trunk,
                double interval, bool isCrossed)
{
    if (picture < reach + 1 || picture + 1 >= all.size())
        return 0;
    const auto &before = all[picture - reach - 1], &then = all[picture - reach], &now = all[picture], &after = all[picture + 1];
    if (!before || !then || !now || !after)
        return 0;
    const auto isTaken = [&](std::size_t left, bool isRight) {
        const std::size_t was = left + isRight, own = left + (isRight != isCrossed), other = left + (isRight == isCrossed);
        const double slow = kResting * interval * trunk;
        return then->visible[was] > kHidden && now->visible[other] > kHidden &&
               distance(then->at[was], now->at[other]) < kTaken * trunk && distance(before->at[was], then->at[was]) < slow &&
               distance(now->at[other], after->at[other]) < slow &&
               (now->visible[own] <= kHidden || distance(then->at[was], now->at[own]) > kElsewhere * trunk);
    };
    const std::size_t elbow = ordinalOf(Part::Elbow, L), wrist = ordinalOf(Part::Wrist, L);
    int taken = 0;
    for (const bool isRight : {false, true})
        taken += isTaken(elbow, isRight) && isTaken(wrist, isRight);
    return taken;
}

/// A limb whose sides the network may have taken for each other, and how its places tell them apart.
struct Limb {
    IsOfLimb has;
    std::size_t reach = 0; ///< pictures in which two limbs do not change places, though they may cross; 0: they do
    /// What it costs, pixels, to come onto a picture from where they were that many pictures before, maybe with the sides
    /// crossed.
    std::function<double(std::size_t picture, bool isCrossed)> fromPlaces{};
};

/// Swaps a limb's sides back where the network took them for each other for a while: of all ways to swap or leave each picture,
/// the one that makes the limbs go the shortest way and costs the least. The way is measured to the picture before; where limbs
/// do not change places that fast, what comes from where they were placed is added: feet that the network slowly takes for each
/// other, while both stand, go a short way on each picture and a long one in all.
///
/// \param costs  of each picture; those of a picture that was swapped are swapped as well
void mendSides(std::vector<std::optional<Seen>>& all, const Limb& limb, double trunk, std::vector<SideCost>& costs)
{
    const std::size_t reach = limb.reach;
    // a state: whether a picture is swapped, and how many pictures ago that changed, as far as the reach counts
    const std::size_t ages = reach + 1, states = 2 * ages;
    const auto stateOf = [&](std::size_t swapped, std::size_t age) { return swapped * ages + age; };
    std::vector<double> cost(states, std::numeric_limits<double>::infinity());
    cost[stateOf(0, reach)] = cost[stateOf(1, reach)] = 0;
    std::vector<std::vector<std::uint16_t>> before(all.size(), std::vector<std::uint16_t>(states, 0));
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto distance = [&](bool isCrossed) { return distanceTo(all, i, 1, limb.has, trunk, isCrossed); };
        const auto fromPlaces = [&](bool isCrossed) {
            return reach > 0 ? limb.fromPlaces(i, isCrossed) / static_cast<double>(reach) : 0;
        };
        const double next[2]{distance(false), distance(true)}, placed[2]{fromPlaces(false), fromPlaces(true)};
        std::vector<double> now(states, std::numeric_limits<double>::infinity());
        for (std::size_t from = 0; from < states; ++from)
            for (const bool isChange : {false, true}) {
                if (isChange && from % ages < reach) // then the place before the last change would count as that before this one
                    continue;
                const std::size_t swapped = isChange ? 1 - from / ages : from / ages;
                const std::size_t age = isChange ? 0 : std::min(from % ages + 1, reach);
                const std::size_t to = stateOf(swapped, age);
                const double sum =
                    cost[from] + next[isChange] + placed[age < reach] + (swapped == 1 ? costs[i].swapped : costs[i].asSeen);
                if (sum < now[to]) {
                    now[to] = sum;
                    before[i][to] = static_cast<std::uint16_t>(from);
                }
            }
        cost = std::move(now);
    }
    auto state = static_cast<std::size_t>(std::min_element(cost.begin(), cost.end()) - cost.begin());
    for (std::size_t i = all.size(); i-- > 0;) {
        if (state / ages == 1 && all[i]) {
            swapSides(*all[i], limb.has);
            std::swap(costs[i].asSeen, costs[i].swapped);
        }
        state = before[i][state];
    }
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

/// How much the shoulders lie as the hips do: the product of their widths across the picture, in squared trunk lengths. No trunk
/// twists so far that both look wide and lie the other way round.
double facingTogether(const Seen& s, double trunk)
{
    const auto shoulder = ordinalOf(Part::Shoulder, L), hip = ordinalOf(Part::Hip, L);
    const ImageVector a = s.at[shoulder + 1] - s.at[shoulder], b = s.at[hip + 1] - s.at[hip];
    return trunk > 0 ? dot(a, b) / (trunk * trunk) : 0;
}

/// How far the right one of a pair is to the right of the left one, in trunk lengths.
double widthOf(const Seen& s, Part part, double trunk)
{
    const auto left = ordinalOf(part, L);
    return trunk > 0 ? (s.at[left + 1].x - s.at[left].x) / trunk : 0;
}

/// The athlete never turns away from the profile: shoulders and hips look narrow on the whole film.
bool staysInProfile(const std::vector<std::optional<Seen>>& all, double trunk)
{
    double sum = 0;
    int count = 0;
    for (const auto& s : all)
        if (s) {
            sum += (std::abs(widthOf(*s, Part::Shoulder, trunk)) + std::abs(widthOf(*s, Part::Hip, trunk))) / 2;
            ++count;
        }
    return sum < kProfile * count;
}

/// Swaps the sides of legs back, and then of arms, which lie as the legs do and, in profile, as the view says.
void tellSidesApart(std::vector<std::optional<Seen>>& all, double trunk, double interval, View view)
{
    // what the network says most of the time counts as right, so that every swapped picture costs something
    std::vector<SideCost> ofLegs(all.size(), {0, kSwapCost * trunk * interval}), ofArms = ofLegs;
    // Where the network cannot tell the front from the back its sides change on every other picture. Those are put right first:
    // how long ago a limb changed its sides says where it was placed only while that is rare.
    const auto picturesIn = [interval](double seconds) {
        return interval > 0 ? static_cast<std::size_t>(std::lround(seconds / interval)) : 0;
    };
    const std::size_t feetStay = picturesIn(kFeetStay), armsApart = picturesIn(kArmsApart);
    mendSides(all, {isOfLeg}, trunk, ofLegs);
    mendSides(all,
              {isOfLeg, feetStay,
               [&](std::size_t i, bool isCrossed) { return distanceTo(all, i, feetStay, isOfLeg, trunk, isCrossed); }},
              trunk, ofLegs);
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double together = all[i] ? facingTogether(*all[i], trunk) : 0;
        const double twist = kTwistCost * trunk * interval * std::max(0.0, std::abs(together) - kFacingSeen);
        (together < 0 ? ofArms[i].asSeen : ofArms[i].swapped) += twist;
    }
    if (isFromSide(view) && staysInProfile(all, trunk))
        for (std::size_t i = 0; i < all.size(); ++i) {
            const double width = all[i] ? widthOf(*all[i], Part::Shoulder, trunk) : 0;
            ((width < 0) == showsChest(view) ? ofArms[i].swapped : ofArms[i].asSeen) +=
                kProfileCost * trunk * interval * std::abs(width);
        }
    mendSides(all, {isOfArm}, trunk, ofArms);
    mendSides(all,
              {isOfArm, armsApart,
               [&](std::size_t i, bool isCrossed) {
                   return kTakenCost * trunk * takenPlaces(all, i, armsApart, trunk, interval, isCrossed);
               }},
              trunk, ofArms);
}

/// Where one landmark was seen, by picture.
using Track = std::vector<std::optional<ImagePoint>>;

/// How far, in what is allowed, the pictures of a run lie at least from the way between those before and after it; 0 where that
/// is not known.
double awayOf(const Track& track, std::size_t first, std::size_t count, double trunk)
{
    if (first == 0 || first + count >= track.size() || !track[first - 1] || !track[first + count])
        return 0;
    const ImagePoint a = *track[first - 1], b = *track[first + count];
    const double allowed = kJump * trunk + 0.5 * distance(a, b);
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t n = 0; n < count; ++n)
        if (const auto& p = track[first + n])
            least = std::min(least, distance(*p, lerp(a, b, static_cast<double>(n + 1) / static_cast<double>(count + 1))));
    return allowed > 0 && std::isfinite(least) ? least / allowed : 0;
}

/// Leaves out where a landmark jumps away for a few pictures and returns, the farthest first, so that its neighbours are not
/// taken for what jumped.
void leaveOutSlips(Track& track, double trunk, std::size_t longest)
{
    struct Run {
        double away = 0;
        std::size_t count = 0;
    };
    std::vector<Run> worst(track.size()); // of those that begin there
    const auto look = [&](std::size_t from, std::size_t end) {
        for (std::size_t i = from; i < std::min(end, track.size()); ++i) {
            worst[i] = {};
            for (std::size_t n = 1; n <= longest; ++n)
                if (const double away = awayOf(track, i, n, trunk); away > worst[i].away)
                    worst[i] = {away, n};
        }
    };
    look(0, track.size());
    while (true) {
        const auto most =
            std::max_element(worst.begin(), worst.end(), [](const Run& a, const Run& b) { return a.away < b.away; });
        if (most == worst.end() || most->away <= 1)
            return;
        const auto from = static_cast<std::size_t>(most - worst.begin()), end = from + most->count;
        for (std::size_t i = from; i < end; ++i)
            track[i].reset();
        look(from - std::min(from, longest), end + 1); // those that the gap belongs to or lies beside
    }
}

/// Leaves out where a mirrored picture shows a landmark far from the way between its neighbours, which were looked at as they
/// are: of two looks that disagree for a while, one counts throughout. As often as not it is the right one; a way between both is
/// not.
void leaveOutFarMirrored(Track& track, FrameIndex first, double trunk)
{
    const Track seen = track;
    for (std::size_t i = 0; i < track.size(); ++i)
        if (seen[i] && isLookedAtMirrored(FrameIndex(first.value + static_cast<std::int64_t>(i))) &&
            awayOf(seen, i, 1, trunk) > 1)
            track[i].reset();
}

/// Takes out what changes to and fro from picture to picture: neighbours are looked at in turn as they are and mirrored, and the
/// network is off to another side there. That is a sixteenth of the fourth difference, which is nothing for a way that bends
/// evenly; fewer than five pictures in a row stay as they are.
void bringTogether(Track& track)
{
    const Track seen = track;
    for (std::size_t first = 0, end = 0; first < seen.size(); first = end + 1) {
        for (end = first; end < seen.size() && seen[end];)
            ++end;
        for (std::size_t i = first; i < end && first + 5 <= end; ++i) {
            const std::size_t c = std::clamp(i, first + 2, end - 3); // near an end, what the nearest picture inside says
            const ImagePoint at = *seen[c];
            const ImageVector off =
                ((*seen[c - 1] - at) + (*seen[c + 1] - at)) * -0.25 + ((*seen[c - 2] - at) + (*seen[c + 2] - at)) * 0.0625;
            track[i] = *seen[i] + off * (i % 2 == c % 2 ? -1 : 1);
        }
    }
}

} // namespace

std::vector<Mark> bodyMarks(const PoseTrack& track, const FrameClock& clock, View view)
{
    std::vector<std::optional<Seen>> all;
    for (const auto& pose : track.poses)
        all.push_back(pose ? std::optional(seenIn(*pose)) : std::nullopt);
    const double trunk = trunkLength(all), interval = clock.meanInterval();
    const double usual = trunk * sigmaOf(track.by);
    tellSidesApart(all, trunk, interval, view);
    const std::size_t longestSlip =
        interval > 0 ? std::max<std::size_t>(1, static_cast<std::size_t>(kSlipLasts / interval + 0.5)) : 1;
    std::vector<Mark> marks;
    for (std::size_t n = 0; n < kCount; ++n) {
        std::vector<Mark> own;
        Track points;
        for (const auto& s : all)
            points.push_back(s ? std::optional(s->at[n]) : std::nullopt);
        leaveOutFarMirrored(points, track.first, trunk);
        leaveOutSlips(points, trunk, longestSlip);
        bringTogether(points);
        for (std::size_t i = 0; i < all.size(); ++i) {
            if (!points[i])
                continue;
            const double visible = all[i]->visible[n];
            own.push_back({FrameIndex(track.first.value + static_cast<std::int64_t>(i)),
                           {kLandmarkSources[n].part, kLandmarkSources[n].side, {}},
                           *points[i],
                           usual * sigmaOf(kLandmarkSources[n], visible),
                           Source::Network,
                           visible >= kHidden});
        }
        if (interval > 0 && interval <= kSmoothed)
            own = smoothedMarks(own, clock, std::max(kSmoothReach, kSmoothPictures * interval));
        marks.insert(marks.end(), own.begin(), own.end());
    }
    return marks;
}

} // namespace kestrel::vision
