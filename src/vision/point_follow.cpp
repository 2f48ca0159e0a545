#include "vision/point_follow.h"

#include "media/film.h"

#include <opencv2/imgproc.hpp>
#include <opencv2/video/tracking.hpp>

#include <algorithm>
#include <cmath>
#include <deque>
#include <map>
#include <optional>

namespace kestrel::vision {

namespace {

constexpr int kPatch = 21, kLevels = 3;               // pixels; halvings of the picture
constexpr double kWayBack = 1.5;                      // pixels: a step that does not lead back this near is not believed
constexpr double kAlike = 0.55;                       // correlation of the patch before and after a step
constexpr double kFoundAgain = 0.75;                  // the same where a lost point is looked for
constexpr double kLeastContrast = 2;                  // grey levels, standard deviation: what is plainer cannot be held on to
constexpr int kMostLost = 6;                          // pictures it may be hidden for
constexpr double kSeedSigma = 0.7, kStepSigma = 0.9;  // pixels: of the first step, and what the root of the steps adds
constexpr double kWaySigma = 0.02, kSpeedSigma = 0.1; // of the way gone, which turns what is looked at; of the way in one picture
// After so many steps those are gone back as a whole: a way that does not lead back that near, pixels, has slipped. Each step may
// miss by kWayBack; what slips slowly shows only on a long way.
constexpr struct {
    std::size_t steps;
    double slipped;
} kChecks[]{{6, 10}, {24, 14}};
constexpr double kFaster = 1.5;         // how much wider than its last step a lost point is looked for
constexpr int kMiddle = 9;              // pixels: of the patch, what surely belongs to the point
constexpr double kSameGround = 0.9;     // correlation with what lay there before the point came
constexpr double kStopped = 4;          // pixels
constexpr std::size_t kRemembered = 40; // pictures
constexpr std::int64_t kChunk = 32;     // pictures that are kept for walking backward

/// Grey pictures of a film, forward or backward.
class GreyFilm {
public:
    GreyFilm(media::Film& film, const FollowOptions& options) : m_film(film), m_options(options) {}

    /// Empty: it cannot be decoded, or the work was stopped.
    cv::Mat at(std::int64_t frame, int step)
    {
        if (const auto known = m_kept.find(frame); known != m_kept.end())
            return known->second;
        m_kept.clear();
        const std::int64_t from = step > 0 ? frame : std::max(m_options.first.value, frame - kChunk + 1);
        for (std::int64_t f = from; f <= frame; ++f)
            if (const auto picture = m_film.frame(FrameIndex(f), {}, m_options.stop)) {
                const cv::Mat bgra(picture->size.height, picture->size.width, CV_8UC4, const_cast<std::uint8_t*>(picture->row(0)),
                                   static_cast<std::size_t>(picture->stride));
                cv::cvtColor(bgra, m_kept[f], cv::COLOR_BGRA2GRAY);
            }
        const auto found = m_kept.find(frame);
        return found == m_kept.end() ? cv::Mat() : found->second;
    }

private:
    media::Film& m_film;
    const FollowOptions& m_options;
    std::map<std::int64_t, cv::Mat> m_kept;
};

/// Pixel centres lie at halves here and at whole numbers there.
cv::Point2f toCv(ImagePoint p)
{
    return {static_cast<float>(p.x - 0.5), static_cast<float>(p.y - 0.5)};
}
ImagePoint fromCv(cv::Point2f p)
{
    return {p.x + 0.5, p.y + 0.5};
}

cv::Mat patchAt(const cv::Mat& picture, cv::Point2f p, int size = kPatch)
{
    cv::Mat patch;
    cv::getRectSubPix(picture, {size, size}, p, patch);
    return patch;
}

bool isPlain(const cv::Mat& patch)
{
    cv::Scalar mean, deviation;
    cv::meanStdDev(patch, mean, deviation);
    return deviation[0] < kLeastContrast;
}

double likeness(const cv::Mat& a, const cv::Mat& b)
{
    cv::Mat one;
    cv::matchTemplate(a, b, one, cv::TM_CCOEFF_NORMED);
    const double value = one.at<float>(0, 0);
    return std::isfinite(value) ? value : 0;
}

bool isInside(const cv::Mat& picture, cv::Point2f p)
{
    return p.x >= 1 && p.y >= 1 && p.x < static_cast<float>(picture.cols - 1) && p.y < static_cast<float>(picture.rows - 1);
}

/// Where optical flow takes a point, begun at a guess. Empty: nowhere. \param levels  halvings of the picture that are looked at
std::optional<cv::Point2f> flow(const cv::Mat& from, const cv::Mat& to, cv::Point2f p, cv::Point2f guess, int levels = kLevels)
{
    const std::vector<cv::Point2f> start{p};
    std::vector<cv::Point2f> end{guess};
    std::vector<std::uint8_t> ok;
    std::vector<float> error;
    const cv::TermCriteria enough(cv::TermCriteria::COUNT | cv::TermCriteria::EPS, 30, 0.01);
    cv::calcOpticalFlowPyrLK(from, to, start, end, ok, error, {kPatch, kPatch}, levels, enough, cv::OPTFLOW_USE_INITIAL_FLOW);
    return ok[0] ? std::optional(end[0]) : std::nullopt;
}

/// One step by optical flow. Empty: not to be believed.
std::optional<cv::Point2f> flowStep(const cv::Mat& from, const cv::Mat& to, cv::Point2f p, cv::Point2f speed)
{
    const auto end = flow(from, to, p, p + speed);
    if (!end || !isInside(to, *end))
        return std::nullopt;
    const auto back = flow(to, from, *end, p);
    if (!back || cv::norm(*back - p) > kWayBack || likeness(patchAt(from, p), patchAt(to, *end)) < kAlike)
        return std::nullopt;
    return end;
}

/// Where the patch is found again near to where it should be. Empty: nowhere.
std::optional<cv::Point2f> lookFor(const cv::Mat& patch, const cv::Mat& picture, cv::Point2f expected, double reach)
{
    const int half = kPatch / 2;
    const int r = static_cast<int>(std::ceil(reach));
    const cv::Rect whole(0, 0, picture.cols, picture.rows);
    const cv::Point middle(static_cast<int>(std::lround(expected.x)), static_cast<int>(std::lround(expected.y)));
    const cv::Rect window = cv::Rect(middle.x - r - half, middle.y - r - half, 2 * (r + half) + 1, 2 * (r + half) + 1) & whole;
    if (window.width < kPatch || window.height < kPatch)
        return std::nullopt;
    cv::Mat scores;
    cv::matchTemplate(picture(window), patch, scores, cv::TM_CCOEFF_NORMED);
    double best = 0;
    cv::Point at;
    cv::minMaxLoc(scores, nullptr, &best, nullptr, &at);
    if (best < kFoundAgain)
        return std::nullopt;
    return cv::Point2f(static_cast<float>(window.x + at.x + half), static_cast<float>(window.y + at.y + half));
}

using Way = std::map<std::int64_t, Followed>;

/// A step that was taken.
struct Step {
    std::int64_t frame;
    cv::Mat picture;
    cv::Point2f at, speed;
};

/// Whether the point has been left behind on the ground: what lies there now lay there before the point came.
bool isGround(const std::deque<Step>& past, const cv::Mat& now, cv::Point2f at)
{
    const auto before = std::find_if(past.rbegin(), past.rend(), [&](const Step& s) { return cv::norm(s.at - at) > kPatch; });
    return before != past.rend() && likeness(patchAt(before->picture, at, kMiddle), patchAt(now, at, kMiddle)) > kSameGround;
}

/// Where the point comes from, if one goes back from the last of those steps to the first as if nothing else were known.
/// Empty: it cannot be gone back.
std::optional<cv::Point2f> cameFrom(const std::deque<Step>& past, std::size_t steps)
{
    std::optional<cv::Point2f> at = past.back().at;
    for (std::size_t n = past.size() - 1; at && n + steps >= past.size(); --n) {
        const Step &now = past[n], &before = past[n - 1];
        // where it was hidden between, what hid it is near and large: then nothing but its own patch is compared
        const int levels = std::abs(now.frame - before.frame) > 1 ? 0 : kLevels;
        at = flow(now.picture, before.picture, *at, *at + (before.at - now.at), levels);
    }
    return at;
}

/// From a seed picture by picture, up to but not including \p end.
Way follow(GreyFilm& film, const Seed& seed, std::int64_t end, int step, const FollowOptions& options,
           const std::function<void()>& done)
{
    Way trajectory;
    cv::Mat before = film.at(seed.frame.value, step);
    cv::Point2f at = toCv(seed.at), speed(0, 0);
    if (before.empty() || !isInside(before, at))
        return trajectory;
    cv::Mat patch = patchAt(before, at);
    if (isPlain(patch))
        return trajectory;
    std::deque<Step> past{{seed.frame.value, before, at, speed}};
    int lost = 0;
    std::size_t taken = 0; // steps
    double gone = 0;       // pixels
    for (std::int64_t f = seed.frame.value + step; f != end && lost <= kMostLost; f += step) {
        if (options.stop.stop_requested())
            return trajectory;
        const cv::Mat now = film.at(f, step);
        done();
        if (now.empty()) {
            ++lost;
            continue;
        }
        const float steps = static_cast<float>(lost + 1);
        std::optional<cv::Point2f> next = lost == 0 ? flowStep(before, now, at, speed) : std::nullopt;
        if (!next)
            next = lookFor(patch, now, at + speed * steps, 4 + kFaster * cv::norm(speed) * steps);
        if (next && isGround(past, now, *next)) { // back to where it had not stopped yet
            while (past.size() > 1 && cv::norm(past.back().at - *next) < kStopped) {
                trajectory.erase(past.back().frame);
                past.pop_back();
            }
            at = past.back().at;
            speed = past.back().speed;
            before = past.back().picture;
            patch = patchAt(before, at);
            lost = static_cast<int>(std::abs(f - past.back().frame)) - 1;
            next = lookFor(patch, now, at + speed * static_cast<float>(lost + 1), 4 + kFaster * cv::norm(speed) * (lost + 1));
            if (next && isGround(past, now, *next))
                next.reset();
        }
        if (!next) {
            ++lost;
            continue;
        }
        gone += cv::norm(*next - at);
        speed = (*next - at) / static_cast<float>(lost + 1);
        lost = 0;
        at = *next;
        patch = patchAt(now, at);
        before = now;
        past.push_back({f, now, at, speed});
        if (past.size() > kRemembered)
            past.pop_front();
        ++taken;
        for (const auto& check : kChecks) {
            if (taken % check.steps != 0 || past.size() <= check.steps)
                continue;
            const Step& then = past[past.size() - 1 - check.steps];
            const auto from = cameFrom(past, check.steps);
            if (!from || cv::norm(*from - then.at) > check.slipped) {
                trajectory.erase(step > 0 ? trajectory.upper_bound(then.frame) : trajectory.begin(),
                                 step > 0 ? trajectory.end() : trajectory.lower_bound(then.frame));
                return trajectory;
            }
        }
        const double distance = std::abs(static_cast<double>(f - seed.frame.value));
        trajectory[f] = {
            FrameIndex(f), fromCv(at),
            std::hypot(kSeedSigma, kStepSigma * std::sqrt(distance) + kWaySigma * gone + kSpeedSigma * cv::norm(speed))};
    }
    return trajectory;
}

/// Between two seeds: the nearer one's way counts more.
Followed blended(const Followed& a, const Followed& b, std::int64_t fromA, std::int64_t fromB)
{
    const double share = static_cast<double>(fromA) / static_cast<double>(fromA + fromB); // of b
    const double apart = (a.at - b.at).length() / 2;
    return {a.frame, lerp(a.at, b.at, share),
            std::hypot(std::hypot((1 - share) * a.sigma, share * b.sigma), std::min(share, 1 - share) * 2 * apart)};
}

} // namespace

Expected<std::vector<Followed>> followPoint(const std::string& file, std::vector<Seed> seeds, const FollowOptions& options)
{
    auto film = media::Film::open(file, {.stop = options.stop, .knownIndex = options.knownIndex});
    if (!film)
        return tl::unexpected(film.error());
    const std::int64_t last = std::min(options.last.value, film->info().frames() - 1);
    std::sort(seeds.begin(), seeds.end(), [](const Seed& a, const Seed& b) { return a.frame < b.frame; });
    for (const auto& s : seeds)
        if (s.frame < options.first || s.frame.value > last)
            return fail(ErrorCode::NoSuchFrame,
                        "Picture " + std::to_string(s.frame.value) + " does not lie in the stretch to follow the point through.",
                        file);
    std::vector<Followed> all;
    GreyFilm grey(*film, options);
    std::int64_t count = 0;
    // every gap between two seeds is gone through twice, those at the ends once
    std::int64_t total = 0;
    for (std::size_t n = 0; n + 1 < seeds.size(); ++n)
        total += 2 * (seeds[n + 1].frame.value - seeds[n].frame.value - 1);
    if (!seeds.empty())
        total += seeds.front().frame.value - options.first.value + last - seeds.back().frame.value;
    const auto done = [&] {
        if (options.progress)
            options.progress(++count, total);
    };
    const auto take = [&](const Way& trajectory) {
        for (const auto& [frame, point] : trajectory)
            all.push_back(point);
    };
    if (!seeds.empty())
        take(follow(grey, seeds.front(), options.first.value - 1, -1, options, done));
    for (std::size_t n = 0; n < seeds.size(); ++n) {
        if (n + 1 == seeds.size()) {
            take(follow(grey, seeds[n], last + 1, 1, options, done));
            break;
        }
        const std::int64_t a = seeds[n].frame.value, b = seeds[n + 1].frame.value;
        Way trajectory = follow(grey, seeds[n], b, 1, options, done);
        for (const auto& [frame, back] : follow(grey, seeds[n + 1], a, -1, options, done)) {
            const auto there = trajectory.find(frame);
            trajectory[frame] = there == trajectory.end() ? back : blended(there->second, back, frame - a, b - frame);
        }
        take(trajectory);
    }
    return all;
}

} // namespace kestrel::vision
