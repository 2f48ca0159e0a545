#include "vision/implement_marks.h"

#include "media/film.h"
#include "vision/body_marks.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <optional>

namespace kestrel::vision {

namespace {

constexpr int kRays = 120;
constexpr double kCellsOfHeight = 215;      // pictures are looked at so small that a standing height has as many
constexpr double kLonger = 1.3;             // than the pack says: rays reach as far
constexpr double kFromHand = 0.02;          // of standing height: nearer than that are fingers
constexpr double kThin = 0.07, kWide = 2.6; // of standing height, of half a face's width: narrower than that stands out
constexpr double kContrast = 30;            // grey levels that count as a plain difference
constexpr double kResting = 0.4;            // what something counts that does not differ from the resting picture
constexpr double kMovedCamera = 0.3;        // of the picture: with more that differs the camera is not at rest
constexpr std::size_t kSamples = 21;        // pictures that the resting one is made from
constexpr double kNeutral = 0.45;           // evidence that speaks neither for nor against
constexpr double kOverBody = 0.5;           // what a difference counts in front of the body
constexpr double kTurn = 0.0017;            // what turning by one ray in a sixtieth of a second costs, of its length seen
constexpr int kMostTurn = 24;               // rays from one picture to the next
constexpr double kApartSure = 0.2, kApartError = 0.06; // radians; of standing height: how far two hands apart may mislead
constexpr double kSeen = 0.15;                         // of its length: with less it is not there
constexpr double kPlain = 0.8, kWhole = 0.6;           // of its length: what teaches its colours
constexpr int kLeastPlain = 6;                         // pictures
constexpr int kOwnRays = 5;                            // rays on either side that may still show it
constexpr int kColours = 4096;                         // sixteen steps of blue, green and red
constexpr double kColourWeight = 0.5, kColourSlope = 1.5;
constexpr double kLeastReach = 5; // cells to either side, for what has no face
constexpr double kHandsFirm = 1;  // what the hands count as against what is seen
constexpr int kRounds = 2, kLeastSteps = 5;
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

/// The body as a mask of that size: \p at takes its points there, \p height is a standing height there.
template <class At> cv::Mat coveredBy(const Body& body, double height, cv::Size size, At at)
{
    cv::Mat covered = cv::Mat::zeros(size, CV_8U);
    const auto cover = [&](ImagePoint a, ImagePoint b, double thick) {
        cv::line(covered, at(a), at(b), 255, std::clamp(cvRound(thick), 1, 1000));
    };
    for (const BodySide side : {BodySide::Left, BodySide::Right})
        for (const auto& limb : kLimbs)
            if (const auto* a = find(body, limb.from, side), *b = find(body, limb.to, side); a && b)
                cover(*a, *b, limb.thick * height);
    const auto *shoulderL = find(body, Part::Shoulder, BodySide::Left), *shoulderR = find(body, Part::Shoulder, BodySide::Right),
               *hipL = find(body, Part::Hip, BodySide::Left), *hipR = find(body, Part::Hip, BodySide::Right);
    if (shoulderL && shoulderR && hipL && hipR)
        cover(midpoint(*shoulderL, *shoulderR), midpoint(*hipL, *hipR), kTrunkThick * height);
    if (const auto* a = find(body, Part::Ear, BodySide::Left), *b = find(body, Part::Ear, BodySide::Right); a && b)
        cover(*a, *b, 2 * kHead * height);
    return covered;
}

int colourOf(const cv::Vec3b& p)
{
    return (p[0] >> 4) * 256 + (p[1] >> 4) * 16 + (p[2] >> 4);
}

/// Of each place the greatest of its three colours' values.
cv::Mat greatest(const cv::Mat& bgr)
{
    std::vector<cv::Mat> parts;
    cv::split(bgr, parts);
    return cv::max(cv::max(parts[0], parts[1]), parts[2]);
}

ImageVector direction(double ray)
{
    const double angle = ray * 2 * std::numbers::pi / kRays;
    return {std::cos(angle), std::sin(angle)};
}

/// The hands that hold it, and where they say that it points when it is held with a way between them.
struct Hold {
    ImagePoint at;
    std::optional<ImageVector> along;
};

std::optional<Hold> holdOn(const Body& body, Grip grip, Hand hand)
{
    const auto *dom = find(body, Part::Hand, sideOf(SideRole::Dom, hand)),
               *off = find(body, Part::Hand, sideOf(SideRole::Off, hand));
    if (!dom || (!off && grip != Grip::Dominant))
        return std::nullopt;
    switch (grip) {
    case Grip::Together:
        return Hold{midpoint(*dom, *off), {}};
    case Grip::Dominant:
        return Hold{*dom, {}};
    case Grip::Apart:
        break;
    }
    return Hold{*dom, *dom - *off};
}

/// What one picture shows about the hands, in cells.
struct Sight {
    std::optional<Hold> hold; ///< empty: the hands are not marked
    cv::Mat colours;          ///< the part of the picture within reach
    cv::Point corner;         ///< its place in the whole
    cv::Mat covered;          ///< by the body
    cv::Mat evidence;         ///< 0 to 200 for 0 to 1
};

/// The same along the rays from the hands.
struct Rays {
    std::vector<std::int16_t> colours;  ///< by ray and step; -1 beyond the picture
    std::vector<std::uint8_t> evidence; ///< the same: 0 to 200 for 0 to 1
    std::array<float, kRays> score{};   ///< share of its length that is seen
    std::array<float, kRays> length{};  ///< steps from the hands to its tip
    bool isThere() const { return !colours.empty(); }
};

class ImplementFinder {
public:
    ImplementFinder(double height, const HeldImplement& held, double interval)
        : m_cell(height / kCellsOfHeight), m_halfWidth(held.halfWidth * kCellsOfHeight), m_reach(held.reach * kCellsOfHeight),
          m_steps(static_cast<int>(std::lround(kLonger * m_reach))), m_turn(kTurn / (3600 * interval * interval))
    {
        const int narrow = cvRound(std::max(kThin * kCellsOfHeight, kWide * m_halfWidth));
        m_narrow = cv::getStructuringElement(cv::MORPH_RECT, {narrow | 1, narrow | 1});
    }

    /// What is needed of a picture. \param isSample  the resting picture is made from it as well
    Sight look(const media::Picture& picture, const Body& body, const std::optional<Hold>& hold, bool isSample)
    {
        const cv::Mat all(picture.size.height, picture.size.width, CV_8UC4, const_cast<std::uint8_t*>(picture.row(0)),
                          static_cast<std::size_t>(picture.row(1) - picture.row(0)));
        cv::Mat small;
        cv::resize(all, small, {cvRound(all.cols / m_cell), cvRound(all.rows / m_cell)}, 0, 0, cv::INTER_AREA);
        cv::cvtColor(small, small, cv::COLOR_BGRA2BGR);
        if (isSample)
            m_samples.push_back(small);
        Sight sight;
        if (!hold)
            return sight;
        const double beyond = m_steps + m_halfWidth + 1;
        const ImagePoint at{hold->at.x / m_cell, hold->at.y / m_cell};
        const cv::Rect within = cv::Rect(cvFloor(at.x - beyond), cvFloor(at.y - beyond), cvCeil(2 * beyond), cvCeil(2 * beyond)) &
                                cv::Rect({}, small.size());
        if (within.empty())
            return sight;
        sight.hold = hold;
        sight.corner = within.tl();
        sight.colours = small(within).clone();
        sight.covered = coveredBy(body, kCellsOfHeight, within.size(), [&](ImagePoint p) {
            return cv::Point(cvRound(p.x / m_cell), cvRound(p.y / m_cell)) - sight.corner;
        });
        return sight;
    }

    /// The ray on each picture that the implement lies on.
    std::vector<int> find(std::vector<Sight>& sights, std::vector<Rays>& all)
    {
        const cv::Mat resting = restingPicture();
        for (std::size_t i = 0; i < sights.size(); ++i)
            if (sights[i].hold) {
                sights[i].evidence = evidenceIn(sights[i], resting);
                cast(sights[i], all[i]);
            }
        score(all);
        std::vector<int> path = cheapestPath(all);
        if (learn(all, path)) {
            score(all);
            path = cheapestPath(all);
        }
        return path;
    }

    double cell() const { return m_cell; }

    /// Where it lies by the middles of what is seen of it across that ray, from the hands to its tip.
    struct Line {
        ImagePoint hands, tip; ///< pixels
    };
    Line lineOf(const Sight& sight, double ray, double length) const
    {
        ImagePoint hands = handsIn(sight), tip = hands + direction(ray) * length;
        const double reach = std::max(m_halfWidth, kLeastReach) + 1;
        for (int round = 0; round < kRounds; ++round) {
            const ImageVector d = (tip - hands) * (1 / length), n{-d.y, d.x};
            // across = shift + turn * along, least squares
            double w = 0, a = 0, aa = 0, c = 0, ac = 0;
            for (int step = static_cast<int>(kFromHand * kCellsOfHeight); step <= length; ++step) {
                double least = reach + 1, most = -least;
                for (double u = -reach; u <= reach; ++u)
                    if (evidenceAt(sight, hands + d * step + n * u) > kNeutral) {
                        least = std::min(least, u);
                        most = std::max(most, u);
                    }
                if (most < least)
                    continue;
                const double across = (least + most) / 2;
                w += 1, a += step, aa += step * step, c += across, ac += step * across;
            }
            // the hands are where they are but for the network's error
            const double firm = kHandsFirm * length;
            const double det = (w + firm) * aa - a * a;
            if (w < kLeastSteps || det <= 0)
                break;
            const double shift = (c * aa - a * ac) / det, turn = ((w + firm) * ac - a * c) / det;
            hands = hands + n * shift;
            tip = hands + (d + n * turn) * (length / std::sqrt(1 + turn * turn));
        }
        const auto out = [&](ImagePoint p) {
            return ImagePoint{(p.x + sight.corner.x) * m_cell, (p.y + sight.corner.y) * m_cell};
        };
        return {out(hands), out(tip)};
    }

private:
    static cv::Point placeOf(ImagePoint p) { return {cvFloor(p.x), cvFloor(p.y)}; }
    ImagePoint handsIn(const Sight& sight) const
    {
        return {sight.hold->at.x / m_cell - sight.corner.x, sight.hold->at.y / m_cell - sight.corner.y};
    }
    double evidenceAt(const Sight& sight, ImagePoint p) const
    {
        const cv::Point at = placeOf(p);
        if (!cv::Rect({}, sight.evidence.size()).contains(at))
            return 0;
        return likely(sight.evidence.at<std::uint8_t>(at) / 200.0, colourOf(sight.colours.at<cv::Vec3b>(at)));
    }
    /// The evidence with what its colour says.
    double likely(double evidence, int colour) const
    {
        return m_likeness.empty() ? evidence
                                  : evidence + kColourWeight * (m_likeness[static_cast<std::size_t>(colour)] - evidence);
    }

    /// How far it may point from where hands so far apart do.
    static double leastCosine(double cells)
    {
        const double error = kApartError * kCellsOfHeight;
        return std::cos(std::min(kApartSure + std::atan2(error, cells), std::numbers::pi));
    }

    /// What rests: of each place the middle one of its values on the samples.
    cv::Mat restingPicture() const
    {
        cv::Mat middle = m_samples.empty() ? cv::Mat() : m_samples.front().clone();
        const std::size_t bytes = middle.total() * middle.elemSize();
        std::vector<std::uint8_t> values(m_samples.size());
        for (std::size_t at = 0; at < bytes; ++at) {
            for (std::size_t n = 0; n < values.size(); ++n)
                values[n] = m_samples[n].data[at];
            const auto half = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
            std::nth_element(values.begin(), half, values.end());
            middle.data[at] = *half;
        }
        return middle;
    }

    /// Of each place about the hands how much speaks for something narrow there that does not rest and is not the body, 0 to 200.
    cv::Mat evidenceIn(const Sight& sight, const cv::Mat& resting) const
    {
        cv::Mat bright, dark, moved;
        cv::morphologyEx(sight.colours, bright, cv::MORPH_TOPHAT, m_narrow);
        cv::morphologyEx(sight.colours, dark, cv::MORPH_BLACKHAT, m_narrow);
        cv::absdiff(sight.colours, resting(cv::Rect(sight.corner, sight.colours.size())), moved);
        cv::Mat narrow = cv::max(greatest(bright), greatest(dark));
        moved = greatest(moved);
        const bool isAtRest = cv::countNonZero(moved > kContrast) < kMovedCamera * static_cast<double>(moved.total());
        cv::Mat evidence(narrow.size(), CV_8U);
        for (int y = 0; y < evidence.rows; ++y)
            for (int x = 0; x < evidence.cols; ++x) {
                double plain = std::min(1.0, narrow.at<std::uint8_t>(y, x) / kContrast);
                if (isAtRest)
                    plain *= kResting + (1 - kResting) * std::min(1.0, moved.at<std::uint8_t>(y, x) / kContrast);
                if (sight.covered.at<std::uint8_t>(y, x) > 0)
                    plain = std::min(kNeutral, kOverBody * plain);
                evidence.at<std::uint8_t>(y, x) = static_cast<std::uint8_t>(std::lround(200 * plain));
            }
        return evidence;
    }

    /// Along each ray what is there, or the rim of something as wide as the face on both sides.
    void cast(const Sight& sight, Rays& rays) const
    {
        const cv::Mat& evidence = sight.evidence;
        rays.colours.assign(static_cast<std::size_t>(kRays * m_steps), -1);
        rays.evidence.assign(rays.colours.size(), 0);
        const cv::Rect within({}, evidence.size());
        const ImagePoint hands = handsIn(sight);
        for (int ray = 0; ray < kRays; ++ray) {
            const ImageVector d = direction(ray), n{-d.y, d.x};
            if (const auto& along = sight.hold->along)
                if (dot(d, *along) < along->length() * leastCosine(along->length() / m_cell))
                    continue;
            for (int step = 0; step < m_steps; ++step) {
                const ImagePoint p = hands + d * step;
                cv::Point at = placeOf(p);
                if (!within.contains(at))
                    break;
                std::uint8_t most = evidence.at<std::uint8_t>(at);
                std::array<std::uint8_t, 2> rims{};
                std::array<cv::Point, 2> where;
                for (double u = 1; u <= m_halfWidth; ++u)
                    for (const std::size_t side : {0, 1}) {
                        const cv::Point beside = placeOf(p + n * (side == 0 ? -u : u));
                        if (within.contains(beside) && evidence.at<std::uint8_t>(beside) > rims[side]) {
                            rims[side] = evidence.at<std::uint8_t>(beside);
                            where[side] = beside;
                        }
                    }
                const std::size_t weaker = rims[0] < rims[1] ? 0 : 1;
                if (rims[weaker] > most) {
                    most = rims[weaker];
                    at = where[weaker];
                }
                const auto place = static_cast<std::size_t>(ray * m_steps + step);
                rays.colours[place] = static_cast<std::int16_t>(colourOf(sight.colours.at<cv::Vec3b>(at)));
                rays.evidence[place] = most;
            }
        }
    }

    void score(std::vector<Rays>& all) const
    {
        const int first = static_cast<int>(kFromHand * kCellsOfHeight);
        for (Rays& rays : all)
            for (int ray = 0; rays.isThere() && ray < kRays; ++ray) {
                double sum = 0, best = 0;
                int length = 0;
                for (int step = first; step < m_steps; ++step) {
                    const auto at = static_cast<std::size_t>(ray * m_steps + step);
                    if (rays.colours[at] < 0)
                        break;
                    sum += likely(rays.evidence[at] / 200.0, rays.colours[at]) - kNeutral;
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
                    static_cast<float>(best) + (all[i].isThere() ? all[i].score[static_cast<std::size_t>(ray)] : 0);
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
            if (!rays.isThere() || rays.score[ray] < kPlain || rays.length[ray] < kWhole * m_reach)
                continue;
            ++plain;
            for (int other = 0; other < kRays; ++other) {
                const int away = std::min((other - path[i] + kRays) % kRays, (path[i] - other + kRays) % kRays);
                if (away > 0 && away < kOwnRays)
                    continue;
                const int end = away == 0 ? static_cast<int>(rays.length[ray]) : m_steps;
                for (int step = static_cast<int>(kFromHand * kCellsOfHeight); step < end; ++step) {
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

    double m_cell;               // pixels
    double m_halfWidth, m_reach; // cells
    int m_steps;                 // of one cell each
    double m_turn;
    cv::Mat m_narrow;
    std::vector<cv::Mat> m_samples;
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
                                           Hand hand, const FrameClock& clock, const FollowOptions& options)
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
    ImplementFinder finder(height, held, std::max(clock.meanInterval(), 1e-4));
    std::vector<Sight> sights(static_cast<std::size_t>(std::max<std::int64_t>(0, last - options.first.value + 1)));
    const std::size_t sampleEvery = std::max<std::size_t>(1, sights.size() / kSamples);
    for (std::size_t i = 0; i < sights.size(); ++i) {
        if (options.stop.stop_requested())
            return std::vector<Mark>{};
        const FrameIndex f(options.first.value + static_cast<std::int64_t>(i));
        const Body& body = bodies[f.value];
        if (const auto picture = film->frame(f, {}, options.stop))
            sights[i] = finder.look(*picture, body, holdOn(body, held.grip, hand), i % sampleEvery == 0);
        if (options.progress)
            options.progress(static_cast<std::int64_t>(i) + 1, static_cast<std::int64_t>(sights.size()));
    }
    std::vector<Rays> all(sights.size());
    const auto path = finder.find(sights, all);
    std::vector<Mark> found;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const double seen = all[i].isThere() ? all[i].score[static_cast<std::size_t>(path[i])] : 0;
        if (seen < kSeen)
            continue;
        std::vector<float> lengths;
        for (std::size_t n = i > kLengthReach ? i - kLengthReach : 0; n < std::min(all.size(), i + kLengthReach + 1); ++n)
            if (all[n].isThere())
                lengths.push_back(all[n].length[static_cast<std::size_t>(path[n])]);
        std::nth_element(lengths.begin(), lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2), lengths.end());
        const auto line = finder.lineOf(sights[i], finer(all[i], path[i]), std::max(1.0F, lengths[lengths.size() / 2]));
        const double length = (line.tip - line.hands).length();
        const ImageVector d = (line.tip - line.hands) * (1 / length);
        const FrameIndex f(options.first.value + static_cast<std::int64_t>(i));
        const double sigma = height * (kSigma + kSigmaUnseen * (1 - std::min(1.0, seen)));
        // foreshortened as much as the rest of it
        const double behind = held.behind * height * std::min(1.0, length / (held.reach * height));
        const ImagePoint butt = line.hands + d * -behind;
        const auto put = [&](Part part, ImagePoint at) {
            found.push_back({f, {part, BodySide::None, {}}, at, sigma, Source::Network, true});
        };
        put(Part::ImplementGrip, butt);
        put(Part::ImplementTip, line.tip);
        if (held.grip != Grip::Apart) // what two hands apart hold bends
            put(Part::ImplementMid, midpoint(butt, line.tip));
    }
    return found;
}

} // namespace kestrel::vision
