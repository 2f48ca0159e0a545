#include "vision/pose_track.h"

#include "media/file_digest.h"
#include "media/film.h"
#include "vision/person_finder.h"

#include <algorithm>
#include <atomic>
#include <filesystem>
#include <fstream>
#include <future>
#include <set>
#include <thread>
#include <utility>

namespace kestrel::vision {

namespace {

constexpr std::int64_t kLeastStretch = 30;
// The finder's region is rough, and the first bodies read in it may be: after so many pictures it has settled, and where it was
// another size by that much, those are read again whose size does not agree yet.
constexpr std::int64_t kSettles = 18;
constexpr double kSettled = 0.08, kAgrees = 0.04;
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

/// What a thread needs of its own.
struct Eyes {
    media::Film film;
    PersonFinder finder;
    PoseReader reader;

    /// On two threads: the body's network is as large as all else.
    static Expected<Eyes> open(const std::string& file, const TrackOptions& o)
    {
        auto reading = std::async(std::launch::async, [&] { return loadReader(o); });
        auto film = openFilm(file, o, o.knownIndex);
        auto finder = loadSound<PersonFinder>(o.models, kFinderNetwork);
        auto reader = reading.get();
        if (const auto error = firstError(film, finder, reader))
            return tl::unexpected(*error);
        return Eyes{std::move(*film), std::move(*finder), std::move(*reader)};
    }

    /// The same for another thread.
    Expected<Eyes> another(const std::string& file, const TrackOptions& o) const
    {
        auto copying = std::async(std::launch::async, [&] { return reader.another(); });
        auto otherFilm = openFilm(file, o, film.indexBytes());
        auto otherFinder = finder.another();
        auto otherReader = copying.get();
        if (const auto error = firstError(otherFilm, otherFinder, otherReader))
            return tl::unexpected(*error);
        return Eyes{std::move(*otherFilm), std::move(*otherFinder), std::move(*otherReader)};
    }

private:
    static Expected<media::Film> openFilm(const std::string& file, const TrackOptions& o, const std::string& knownIndex)
    {
        // back through the film it only goes from where the coach said, and over the pictures that readAgain reads
        const std::size_t kept = o.player ? 0 : kSettles + 2;
        return media::Film::open(file, {.stop = o.stop, .knownIndex = knownIndex, .kept = kept});
    }
};

class Worker {
public:
    Worker(Eyes& eyes, const TrackOptions& options, PoseTrack& track) : m_eyes(eyes), m_options(options), m_track(track) {}

    /// Follows the body over those pictures, forward or, from where the coach drew a box, backward as well.
    void follow(FrameIndex from, FrameIndex end, int step, std::optional<Region> start, const std::function<void()>& done)
    {
        std::optional<Region> region = start;
        for (std::int64_t f = from.value; f != end.value && !m_options.stop.stop_requested(); f += step) {
            const auto picture = m_eyes.film.frame(FrameIndex(f), {}, m_options.stop);
            if (picture)
                region = look(*picture, FrameIndex(f), region);
            else if (picture.error().code == ErrorCode::Cancelled)
                return;
            else
                m_problems.push_back(picture.error());
            ++m_looked;
            done();
        }
        for (const FrameIndex f : std::exchange(m_found, {}))
            readAgain(f, end, step);
    }

    std::int64_t looked() const { return m_looked; }
    const std::vector<Error>& problems() const { return m_problems; }

private:
    /// Where to look next.
    std::optional<Region> look(const media::Picture& picture, FrameIndex f, std::optional<Region> region)
    {
        auto& place = m_track.poses[static_cast<std::size_t>(f.value - m_track.first.value)];
        if (region)
            place = m_eyes.reader.read(picture, *region);
        if (!place) {
            const auto people = m_eyes.finder.find(picture);
            if (people.empty())
                return std::nullopt;
            place = m_eyes.reader.read(picture, nearest(people, region).region);
            m_found.push_back(f);
            if (place) // the finder's region is rough; the one that follows from the body is what the network was made for
                place = m_eyes.reader.read(picture, place->next);
        }
        return place ? std::optional(place->next) : std::nullopt;
    }

    /// The pictures from where somebody was found, backward from where the region had settled.
    void readAgain(FrameIndex found, FrameIndex end, int step)
    {
        const std::int64_t settled = found.value + step * kSettles;
        if (step > 0 ? settled >= end.value : settled <= end.value)
            return;
        const auto at = [&](std::int64_t f) -> std::optional<Pose>& {
            return m_track.poses[static_cast<std::size_t>(f - m_track.first.value)];
        };
        const auto &rough = at(found.value), &sure = at(settled);
        const auto differs = [&](const std::optional<Pose>& p, double share) {
            return !p || std::abs(p->next.side / sure->next.side - 1) > share;
        };
        if (!rough || !sure || !differs(rough, kSettled))
            return;
        // Bodies do change their size, though. The first picture read once more at the later size tells which it was.
        const auto first = m_eyes.film.frame(found, {}, m_options.stop);
        const auto other =
            first ? m_eyes.reader.read(*first, {rough->next.centre, sure->next.side, rough->next.angle}) : std::nullopt;
        if (!other || std::abs(other->next.side / rough->next.side - 1) < kAgrees)
            return;
        std::int64_t last = settled; // the first picture from which on the size is right
        while (!differs(at(last - step), kAgrees))
            last -= step;
        std::optional<Region> region = at(last)->next;
        for (std::int64_t f = last - step; region && f != found.value - step && !m_options.stop.stop_requested(); f -= step) {
            const auto picture = m_eyes.film.frame(FrameIndex(f), {}, m_options.stop);
            if (!picture)
                return;
            const auto pose = m_eyes.reader.read(*picture, *region);
            region = pose ? std::optional(pose->next) : std::nullopt;
            if (pose)
                at(f) = pose;
        }
    }

    /// The one nearest to where the player was last, else the largest.
    static const Person& nearest(const std::vector<Person>& people, std::optional<Region> last)
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
    std::int64_t m_looked = 0;
    std::vector<FrameIndex> m_found; // pictures on which the finder was asked, with success
    std::vector<Error> m_problems;
};

/// One piece of work for a thread: pictures from one on, up to but not including another.
struct Stretch {
    FrameIndex from, end;
    int step = 1;
    std::optional<Region> start{};
};

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

std::vector<Stretch> stretches(FrameIndex first, std::int64_t count, const std::optional<PlayerBox>& player,
                               const std::optional<Region>& start)
{
    const FrameIndex end(first.value + count);
    if (player) { // both ways from where the player is known
        const FrameIndex at(std::clamp(player->frame.value, first.value, end.value - 1));
        return {{at, end, 1, start}, {FrameIndex(at.value - 1), FrameIndex(first.value - 1), -1, start}};
    }
    if (count < 2 * kLeastStretch)
        return {{first, end}};
    const FrameIndex middle(first.value + count / 2);
    return {{first, middle}, {middle, end}};
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
    std::vector<Eyes> all;
    all.push_back(std::move(*eyes));
    const std::int64_t frames = all.front().film.info().frames();
    const std::int64_t first = std::clamp<std::int64_t>(options.first.value, 0, frames - 1);
    const std::int64_t last = std::clamp<std::int64_t>(options.last ? options.last->value : frames - 1, first, frames - 1);
    PoseTrack track;
    track.first = FrameIndex(first);
    track.by = options.body;
    track.poses.resize(static_cast<std::size_t>(last - first + 1));
    std::optional<Region> start;
    if (options.player) {
        const auto region = regionOf(*options.player, all.front(), file);
        if (!region)
            return tl::unexpected(region.error());
        start = *region;
    }
    const auto work = stretches(track.first, last - first + 1, options.player, start);
    while (all.size() < work.size()) {
        auto another = all.front().another(file, options);
        if (!another)
            return tl::unexpected(another.error());
        all.push_back(std::move(*another));
    }

    std::atomic<std::int64_t> done = 0;
    const auto total = static_cast<std::int64_t>(track.poses.size());
    const auto tick = [&] {
        const auto now = ++done;
        if (options.progress)
            options.progress(now, total);
    };
    std::vector<Worker> workers;
    for (std::size_t n = 0; n < work.size(); ++n)
        workers.emplace_back(all[n], options, track); // each writes to pictures of its own
    {
        std::vector<std::jthread> threads;
        for (std::size_t n = 0; n < work.size(); ++n)
            threads.emplace_back([&, n] { workers[n].follow(work[n].from, work[n].end, work[n].step, work[n].start, tick); });
    }
    for (const Worker& w : workers) {
        track.looked += w.looked();
        track.damaged.insert(track.damaged.end(), w.problems().begin(), w.problems().end());
    }
    if (track.seen() == 0 && !options.stop.stop_requested())
        return fail(ErrorCode::NotFound,
                    "Nobody was seen on this film. Draw a box round the player, or mark by hand: a person less than a sixth of "
                    "the picture high, or cut off by its edge, is not found.",
                    file);
    return track;
}

} // namespace kestrel::vision
