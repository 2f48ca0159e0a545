#include "core/scene/depth_model.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace kestrel {

namespace {

/// By one standard deviation, as shares of standing height, how far a part lies nearer or farther than what it hangs on, and
/// what share of its variance comes and goes during the action.
struct DepthStep {
    Part part;
    std::optional<Part> on;
    double side, across, above;
    double moves;
};
constexpr double kStill = 0.1, kLively = 0.4, kSwung = 0.8;
constexpr DepthStep kSteps[] = {
    {Part::Nose, {}, 0.05, 0.10, 0.10, kStill},
    {Part::Eye, {}, 0.05, 0.10, 0.10, kStill},
    {Part::Ear, {}, 0.05, 0.10, 0.10, kStill},
    {Part::Neck, {}, 0.04, 0.08, 0.10, kStill},
    {Part::Shoulder, {}, 0.06, 0.05, 0.13, kLively},
    {Part::Elbow, Part::Shoulder, 0.08, 0.10, 0.09, kLively},
    {Part::Wrist, Part::Elbow, 0.09, 0.12, 0.09, kSwung},
    {Part::Hand, Part::Wrist, 0.03, 0.04, 0.03, kSwung},
    {Part::Hip, {}, 0.05, 0.04, 0.08, kStill},
    {Part::Knee, Part::Hip, 0.09, 0.08, 0.07, kStill},
    {Part::Ankle, Part::Knee, 0.05, 0.18, 0.05, kStill},
    {Part::Heel, Part::Ankle, 0.03, 0.04, 0.03, kStill},
    {Part::Toe, Part::Ankle, 0.04, 0.08, 0.03, kStill},
    {Part::ImplementGrip, {}, 0.17, 0.25, 0.15, kSwung},
    {Part::ImplementMid, Part::ImplementGrip, 0.02, 0.02, 0.02, kSwung},
    {Part::ImplementTip, Part::ImplementGrip, 0.20, 0.23, 0.17, kSwung},
    {Part::ImplementFaceA, Part::ImplementMid, 0.04, 0.04, 0.04, kSwung},
    {Part::ImplementFaceB, Part::ImplementMid, 0.04, 0.04, 0.04, kSwung},
    {Part::Ball, {}, 0.20, 0.35, 0.20, kStill},
    {Part::Reference, {}, 0.05, 0.20, 0.05, 0},
};
/// What is held before the chest is nearer to a camera that sees the chest, and what is high is nearer to one above: not a
/// spread but a shift, shares of standing height. The camera above sets its scale on the ground.
struct DepthShift {
    Part part;
    double beforeChest, height;
};
constexpr DepthShift kShifts[] = {
    {Part::Nose, 0, 0.92},
    {Part::Eye, 0, 0.93},
    {Part::Ear, 0, 0.92},
    {Part::Neck, 0, 0.85},
    {Part::Shoulder, 0, 0.75},
    {Part::Elbow, 0.05, 0.62},
    {Part::Wrist, 0.15, 0.55},
    {Part::Hand, 0.18, 0.55},
    {Part::Hip, 0, 0.48},
    {Part::Knee, 0, 0.25},
    {Part::ImplementGrip, 0.20, 0.52},
    {Part::ImplementMid, 0.27, 0.60},
    {Part::ImplementTip, 0.34, 0.70},
    {Part::ImplementFaceA, 0.27, 0.60},
    {Part::ImplementFaceB, 0.27, 0.60},
    {Part::Ball, 0.15, 0.5},
};

double shiftOf(Part part, View view)
{
    for (const auto& s : kShifts)
        if (s.part == part)
            return view == View::Overhead   ? s.height
                   : view == View::Side     ? s.beforeChest
                   : view == View::SideBack ? -s.beforeChest
                                            : 0;
    return 0;
}

/// A bend of the trunk, shared by all that is carried above the hips.
constexpr double kTrunkSide = 0.05, kTrunkAcross = 0.07, kTrunkAbove = 0.08;
/// The whole body's way: from the front or rear it is the way to the target, about two thirds of a standing height, toward the
/// camera or away from it; else as much as an action strays from its line. It takes half of what is between the first and the
/// last key position.
constexpr double kTravelSide = 0.10, kTravelAcross = 0.40, kTravelAcrossMean = 0.70, kTravelAbove = 0.05;
constexpr double kTravelTime = 0.5, kTravelWhen = 0.25;

constexpr std::uint64_t kOwnKey = 0xd0, kTrunkKey = 0xd10, kTravelKey = 0xd2, kTravelTimeKey = 0xd3;

double inView(View v, double side, double across, double above)
{
    switch (v) {
    case View::Side:
    case View::SideBack:
        return side;
    case View::Front:
    case View::Rear:
        return across;
    case View::Overhead:
        return above;
    case View::Diagonal:
        break;
    }
    return (side + across) / 2;
}

bool isCarriedByTrunk(Part p)
{
    return p < Part::Hip || (p >= Part::ImplementGrip && p <= Part::Ball);
}

} // namespace

double cameraDistance(View view)
{
    return view == View::Overhead ? 3.5 : 5;
}

Depth depthShare(const Landmark& landmark, View view, ErrorSample sample)
{
    if (sample.isBestEstimate())
        return {};
    Depth depth{shiftOf(landmark.part, view)};
    const auto add = [&](double sigma, double moves, std::uint64_t key) {
        depth.steady += sigma * std::sqrt(1 - moves) * sample.normal(key);
        depth.cosine += sigma * std::sqrt(moves) * sample.normal(key + 1);
        depth.sine += sigma * std::sqrt(moves) * sample.normal(key + 2);
    };
    if (isCarriedByTrunk(landmark.part))
        add(inView(view, kTrunkSide, kTrunkAcross, kTrunkAbove), kStill, kTrunkKey);
    const auto addOwn = [&](Part part, double share) -> std::optional<Part> {
        const auto step = std::find_if(std::begin(kSteps), std::end(kSteps), [&](const DepthStep& s) { return s.part == part; });
        const auto key = ErrorSample::mix(static_cast<std::uint64_t>(part) * 4 + static_cast<std::uint64_t>(landmark.side),
                                          ErrorSample::keyOf(landmark.reference));
        add(share * inView(view, step->side, step->across, step->above), step->moves, ErrorSample::mix(key, kOwnKey));
        return step->on;
    };
    for (std::optional<Part> part = landmark.part; part;) {
        if (*part == Part::ImplementMid) // an implement is straight but for its bend: its middle goes half of its tip's way
            addOwn(Part::ImplementTip, 0.5);
        part = addOwn(*part, 1);
    }
    return depth;
}

double DepthTravel::at(double progress) const
{
    return share * std::clamp(0.5 + (progress - when) / kTravelTime, 0.0, 1.0);
}

DepthTravel depthTravel(View view, ErrorSample sample)
{
    const double mean = inView(view, 0, kTravelAcrossMean, 0), spread = inView(view, kTravelSide, kTravelAcross, kTravelAbove);
    return {mean + spread * sample.normal(kTravelKey), 0.5 + kTravelWhen * sample.even(kTravelTimeKey)};
}

} // namespace kestrel
