#include "vision/face_finder.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr double kLongest = 1.35;                       // half widths: the longest that is tried
constexpr double kShapes[] = {0.9, 1.2, 1.5};           // length of a face in widths, about: table tennis, tennis, squash
constexpr int kPlaces = 24;                             // of the rim that are looked at
constexpr double kInside = 0.9, kOutside = 2.5;         // of the way to the rim; cells beyond it
constexpr double kThroat = 0.85;                        // cosine: nearer to the shaft that is the rim no more
constexpr double kUnlikely = 0.8;                       // what an ellipse counts less that no face is seen as
constexpr double kTurnCost = 0.008, kLengthCost = 0.02; // for each step, squared
constexpr int kMostTurn = 6, kMostLength = 2;           // steps from picture to picture
constexpr double kPlain = 0.25;                         // contrast of a face that stands out

} // namespace

ImageVector FaceFinder::halfOf(int state, double turn) const
{
    const double angle = (state / kLengths + turn) * 2 * std::numbers::pi / kTurns;
    return ImageVector{std::cos(angle), std::sin(angle)} *
           (kLongest * m_halfWidth * (state % kLengths + 1) / static_cast<double>(kLengths));
}

std::pair<float, float> FaceFinder::lookAt(const Shaft& shaft, int state, const std::function<double(ImagePoint)>& evidence) const
{
    const ImageVector across = halfOf(state);
    std::pair<float, float> best{-1, 0};
    for (const double shape : kShapes) {
        const double length = shape * m_halfWidth, shown = std::min(1.0, shaft.share);
        const ImageVector along = shaft.along * (length * shown);
        const ImagePoint middle = shaft.tip + along * -1;
        double sum = 0;
        int places = 0;
        for (int n = 0; n < kPlaces; ++n) {
            const double angle = (n + 0.5) * 2 * std::numbers::pi / kPlaces;
            if (std::cos(angle) < -kThroat)
                continue;
            const ImageVector rim = along * std::cos(angle) + across * std::sin(angle);
            const double away = std::max(1.0, rim.length());
            sum += std::max(evidence(middle + rim * kInside), evidence(middle + rim)) -
                   evidence(middle + rim * (1 + kOutside / away));
            ++places;
        }
        // square to each other: what the two show together is what they hide together
        const double hidden =
            length * std::sqrt(1 - shown * shown) * std::sqrt(std::max(0.0, m_halfWidth * m_halfWidth - dot(across, across)));
        const double unlike = std::abs(std::abs(dot(along, across)) - hidden) / (length * m_halfWidth);
        const double contrast = sum / places - kUnlikely * unlike;
        if (contrast > best.first)
            best = {static_cast<float>(contrast), static_cast<float>(length * shown)};
    }
    return best;
}

void FaceFinder::look(std::size_t picture, const Shaft& shaft, const std::function<double(ImagePoint)>& evidence)
{
    View& view = m_views[picture].emplace();
    view.shaft = shaft;
    for (int state = 0; state < kStates / 2; ++state) { // the other half are the same ellipses
        const auto [contrast, middle] = lookAt(shaft, state, evidence);
        for (const int s : {state, state + kStates / 2}) {
            view.contrast[static_cast<std::size_t>(s)] = contrast;
            view.middle[static_cast<std::size_t>(s)] = middle;
        }
    }
}

std::vector<std::optional<FaceFinder::FoundFace>> FaceFinder::find() const
{
    const std::size_t count = m_views.size();
    std::vector<std::optional<FoundFace>> found(count);
    if (count == 0)
        return found;
    using Sums = std::array<float, kStates>;
    Sums sums{};
    std::vector<std::array<std::int16_t, kStates>> before(count);
    for (std::size_t i = 0; i < count; ++i) {
        Sums now{};
        for (int state = 0; state < kStates; ++state) {
            const int turn = state / kLengths, length = state % kLengths;
            float best = i == 0 ? 0 : -1e9F;
            for (int t = -kMostTurn; i > 0 && t <= kMostTurn; ++t)
                for (int l = std::max(0, length - kMostLength); l <= std::min(kLengths - 1, length + kMostLength); ++l) {
                    const int from = (turn + t + kTurns) % kTurns * kLengths + l;
                    const auto cost = static_cast<float>(kTurnCost * t * t + kLengthCost * (l - length) * (l - length));
                    const float value = sums[static_cast<std::size_t>(from)] - cost;
                    if (value > best) {
                        best = value;
                        before[i][static_cast<std::size_t>(state)] = static_cast<std::int16_t>(from);
                    }
                }
            now[static_cast<std::size_t>(state)] =
                best + (m_views[i] ? m_views[i]->contrast[static_cast<std::size_t>(state)] : 0);
        }
        sums = now;
    }
    auto state = static_cast<int>(std::max_element(sums.begin(), sums.end()) - sums.begin());
    std::vector<int> path(count);
    for (std::size_t i = count; i-- > 0;) {
        path[i] = state;
        state = before[i][static_cast<std::size_t>(state)];
    }
    for (std::size_t i = 0; i < count; ++i) {
        if (!m_views[i])
            continue;
        state = path[i];
        const View& view = *m_views[i];
        const auto contrast = [&](int steps) {
            const int turn = (state / kLengths + steps + kTurns) % kTurns;
            return static_cast<double>(view.contrast[static_cast<std::size_t>(turn * kLengths + state % kLengths)]);
        };
        if (contrast(0) < kPlain)
            continue;
        const double bend = contrast(-1) - 2 * contrast(0) + contrast(1);
        const double finer = bend < -1e-6 ? std::clamp(0.5 * (contrast(-1) - contrast(1)) / bend, -0.5, 0.5) : 0;
        const ImageVector half = halfOf(state, finer);
        const ImagePoint middle = view.shaft.tip + view.shaft.along * -view.middle[static_cast<std::size_t>(state)];
        found[i] = FoundFace{middle + half, middle + half * -1};
    }
    return found;
}

} // namespace kestrel::vision
