#include "vision/implement_finder.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr double kLonger = 1.3;             // than the pack says: rays reach as far
constexpr double kFromHand = 0.02;          // of standing height: nearer than that are fingers
constexpr double kThin = 0.07, kWide = 2.6; // of standing height, of half a face's width: narrower than that stands out
constexpr double kResting = 0.4;            // what something counts that does not differ from the resting picture
constexpr double kNeutral = 0.45;           // evidence that speaks neither for nor against
constexpr double kOverBody = 0.5;           // what a difference counts in front of the body
constexpr double kTurn = 0.0017;            // what turning by one ray in a sixtieth of a second costs, of its length seen
constexpr int kMostTurn = 24;               // rays from one picture to the next
constexpr double kFlip = 0.6;               // what any turn costs at most: past the camera it comes round at once
constexpr double kSeenAfterFlip = 0.35;     // as kSeen, on the pictures next to such a turn
constexpr double kApartSure = 0.2, kApartError = 0.06; // radians; of standing height: how far two hands apart may mislead
constexpr double kSeen = 0.15;                         // of its length: with less it is not there
constexpr double kPlain = 0.8, kWhole = 0.6;           // of its length: what teaches its colours
constexpr int kLeastPlain = 6;                         // pictures
constexpr int kOwnRays = 5;                            // rays on either side that may still show it
constexpr int kColours = 4096;                         // see numberOf
constexpr double kColourWeight = 0.5, kColourSlope = 1.5;
constexpr double kLeastReach = 5; // cells to either side, for what has no face
constexpr double kHandsFirm = 1;  // what the hands count as against what is seen
constexpr int kRounds = 2, kLeastSteps = 5;
constexpr int kLengthReach = 3; // pictures to either side of which the length is the middle one

/// A number for each shade, sixteen steps of blue, green and red.
std::int16_t numberOf(const cv::Vec3b& p)
{
    return static_cast<std::int16_t>((p[0] >> 4) * 256 + (p[1] >> 4) * 16 + (p[2] >> 4));
}

cv::Point placeOf(ImagePoint p)
{
    return {cvFloor(p.x), cvFloor(p.y)};
}

} // namespace

ImplementFinder::ImplementFinder(double cell, const HeldImplement& held, Hand hand, double interval, std::size_t pictures)
    : m_cell(cell), m_held(held), m_hand(hand), m_halfWidth(held.halfWidth * kCellsOfHeight),
      m_reach(held.reach * kCellsOfHeight), m_steps(static_cast<int>(std::lround(kLonger * m_reach))),
      m_turn(kTurn / (3600 * interval * interval)), m_sights(pictures), m_rays(pictures)
{
    const int narrow = cvRound(std::max(kThin * kCellsOfHeight, kWide * m_halfWidth));
    m_narrow = cv::getStructuringElement(cv::MORPH_RECT, {narrow | 1, narrow | 1});
}

void ImplementFinder::look(std::size_t picture, const cv::Mat& small, const cv::Mat& moved, const cv::Mat& covered,
                           const Body& body)
{
    const auto hold = holdOn(body);
    if (!hold)
        return;
    const double beyond = m_steps + m_halfWidth + 1;
    const ImagePoint at{hold->at.x / m_cell, hold->at.y / m_cell};
    const cv::Rect within = cv::Rect(cvFloor(at.x - beyond), cvFloor(at.y - beyond), cvCeil(2 * beyond), cvCeil(2 * beyond)) &
                            cv::Rect({}, small.size());
    if (within.empty())
        return;
    Sight& sight = m_sights[picture];
    sight.hold = hold;
    sight.corner = within.tl();
    const cv::Mat colours = small(within);
    sight.evidence = evidenceIn(colours, moved.empty() ? moved : moved(within), covered(within));
    sight.colours.create(within.size(), CV_16S);
    std::transform(colours.begin<cv::Vec3b>(), colours.end<cv::Vec3b>(), sight.colours.begin<std::int16_t>(), numberOf);
    cast(sight, m_rays[picture]);
}

std::vector<std::optional<FoundImplement>> ImplementFinder::find(const std::stop_token& stop)
{
    score();
    std::vector<int> path = cheapestPath();
    if (learn(path)) {
        score();
        path = cheapestPath();
    }
    const std::size_t count = m_rays.size();
    std::vector<std::optional<FoundImplement>> found(count);
    for (std::size_t i = 0; i < count; ++i) {
        const double seen = m_rays[i].isThere() ? m_rays[i].score[static_cast<std::size_t>(path[i])] : 0;
        const bool isBesideFlip = (i > 0 && turnBetween(path[i - 1], path[i]) > kMostTurn) ||
                                  (i + 1 < count && turnBetween(path[i], path[i + 1]) > kMostTurn);
        if (seen < (isBesideFlip ? kSeenAfterFlip : kSeen))
            continue;
        std::vector<float> lengths;
        for (std::size_t n = i > kLengthReach ? i - kLengthReach : 0; n < std::min(count, i + kLengthReach + 1); ++n)
            if (m_rays[n].isThere())
                lengths.push_back(m_rays[n].length[static_cast<std::size_t>(path[n])]);
        const auto middle = lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2);
        std::nth_element(lengths.begin(), middle, lengths.end());
        found[i] = lineOf(m_sights[i], finer(m_rays[i], path[i]), std::max(1.0F, *middle));
        found[i]->seen = std::min(1.0, seen);
    }
    if (m_halfWidth > 0)
        addEdges(found, stop);
    return found;
}

/// Rays, the shorter way round.
int ImplementFinder::turnBetween(int one, int other)
{
    const int turn = std::abs(one - other) % kRays;
    return std::min(turn, kRays - turn);
}

ImageVector ImplementFinder::direction(double ray)
{
    const double angle = ray * 2 * std::numbers::pi / kRays;
    return {std::cos(angle), std::sin(angle)};
}

std::optional<ImplementFinder::Hold> ImplementFinder::holdOn(const Body& body) const
{
    const auto *dom = pointOf(body, Part::Hand, sideOf(SideRole::Dom, m_hand)),
               *off = pointOf(body, Part::Hand, sideOf(SideRole::Off, m_hand));
    if (!dom || (!off && m_held.grip != Grip::Dominant))
        return std::nullopt;
    switch (m_held.grip) {
    case Grip::Together:
        return Hold{midpoint(*dom, *off), {}};
    case Grip::Dominant:
        return Hold{*dom, {}};
    case Grip::Apart:
        break;
    }
    return Hold{*dom, *dom - *off};
}

ImagePoint ImplementFinder::handsIn(const Sight& sight) const
{
    return {sight.hold->at.x / m_cell - sight.corner.x, sight.hold->at.y / m_cell - sight.corner.y};
}

double ImplementFinder::evidenceAt(const Sight& sight, ImagePoint p) const
{
    const cv::Point at = placeOf(p);
    if (!cv::Rect({}, sight.evidence.size()).contains(at))
        return 0;
    return likely(sight.evidence.at<std::uint8_t>(at) / 200.0, sight.colours.at<std::int16_t>(at));
}

/// The same at each place, for those who ask for many.
Evidence ImplementFinder::evidenceOf(const Sight& sight) const
{
    Evidence all{sight.evidence.cols, sight.evidence.rows, {}};
    all.values.reserve(sight.evidence.total());
    for (int y = 0; y < all.height; ++y)
        for (int x = 0; x < all.width; ++x)
            all.values.push_back(
                static_cast<float>(likely(sight.evidence.at<std::uint8_t>(y, x) / 200.0, sight.colours.at<std::int16_t>(y, x))));
    return all;
}

/// The evidence with what its colour says.
double ImplementFinder::likely(double evidence, int colour) const
{
    return m_likeness.empty() ? evidence : evidence + kColourWeight * (m_likeness[static_cast<std::size_t>(colour)] - evidence);
}

/// How far it may point from where hands so far apart do.
double ImplementFinder::leastCosine(double cells)
{
    const double error = kApartError * kCellsOfHeight;
    return std::cos(std::min(kApartSure + std::atan2(error, cells), std::numbers::pi));
}

/// Of each place about the hands how much speaks for something narrow there that does not rest and is not the body, 0 to 200.
cv::Mat ImplementFinder::evidenceIn(const cv::Mat& colours, const cv::Mat& moved, const cv::Mat& covered) const
{
    cv::Mat bright, dark;
    cv::morphologyEx(colours, bright, cv::MORPH_TOPHAT, m_narrow);
    cv::morphologyEx(colours, dark, cv::MORPH_BLACKHAT, m_narrow);
    const cv::Mat narrow = cv::max(greatest(bright), greatest(dark));
    cv::Mat evidence(narrow.size(), CV_8U);
    for (int y = 0; y < evidence.rows; ++y)
        for (int x = 0; x < evidence.cols; ++x) {
            double plain = std::min(1.0, narrow.at<std::uint8_t>(y, x) / kContrast);
            if (!moved.empty())
                plain *= kResting + (1 - kResting) * std::min(1.0, moved.at<std::uint8_t>(y, x) / kContrast);
            if (covered.at<std::uint8_t>(y, x) > 0)
                plain = std::min(kNeutral, kOverBody * plain);
            evidence.at<std::uint8_t>(y, x) = static_cast<std::uint8_t>(std::lround(200 * plain));
        }
    return evidence;
}

/// Along each ray what is there, or the rim of something as wide as the face on both sides.
void ImplementFinder::cast(const Sight& sight, Rays& rays) const
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
            rays.colours[place] = sight.colours.at<std::int16_t>(at);
            rays.evidence[place] = most;
        }
    }
}

void ImplementFinder::score()
{
    const int first = static_cast<int>(kFromHand * kCellsOfHeight);
    for (Rays& rays : m_rays)
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

std::vector<int> ImplementFinder::cheapestPath() const
{
    const auto& all = m_rays;
    std::vector<std::array<float, kRays>> sums(all.size());
    std::vector<std::array<std::int16_t, kRays>> before(all.size());
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto most = i == 0 ? 0 : std::max_element(sums[i - 1].begin(), sums[i - 1].end()) - sums[i - 1].begin();
        for (int ray = 0; ray < kRays; ++ray) {
            double best = i == 0 ? 0 : sums[i - 1][static_cast<std::size_t>(most)] - kFlip;
            before[i][static_cast<std::size_t>(ray)] = static_cast<std::int16_t>(most);
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
bool ImplementFinder::learn(const std::vector<int>& path)
{
    std::vector<double> own(kColours, 1), others(kColours, 1);
    double ownSum = kColours, othersSum = kColours;
    int plain = 0;
    for (std::size_t i = 0; i < m_rays.size(); ++i) {
        const Rays& rays = m_rays[i];
        const auto ray = static_cast<std::size_t>(path[i]);
        if (!rays.isThere() || rays.score[ray] < kPlain || rays.length[ray] < kWhole * m_reach)
            continue;
        ++plain;
        for (int other = 0; other < kRays; ++other) {
            const int away = turnBetween(other, path[i]);
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

/// By the middles of what is seen of it across that ray, from the hands to its tip.
FoundImplement ImplementFinder::lineOf(const Sight& sight, double ray, double length) const
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
    const auto out = [&](ImagePoint p) { return ImagePoint{(p.x + sight.corner.x) * m_cell, (p.y + sight.corner.y) * m_cell}; };
    // foreshortened as much as the rest of it
    const double behind = m_held.behind * kCellsOfHeight * std::min(1.0, length / m_reach);
    return {out(hands), out(hands + (tip - hands) * (-behind / length)), out(tip), 0};
}

/// Of the face, on the pictures on which the implement was found.
void ImplementFinder::addEdges(std::vector<std::optional<FoundImplement>>& found, const std::stop_token& stop) const
{
    const auto corner = [&](std::size_t i) { return ImageVector(m_sights[i].corner.x, m_sights[i].corner.y); };
    std::vector<std::optional<SeenShaft>> shafts(found.size());
    for (std::size_t i = 0; i < found.size(); ++i) {
        const ImageVector shaft = found[i] ? (found[i]->tip - found[i]->hands) * (1 / m_cell) : ImageVector{};
        if (shaft.length() < 1)
            continue;
        const ImagePoint tip{found[i]->tip.x / m_cell, found[i]->tip.y / m_cell};
        shafts[i] = {tip + corner(i) * -1, shaft * (1 / shaft.length()), shaft.length() / m_reach, shaft.length()};
    }
    const auto faces = findFaces(
        shafts, m_halfWidth, [this](std::size_t i) { return evidenceOf(m_sights[i]); }, stop);
    for (std::size_t i = 0; i < found.size(); ++i)
        if (faces[i]) {
            const auto out = [&](ImagePoint p) {
                const ImagePoint q = p + corner(i);
                return ImagePoint{q.x * m_cell, q.y * m_cell};
            };
            found[i]->edges = {out(faces[i]->a), out(faces[i]->b)};
            found[i]->tip = out(faces[i]->tip);
        }
}

/// Between rays, where the neighbours say that the best one lies.
double ImplementFinder::finer(const Rays& rays, int ray)
{
    const auto at = [&](int r) { return static_cast<double>(rays.score[static_cast<std::size_t>((r + kRays) % kRays)]); };
    const double bend = at(ray - 1) - 2 * at(ray) + at(ray + 1);
    const double shift = bend < -1e-6 ? 0.5 * (at(ray - 1) - at(ray + 1)) / bend : 0;
    return ray + (std::abs(shift) <= 1 ? shift : 0);
}

} // namespace kestrel::vision
