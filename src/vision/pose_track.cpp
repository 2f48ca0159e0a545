#include "vision/pose_track.h"

#include "media/file_digest.h"
#include "media/film.h"
#include "vision/person_finder.h"

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <future>
#include <set>
#include <utility>

namespace kestrel::vision {

namespace {

constexpr std::size_t kAtOnce = 2; // pictures that are read together
// The finder's region and a coach's box are rough, and so is a body read in them: it is read again where it says that it is,
// until its size changes by no more than that, or so many times.
constexpr double kSettled = 0.04;
constexpr int kMostReadings = 12;
constexpr double kDoubtful = 0.8; // of what is seen of the player elsewhere: a tree taken for somebody had 0.7, people nearly all
constexpr const char* kFinderNetwork = "pose_detection.tflite";
constexpr struct {
    BodyNetwork network;
    std::string_view word;
    const char* file;
} kNetworks[]{
    {BodyNetwork::Quick, "quick", "pose_landmark_lite.tflite"},
    {BodyNetwork::Usual, "usual", "pose_landmark_full.tflite"},
    {BodyNetwork::Thorough, "thorough", "pose_landmark_heavy.tflite"},
};

const auto& rowOf(BodyNetwork network)
{
    return *std::find_if(std::begin(kNetworks), std::end(kNetworks), [&](const auto& r) { return r.network == network; });
}

std::string inFolder(const std::string& folder, const char* name)
{
    return (std::filesystem::path(folder) / name).string();
}

/// The sums that lie beside the networks; none where they were taken elsewhere.
std::set<std::string> knownSums(const std::string& folder)
{
    std::set<std::string> sums;
    for (const char* list : {"SHA256SUMS", "heavy.sha256"}) {
        std::ifstream in(inFolder(folder, list));
        for (std::string line; std::getline(in, line);)
            sums.insert(line.substr(0, line.find(' ')));
    }
    return sums;
}

/// A network with a wrong byte may still load, and would mark a little beside the body.
template <class Reader> Expected<Reader> loadSound(const std::string& folder, const char* name)
{
    const std::string file = inFolder(folder, name);
    const auto sums = knownSums(folder);
    const auto sum = media::calcSha256(file); // one that is missing is said by load()
    if (sum && !sums.empty() && sums.count(*sum) == 0)
        return fail(ErrorCode::BadArgument,
                    "This network is damaged: its content is not what SHA256SUMS beside it says. Install it "
                    "anew; marking by hand works without it.",
                    file);
    return Reader::load(file);
}

Expected<PoseReader> loadReader(const TrackOptions& o)
{
    if (o.body == BodyNetwork::Thorough && !std::filesystem::exists(inFolder(o.models, fileOf(o.body))))
        return fail(ErrorCode::CannotOpen,
                    "The thorough network does not come with the program: fetch_heavy.sh in the folder of the networks fetches "
                    "it, 28 MB.",
                    inFolder(o.models, fileOf(o.body)));
    return loadSound<PoseReader>(o.models, fileOf(o.body));
}

Expected<std::vector<PoseReader>> loadReaders(const TrackOptions& o)
{
    auto reader = loadReader(o);
    std::vector<PoseReader> readers;
    while (reader && readers.size() + 1 < kAtOnce) {
        auto another = reader->another();
        if (!another)
            return tl::unexpected(another.error());
        readers.push_back(std::move(*another));
    }
    if (!reader)
        return tl::unexpected(reader.error());
    readers.push_back(std::move(*reader));
    return readers;
}

template <class... T> std::optional<Error> firstError(const Expected<T>&... results)
{
    std::optional<Error> error;
    const auto note = [&](const auto& result) {
        if (!result && !error)
            error = result.error();
    };
    (note(results), ...);
    return error;
}

/// What looks at the film: each picture is decoded once, and as many as there are readers are read together.
struct Eyes {
    media::Film film;
    PersonFinder finder;
    std::vector<PoseReader> readers;

    /// On two threads: the body's network is as large as all else.
    static Expected<Eyes> open(const std::string& file, const TrackOptions& o)
    {
        auto reading = std::async(std::launch::async, [&] { return loadReaders(o); });
        // back through the film it only goes from where the coach said
        auto film = media::Film::open(file, {.stop = o.stop, .knownIndex = o.knownIndex, .kept = o.player ? 0 : kAtOnce});
        auto finder = loadSound<PersonFinder>(o.models, kFinderNetwork);
        auto readers = reading.get();
        if (const auto error = firstError(film, finder, readers))
            return tl::unexpected(*error);
        return Eyes{std::move(*film), std::move(*finder), std::move(*readers)};
    }
};

/// Follows the body from picture to picture. Those that are read together are looked at where the one before them says.
class Follower {
public:
    Follower(Eyes& eyes, const TrackOptions& options, PoseTrack& track) : m_eyes(eyes), m_options(options), m_track(track) {}

    /// Over those pictures, forward or, from where the coach said, backward as well. \p rough is where to look on the first,
    /// empty: wherever somebody is.
    void follow(FrameIndex from, FrameIndex end, int step, const std::optional<Region>& rough)
    {
        m_rough = m_last = rough;
        m_region.reset();
        m_before.reset();
        auto coming = decode(from, end, step);
        for (std::int64_t f = from.value; f != end.value;) {
            const Pictures pictures = coming.get();
            if (pictures.empty()) // it was stopped
                return;
            coming = decode(FrameIndex(f + step * static_cast<std::int64_t>(pictures.size())), end, step); // while these are read
            for (auto& pose : read(pictures, f, step)) {
                m_track.poses[static_cast<std::size_t>(f - m_track.first.value)] = std::move(pose);
                f += step;
                ++m_track.looked;
                if (m_options.progress)
                    m_options.progress(m_track.looked, static_cast<std::int64_t>(m_track.poses.size()));
            }
        }
    }

    /// Where somebody was found anew, in the order in which it was looked.
    const std::vector<FrameIndex>& begun() const { return m_begun; }

private:
    using Pictures = std::vector<Expected<media::Picture>>;

    /// As many pictures as are read together, fewer at the end, none when it was stopped.
    std::future<Pictures> decode(FrameIndex from, FrameIndex end, int step)
    {
        return std::async(std::launch::async, [=, this] {
            Pictures pictures;
            for (std::int64_t f = from.value; f != end.value && pictures.size() < kAtOnce; f += step) {
                pictures.push_back(m_eyes.film.frame(FrameIndex(f), {}, m_options.stop));
                if (m_options.stop.stop_requested())
                    return Pictures();
            }
            return pictures;
        });
    }

    static Region lookingAt(Region region, std::int64_t frame)
    {
        region.isMirrored = isLookedAtMirrored(FrameIndex(frame));
        return region;
    }

    std::vector<std::optional<Pose>> read(const Pictures& pictures, std::int64_t first, int step)
    {
        const auto frameOf = [&](std::size_t n) { return first + step * static_cast<std::int64_t>(n); };
        std::vector<std::future<std::optional<Pose>>> reading(pictures.size());
        for (std::size_t n = 0; n < pictures.size() && m_region; ++n)
            if (pictures[n])
                reading[n] = std::async(std::launch::async, [&, n, region = lookingAt(*m_region, frameOf(n))] {
                    return m_eyes.readers[n].read(*pictures[n], region);
                });
        std::vector<std::optional<Pose>> poses(pictures.size());
        for (std::size_t n = 0; n < pictures.size(); ++n) {
            if (!pictures[n]) {
                m_track.damaged.push_back(pictures[n].error());
                continue;
            }
            if (reading[n].valid())
                poses[n] = reading[n].get();
            if (!poses[n] && n > 0 && m_region) // the picture before says better by now
                poses[n] = m_eyes.readers.front().read(*pictures[n], lookingAt(*m_region, frameOf(n)));
            if (!poses[n] && (poses[n] = find(*pictures[n])))
                m_begun.push_back(FrameIndex(frameOf(n)));
            m_region = poses[n] ? std::optional(regionAfter(*poses[n], m_before, kAtOnce)) : std::nullopt;
            m_before = poses[n];
            if (m_region)
                m_last = m_region;
        }
        return poses;
    }

    /// The player anew: where the coach said, else the person nearest to where the player was last, else the largest.
    std::optional<Pose> find(const media::Picture& picture)
    {
        if (const auto rough = std::exchange(m_rough, std::nullopt))
            if (auto pose = readUntilSettled(picture, *rough))
                return pose;
        const auto people = m_eyes.finder.find(picture);
        return people.empty() ? std::nullopt : readUntilSettled(picture, nearest(people, m_last).region);
    }

    std::optional<Pose> readUntilSettled(const media::Picture& picture, const Region& rough)
    {
        PoseReader& reader = m_eyes.readers.front();
        auto pose = reader.read(picture, rough);
        for (int n = 1; pose && n < kMostReadings; ++n) {
            auto again = reader.read(picture, pose->next);
            if (!again)
                break;
            const double change = again->next.side / pose->next.side - 1;
            pose = std::move(again);
            if (std::abs(change) <= kSettled)
                break;
        }
        return pose;
    }

    static const Person& nearest(const std::vector<Person>& people, const std::optional<Region>& last)
    {
        if (!last)
            return people.front();
        return *std::min_element(people.begin(), people.end(), [&](const Person& a, const Person& b) {
            return (a.region.centre - last->centre).length() < (b.region.centre - last->centre).length();
        });
    }

    Eyes& m_eyes;
    const TrackOptions& m_options;
    PoseTrack& m_track;
    std::optional<Region> m_rough;  // where to look first
    std::optional<Region> m_region; // where to look next; empty: nobody was seen on the last picture
    std::optional<Region> m_last;   // where the player was last
    std::optional<Pose> m_before;   // on the picture before; empty: as m_region
    std::vector<FrameIndex> m_begun;
};

/// How much of a body is seen on those pictures together, 0 to 1 each; and on one of them that shows somebody, on average.
struct SeenOnStretch {
    double together = 0, average = 0;
};

SeenOnStretch seenOn(const PoseTrack& track, FrameIndex from, FrameIndex end)
{
    SeenOnStretch s;
    int pictures = 0;
    for (auto f = from.value; f < end.value; ++f)
        if (const auto& pose = track.poses[static_cast<std::size_t>(f - track.first.value)]) {
            ++pictures;
            for (const auto& point : pose->points)
                s.together += point.visible / kPosePoints;
        }
    s.average = pictures > 0 ? s.together / pictures : 0;
    return s;
}

/// Where the stretch begins on which the player is surely followed, when something else may have been taken for the player
/// before: much less of a body was seen there. Empty: there is none. \param begun  where stretches begin, in the order of time
std::optional<FrameIndex> sureAfterDoubt(const PoseTrack& track, const std::vector<FrameIndex>& begun)
{
    const FrameIndex end(track.first.value + static_cast<std::int64_t>(track.poses.size()));
    std::optional<FrameIndex> best;
    SeenOnStretch most;
    for (std::size_t n = 0; n < begun.size(); ++n)
        if (const auto s = seenOn(track, begun[n], n + 1 < begun.size() ? begun[n + 1] : end); s.together > most.together) {
            most = s;
            best = begun[n];
        }
    return best && seenOn(track, track.first, *best).average < kDoubtful * most.average ? best : std::nullopt;
}

/// Where to look for the player the coach chose.
Expected<Region> regionOf(const PlayerBox& player, Eyes& eyes, const std::string& file)
{
    if (!player.isClick())
        return regionOfBox(player.corner, player.width, player.height);
    constexpr double kSmallest = 60; // pixels: a square in which nobody could be made out
    const auto picture = eyes.film.frame(player.frame);
    if (!picture)
        return tl::unexpected(picture.error());
    const auto away = [&](const Person& p) { return (p.region.centre - player.corner).length(); };
    // closer and closer about the click: somebody small is not seen in the whole picture
    for (double side = std::max(picture->size.width, picture->size.height); side > kSmallest; side /= 2) {
        auto there = eyes.finder.find(*picture, {player.corner, 1.2 * side, 0});
        std::erase_if(there, [&](const Person& p) { return away(p) > p.region.side / 2; });
        if (!there.empty())
            return std::min_element(there.begin(), there.end(), [&](auto& a, auto& b) { return away(a) < away(b); })->region;
    }
    return fail(ErrorCode::NotFound, "Nobody was seen where you clicked. Draw a box round the player instead.", file);
}

} // namespace

std::string_view wordOf(BodyNetwork network)
{
    return rowOf(network).word;
}

std::optional<BodyNetwork> findBodyNetwork(std::string_view word)
{
    const auto row = std::find_if(std::begin(kNetworks), std::end(kNetworks), [&](const auto& r) { return r.word == word; });
    return row == std::end(kNetworks) ? std::nullopt : std::optional(row->network);
}

const char* fileOf(BodyNetwork network)
{
    return rowOf(network).file;
}

std::int64_t PoseTrack::seen() const
{
    return std::count_if(poses.begin(), poses.end(), [](const auto& p) { return p.has_value(); });
}

Expected<PoseTrack> trackPose(const std::string& file, const TrackOptions& options)
{
    auto eyes = Eyes::open(file, options);
    if (!eyes)
        return tl::unexpected(eyes.error());
    const std::int64_t frames = eyes->film.info().frames();
    const std::int64_t first = std::clamp<std::int64_t>(options.first.value, 0, frames - 1);
    const std::int64_t last = std::clamp<std::int64_t>(options.last ? options.last->value : frames - 1, first, frames - 1);
    PoseTrack track;
    track.first = FrameIndex(first);
    track.by = options.body;
    track.poses.resize(static_cast<std::size_t>(last - first + 1));
    Follower follower(*eyes, options, track);
    if (!options.player) {
        follower.follow(track.first, FrameIndex(last + 1), 1, std::nullopt);
        // a tree may be taken for somebody at first: then those pictures are looked at again, back from where it is the player
        const auto sure = sureAfterDoubt(track, follower.begun());
        if (sure && *sure > track.first && !options.stop.stop_requested()) {
            auto film = media::Film::open(file, {.stop = options.stop, .knownIndex = options.knownIndex});
            if (!film)
                return tl::unexpected(film.error());
            eyes->film = std::move(*film);
            track.looked -= sure->value - track.first.value;
            const auto& there = track.poses[static_cast<std::size_t>(sure->value - track.first.value)];
            follower.follow(FrameIndex(sure->value - 1), FrameIndex(first - 1), -1, regionAfter(*there, std::nullopt, kAtOnce));
        }
    } else { // both ways from where the player is known
        const auto region = regionOf(*options.player, *eyes, file);
        if (!region)
            return tl::unexpected(region.error());
        const std::int64_t at = std::clamp(options.player->frame.value, first, last);
        follower.follow(FrameIndex(at), FrameIndex(last + 1), 1, *region);
        const auto& there = track.poses[static_cast<std::size_t>(at - first)];
        follower.follow(FrameIndex(at - 1), FrameIndex(first - 1), -1,
                        there ? regionAfter(*there, std::nullopt, kAtOnce) : *region);
    }
    if (track.seen() == 0 && !options.stop.stop_requested())
        return fail(ErrorCode::NotFound,
                    "Nobody was seen on this film. Draw a box round the player, or mark by hand: a person less than a sixth of "
                    "the picture high, or cut off by its edge, is not found.",
                    file);
    return track;
}

} // namespace kestrel::vision
