#include "vision/scene_check.h"

#include "vision/trunk_frames.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

namespace kestrel::vision {

namespace {

constexpr double kPlainlySeen = 0.27, kPlainlyGone = 0.6, kPlainlyAcross = 1; // trunk lengths
constexpr std::size_t kFewest = 20;                                           // pictures with shoulders and hips

/// What is seen of the body over a repetition, in trunk lengths.
struct Seen {
    double back = 0;         ///< mean of how far the right shoulder is to the right of the left one
    double displacement = 0; ///< to the right
};

double medianOf(std::vector<double> values)
{
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

std::optional<Seen> lookAt(const std::vector<Mark>& marks)
{
    std::vector<double> lengths, across, middles;
    for (const auto& [frame, t] : trunkFramesOf(marks))
        if (const auto length = t.length()) {
            lengths.push_back(*length);
            across.push_back(t.shoulders[1]->x - t.shoulders[0]->x);
            middles.push_back(t.hip()->x);
        }
    if (lengths.size() < kFewest)
        return std::nullopt;
    const double trunk = medianOf(lengths);
    if (!(trunk > 0))
        return std::nullopt;
    const auto tenth = static_cast<std::ptrdiff_t>(middles.size() / 10);
    const double from = medianOf({middles.begin(), middles.begin() + tenth}),
                 to = medianOf({middles.end() - tenth, middles.end()});
    return Seen{std::accumulate(across.begin(), across.end(), 0.0) / static_cast<double>(across.size()) / trunk,
                (to - from) / trunk};
}

} // namespace

std::vector<SceneDoubt> doubtsAboutScene(const std::vector<Mark>& marks, const Scene& scene)
{
    if (scene.view == View::Overhead)
        return marks.empty() ? std::vector<SceneDoubt>() : std::vector{SceneDoubt::FromAbove};
    const auto seen = lookAt(marks);
    if (!seen)
        return {};
    std::vector<SceneDoubt> doubts;
    if (showsChest(scene.view) && seen->back > kPlainlySeen)
        doubts.push_back(SceneDoubt::BackForChest);
    if (showsBack(scene.view) && seen->back < -kPlainlySeen)
        doubts.push_back(SceneDoubt::ChestForBack);
    switch (scene.target) {
    case TargetDirection::Right:
        if (seen->displacement < -kPlainlyGone)
            doubts.push_back(SceneDoubt::OtherDirection);
        break;
    case TargetDirection::Left:
        if (seen->displacement > kPlainlyGone)
            doubts.push_back(SceneDoubt::OtherDirection);
        break;
    case TargetDirection::Away:
    case TargetDirection::Toward:
        if (std::abs(seen->displacement) > kPlainlyAcross)
            doubts.push_back(SceneDoubt::AcrossPicture);
        break;
    }
    return doubts;
}

std::string textOf(SceneDoubt doubt)
{
    switch (doubt) {
    case SceneDoubt::BackForChest:
        return "The back is seen where this view shows the chest: was it filmed from the other side, or is the other hand the "
               "one?";
    case SceneDoubt::ChestForBack:
        return "The chest is seen where this view shows the back: was it filmed from the other side, or is the other hand the "
               "one?";
    case SceneDoubt::OtherDirection:
        return "The player goes the other way from where the target is said to be: is the film mirrored, or the other hand the "
               "one?";
    case SceneDoubt::AcrossPicture:
        return "The player goes across the picture: was it filmed from the side?";
    case SceneDoubt::FromAbove:
        return "From above the program sees a body badly: mark the points that matter yourself on one picture, and have them "
               "followed.";
    }
    return {};
}

} // namespace kestrel::vision
