#include "vision/ball_finder.h"

#include "core/base/segment.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <utility>

namespace kestrel::vision {

namespace {

constexpr double kMoved = 25;                       // grey levels
constexpr double kLeastArea = 0.25, kMostArea = 10; // of the disc that it would be: nearer, farther, smeared
constexpr std::size_t kMostSpots = 24;              // on a picture
constexpr double kMostWay = 0.9;                    // of standing height, from picture to picture
constexpr double kOff = 1.5, kOffShare = 0.15;      // cells, and of the way: how far from where its way leads
constexpr int kMissed = 2;                          // pictures
constexpr double kAreaRatio = 3, kColourOff = 60;   // from picture to picture
constexpr double kWholeWay = 3;                     // diameters: a ball goes as far
constexpr std::size_t kLeastSpots = 3, kLeastSlow = 6;
constexpr double kSlow = 60;                          // diameters a second: a bit of cloth may be as fast
constexpr double kRests = 0.2;                        // seconds that something may stay at a place
constexpr double kSamePlace = 1.5;                    // cells
constexpr double kShadowEven = 0.15;                  // what the colours' shares may differ
constexpr double kSigma = 0.045, kSigmaSmear = 0.012; // of the diameter, of the way from picture to picture

/// Darker than the ground in all colours alike.
bool isShadow(const cv::Scalar& colour, const cv::Scalar& ground)
{
    double least = 1e9, most = 0;
    for (int c = 0; c < 3; ++c) {
        const double share = (colour[c] + 1) / (ground[c] + 1);
        least = std::min(least, share);
        most = std::max(most, share);
    }
    return most < 1 && most - least < kShadowEven;
}

} // namespace

BallFinder::BallFinder(double cell, double diameter, double interval, std::size_t pictures)
    : m_cell(cell), m_diameter(diameter * kCellsOfHeight), m_interval(interval), m_spots(pictures)
{
}

void BallFinder::look(std::size_t picture, const cv::Mat& small, const cv::Mat& moved, const cv::Mat& resting,
                      const cv::Mat& covered, const Body& body)
{
    if (moved.empty())
        return;
    cv::Mat labels, stats, centres;
    const int count = cv::connectedComponentsWithStats(moved > kMoved, labels, stats, centres, 8, CV_32S);
    const double disc = std::numbers::pi / 4 * m_diameter * m_diameter;
    const auto *kneeL = pointOf(body, Part::Knee, BodySide::Left), *kneeR = pointOf(body, Part::Knee, BodySide::Right);
    const double knees = kneeL && kneeR ? std::min(kneeL->y, kneeR->y) : 0; // a shadow lies on the ground
    auto& spots = m_spots[picture];
    for (int n = 1; n < count; ++n) {
        const double area = stats.at<int>(n, cv::CC_STAT_AREA);
        if (area < kLeastArea * disc || area > kMostArea * disc)
            continue;
        const cv::Rect box(stats.at<int>(n, cv::CC_STAT_LEFT), stats.at<int>(n, cv::CC_STAT_TOP),
                           stats.at<int>(n, cv::CC_STAT_WIDTH), stats.at<int>(n, cv::CC_STAT_HEIGHT));
        if (box.x == 0 || box.y == 0 || box.br().x == small.cols || box.br().y == small.rows) // cut off
            continue;
        const cv::Mat own = labels(box) == n;
        if (cv::countNonZero(own & covered(box)) > 0) // part of the body, or what it holds
            continue;
        const cv::Scalar colour = cv::mean(small(box), own), ground = cv::mean(resting(box), own);
        spots.push_back({{centres.at<double>(n, 0) + 0.5, centres.at<double>(n, 1) + 0.5},
                         area,
                         {colour[0], colour[1], colour[2]},
                         centres.at<double>(n, 1) * m_cell > knees && isShadow(colour, ground)});
    }
    if (spots.size() > kMostSpots) {
        const auto odd = [&](const Spot& s) { return std::abs(std::log(s.area / disc)); };
        std::nth_element(spots.begin(), spots.begin() + kMostSpots, spots.end(),
                         [&](const Spot& a, const Spot& b) { return odd(a) < odd(b); });
        spots.resize(kMostSpots);
    }
}

bool BallFinder::isAlike(const Spot& a, const Spot& b) const
{
    return std::max(a.area, b.area) <= kAreaRatio * std::min(a.area, b.area) && cv::norm(a.colour - b.colour) <= kColourOff;
}

std::optional<std::size_t> BallFinder::nearest(std::size_t picture, ImagePoint expected, double within, const Spot& like) const
{
    std::optional<std::size_t> best;
    for (std::size_t n = 0; n < m_spots[picture].size(); ++n) {
        const Spot& s = m_spots[picture][n];
        const double off = (s.at - expected).length();
        if (off <= within && isAlike(s, like)) {
            within = off;
            best = n;
        }
    }
    return best;
}

/// As long as each is where the ones before lead.
BallFinder::Chain BallFinder::chainFrom(std::size_t picture, std::size_t a, std::size_t b) const
{
    Chain chain{picture, {a, b}, 0};
    const Spot* last = &m_spots[picture + 1][b];
    ImageVector way = last->at - m_spots[picture][a].at;
    for (std::size_t i = picture + 2, missed = 0; i < m_spots.size() && missed <= kMissed; ++i) {
        const double since = static_cast<double>(missed + 1), within = since * (kOff + kOffShare * way.length());
        const ImagePoint expected = last->at + way * since;
        const auto next = nearest(i, expected, within, *last);
        chain.spots.push_back(next);
        if (!next) {
            ++missed;
            continue;
        }
        const Spot& spot = m_spots[i][*next];
        chain.score += 1 - 0.5 * (spot.at - expected).length() / within;
        way = (spot.at - last->at) * (1 / since);
        last = &spot;
        missed = 0;
    }
    while (!chain.spots.back())
        chain.spots.pop_back();
    return chain;
}

/// Seen often enough, gone far enough, and no shadow.
bool BallFinder::isBall(const Chain& chain) const
{
    std::size_t seen = 0, shadows = 0;
    for (std::size_t n = 0; n < chain.spots.size(); ++n)
        if (chain.spots[n]) {
            ++seen;
            shadows += m_spots[chain.first + n][*chain.spots[n]].isLikeShadow;
        }
    const ImagePoint from = m_spots[chain.first][*chain.spots.front()].at,
                     to = m_spots[chain.first + chain.spots.size() - 1][*chain.spots.back()].at;
    const double way = (to - from).length(), seconds = static_cast<double>(chain.spots.size() - 1) * m_interval;
    if (way < kWholeWay * m_diameter || 3 * seen < 2 * chain.spots.size())
        return false;
    return 2 * shadows < seen && seen >= (way > kSlow * m_diameter * seconds ? kLeastSpots : kLeastSlow);
}

/// What stays where it is: something that was moved, and what the resting picture shows of something that went.
void BallFinder::leaveOutResting()
{
    struct Place {
        ImagePoint at;
        int pictures = 0;
    };
    std::vector<Place> places;
    // squares as wide as one place: what is near lies in the next at most
    std::map<std::pair<int, int>, std::vector<std::size_t>> inSquare;
    const auto squareOf = [](ImagePoint p) {
        return std::pair(static_cast<int>(std::floor(p.x / kSamePlace)), static_cast<int>(std::floor(p.y / kSamePlace)));
    };
    const auto firstNear = [&](const Spot& s, const auto& counts) -> Place* {
        std::optional<std::size_t> first;
        const auto [x, y] = squareOf(s.at);
        for (int across = -1; across <= 1; ++across)
            for (int down = -1; down <= 1; ++down)
                if (const auto square = inSquare.find({x + across, y + down}); square != inSquare.end())
                    for (const std::size_t n : square->second)
                        if ((!first || n < *first) && (places[n].at - s.at).length() < kSamePlace && counts(places[n]))
                            first = n;
        return first ? &places[*first] : nullptr;
    };
    for (const auto& spots : m_spots)
        for (const Spot& s : spots) {
            if (Place* const place = firstNear(s, [](const Place&) { return true; })) {
                ++place->pictures;
                continue;
            }
            inSquare[squareOf(s.at)].push_back(places.size());
            places.push_back({s.at, 1});
        }
    const auto rests = [&](const Place& p) { return p.pictures * m_interval >= kRests; };
    for (auto& spots : m_spots)
        std::erase_if(spots, [&](const Spot& s) { return firstNear(s, rests) != nullptr; });
}

std::vector<std::optional<FoundBall>> BallFinder::find(const std::vector<std::optional<FoundImplement>>& held, double halfWidth,
                                                       const std::stop_token& stop)
{
    for (std::size_t i = 0; i < std::min(held.size(), m_spots.size()); ++i)
        if (held[i])
            std::erase_if(m_spots[i], [&](const Spot& s) {
                const ImagePoint at{s.at.x * m_cell, s.at.y * m_cell};
                return distanceToSegment(at, held[i]->butt, held[i]->tip) < (halfWidth * kCellsOfHeight + 2) * m_cell;
            });
    leaveOutResting();
    std::vector<Chain> chains;
    for (std::size_t i = 0; i + 2 < m_spots.size() && !stop.stop_requested(); ++i)
        for (std::size_t a = 0; a < m_spots[i].size(); ++a)
            for (std::size_t b = 0; b < m_spots[i + 1].size(); ++b) {
                const Spot &from = m_spots[i][a], &to = m_spots[i + 1][b];
                if ((to.at - from.at).length() > kMostWay * kCellsOfHeight || !isAlike(from, to))
                    continue;
                if (Chain chain = chainFrom(i, a, b); isBall(chain))
                    chains.push_back(std::move(chain));
            }
    std::stable_sort(chains.begin(), chains.end(), [](const Chain& a, const Chain& b) { return a.score > b.score; });
    std::vector<std::optional<FoundBall>> found(m_spots.size());
    std::vector<bool> isTaken(m_spots.size());
    for (const Chain& chain : chains) {
        const auto from = isTaken.begin() + static_cast<std::ptrdiff_t>(chain.first),
                   to = from + static_cast<std::ptrdiff_t>(chain.spots.size());
        if (std::find(from, to, true) != to) // there is one ball
            continue;
        std::fill(from, to, true);
        const double steps = static_cast<double>(chain.spots.size() - 1);
        const double way = (m_spots[chain.first + chain.spots.size() - 1][*chain.spots.back()].at -
                            m_spots[chain.first][*chain.spots.front()].at)
                               .length() /
                           steps;
        for (std::size_t n = 0; n < chain.spots.size(); ++n)
            if (chain.spots[n]) {
                const Spot& s = m_spots[chain.first + n][*chain.spots[n]];
                found[chain.first + n] =
                    FoundBall{{s.at.x * m_cell, s.at.y * m_cell}, (kSigma * m_diameter + kSigmaSmear * way) * m_cell};
            }
    }
    return found;
}

} // namespace kestrel::vision
