#include "vision/equipment_marks.h"

#include "core/base/parallel_for.h"
#include "core/scene/bridge_gaps.h"
#include "core/scene/leg_scale.h"
#include "media/film.h"
#include "vision/ball_finder.h"
#include "vision/body_marks.h"

#include <atomic>
#include <cmath>

namespace kestrel::vision {

namespace {

constexpr std::int64_t kPiece = 1000;                  // pictures looked at together: what is kept of them takes some 300 MB
constexpr std::int64_t kSamples = 21, kFewSamples = 5; // pictures that what rests is told from
constexpr double kSampleBytes = 160e6;                 // of them together: fewer of large ones
constexpr double kMostPlaces = 4e6; // of a small picture; of a larger one a part around the player is looked at
constexpr double kSigma = 0.0072, kSigmaUnseen = 0.024; // of standing height: seen whole, and what the unseen part adds
constexpr double kEdgeSigma = 0.0112;                   // of standing height
constexpr double kGripSigma = 1.25;                     // times that: the butt is in the hands, and is said by them

using Bodies = std::map<std::int64_t, Body>;

/// A piece of the film, looked at from its first to its last picture.
class Piece {
public:
    Piece(const std::string& file, const Pack& pack, Hand hand, double height, double interval, const Bodies& bodies,
          FrameIndex first, std::int64_t count, const FollowOptions& options)
        : m_file(file), m_pack(pack), m_bodies(bodies), m_options(options), m_first(first), m_count(count), m_height(height),
          m_cell(height / kCellsOfHeight)
    {
        if (pack.implement)
            m_implement.emplace(m_cell, *pack.implement, hand, interval, static_cast<std::size_t>(count));
        if (pack.ballDiameter > 0)
            m_ball.emplace(m_cell, pack.ballDiameter, interval, static_cast<std::size_t>(count));
    }

    /// \param done  called after each picture, from several threads
    Expected<void> look(const std::function<void()>& done)
    {
        std::vector<media::Film> films;
        for (std::int64_t n = 0; n < kWorkers; ++n) {
            auto film = media::Film::open(m_file, {.stop = m_options.stop, .knownIndex = m_options.knownIndex, .kept = 1});
            if (!film)
                return tl::unexpected(film.error());
            films.push_back(std::move(*film));
        }
        const auto& size = films.front().info().size;
        m_window = windowOn({0, 0, size.width, size.height});
        const double bytes = 3 * m_window.area() / (m_cell * m_cell);
        const std::int64_t every = std::max<std::int64_t>(
            1, m_count / std::clamp(static_cast<std::int64_t>(kSampleBytes / bytes), kFewSamples, kSamples));
        std::vector<cv::Mat> samples(static_cast<std::size_t>((m_count + every - 1) / every));
        parallelFor(m_count, [&](std::int64_t part, std::int64_t from, std::int64_t end) {
            for (std::int64_t i = from; i < end && !m_options.stop.stop_requested(); ++i)
                if (i % every == 0)
                    samples[static_cast<std::size_t>(i / every)] = small(films[static_cast<std::size_t>(part)], i);
        });
        std::erase_if(samples, [](const cv::Mat& m) { return m.empty(); });
        const cv::Mat resting = restingPicture(samples);
        parallelFor(m_count, [&](std::int64_t part, std::int64_t from, std::int64_t end) {
            for (std::int64_t i = from; i < end && !m_options.stop.stop_requested(); ++i, done())
                lookAt(films[static_cast<std::size_t>(part)], i, resting);
        });
        return {};
    }

    void addMarks(std::vector<Mark>& marks)
    {
        const auto add = [&](std::size_t i, Part part, ImagePoint at, double sigma) {
            marks.push_back({FrameIndex(m_first.value + static_cast<std::int64_t>(i)),
                             {part, BodySide::None, {}},
                             {at.x + m_window.x, at.y + m_window.y},
                             sigma,
                             Source::Network,
                             true});
        };
        const auto held = m_implement ? m_implement->find(m_options.stop) : std::vector<std::optional<FoundImplement>>{};
        for (std::size_t i = 0; i < held.size(); ++i)
            if (held[i]) {
                const double sigma = m_height * (kSigma + kSigmaUnseen * (1 - held[i]->seen));
                add(i, Part::ImplementGrip, held[i]->butt, kGripSigma * sigma);
                add(i, Part::ImplementTip, held[i]->tip, sigma);
                if (held[i]->edges) {
                    const double edge = m_height * (kEdgeSigma + kSigmaUnseen * (1 - held[i]->seen));
                    add(i, Part::ImplementFaceA, held[i]->edges->front(), edge);
                    add(i, Part::ImplementFaceB, held[i]->edges->back(), edge);
                }
                if (m_pack.implement->grip != Grip::Apart) // what two hands apart hold bends
                    add(i, Part::ImplementMid, midpoint(held[i]->butt, held[i]->tip), sigma);
            }
        const auto ball = m_ball ? m_ball->find(held, m_pack.implement ? m_pack.implement->halfWidth : 0, m_options.stop)
                                 : std::vector<std::optional<FoundBall>>{};
        for (std::size_t i = 0; i < ball.size(); ++i)
            if (ball[i])
                add(i, Part::Ball, ball[i]->at, ball[i]->sigma);
    }

private:
    /// The whole picture, or as much of it around the player as there may be places for.
    cv::Rect windowOn(const cv::Rect& picture) const
    {
        const double most = kMostPlaces * m_cell * m_cell; // pixels
        if (picture.area() <= most)
            return picture;
        cv::Rect player;
        for (auto b = m_bodies.lower_bound(m_first.value); b != m_bodies.end() && b->first < m_first.value + m_count; ++b)
            for (const auto& [landmark, at] : b->second)
                player |= cv::Rect(cvFloor(at.x), cvFloor(at.y), 1, 1) & picture;
        const double square = std::sqrt(most);
        const int width = cvRound(std::min<double>(picture.width, std::max(square, most / picture.height)));
        const int height = cvRound(std::min<double>(picture.height, most / width));
        const cv::Point middle = (player.tl() + player.br()) / 2;
        return {std::clamp(middle.x - width / 2, 0, picture.width - width),
                std::clamp(middle.y - height / 2, 0, picture.height - height), width, height};
    }

    /// Empty: it cannot be decoded.
    cv::Mat small(media::Film& film, std::int64_t i) const
    {
        const auto picture = film.frame(FrameIndex(m_first.value + i), {}, m_options.stop);
        return picture ? smallPicture(*picture, m_cell, m_window) : cv::Mat();
    }

    void lookAt(media::Film& film, std::int64_t i, const cv::Mat& resting)
    {
        const auto found = m_bodies.find(m_first.value + i);
        const cv::Mat picture = found == m_bodies.end() ? cv::Mat() : small(film, i);
        if (picture.empty())
            return;
        Body body = found->second;
        for (auto& [landmark, at] : body)
            at = {at.x - m_window.x, at.y - m_window.y};
        const cv::Mat covered = coveredBy(body, m_cell, kCellsOfHeight, picture.size(), {});
        const cv::Mat moved = movedSince(resting, picture, covered);
        if (m_implement)
            m_implement->look(static_cast<std::size_t>(i), picture, moved, covered, body);
        if (m_ball)
            m_ball->look(static_cast<std::size_t>(i), picture, moved, resting, covered, body);
    }

    const std::string& m_file;
    const Pack& m_pack;
    const Bodies& m_bodies;
    const FollowOptions& m_options;
    FrameIndex m_first;
    std::int64_t m_count;
    double m_height, m_cell; // pixels
    cv::Rect m_window;       // of the picture, in pixels: the part that is looked at
    std::optional<ImplementFinder> m_implement;
    std::optional<BallFinder> m_ball;
};

/// By picture, with short gaps bridged: what a hand holds goes on being held where the hand is not marked for a moment.
Bodies bodiesOf(const std::vector<Mark>& marks, const FrameClock& clock)
{
    std::map<Landmark, std::vector<Mark>> trajectories;
    for (const auto& m : marks)
        trajectories[m.landmark].push_back(m);
    Bodies bodies;
    for (auto& [landmark, trajectory] : trajectories) {
        bridgeGaps(trajectory, clock);
        for (const auto& m : trajectory)
            bodies[m.frame.value][landmark] = m.at;
    }
    return bodies;
}

} // namespace

Expected<std::vector<Mark>> equipmentMarks(const std::string& file, const std::vector<Mark>& marks, const Pack& pack, Hand hand,
                                           const FrameClock& clock, const FollowOptions& options)
{
    const double height = standingHeight(marks, View::Side).value_or(0); // from wherever: how large things are to be looked for
    if (height <= 0)
        return std::vector<Mark>{};
    const Bodies bodies = bodiesOf(marks, clock);
    const std::int64_t last = std::min(options.last.value, clock.frames() - 1), count = last - options.first.value + 1;
    std::atomic<std::int64_t> looked = 0;
    std::vector<Mark> found;
    for (std::int64_t done = 0; done < count; done += kPiece) {
        Piece piece(file, pack, hand, height, std::max(clock.meanInterval(), 1e-4), bodies,
                    FrameIndex(options.first.value + done), std::min(kPiece, count - done), options);
        const auto ok = piece.look([&] {
            const std::int64_t now = ++looked;
            if (options.progress)
                options.progress(now, count);
        });
        if (!ok)
            return tl::unexpected(ok.error());
        if (!options.stop.stop_requested())
            piece.addMarks(found);
        if (options.stop.stop_requested())
            return std::vector<Mark>{};
    }
    return found;
}

} // namespace kestrel::vision
