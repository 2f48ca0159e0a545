#include "vision/racket_face_finder.h"

#include "core/base/parallel_for.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr int kTurns = 72, kLengths = 11; // directions all round; lengths up to a little more than the half width
constexpr int kStates = kTurns * kLengths;
constexpr int kEllipses = kStates / 2;        // a half diameter and its opposite are the same ellipse
constexpr double kLongest = 1.35;             // half widths: the longest that is tried
constexpr double kShapes[] = {0.9, 1.2, 1.5}; // length of a face in widths, about: table tennis, tennis, squash
constexpr std::size_t kShapeSamples = 24;     // pictures that tell which one it is
// A shaft is found by what is seen along it, which ends anywhere among the strings. How far aside it may point, radians of a
// shaft seen whole and more of one that points at the camera, and how far beyond its tip the face may end, with what each counts
// less.
constexpr double kAsides[] = {-0.14, -0.07, 0, 0.07, 0.14}, kAsideCost = 0.25, kLeastShown = 0.35;
constexpr double kFirstBeyond = -1, kLastBeyond = 1.5, kBeyondStep = 0.25, kBeyondCost = 0.025; // half widths
constexpr double kFinerSteps[] = {0.5, 0.5, 0.25, 0.25, 0.125, 0.125}; // of the grid's, by which what was found on it is shifted
constexpr int kPlaces = 24;                                            // of the rim that are looked at
constexpr double kInside = 0.9, kOutside[] = {2.5, 4};                 // of the way to the rim; places beyond it
constexpr double kThroat = 0.85;                                       // cosine: nearer to the shaft that is the rim no more
constexpr double kUnlikely = 0.5;                                      // what an ellipse counts less that no face is seen as
constexpr double kTurnCost = 0.008, kLengthCost = 0.02;                // for each step, squared
constexpr int kMostTurn = 6, kMostLength = 2;                          // steps from picture to picture
constexpr double kPlain = 0.25;                                        // contrast of a face that stands out

/// A face that is tried: how its shaft lies to what was found, and the half diameter across.
struct Trial {
    double aside = 0, beyond = 0;
    double angle = 0, length = 0; ///< of the half diameter; radians in the picture
};

ImageVector acrossOf(const Trial& trial)
{
    return ImageVector{std::cos(trial.angle), std::sin(trial.angle)} * trial.length;
}

/// Where it would be seen.
struct Ellipse {
    ImagePoint tip, middle;
    ImageVector along, across; ///< half diameters, the first one to the tip
};

/// The best one on one picture for a half diameter across.
struct Fit {
    float contrast = -1, aside = 0, beyond = 0;
};
using Fits = std::vector<Fit>; // by state, kEllipses; empty: no shaft

double atPlace(const Evidence& evidence, ImagePoint p)
{
    if (!(p.x >= 0 && p.y >= 0 && p.x < evidence.width && p.y < evidence.height))
        return 0;
    return evidence
        .values[static_cast<std::size_t>(p.y) * static_cast<std::size_t>(evidence.width) + static_cast<std::size_t>(p.x)];
}

/// Of the rim, places all round but for the throat, where the shaft is: cosine and sine from the middle.
const std::vector<std::pair<double, double>>& rim()
{
    static const auto kAll = [] {
        std::vector<std::pair<double, double>> all;
        for (int n = 0; n < kPlaces; ++n) {
            const double angle = (n + 0.5) * 2 * std::numbers::pi / kPlaces;
            if (std::cos(angle) >= -kThroat)
                all.emplace_back(std::cos(angle), std::sin(angle));
        }
        return all;
    }();
    return kAll;
}

/// How much the rim differs from what lies just outside it, all round.
double contrastOf(const Evidence& evidence, const Ellipse& e)
{
    double sum = 0;
    for (const auto& [c, s] : rim()) {
        const ImageVector at = e.along * c + e.across * s;
        const double away = std::max(1.0, at.length());
        double outside = 0;
        for (const double beyond : kOutside)
            outside += atPlace(evidence, e.middle + at * (1 + beyond / away)) / static_cast<double>(std::size(kOutside));
        sum += std::max(atPlace(evidence, e.middle + at * kInside), atPlace(evidence, e.middle + at)) - outside;
    }
    return sum / static_cast<double>(rim().size());
}

class FaceFinder {
public:
    FaceFinder(const std::vector<std::optional<SeenShaft>>& shafts, double halfWidth,
               const std::function<Evidence(std::size_t)>& evidenceOf, const std::stop_token& stop)
        : m_shafts(shafts), m_halfWidth(halfWidth), m_evidenceOf(evidenceOf), m_stop(stop)
    {
    }

    std::vector<std::optional<FoundFace>> run()
    {
        std::vector<std::optional<FoundFace>> found(m_shafts.size());
        if (!chooseShape())
            return found;
        const auto fits = parallelMap(m_shafts.size(), [&](std::size_t i) {
            return m_shafts[i] && !m_stop.stop_requested() ? fitsOn(*m_shafts[i], m_evidenceOf(i), m_length) : Fits{};
        });
        if (m_stop.stop_requested())
            return found;
        const std::vector<int> path = bestPath(fits);
        found = parallelMap(m_shafts.size(), [&](std::size_t i) { return faceOn(i, fits[i], path[i]); });
        return m_stop.stop_requested() ? std::vector<std::optional<FoundFace>>(m_shafts.size()) : found;
    }

private:
    Trial trialOf(int state) const { return {0, 0, state / kLengths * kTurnStep, (state % kLengths + 1) * lengthStep()}; }

    double lengthStep() const { return kLongest * m_halfWidth / kLengths; }

    /// \param length  of the face, half of it
    Ellipse ellipseOf(const SeenShaft& shaft, const Trial& trial, double length) const
    {
        const ImageVector square{-shaft.along.y, shaft.along.x};
        const double turn = trial.aside / std::clamp(shaft.share, kLeastShown, 1.0);
        const ImageVector direction = shaft.along * std::cos(turn) + square * std::sin(turn);
        const double reach = std::max(1.0, shaft.length + trial.beyond * m_halfWidth);
        const ImagePoint tip = shaft.tip + shaft.along * -shaft.length + direction * reach;
        const ImageVector along = direction * (length * shownOf(shaft, reach));
        return {tip, tip + along * -1, along, acrossOf(trial)};
    }

    /// Of a shaft's length, when it ends so far from the hands.
    static double shownOf(const SeenShaft& shaft, double reach) { return std::min(1.0, reach * shaft.share / shaft.length); }

    /// What counts against a face by itself. Shaft and width are square to each other: what the two show together is what they
    /// hide together.
    double againstOf(const Ellipse& e, const Trial& trial, double length) const
    {
        const double hidden = std::sqrt(std::max(0.0, length * length - dot(e.along, e.along))) *
                              std::sqrt(std::max(0.0, m_halfWidth * m_halfWidth - dot(e.across, e.across)));
        const double unlike = std::abs(std::abs(dot(e.along, e.across)) - hidden) / (length * m_halfWidth);
        return kUnlikely * unlike + kAsideCost * std::abs(trial.aside) + kBeyondCost * std::abs(trial.beyond);
    }

    Fits fitsOn(const SeenShaft& shaft, const Evidence& evidence, double length) const
    {
        Fits fits(kEllipses);
        for (int state = 0; state < kEllipses; ++state)
            for (const double aside : kAsides)
                for (double beyond = kFirstBeyond; beyond <= kLastBeyond; beyond += kBeyondStep) {
                    Trial trial = trialOf(state);
                    trial.aside = aside, trial.beyond = beyond;
                    const Ellipse e = ellipseOf(shaft, trial, length);
                    const double against = againstOf(e, trial, length);
                    Fit& best = fits[static_cast<std::size_t>(state)];
                    if (1 - against <= best.contrast)
                        continue;
                    const double contrast = contrastOf(evidence, e) - against;
                    if (contrast > best.contrast)
                        best = {static_cast<float>(contrast), static_cast<float>(aside), static_cast<float>(beyond)};
                }
        return fits;
    }

    /// The length for its width that stands out most. False: there is nothing to choose by.
    bool chooseShape()
    {
        std::vector<std::size_t> all, some;
        for (std::size_t i = 0; i < m_shafts.size(); ++i)
            if (m_shafts[i])
                all.push_back(i);
        const std::size_t count = std::min(kShapeSamples, all.size());
        for (std::size_t n = 0; n < count; ++n)
            some.push_back(all[(2 * n + 1) * all.size() / (2 * count)]);
        const auto sums = parallelMap(std::size(kShapes) * count, [&](std::size_t n) {
            if (m_stop.stop_requested())
                return 0.0F;
            const std::size_t i = some[n % count];
            const Fits fits = fitsOn(*m_shafts[i], m_evidenceOf(i), kShapes[n / count] * m_halfWidth);
            return std::max_element(fits.begin(), fits.end(), [](const Fit& a, const Fit& b) { return a.contrast < b.contrast; })
                ->contrast;
        });
        float most = -1e9F;
        for (std::size_t shape = 0; shape < std::size(kShapes); ++shape) {
            float sum = 0;
            for (std::size_t n = 0; n < count; ++n)
                sum += sums[shape * count + n];
            if (sum > most) {
                most = sum;
                m_length = kShapes[shape] * m_halfWidth;
            }
        }
        return count > 0 && !m_stop.stop_requested();
    }

    /// The states, one a picture, whose contrasts are the greatest together for how little they turn.
    static std::vector<int> bestPath(const std::vector<Fits>& fits)
    {
        std::array<float, kStates> sums{};
        std::vector<std::array<std::int16_t, kStates>> before(fits.size());
        for (std::size_t i = 0; i < fits.size(); ++i) {
            std::array<float, kStates> now{};
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
                    best + (fits[i].empty() ? 0 : fits[i][static_cast<std::size_t>(state % kEllipses)].contrast);
            }
            sums = now;
        }
        auto state = static_cast<int>(std::max_element(sums.begin(), sums.end()) - sums.begin());
        std::vector<int> path(fits.size());
        for (std::size_t i = fits.size(); i-- > 0;) {
            path[i] = state;
            state = before[i][static_cast<std::size_t>(state)];
        }
        return path;
    }

    /// What stands out about a state of the path, between the steps of the grid.
    std::optional<FoundFace> faceOn(std::size_t i, const Fits& fits, int state) const
    {
        if (fits.empty() || m_stop.stop_requested())
            return std::nullopt;
        const Fit& fit = fits[static_cast<std::size_t>(state % kEllipses)];
        if (fit.contrast < kPlain)
            return std::nullopt;
        Trial best = trialOf(state);
        best.aside = fit.aside, best.beyond = fit.beyond;
        const Ellipse e = ellipseOf(*m_shafts[i], finer(best, *m_shafts[i], m_evidenceOf(i)), m_length);
        return FoundFace{e.middle + e.across, e.middle + e.across * -1, e.tip};
    }

    /// Shifted one number after the other, as long as that makes it stand out more.
    Trial finer(Trial best, const SeenShaft& shaft, const Evidence& evidence) const
    {
        const auto worth = [&](const Trial& trial) {
            const Ellipse e = ellipseOf(shaft, trial, m_length);
            return contrastOf(evidence, e) - againstOf(e, trial, m_length);
        };
        const std::pair<double Trial::*, double> grid[] = {{&Trial::beyond, 2 * kBeyondStep},
                                                           {&Trial::aside, kAsides[1] - kAsides[0]},
                                                           {&Trial::angle, kTurnStep},
                                                           {&Trial::length, lengthStep()}};
        double most = worth(best);
        for (const double step : kFinerSteps)
            for (const auto& [number, whole] : grid)
                for (const double shift : {-step * whole, step * whole}) {
                    Trial trial = best;
                    trial.*number += shift;
                    trial.length = std::clamp(trial.length, 1.0, kLongest * m_halfWidth);
                    if (const double value = worth(trial); value > most) {
                        most = value;
                        best = trial;
                    }
                }
        return best;
    }

    static constexpr double kTurnStep = 2 * std::numbers::pi / kTurns;

    const std::vector<std::optional<SeenShaft>>& m_shafts;
    double m_halfWidth, m_length = 0; // half of the face's width and length
    const std::function<Evidence(std::size_t)>& m_evidenceOf;
    const std::stop_token& m_stop;
};

} // namespace

std::vector<std::optional<FoundFace>> findFaces(const std::vector<std::optional<SeenShaft>>& shafts, double halfWidth,
                                                const std::function<Evidence(std::size_t)>& evidenceOf,
                                                const std::stop_token& stop)
{
    return FaceFinder(shafts, halfWidth, evidenceOf, stop).run();
}

} // namespace kestrel::vision
