#include "media/film.h"

#include "media/ffmpeg.h"
#include "media/film_index.h"
#include "media/picture_converter.h"

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <map>

namespace kestrel::media {

namespace {

constexpr std::size_t kDefaultCacheBudget = std::size_t{256} << 20;
constexpr std::int64_t kLargestPixels = 16384LL * 16384; // a picture beyond this is a hostile header

/// Before the libraries see the path: plain sentences for what a person can mend.
std::optional<Error> findPathProblem(const std::string& file)
{
    namespace fs = std::filesystem;
    std::error_code ec;
    const auto status = fs::status(file, ec);
    if (!fs::exists(status))
        return Error{ErrorCode::CannotOpen, "There is no such file. If the film has moved, show where it is now.", file, ""};
    if (fs::is_directory(status))
        return Error{ErrorCode::CannotOpen, "This is a folder. Choose a film inside it.", file, ""};
    if (!fs::is_regular_file(status))
        return Error{ErrorCode::CannotOpen, "This is not a file that can be read twice, so not a film.", file, ""};
    if (fs::file_size(file, ec) == 0 && !ec)
        return Error{ErrorCode::NotAFilm, "The file is empty. Copy it again from the camera.", file, ""};
    return std::nullopt;
}

constexpr std::int64_t kFewPictures = 12;

int uprightRotation(const AVStream& stream)
{
    const auto* matrix = av_stream_get_side_data(&stream, AV_PKT_DATA_DISPLAYMATRIX, nullptr);
    if (!matrix)
        return 0;
    const double counterClockwise = av_display_rotation_get(reinterpret_cast<const std::int32_t*>(matrix));
    if (!std::isfinite(counterClockwise))
        return 0;
    const int quarter = static_cast<int>(std::lround(-counterClockwise / 90.0)) % 4;
    return 90 * ((quarter + 4) % 4);
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

    std::optional<Error> openDemuxer()
    {
        av_log_set_level(AV_LOG_QUIET); // what matters is returned, with the file's name
        AVFormatContext* raw = nullptr;
        // "file:" keeps a name such as "tcp:x" from being taken for an address
        const int opened = avformat_open_input(&raw, ("file:" + file).c_str(), nullptr, nullptr);
        format.reset(raw);
        if (opened == AVERROR(EACCES) || opened == AVERROR(EPERM))
            return Error{ErrorCode::CannotOpen, "You have no permission to read this file.", file, ""};
        if (opened < 0)
            return Error{ErrorCode::NotAFilm,
                         "This is not a film, or its head is missing (" + words(opened) + "). Copy it again from the camera.",
                         file, ""};
        if (avformat_find_stream_info(format.get(), nullptr) < 0)
            return Error{ErrorCode::NotAFilm, "The file's streams cannot be understood. Copy it again from the camera.", file,
                         ""};
        stream = av_find_best_stream(format.get(), AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
        if (stream < 0 || (videoStream().disposition & AV_DISPOSITION_ATTACHED_PIC))
            return Error{ErrorCode::NotAFilm, "There are no moving pictures in this file, only sound or text.", file, ""};
        for (unsigned i = 0; i < format->nb_streams; ++i)
            format->streams[i]->discard = static_cast<int>(i) == stream ? AVDISCARD_DEFAULT : AVDISCARD_ALL;
        return std::nullopt;
    }

    std::optional<Error> openDecoder()
    {
        const AVCodecParameters& par = *videoStream().codecpar;
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
        codec->thread_count = 0;
        codec->pkt_timebase = videoStream().time_base;
        if (const int e = avcodec_open2(codec.get(), decoder, nullptr); e < 0)
            return Error{ErrorCode::NotAFilm, "The pictures cannot be decoded (" + words(e) + ").", file, ""};
        film.codec = avcodec_get_name(par.codec_id);
        return std::nullopt;
    }

    std::optional<Error> buildIndex(std::stop_token stop)
    {
        auto scanned = scanPackets(*format, stream, stop);
        if (!scanned) {
            scanned.error().file = file;
            return scanned.error();
        }
        index = std::move(*scanned);
        if (index.countOnly)
            if (auto e = countByDecoding(stop))
                return e;
        if (index.entries.empty())
            return Error{ErrorCode::NotAFilm, "The file holds no picture that can be read.", file, ""};
        describe();
        mustSeek = true;
        return std::nullopt;
    }

    /// Timestamps are missing or doubled: decode once and note when each picture is shown.
    std::optional<Error> countByDecoding(std::stop_token stop)
    {
        index.entries.clear();
        index.keys.clear();
        if (!rewind())
            return Error{ErrorCode::NotAFilm, "The file cannot be read from its start again.", file, ""};
        const AVRational rate = av_guess_frame_rate(format.get(), &videoStream(), nullptr);
        const double seconds = rate.num > 0 ? av_q2d(av_inv_q(rate)) : 1 / 30.0;
        const auto step = std::max<std::int64_t>(1, std::llround(seconds / av_q2d(videoStream().time_base)));
        while (decodeNext()) {
            if (stop.stop_requested())
                return Error{ErrorCode::Cancelled, "Opening was cancelled.", file, ""};
            const std::int64_t guess = decoded->best_effort_timestamp;
            const std::int64_t last = index.entries.empty() ? 0 : index.entries.back().pts;
            const std::int64_t pts = index.entries.empty()                     ? (guess == AV_NOPTS_VALUE ? 0 : guess)
                                     : guess != AV_NOPTS_VALUE && guess > last ? guess
                                                                               : last + step;
            index.entries.push_back({pts, step});
        }
        return std::nullopt;
    }

    void describe()
    {
        const AVStream& s = videoStream();
        const AVCodecParameters& par = *s.codecpar;
        film.rotation = uprightRotation(s);
        converter = PictureConverter(film.rotation);
        film.size = converter.uprightSize({par.width, par.height},
                                          av_guess_sample_aspect_ratio(format.get(), format->streams[stream], nullptr));
        const std::int64_t first = index.entries.front().pts;
        for (const auto& e : index.entries)
            film.shown.push_back({av_rescale_q(e.pts - first, s.time_base, AVRational{1, 1'000'000'000})});
        const auto n = film.shown.size();
        const auto mean = n > 1 ? film.shown.back().nanoseconds / static_cast<std::int64_t>(n - 1) : 0;
        const auto lastLasts = av_rescale_q(index.entries.back().duration, s.time_base, AVRational{1, 1'000'000'000});
        film.duration = {film.shown.back().nanoseconds + (lastLasts > 0 ? lastLasts : mean)};
        film.frameRate = mean > 0 ? 1e9 * static_cast<double>(n - 1) / static_cast<double>(film.shown.back().nanoseconds) : 0;
        film.variableRate = isVariable(film.shown, av_q2d(s.time_base));
        warnOfDamage(s);
    }

    void warnOfDamage(const AVStream& s)
    {
        const auto have = static_cast<std::int64_t>(index.entries.size());
        const double declared = s.duration > 0         ? static_cast<double>(s.duration) * av_q2d(s.time_base)
                                : format->duration > 0 ? static_cast<double>(format->duration) / AV_TIME_BASE
                                                       : 0;
        const bool tooFew = s.nb_frames > have + 1 && !(s.disposition & AV_DISPOSITION_TIMED_THUMBNAILS);
        const bool tooShort = declared > 0 && film.duration.seconds() < 0.9 * declared - 0.2;
        if (index.sawDamage || (tooFew && tooShort))
            film.warnings.push_back("The file is cut off: " + std::to_string(have) + " pictures of about " +
                                    std::to_string(std::max(s.nb_frames, have)) + " can be read. Copy it again from the camera.");
        else if (tooShort)
            film.warnings.push_back("The file says it is longer than what can be read of it; it may be cut off.");
        if (index.countOnly)
            film.warnings.push_back(
                "The file does not say when each picture is shown; times are even steps, and going backward is slow.");
    }

    bool rewind()
    {
        const std::int64_t start = index.entries.empty()
                                       ? (videoStream().start_time == AV_NOPTS_VALUE ? 0 : videoStream().start_time)
                                       : index.entries.front().pts;
        if (av_seek_frame(format.get(), stream, start, AVSEEK_FLAG_BACKWARD) < 0 &&
            av_seek_frame(format.get(), stream, 0, AVSEEK_FLAG_BYTE) < 0)
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
            feed();
        }
    }

    void feed()
    {
        if (draining)
            return;
        for (;;) {
            av_packet_unref(packet.get());
            if (av_read_frame(format.get(), packet.get()) < 0) {
                draining = true;
                avcodec_send_packet(codec.get(), nullptr);
                return;
            }
            if (packet->stream_index == stream) {
                avcodec_send_packet(codec.get(), packet.get()); // damage shows as a picture that never comes
                return;
            }
        }
    }

    Expected<Picture> picture(const AVFrame& frame, PixelSize largest) { return converter.convert(frame, film.size, largest); }

    Expected<Picture> get(FrameIndex wanted, PixelSize largest, std::stop_token stop)
    {
        if (wanted.value < 0 || wanted.value >= film.frames())
            return fail(ErrorCode::NoSuchFrame,
                        "There is no frame " + std::to_string(wanted.value) + "; the film has frames 0 to " +
                            std::to_string(film.frames() - 1) + ".",
                        file);
        const auto cached = cache.find(wanted.value);
        if (cached != cache.end())
            return picture(*cached->second, largest);
        const auto found = index.countOnly ? findByCount(wanted, stop) : findByTime(wanted, stop);
        if (!found)
            return tl::unexpected(found.error());
        return picture(**found, largest);
    }

    Expected<const AVFrame*> damaged(FrameIndex wanted) const
    {
        return fail(ErrorCode::Damaged, "This picture is damaged and cannot be shown; its neighbours may be fine.", file,
                    "frame " + std::to_string(wanted.value));
    }
    Expected<const AVFrame*> cancelled() const { return fail(ErrorCode::Cancelled, "Cancelled.", file); }

    Expected<const AVFrame*> findByCount(FrameIndex wanted, std::stop_token stop)
    {
        if ((mustSeek || wanted.value < nextCounted) && !rewind())
            return damaged(wanted);
        while (decodeNext()) {
            if (stop.stop_requested()) {
                mustSeek = true;
                return cancelled();
            }
            const std::int64_t ordinal = nextCounted++;
            keep(ordinal, wanted.value);
            if (ordinal == wanted.value)
                return cache.at(ordinal).get();
        }
        return damaged(wanted);
    }

    Expected<const AVFrame*> findByTime(FrameIndex wanted, std::stop_token stop)
    {
        const std::int64_t target = index.entries[static_cast<std::size_t>(wanted.value)].pts;
        const auto* key = index.keyBefore(target);
        // Going on beats seeking also across a key frame when only a few pictures lie between: a seek to it may land on
        // the one before and decode that whole group again.
        const auto last = lastPts == INT64_MIN ? std::nullopt : index.findOrdinal(lastPts);
        const bool isNear = last && wanted.value - *last <= kFewPictures;
        const bool goOn = !mustSeek && lastPts < target && (!key || key->pts <= lastPts || isNear);
        const std::int64_t keyPts = key ? key->pts : index.entries.front().pts;
        std::int64_t seekTo = key ? key->seekTo : index.entries.front().pts;
        // pictures shown before the key frame but coded after it need the one before: they come out broken here
        std::int64_t trustedFrom = goOn ? INT64_MIN : keyPts;
        const std::int64_t oneSecond = std::max<std::int64_t>(1, std::llround(1 / av_q2d(videoStream().time_base)));
        for (std::int64_t back = 0; back <= 64; back = back == 0 ? 1 : back * 4) {
            if (back > 0 || !goOn) {
                seekTo -= back * oneSecond; // some demuxers land late: go further back
                if (!seek(seekTo))
                    continue;
                lastPts = INT64_MIN;
            }
            bool landedLate = false;
            while (decodeNext()) {
                if (stop.stop_requested()) {
                    mustSeek = true;
                    return cancelled();
                }
                const std::int64_t pts = decoded->best_effort_timestamp;
                const bool isFirst = lastPts == INT64_MIN;
                lastPts = pts;
                if (pts >= trustedFrom)
                    if (const auto ordinal = index.findOrdinal(pts)) {
                        keep(*ordinal, wanted.value);
                        if (pts == target)
                            return cache.at(*ordinal).get();
                    }
                if (pts > target) {
                    landedLate = isFirst;
                    break;
                }
            }
            if (!landedLate && !(back == 0 && goOn))
                return damaged(wanted);
            trustedFrom = keyPts;
        }
        return damaged(wanted);
    }

    bool seek(std::int64_t to)
    {
        const bool done = av_seek_frame(format.get(), stream, to, AVSEEK_FLAG_BACKWARD) >= 0 ||
                          av_seek_frame(format.get(), stream, index.entries.front().pts, AVSEEK_FLAG_BACKWARD) >= 0 ||
                          av_seek_frame(format.get(), stream, 0, AVSEEK_FLAG_BYTE) >= 0;
        if (done)
            afterSeek();
        return done;
    }

    /// Moves `decoded` into the cache and lets go of what lies farthest from the wanted picture.
    void keep(std::int64_t ordinal, std::int64_t wanted)
    {
        FramePtr frame(av_frame_alloc());
        av_frame_move_ref(frame.get(), decoded.get());
        cache[ordinal] = std::move(frame);
        const auto bytes =
            static_cast<std::size_t>(std::max(1, av_image_get_buffer_size(static_cast<AVPixelFormat>(cache[ordinal]->format),
                                                                          cache[ordinal]->width, cache[ordinal]->height, 32)));
        const std::size_t most = std::max<std::size_t>(4, cacheBudget / bytes);
        while (cache.size() > most) {
            const bool dropFirst = wanted - cache.begin()->first > cache.rbegin()->first - wanted;
            cache.erase(dropFirst ? cache.begin() : std::prev(cache.end()));
        }
    }

    AVStream& videoStream() const { return *format->streams[stream]; }

    std::string file;
    FilmInfo film;
    FilmIndex index;
    FormatPtr format;
    CodecPtr codec;
    int stream = -1;
    PictureConverter converter;
    std::map<std::int64_t, FramePtr> cache;
    std::size_t cacheBudget = kDefaultCacheBudget;
    std::int64_t decodedCount = 0;
    std::int64_t nextCounted = 0;     // countOnly: ordinal of the next picture out of the decoder
    std::int64_t lastPts = INT64_MIN; // of the last picture out of the decoder
    bool mustSeek = true, draining = false;
    FramePtr decoded{av_frame_alloc()};
    PacketPtr packet{av_packet_alloc()};
};

Expected<Film> Film::open(const std::string& file, std::stop_token stop)
{
    if (auto e = findPathProblem(file))
        return tl::unexpected(*e);
    auto impl = std::make_unique<Impl>(file);
    if (auto e = impl->openDemuxer())
        return tl::unexpected(*e);
    if (auto e = impl->openDecoder())
        return tl::unexpected(*e);
    if (auto e = impl->buildIndex(stop))
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
void Film::setCacheBudget(std::size_t bytes)
{
    m_impl->cacheBudget = bytes;
}
std::int64_t Film::decodedFrames() const
{
    return m_impl->decodedCount;
}

Expected<Picture> Film::frame(FrameIndex f, PixelSize largest, std::stop_token stop)
{
    return m_impl->get(f, largest, stop);
}

} // namespace kestrel::media
