#include "vision/face_finder.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr double kLongest = 1.35;             // half widths: the longest that is tried
constexpr double kShapes[] = {0.9, 1.2, 1.5}; // length of a face in widths, about: table tennis, tennis, squash
// A shaft is found by what is seen along it, which ends anywhere among the strings. How far aside it may point, and how far
// beyond its tip the face may end, with what each counts less.
constexpr double kAsides[] = {-0.07, 0, 0.07}, kAsideCost = 0.5;          // radians
constexpr double kBeyonds[] = {-0.5, 0, 0.5, 1, 1.5}, kBeyondCost = 0.05; // half widths
constexpr int kPlaces = 24;                                               // of the rim that are looked at
constexpr double kInside = 0.9, kOutside = 2.5;                           // of the way to the rim; cells beyond it
constexpr double kThroat = 0.85;                                          // cosine: nearer to the shaft that is the rim no more
constexpr double kUnlikely = 0.8;                                         // what an ellipse counts less that no face is seen as
constexpr double kTurnCost = 0.008, kLengthCost = 0.02;                   // for each step, squared
constexpr int kMostTurn = 6, kMostLength = 2;                             // steps from picture to picture
constexpr double kPlain = 0.25;                                           // contrast of a face that stands out

/// A place of the rim, from the middle.
struct Place {
    ImageVector inside, at, outside;
};

/// But for the throat, where the shaft is.
std::vector<Place> rimOf(ImageVector along, ImageVector across)
{
    static const auto kAngles = [] {
        std::vector<std::pair<double, double>> all; // cosine and sine
        for (int n = 0; n < kPlaces; ++n) {
            const double angle = (n + 0.5) * 2 * std::numbers::pi / kPlaces;
            if (std::cos(angle) >= -kThroat)
                all.emplace_back(std::cos(angle), std::sin(angle));
        }
        return all;
    }();
    std::vector<Place> rim;
    rim.reserve(kAngles.size());
    for (const auto& [c, s] : kAngles) {
        const ImageVector at = along * c + across * s;
        const double away = std::max(1.0, std::sqrt(dot(at, at)));
        rim.push_back({at * kInside, at, at * (1 + kOutside / away)});
    }
    return rim;
}

} // namespace

ImageVector FaceFinder::halfOf(int state, double turn) const
{
    const double angle = (state / kLengths + turn) * 2 * std::numbers::pi / kTurns;
    return ImageVector{std::cos(angle), std::sin(angle)} *
           (kLongest * m_halfWidth * (state % kLengths + 1) / static_cast<double>(kLengths));
}

FaceFinder::Fit FaceFinder::lookAt(const Shaft& shaft, int state, const std::function<double(ImagePoint)>& evidence) const
{
    const ImageVector across = halfOf(state), square{-shaft.along.y, shaft.along.x};
    const ImagePoint hands = shaft.tip + shaft.along * -shaft.length;
    const double shown = std::min(1.0, shaft.share);
    Fit best{-1, {}, {}};
    for (const double turn : kAsides) {
        const ImageVector way = shaft.along * std::cos(turn) + square * std::sin(turn);
        for (const double shape : kShapes) {
            const double length = shape * m_halfWidth;
            const ImageVector along = way * (length * shown);
            // square to each other: what the two show together is what they hide together
            const double hidden =
                length * std::sqrt(1 - shown * shown) * std::sqrt(std::max(0.0, m_halfWidth * m_halfWidth - dot(across, across)));
            const double unlike = std::abs(std::abs(dot(along, across)) - hidden) / (length * m_halfWidth);
            const double against = kUnlikely * unlike + kAsideCost * std::abs(turn);
            if (1 - against < best.contrast)
                continue;
            const auto rim = rimOf(along, across);
            for (const double beyond : kBeyonds) {
                const ImagePoint tip = hands + way * (shaft.length + beyond * m_halfWidth), middle = tip + along * -1;
                double sum = 0;
                for (const Place& place : rim)
                    sum +=
                        std::max(evidence(middle + place.inside), evidence(middle + place.at)) - evidence(middle + place.outside);
                const double contrast = sum / static_cast<double>(rim.size()) - against - kBeyondCost * std::abs(beyond);
                if (contrast > best.contrast)
                    best = {static_cast<float>(contrast), middle - shaft.tip, tip - shaft.tip};
            }
        }
    }
    return best;
}

void FaceFinder::look(std::size_t picture, const Shaft& shaft, const std::function<double(ImagePoint)>& evidence)
{
    View& view = m_views[picture].emplace();
    view.shaft = shaft;
    for (std::size_t state = 0; state < kStates / 2; ++state) // the other half are the same ellipses
        view.fits[state] = view.fits[state + kStates / 2] = lookAt(shaft, static_cast<int>(state), evidence);
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
                best + (m_views[i] ? m_views[i]->fits[static_cast<std::size_t>(state)].contrast : 0);
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
            return static_cast<double>(view.fits[static_cast<std::size_t>(turn * kLengths + state % kLengths)].contrast);
        };
        if (contrast(0) < kPlain)
            continue;
        const double bend = contrast(-1) - 2 * contrast(0) + contrast(1);
        const double finer = bend < -1e-6 ? std::clamp(0.5 * (contrast(-1) - contrast(1)) / bend, -0.5, 0.5) : 0;
        const ImageVector half = halfOf(state, finer);
        const Fit& fit = view.fits[static_cast<std::size_t>(state)];
        const ImagePoint middle = view.shaft.tip + fit.middle;
        found[i] = FoundFace{middle + half, middle + half * -1, view.shaft.tip + fit.tip};
    }
    return found;
}

} // namespace kestrel::vision
