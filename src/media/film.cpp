#include "media/film.h"

#include "media/ffmpeg.h"
#include "media/film_index.h"
#include "media/packet_source.h"
#include "media/picture_converter.h"

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <thread>

namespace kestrel::media {

namespace {

constexpr std::size_t kDefaultCeiling = std::size_t{256} << 20;
constexpr std::int64_t kLargestPixels = 16384LL * 16384; // a picture beyond this is a hostile header
constexpr std::int64_t kFewPictures = 12;
constexpr int kSpareThreads = 3;       // beyond one a core: some always wait for others, and pictures are converted besides
constexpr int kFromTheStart = 100'000; // seconds back
constexpr AVRational kNanoseconds{1, 1'000'000'000};

/// Before the libraries see the path: plain sentences for what a person can mend.
std::optional<Error> findPathProblem(const std::string& file)
{
    namespace fs = std::filesystem;
    std::error_code ec;
    const auto status = fs::status(file, ec);
    if (!fs::exists(status))
        return Error{ErrorCode::CannotOpen, "There is no such file. If the film has moved, show where it is now.", file, ""};
    if (fs::is_directory(status))
        return std::nullopt;
    if (!fs::is_regular_file(status))
        return Error{ErrorCode::CannotOpen, "This is not a file that can be read twice, so not a film.", file, ""};
    if (fs::file_size(file, ec) == 0 && !ec)
        return Error{ErrorCode::NotAFilm, "The file is empty. Copy it again from the camera.", file, ""};
    return std::nullopt;
}

bool isVariable(const std::vector<MediaTime>& shown, double tickSeconds)
{
    if (shown.size() < 3)
        return false;
    std::int64_t shortest = INT64_MAX, longest = 0;
    for (std::size_t i = 1; i < shown.size(); ++i) {
        const auto d = shown[i].nanoseconds - shown[i - 1].nanoseconds;
        shortest = std::min(shortest, d);
        longest = std::max(longest, d);
    }
    // a coarse time base makes even intervals alternate by a tick
    const double slack = std::max(2.1e9 * tickSeconds, 0.05 * static_cast<double>(shortest));
    return static_cast<double>(longest - shortest) > slack;
}

} // namespace

class Film::Impl {
public:
    explicit Impl(std::string path) : file(std::move(path)) {}

    std::optional<Error> open(const OpenOptions& options)
    {
        const bool isFolder = std::filesystem::is_directory(file);
        auto opened = isFolder ? openPictureFolder(file, options.folderRate) : openContainer(file, options.stop);
        if (!opened)
            return opened.error();
        source = std::move(*opened);
        cache.keepNearest(options.kept);
        facts = source->facts();
        if (auto e = openDecoder())
            return e;
        if (options.firstPicture && decodeNext())
            if (const auto picture = converter->convert(*decoded, options.firstPictureSize))
                options.firstPicture(*picture);
        if (auto e = buildIndex(options))
            return e;
        describe();
        mustSeek = true; // what has been read so far only went into the index
        return std::nullopt;
    }

    std::optional<Error> openDecoder()
    {
        const AVCodecParameters& par = source->parameters();
        if (par.width <= 0 || par.height <= 0 || static_cast<std::int64_t>(par.width) * par.height > kLargestPixels)
            return Error{ErrorCode::NotAFilm, "The file claims a picture size that makes no sense.", file, ""};
        const AVCodec* decoder = avcodec_find_decoder(par.codec_id);
        if (!decoder)
            return Error{ErrorCode::NotAFilm,
                         std::string("Films coded as ") + avcodec_get_name(par.codec_id) +
                             " cannot be read here. Convert it to MP4.",
                         file, ""};
        codec.reset(avcodec_alloc_context3(decoder));
        avcodec_parameters_to_context(codec.get(), &par);
        codec->thread_count = static_cast<int>(std::thread::hardware_concurrency()) + kSpareThreads;
        codec->pkt_timebase = facts.timeBase;
        if (const int e = avcodec_open2(codec.get(), decoder, nullptr); e < 0)
            return Error{ErrorCode::NotAFilm, "The pictures cannot be decoded (" + words(e) + ").", file, ""};
        film.codec = avcodec_get_name(par.codec_id);
        film.rotation = facts.rotation;
        converter = std::make_unique<PictureConverter>(PixelSize{par.width, par.height}, facts.pixelAspect, facts.rotation);
        film.size = converter->uprightSize();
        return std::nullopt;
    }

    std::optional<Error> buildIndex(const OpenOptions& options)
    {
        if (auto known = FilmIndex::fromBytes(options.knownIndex))
            index = std::move(*known);
        else if (auto own = source->index())
            index = std::move(*own);
        else if (auto e = scan(options))
            return e;
        isIndexed = true;
        if (index.entries.empty())
            return Error{ErrorCode::NotAFilm, "The file holds no picture that can be read.", file, ""};
        return std::nullopt;
    }

    /// Reads every packet once, without decoding, going on from what was read for the first picture.
    std::optional<Error> scan(const OpenOptions& options)
    {
        double told = 0;
        while (readPacket()) {
            if (options.stop.stop_requested())
                break;
            if (const double now = options.progress ? source->progress() : 0; now > told + 0.01) {
                told = now;
                options.progress(now);
            }
        }
        if (options.stop.stop_requested())
            return Error{ErrorCode::Cancelled, "Opening was cancelled.", file, ""};
        index.sort();
        return index.countOnly ? countByDecoding(options) : std::nullopt;
    }

    /// Timestamps are missing or doubled: decode once and note when each picture is shown.
    std::optional<Error> countByDecoding(const OpenOptions& options)
    {
        isIndexed = true; // reading again adds nothing
        const auto expected = static_cast<double>(std::max<std::size_t>(1, index.entries.size()));
        index.entries.clear();
        index.keys.clear();
        if (!rewind())
            return Error{ErrorCode::NotAFilm, "The file cannot be read from its start again.", file, ""};
        const double seconds = facts.guessedRate.num > 0 ? av_q2d(av_inv_q(facts.guessedRate)) : 1 / 30.0;
        const auto step = std::max<std::int64_t>(1, std::llround(seconds / av_q2d(facts.timeBase)));
        while (decodeNext()) {
            if (options.stop.stop_requested())
                return Error{ErrorCode::Cancelled, "Opening was cancelled.", file, ""};
            const std::int64_t guess = decoded->best_effort_timestamp;
            const std::int64_t last = index.entries.empty() ? 0 : index.entries.back().pts;
            const std::int64_t pts = index.entries.empty()                     ? (guess == AV_NOPTS_VALUE ? 0 : guess)
                                     : guess != AV_NOPTS_VALUE && guess > last ? guess
                                                                               : last + step;
            index.entries.push_back({pts, step});
            if (options.progress)
                options.progress(std::min(1.0, static_cast<double>(index.entries.size()) / expected));
        }
        return std::nullopt;
    }

    void describe()
    {
        index.tick = facts.timeBase;
        film.shown = index.shown();
        const auto n = film.shown.size();
        const auto mean = n > 1 ? film.shown.back().nanoseconds / static_cast<std::int64_t>(n - 1) : 0;
        const auto lastLasts = av_rescale_q(index.entries.back().duration, facts.timeBase, kNanoseconds);
        film.duration = {film.shown.back().nanoseconds + (lastLasts > 0 ? lastLasts : mean)};
        film.frameRate = mean > 0 ? 1e9 * static_cast<double>(n - 1) / static_cast<double>(film.shown.back().nanoseconds) : 0;
        film.variableRate = isVariable(film.shown, av_q2d(facts.timeBase));
        film.declaredCaptureRate = facts.declaredCaptureRate;
        warnOfDamage();
    }

    void warnOfDamage()
    {
        const std::int64_t have = film.frames();
        const bool tooFew = facts.declaredFrames > have + 1;
        const bool tooShort = facts.declaredSeconds > 0 && film.duration.seconds() < 0.9 * facts.declaredSeconds - 0.2;
        if (index.sawDamage || (tooFew && tooShort))
            film.warnings.push_back("The file is cut off: " + std::to_string(have) + " pictures of about " +
                                    std::to_string(std::max(facts.declaredFrames, have)) +
                                    " can be read. Copy it again from the camera.");
        else if (tooShort)
            film.warnings.push_back("The file says it is longer than what can be read of it; it may be cut off.");
        if (index.countOnly)
            film.warnings.push_back(
                "The file does not say when each picture is shown; times are even steps, and going backward is slow.");
    }

    bool readPacket()
    {
        if (!source->read(*packet))
            return false;
        if (!isIndexed)
            index.note(*packet);
        return true;
    }

    bool rewind()
    {
        if (!source->rewind())
            return false;
        afterSeek();
        nextCounted = 0;
        return true;
    }

    void afterSeek()
    {
        avcodec_flush_buffers(codec.get());
        draining = false;
        mustSeek = false;
    }

    /// The next picture in order of showing into `decoded`; false at the end or when nothing more can be decoded.
    bool decodeNext()
    {
        for (;;) {
            av_frame_unref(decoded.get());
            const int got = avcodec_receive_frame(codec.get(), decoded.get());
            if (got == 0) {
                ++decodedCount;
                return true;
            }
            if (got == AVERROR_EOF || (got != AVERROR(EAGAIN) && draining)) {
                mustSeek = true;
                return false;
            }
            if (!draining) {
                draining = !readPacket();
                avcodec_send_packet(codec.get(), draining ? nullptr : packet.get()); // damage: a picture never comes
            }
        }
    }

    Expected<Picture> get(FrameIndex wanted, PixelSize largest, std::stop_token stop)
    {
        cache.setPlayhead(wanted, Travel::Forward);
        if (const auto done = decodeTo(wanted, [&] { return stop.stop_requested(); }); !done)
            return tl::unexpected(done.error());
        return converter->convert(*cache.find(wanted).planes, largest);
    }

    Expected<void> decodeTo(FrameIndex wanted, const std::function<bool()>& isUnwanted)
    {
        if (wanted.value < 0 || wanted.value >= film.frames())
            return fail(ErrorCode::NoSuchFrame,
                        "There is no frame " + std::to_string(wanted.value) + "; the film has frames 0 to " +
                            std::to_string(film.frames() - 1) + ".",
                        file);
        if (cache.hasFull(wanted))
            return {};
        return index.countOnly ? findByCount(wanted, isUnwanted) : findByTime(wanted, isUnwanted);
    }

    tl::unexpected<Error> damaged(FrameIndex wanted) const
    {
        return fail(ErrorCode::Damaged, "This picture is damaged and cannot be shown; its neighbours may be fine.", file,
                    "frame " + std::to_string(wanted.value));
    }
    tl::unexpected<Error> cancelled() const { return fail(ErrorCode::Cancelled, "Cancelled.", file); }

    Expected<void> findByCount(FrameIndex wanted, const std::function<bool()>& isUnwanted)
    {
        if ((mustSeek || wanted.value < nextCounted) && !rewind())
            return damaged(wanted);
        while (nextCounted <= wanted.value) {
            if (isUnwanted())
                return cancelled();
            if (!decodeNext())
                return damaged(wanted);
            cache.put(FrameIndex(nextCounted++), takeOver(*decoded));
        }
        return {};
    }

    Expected<void> findByTime(FrameIndex wanted, const std::function<bool()>& isUnwanted)
    {
        const std::int64_t target = index.entries[static_cast<std::size_t>(wanted.value)].pts;
        const std::int64_t key = index.keyBefore(target).value_or(index.entries.front().pts);
        // Going on beats seeking also across a key frame when only a few pictures lie between: a seek to it may land on
        // the one before and decode that whole group again.
        const auto last = lastPts == INT64_MIN ? std::nullopt : index.findOrdinal(lastPts);
        const bool isNear = last && wanted.value - *last <= kFewPictures;
        const bool goOn = !mustSeek && lastPts < target && (key <= lastPts || isNear);
        std::int64_t seekTo = key;
        const std::int64_t oneSecond = std::max<std::int64_t>(1, std::llround(1 / av_q2d(facts.timeBase)));
        for (const std::int64_t back : {0, 1, 4, 16, 64, kFromTheStart}) {
            if (back > 0 || !goOn) {
                seekTo -= back * oneSecond; // some demuxers land late: go further back
                if (!(back == kFromTheStart ? rewind() : seek(seekTo)))
                    continue;
                lastPts = INT64_MIN;
                // pictures shown before the key frame but coded after it need the one before: they come out broken here
                trustedFrom = key;
            }
            const auto reached = decodeUpTo(target, isUnwanted);
            if (!reached)
                return tl::unexpected(reached.error());
            if (*reached == Reached::It)
                return {};
            if (*reached == Reached::Beyond && !(back == 0 && goOn))
                return damaged(wanted);
        }
        return damaged(wanted);
    }

    enum class Reached { It, Beyond, BeyondAtOnce };

    /// Decodes on until the picture with these ticks has come or cannot come any more.
    Expected<Reached> decodeUpTo(std::int64_t target, const std::function<bool()>& isUnwanted)
    {
        for (;;) {
            if (isUnwanted())
                return cancelled();
            if (!decodeNext()) // nothing at all: the demuxer landed behind the last key frame
                return lastPts == INT64_MIN ? Reached::BeyondAtOnce : Reached::Beyond;
            const std::int64_t pts = decoded->best_effort_timestamp;
            const bool isFirst = lastPts == INT64_MIN;
            lastPts = pts;
            if (pts >= trustedFrom)
                if (const auto ordinal = index.findOrdinal(pts))
                    cache.put(FrameIndex(*ordinal), takeOver(*decoded));
            if (pts == target && pts >= trustedFrom)
                return Reached::It;
            if (pts > target)
                return isFirst ? Reached::BeyondAtOnce : Reached::Beyond;
        }
    }

    bool seek(std::int64_t to)
    {
        const bool done = source->seek(to) || source->seek(index.entries.front().pts);
        if (done)
            afterSeek();
        return done;
    }

    FrameIndex groupStart(FrameIndex f) const
    {
        if (index.countOnly || f.value < 0 || f.value >= film.frames())
            return FrameIndex(0);
        const auto key = index.keyBefore(index.entries[static_cast<std::size_t>(f.value)].pts);
        return FrameIndex(key ? index.findOrdinal(*key).value_or(0) : 0);
    }

    std::string file;
    FilmInfo film;
    FilmIndex index;
    bool isIndexed = false;
    PacketSourcePtr source;
    StreamFacts facts;
    CodecPtr codec;
    std::unique_ptr<PictureConverter> converter;
    FrameCache cache{kDefaultCeiling};
    std::int64_t decodedCount = 0;
    std::int64_t nextCounted = 0;         // countOnly: ordinal of the next picture out of the decoder
    std::int64_t lastPts = INT64_MIN;     // of the last picture out of the decoder
    std::int64_t trustedFrom = INT64_MIN; // pictures before it came out broken since the last seek
    bool mustSeek = true, draining = false;
    FramePtr decoded{av_frame_alloc()};
    PacketPtr packet{av_packet_alloc()};
};

Expected<Film> Film::open(const std::string& file, OpenOptions options)
{
    if (auto e = findPathProblem(file))
        return tl::unexpected(*e);
    auto impl = std::make_unique<Impl>(file);
    if (auto e = impl->open(options))
        return tl::unexpected(*e);
    return Film(std::move(impl));
}

Film::Film(std::unique_ptr<Impl> impl) : m_impl(std::move(impl)) {}
Film::Film(Film&&) noexcept = default;
Film& Film::operator=(Film&&) noexcept = default;
Film::~Film() = default;

const std::string& Film::file() const
{
    return m_impl->file;
}
const FilmInfo& Film::info() const
{
    return m_impl->film;
}
std::string Film::indexBytes() const
{
    return m_impl->index.toBytes();
}
std::vector<MediaTime> shownTimes(const std::string& indexBytes)
{
    const auto index = FilmIndex::fromBytes(indexBytes);
    return index ? index->shown() : std::vector<MediaTime>();
}
FrameCache& Film::cache() const
{
    return m_impl->cache;
}
std::int64_t Film::decodedFrames() const
{
    return m_impl->decodedCount;
}
FrameIndex Film::groupStart(FrameIndex f) const
{
    return m_impl->groupStart(f);
}
PictureConverter Film::makeConverter() const
{
    const AVCodecParameters& par = m_impl->source->parameters();
    return PictureConverter({par.width, par.height}, m_impl->facts.pixelAspect, m_impl->facts.rotation);
}

Expected<Picture> Film::frame(FrameIndex f, PixelSize largest, std::stop_token stop)
{
    return m_impl->get(f, largest, stop);
}
Expected<void> Film::decodeTo(FrameIndex f, const std::function<bool()>& isUnwanted)
{
    return m_impl->decodeTo(f, isUnwanted);
}

} // namespace kestrel::media
