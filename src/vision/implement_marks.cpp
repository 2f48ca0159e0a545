#include "vision/implement_marks.h"

#include "media/film.h"
#include "vision/body_marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>

namespace kestrel::vision {

namespace {

constexpr int kRays = 120;
constexpr double kStepsOfHeight = 430;             // samples along a ray in a standing height
constexpr double kLonger = 1.3;                    // than the pack says: rays reach as far
constexpr double kFromHand = 0.02;                 // of standing height: nearer than that are fingers
constexpr std::array kBeside{0.018, 0.035, 0.095}; // of standing height: where the ground to either side is looked at
constexpr double kContrast = 30;                   // grey levels that count as a plain difference
constexpr double kNeutral = 0.45;                  // evidence that speaks neither for nor against
constexpr double kOverBody = 0.5;                  // what a difference counts in front of the body
constexpr double kTurn = 0.0017;                   // what turning by one ray in a sixtieth of a second costs, of its length seen
constexpr int kMostTurn = 24;                      // rays from one picture to the next
constexpr double kSeen = 0.15;                     // of its length: with less it is not there
constexpr double kPlain = 0.8, kWhole = 0.6;       // of its length: what teaches its colours
constexpr int kLeastPlain = 6;                     // pictures
constexpr int kOwnRays = 5;                        // rays on either side that may still show it
constexpr int kColours = 4096;                     // sixteen steps of blue, green and red
constexpr double kColourWeight = 0.5, kColourSlope = 1.5;
constexpr int kLengthReach = 3;                       // pictures to either side of which the length is the middle one
constexpr double kSigma = 0.009, kSigmaUnseen = 0.03; // of standing height: seen whole, and what the unseen part adds

/// Limbs and how thick they are, shares of standing height.
struct Limb {
    Part from, to;
    double thick;
};
constexpr Limb kLimbs[] = {{Part::Shoulder, Part::Elbow, 0.065}, {Part::Elbow, Part::Wrist, 0.055},
                           {Part::Hip, Part::Knee, 0.10},        {Part::Knee, Part::Ankle, 0.07},
                           {Part::Ankle, Part::Toe, 0.05},       {Part::Shoulder, Part::Hip, 0.12}};
constexpr double kHead = 0.075, kTrunkThick = 0.14;

using Body = std::map<Landmark, ImagePoint>;

const ImagePoint* find(const Body& body, Part part, BodySide side)
{
    const auto it = body.find({part, side, {}});
    return it == body.end() ? nullptr : &it->second;
}

double distanceToLine(ImagePoint p, ImagePoint a, ImagePoint b)
{
    const ImageVector d = b - a;
    const double length = dot(d, d);
    const double along = length > 0 ? std::clamp(dot(p - a, d) / length, 0.0, 1.0) : 0;
    return (p - lerp(a, b, along)).length();
}

/// Whether the body covers that place.
class Outline {
public:
    Outline(const Body& body, double height)
    {
        for (const BodySide side : {BodySide::Left, BodySide::Right})
            for (const auto& limb : kLimbs)
                if (const auto* a = find(body, limb.from, side), *b = find(body, limb.to, side); a && b)
                    m_lines.push_back({*a, *b, limb.thick * height / 2});
        const auto *shoulderL = find(body, Part::Shoulder, BodySide::Left),
                   *shoulderR = find(body, Part::Shoulder, BodySide::Right), *hipL = find(body, Part::Hip, BodySide::Left),
                   *hipR = find(body, Part::Hip, BodySide::Right);
        if (shoulderL && shoulderR && hipL && hipR)
            m_lines.push_back({midpoint(*shoulderL, *shoulderR), midpoint(*hipL, *hipR),
                               std::max((*shoulderL - *shoulderR).length(), kTrunkThick * height) / 2});
        if (const auto* a = find(body, Part::Ear, BodySide::Left), *b = find(body, Part::Ear, BodySide::Right); a && b)
            m_lines.push_back({*a, *b, kHead * height});
    }
    bool covers(ImagePoint p) const
    {
        return std::any_of(m_lines.begin(), m_lines.end(),
                           [&](const Line& l) { return distanceToLine(p, l.from, l.to) < l.reach; });
    }

private:
    struct Line {
        ImagePoint from, to;
        double reach;
    };
    std::vector<Line> m_lines;
};

using Pixel = const std::uint8_t*;

Pixel pixelAt(const media::Picture& picture, ImagePoint p)
{
    const auto x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y));
    return x < 0 || y < 0 || x >= picture.size.width || y >= picture.size.height ? nullptr : picture.row(y) + 4 * x;
}

int difference(Pixel a, Pixel b)
{
    return std::max({std::abs(a[0] - b[0]), std::abs(a[1] - b[1]), std::abs(a[2] - b[2])});
}

int colourOf(Pixel p)
{
    return (p[0] >> 4) * 256 + (p[1] >> 4) * 16 + (p[2] >> 4);
}

ImageVector direction(double ray)
{
    const double angle = ray * 2 * std::numbers::pi / kRays;
    return {std::cos(angle), std::sin(angle)};
}

/// What one picture shows along the rays from the hands.
struct Rays {
    bool isThere = false; ///< the hands are marked
    ImagePoint hands;
    std::vector<std::int16_t> colours;  ///< by ray and step; -1 beyond the picture
    std::vector<std::uint8_t> evidence; ///< the same: 0 to 200 for 0 to 1
    std::array<float, kRays> score{};   ///< share of its length that is seen
    std::array<float, kRays> length{};  ///< steps from the hands to its tip
};

class ImplementFinder {
public:
    ImplementFinder(double height, double reach, double interval)
        : m_height(height), m_step(height / kStepsOfHeight), m_reach(reach * kStepsOfHeight),
          m_steps(static_cast<int>(std::lround(kLonger * m_reach))), m_turn(kTurn / (3600 * interval * interval))
    {
    }

    void look(const media::Picture& picture, const Body& body, ImagePoint hands, Rays& rays) const
    {
        rays.isThere = true;
        rays.hands = hands;
        rays.colours.assign(static_cast<std::size_t>(kRays * m_steps), -1);
        rays.evidence.assign(rays.colours.size(), 0);
        const Outline outline(body, m_height);
        for (int ray = 0; ray < kRays; ++ray) {
            const ImageVector d = direction(ray), n{-d.y, d.x};
            for (int step = 0; step < m_steps; ++step) {
                const ImagePoint p = hands + d * (step * m_step);
                const Pixel here = pixelAt(picture, p);
                if (!here)
                    break;
                int ridge = 0;
                for (const double beside : kBeside) {
                    const Pixel a = pixelAt(picture, p + n * (beside * m_height)),
                                b = pixelAt(picture, p + n * (-beside * m_height));
                    if (a && b)
                        ridge = std::max(ridge, std::min(difference(here, a), difference(here, b)));
                }
                double evidence = std::min(1.0, ridge / kContrast);
                if (outline.covers(p))
                    evidence = std::min(kNeutral, kOverBody * evidence);
                const auto at = static_cast<std::size_t>(ray * m_steps + step);
                rays.colours[at] = static_cast<std::int16_t>(colourOf(here));
                rays.evidence[at] = static_cast<std::uint8_t>(std::lround(200 * evidence));
            }
        }
    }

    /// The ray on each picture that the implement lies on.
    std::vector<int> find(std::vector<Rays>& all)
    {
        score(all);
        std::vector<int> path = cheapestPath(all);
        if (learn(all, path)) {
            score(all);
            path = cheapestPath(all);
        }
        return path;
    }

    double stepLength() const { return m_step; }

private:
    void score(std::vector<Rays>& all) const
    {
        const int first = static_cast<int>(kFromHand * kStepsOfHeight);
        for (Rays& rays : all)
            for (int ray = 0; rays.isThere && ray < kRays; ++ray) {
                double sum = 0, best = 0;
                int length = 0;
                for (int step = first; step < m_steps; ++step) {
                    const auto at = static_cast<std::size_t>(ray * m_steps + step);
                    if (rays.colours[at] < 0)
                        break;
                    double evidence = rays.evidence[at] / 200.0;
                    if (!m_likeness.empty())
                        evidence += kColourWeight * (m_likeness[static_cast<std::size_t>(rays.colours[at])] - evidence);
                    sum += evidence - kNeutral;
                    if (sum > best) {
                        best = sum;
                        length = step;
                    }
                }
                rays.score[static_cast<std::size_t>(ray)] = static_cast<float>(std::min(1.2, best / (m_reach * (1 - kNeutral))));
                rays.length[static_cast<std::size_t>(ray)] = static_cast<float>(length);
            }
    }

    std::vector<int> cheapestPath(const std::vector<Rays>& all) const
    {
        std::vector<std::array<float, kRays>> sums(all.size());
        std::vector<std::array<std::int16_t, kRays>> before(all.size());
        for (std::size_t i = 0; i < all.size(); ++i)
            for (int ray = 0; ray < kRays; ++ray) {
                double best = i == 0 ? 0 : -1e9;
                for (int turn = -kMostTurn; i > 0 && turn <= kMostTurn; ++turn) {
                    const int from = (ray + turn + kRays) % kRays;
                    const double value = sums[i - 1][static_cast<std::size_t>(from)] - m_turn * turn * turn;
                    if (value > best) {
                        best = value;
                        before[i][static_cast<std::size_t>(ray)] = static_cast<std::int16_t>(from);
                    }
                }
                sums[i][static_cast<std::size_t>(ray)] =
                    static_cast<float>(best) + (all[i].isThere ? all[i].score[static_cast<std::size_t>(ray)] : 0);
            }
        std::vector<int> path(all.size());
        if (all.empty())
            return path;
        path.back() = static_cast<int>(std::max_element(sums.back().begin(), sums.back().end()) - sums.back().begin());
        for (std::size_t i = all.size() - 1; i > 0; --i)
            path[i - 1] = before[i][static_cast<std::size_t>(path[i])];
        return path;
    }

    /// The implement's colours, from the pictures that show it plainly. False: there are too few.
    bool learn(const std::vector<Rays>& all, const std::vector<int>& path)
    {
        std::vector<double> own(kColours, 1), others(kColours, 1);
        double ownSum = kColours, othersSum = kColours;
        int plain = 0;
        for (std::size_t i = 0; i < all.size(); ++i) {
            const Rays& rays = all[i];
            const auto ray = static_cast<std::size_t>(path[i]);
            if (!rays.isThere || rays.score[ray] < kPlain || rays.length[ray] < kWhole * m_reach)
                continue;
            ++plain;
            for (int other = 0; other < kRays; ++other) {
                const int away = std::min((other - path[i] + kRays) % kRays, (path[i] - other + kRays) % kRays);
                if (away > 0 && away < kOwnRays)
                    continue;
                const int end = away == 0 ? static_cast<int>(rays.length[ray]) : m_steps;
                for (int step = static_cast<int>(kFromHand * kStepsOfHeight); step < end; ++step) {
                    const auto colour = rays.colours[static_cast<std::size_t>(other * m_steps + step)];
                    if (colour < 0)
                        break;
                    (away == 0 ? own : others)[static_cast<std::size_t>(colour)] += 1;
                    (away == 0 ? ownSum : othersSum) += 1;
                }
            }
        }
        if (plain < kLeastPlain)
            return false;
        m_likeness.resize(kColours);
        for (std::size_t c = 0; c < kColours; ++c)
            m_likeness[c] = 1 / (1 + std::pow((own[c] / ownSum) / (others[c] / othersSum), -kColourSlope));
        return true;
    }

    double m_height, m_step, m_reach; // pixels; pixels; steps
    int m_steps;
    double m_turn;
    std::vector<double> m_likeness; // by colour, 0 to 1: how much it speaks for the implement; empty: not learned
};

/// Between rays, where the neighbours say that the best one lies.
double finer(const Rays& rays, int ray)
{
    const auto at = [&](int r) { return static_cast<double>(rays.score[static_cast<std::size_t>((r + kRays) % kRays)]); };
    const double bend = at(ray - 1) - 2 * at(ray) + at(ray + 1);
    const double shift = bend < -1e-6 ? 0.5 * (at(ray - 1) - at(ray + 1)) / bend : 0;
    return ray + (std::abs(shift) <= 1 ? shift : 0);
}

} // namespace

double standingHeight(const std::vector<Mark>& marks)
{
    const auto leg = scaleFromHeight(marks, 1);
    return leg ? (leg->from - leg->to).length() / leg->metres : 0;
}

Expected<std::vector<Mark>> implementMarks(const std::string& file, const std::vector<Mark>& marks, const HeldImplement& held,
                                           const FrameClock& clock, const FollowOptions& options)
{
    const double height = standingHeight(marks);
    if (height <= 0)
        return std::vector<Mark>{};
    auto film = media::Film::open(file, {.stop = options.stop, .knownIndex = options.knownIndex});
    if (!film)
        return tl::unexpected(film.error());
    std::map<std::int64_t, Body> bodies;
    for (const auto& m : marks)
        bodies[m.frame.value][m.landmark] = m.at;
    const std::int64_t last = std::min(options.last.value, film->info().frames() - 1);
    ImplementFinder finder(height, held.reach, std::max(clock.meanInterval(), 1e-4));
    std::vector<Rays> all(static_cast<std::size_t>(std::max<std::int64_t>(0, last - options.first.value + 1)));
    for (std::size_t i = 0; i < all.size(); ++i) {
        if (options.stop.stop_requested())
            return std::vector<Mark>{};
        const FrameIndex f(options.first.value + static_cast<std::int64_t>(i));
        const Body& body = bodies[f.value];
        const auto *left = find(body, Part::Hand, BodySide::Left), *right = find(body, Part::Hand, BodySide::Right);
        if (left && right)
            if (const auto picture = film->frame(f, {}, options.stop))
                finder.look(*picture, body, midpoint(*left, *right), all[i]);
        if (options.progress)
            options.progress(static_cast<std::int64_t>(i) + 1, static_cast<std::int64_t>(all.size()));
    }
    const auto path = finder.find(all);
    std::vector<Mark> found;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double seen = all[i].isThere ? all[i].score[static_cast<std::size_t>(path[i])] : 0;
        if (seen < kSeen)
            continue;
        std::vector<float> lengths;
        for (std::size_t n = i > kLengthReach ? i - kLengthReach : 0; n < std::min(all.size(), i + kLengthReach + 1); ++n)
            if (all[n].isThere)
                lengths.push_back(all[n].length[static_cast<std::size_t>(path[n])]);
        std::nth_element(lengths.begin(), lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2), lengths.end());
        const double length = lengths[lengths.size() / 2] * finder.stepLength();
        const ImageVector d = direction(finer(all[i], path[i]));
        const FrameIndex f(options.first.value + static_cast<std::int64_t>(i));
        const double sigma = height * (kSigma + kSigmaUnseen * (1 - std::min(1.0, seen)));
        // foreshortened as much as the rest of it
        const double behind = held.behind * height * std::min(1.0, length / (held.reach * height));
        found.push_back({f, {Part::ImplementGrip, BodySide::None, {}}, all[i].hands + d * -behind, sigma, Source::Network, true});
        found.push_back({f, {Part::ImplementTip, BodySide::None, {}}, all[i].hands + d * length, sigma, Source::Network, true});
    }
    return found;
}

} // namespace kestrel::vision
