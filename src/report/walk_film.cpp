#include "report/walk_film.h"

#include "core/drawing/grown.h"
#include "look/film_image.h"
#include "look/fonts.h"
#include "media/film.h"
#include "media/film_writer.h"

#include <QPainter>

#include <algorithm>
#include <cmath>
#include <future>
#include <map>
#include <numeric>

namespace kestrel::report {

namespace {

constexpr double kRate = 30;        // pictures a second of the written film
constexpr double kLeastStand = 0.8; // after a stretch, so that its end is seen
constexpr double kAfterVoice = 0.4;
constexpr media::PixelSize kUsual{1280, 720};

bool hasEnding(const std::string& file, const std::string& ending)
{
    return file.size() > ending.size() &&
           QString::fromStdString(file).endsWith(QString::fromStdString(ending), Qt::CaseInsensitive);
}

/// Words over the foot of the picture, on a dark ground.
void paintCaption(QPainter& painter, const QSize& size, const std::string& text)
{
    if (text.empty())
        return;
    const double letters = size.height() * 0.042;
    painter.setFont(look::font(letters, QFont::DemiBold));
    const double margin = size.width() * 0.06;
    const QRectF room(margin, 0, size.width() - 2 * margin, size.height());
    const QString words = QString::fromStdString(text);
    const QRectF used = painter.boundingRect(room, Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, words);
    QRectF box = used.adjusted(-letters * 0.7, -letters * 0.4, letters * 0.7, letters * 0.4);
    box.moveBottom(size.height() - letters * 0.8);
    box.moveLeft((size.width() - box.width()) / 2);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(20, 26, 31, 205));
    painter.drawRoundedRect(box, letters * 0.25, letters * 0.25);
    painter.setPen(Qt::white);
    painter.drawText(box, Qt::AlignCenter | Qt::TextWordWrap, words);
}

/// One film of the talk, open.
struct OpenFilm {
    media::Film film;
    PreparedRepetition prepared;
    look::Strobes strobes;
};

class WalkWriter {
public:
    WalkWriter(const WalkScript& script, const std::vector<RepetitionFilm>& films, const std::string& file,
               const WalkFilmOptions& options, std::stop_token stop)
        : m_script(script), m_films(films), m_file(file), m_options(options), m_stop(std::move(stop))
    {
    }

    Expected<WrittenWalk> write()
    {
        if (m_script.stops.empty())
            return fail(ErrorCode::BadArgument, "This walk-through has no stops yet.", m_file);
        const bool isWebm = hasEnding(m_file, ".webm");
        if (!isWebm && !hasEnding(m_file, ".mp4"))
            return fail(ErrorCode::BadArgument, "A walk-through is written as .mp4 or .webm.", m_file);
        if (auto done = plan(); !done)
            return tl::unexpected(done.error());
        const auto onFilm =
            std::find_if(m_script.stops.begin(), m_script.stops.end(), [](const WalkStop& s) { return !s.isPicture(); });
        media::PixelSize filmSize = kUsual;
        if (onFilm != m_script.stops.end()) {
            auto film = open(onFilm->repetition);
            if (!film)
                return tl::unexpected(film.error());
            filmSize = (*film)->film.info().size;
        }
        m_size = sizeFor(filmSize);
        media::FilmWriterSettings settings;
        settings.size = {m_size.width(), m_size.height()};
        settings.frameRate = kRate;
        settings.codec = isWebm ? "vp9" : "h264";
        settings.bFrames = 0; // so that the first picture is at time 0 in every player
        if (m_hasVoice)
            settings.sound = isWebm ? "opus" : "aac";
        if (m_options.captions == CaptionStyle::Track)
            settings.captions = isWebm ? "webvtt" : "mov_text";
        auto writer = media::FilmWriter::open(m_file, settings);
        if (!writer)
            return tl::unexpected(writer.error());
        if (m_options.captions == CaptionStyle::Track)
            for (const auto& caption : m_done.captions)
                if (auto done = writer->writeCaption(caption); !done)
                    return tl::unexpected(done.error());
        if (auto done = writePictures(*writer); !done)
            return tl::unexpected(done.error());
        if (auto done = writer->finish(); !done)
            return tl::unexpected(done.error());
        return std::move(m_done);
    }

private:
    /// How long each stop lasts, and what is heard.
    Expected<void> plan()
    {
        double now = 0;
        for (const auto& stop : m_script.stops) {
            if (!stop.isPicture() && stop.repetition >= m_films.size())
                return fail(ErrorCode::BadArgument, "A stop is about a repetition that is not there.", m_file);
            if (!stop.isPicture() && stop.frames.last.value >= m_films[stop.repetition].clock.frames())
                return fail(ErrorCode::BadArgument,
                            "A stop stands on picture " + std::to_string(stop.frames.last.value) + ", but the film has only " +
                                std::to_string(m_films[stop.repetition].clock.frames()) + ".",
                            m_file);
            media::Sound voice;
            if (!stop.voice.empty()) {
                if (auto loaded = media::loadSound(stop.voice))
                    voice = std::move(*loaded);
                else
                    m_done.warnings.push_back("The voice of a stop is left out: " + loaded.error().text());
            }
            StopTimes times = timesOf(stop, stop.isPicture() ? FrameClock() : m_films[stop.repetition].clock, voice.seconds());
            times.stands = std::ceil((times.whole()) * kRate) / kRate - times.plays; // whole pictures
            m_done.stops.push_back({stop.frames.last, now, times.whole(), stop.text});
            if (!stop.text.empty())
                m_done.captions.push_back({MediaTime::fromSeconds(now), MediaTime::fromSeconds(now + times.whole()), stop.text});
            m_hasVoice = m_hasVoice || !voice.samples.empty();
            m_voices.push_back(std::move(voice));
            m_times.push_back(times);
            now += times.whole();
        }
        m_done.seconds = now;
        return {};
    }

    Expected<OpenFilm*> open(std::size_t n)
    {
        if (const auto it = m_open.find(n); it != m_open.end())
            return it->second.get();
        const RepetitionFilm& film = m_films[n];
        auto opened = media::Film::open(film.file, {.stop = m_stop, .knownIndex = film.knownIndex});
        if (!opened)
            return tl::unexpected(opened.error());
        m_open.clear(); // one film's pictures in memory at a time
        auto& kept = m_open[n];
        look::HidePicture hide;
        if (m_options.hide)
            hide = [this, n](FrameIndex frame, QImage& image) { m_options.hide(n, frame, image); };
        auto strobes = look::makeStrobes(*opened, film.marking.drawings, film.marking, film.repetition, hide, m_stop);
        if (!strobes) { // a strobe of too few pictures spoils no talk
            m_done.warnings.push_back(strobes.error().text());
            strobes = look::Strobes();
        }
        kept = std::make_unique<OpenFilm>(
            OpenFilm{std::move(*opened), PreparedRepetition(film.marking, film.clock), std::move(*strobes)});
        return kept.get();
    }

    QSize sizeFor(media::PixelSize film) const
    {
        QSize size(film.width, film.height);
        if (!m_options.isFullSize)
            size = size.boundedTo(size.scaled(kUsual.width, kUsual.height, Qt::KeepAspectRatio));
        return {std::max(2, size.width() / 2 * 2), std::max(2, size.height() / 2 * 2)};
    }

    Expected<void> writePictures(media::FilmWriter& writer)
    {
        std::future<Expected<void>> coding; // the picture before is coded while the next is painted
        const auto finished = [&coding] { return coding.valid() ? coding.get() : Expected<void>(); };
        std::int64_t picture = 0;
        const auto all = static_cast<double>(std::llround(m_done.seconds * kRate));
        for (std::size_t n = 0; n < m_script.stops.size(); ++n) {
            const auto count = std::llround(m_times[n].whole() * kRate);
            m_painted = {};
            for (std::int64_t i = 0; i < count; ++i, ++picture) {
                if (m_stop.stop_requested()) {
                    (void)finished();
                    return fail(ErrorCode::Cancelled, "Stopped; nothing was written.", m_file);
                }
                auto image = paint(n, static_cast<double>(i) / kRate);
                if (auto done = finished(); !done)
                    return done;
                if (!image)
                    return tl::unexpected(image.error());
                const MediaTime shown = MediaTime::fromSeconds(static_cast<double>(picture) / kRate);
                auto sound = soundOf(n, i);
                coding = std::async(
                    std::launch::async, [&writer, image = *image, shown, sound = std::move(sound)]() -> Expected<void> {
                        auto done = writer.write(image.constBits(), static_cast<int>(image.bytesPerLine()), shown);
                        return done && !sound.empty() ? writer.writeSound(sound) : done;
                    });
                if (m_options.progress)
                    m_options.progress(static_cast<double>(picture + 1) / all);
            }
        }
        return finished();
    }

    /// What is heard while a stop's i-th picture is seen.
    std::vector<std::int16_t> soundOf(std::size_t n, std::int64_t i) const
    {
        if (!m_hasVoice)
            return {};
        constexpr auto kSamples = static_cast<std::int64_t>(media::kSoundRate / kRate);
        std::vector<std::int16_t> samples(static_cast<std::size_t>(kSamples), 0);
        const auto& voice = m_voices[n].samples;
        const auto from = static_cast<std::size_t>(i * kSamples);
        if (from < voice.size())
            std::copy_n(voice.begin() + static_cast<std::ptrdiff_t>(from), std::min(samples.size(), voice.size() - from),
                        samples.begin());
        return samples;
    }

    /// The same picture is given again as long as nothing on it changes.
    Expected<QImage> paint(std::size_t n, double seconds)
    {
        const WalkStop& stop = m_script.stops[n];
        if (stop.isPicture())
            return paintPicture(stop);
        const RepetitionFilm& film = m_films[stop.repetition];
        const FrameIndex frame = report::frameAt(stop, film.clock, seconds);
        const double growth = m_times[n].growthAt(seconds);
        const bool isSame = m_painted.frame == frame && m_painted.growth == growth && !m_painted.image.isNull();
        if (isSame)
            return m_painted.image;
        auto opened = open(stop.repetition);
        if (!opened)
            return tl::unexpected(opened.error());
        if (m_picture.repetition != stop.repetition || m_picture.frame != frame || m_picture.image.isNull()) {
            const auto picture = (*opened)->film.frame(frame, {m_size.width(), m_size.height()}, m_stop);
            if (!picture)
                return tl::unexpected(picture.error());
            m_picture = {stop.repetition, frame, 0, look::toImage(*picture).copy()};
            if (m_options.hide)
                m_options.hide(stop.repetition, frame, m_picture.image);
        }
        QImage image(m_size, QImage::Format_RGB32);
        QPainter painter(&image);
        const QRectF box = lay(painter, m_picture.image);
        const auto filmSize = (*opened)->film.info().size;
        QTransform toPicture;
        toPicture.translate(box.left(), box.top());
        toPicture.scale(box.width() / filmSize.width, box.height() / filmSize.height);
        look::paintOverlays(painter,
                            overlaysOf(stop, film, (*opened)->prepared, frame, growth, m_options.hasNumbers, (*opened)->strobes),
                            toPicture, look::lightPalette(), look::unitFor(image.width()));
        if (m_options.captions == CaptionStyle::Burnt)
            paintCaption(painter, m_size, stop.text);
        m_painted = {stop.repetition, frame, growth, image};
        return image;
    }

    /// A picture in the middle, as large as there is room.
    QRectF lay(QPainter& painter, const QImage& picture) const
    {
        const QSize shown = picture.size().scaled(m_size, Qt::KeepAspectRatio);
        const QRectF box(QPointF((m_size.width() - shown.width()) / 2.0, (m_size.height() - shown.height()) / 2.0),
                         QSizeF(shown));
        if (shown != m_size)
            painter.fillRect(QRect({}, m_size), QColor(0x15, 0x1A, 0x1E));
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(box, picture);
        return box;
    }

    Expected<QImage> paintPicture(const WalkStop& stop)
    {
        if (!m_painted.image.isNull())
            return m_painted.image;
        const QImage picture(QString::fromStdString(stop.picture));
        if (picture.isNull())
            return fail(ErrorCode::CannotOpen, "The picture of a stop cannot be read.", stop.picture);
        QImage image(m_size, QImage::Format_RGB32);
        QPainter painter(&image);
        lay(painter, picture);
        if (m_options.captions == CaptionStyle::Burnt)
            paintCaption(painter, m_size, stop.text);
        m_painted.image = image;
        return image;
    }

    struct Painted {
        std::size_t repetition = 0;
        FrameIndex frame;
        double growth = 0;
        QImage image;
    };

    const WalkScript& m_script;
    const std::vector<RepetitionFilm>& m_films;
    const std::string& m_file;
    const WalkFilmOptions& m_options;
    std::stop_token m_stop;
    QSize m_size;
    bool m_hasVoice = false;
    std::vector<StopTimes> m_times;
    std::vector<media::Sound> m_voices;
    std::map<std::size_t, std::unique_ptr<OpenFilm>> m_open;
    Painted m_picture, m_painted; // the film's picture, and all of it with what lies over it
    WrittenWalk m_done;
};

} // namespace

StopTimes timesOf(const WalkStop& stop, const FrameClock& clock, double voiceSeconds)
{
    StopTimes times;
    const auto first = clock.timeOf(stop.frames.first), last = clock.timeOf(stop.frames.last);
    if (stop.isStretch() && first && last)
        times.plays = (*last - *first) / stop.speed;
    const double said = voiceSeconds > 0 ? voiceSeconds + kAfterVoice : readingSeconds(stop.text);
    times.stands = std::max(kLeastStand, said - times.plays);
    return times;
}

FrameIndex frameAt(const WalkStop& stop, const FrameClock& clock, double seconds)
{
    const auto first = clock.timeOf(stop.frames.first);
    if (!stop.isStretch() || !first)
        return stop.frames.last;
    constexpr double kSlack = 1e-6; // of a second: a picture is shown from its very time on
    return std::clamp(clock.frameAt(RealTime{first->seconds + seconds * stop.speed + kSlack}), stop.frames.first,
                      stop.frames.last);
}

std::vector<look::Overlay> overlaysOf(const WalkStop& stop, const RepetitionFilm& film, const PreparedRepetition& prepared,
                                      FrameIndex frame, double growth, bool hasNumbers, const look::Strobes& strobes)
{
    auto overlays = look::drawingOverlays(film.marking.drawings, prepared, film.repetition, frame, strobes);
    const bool stands = frame == stop.frames.last;
    if (stands) {
        auto drawn = stop.drawings; // seen where the stop stands, wherever that is now
        for (auto& d : drawn)
            if (d.kind != DrawingKind::Trail)
                d.lives = {Lives::On::Stretch, {frame, frame}, {}};
        for (auto& own : look::drawingOverlays(drawn, prepared, film.repetition, frame))
            overlays.push_back(std::move(own));
        for (const auto& r : film.readings)
            if (r.measure == stop.measure && r.figure.frame.nearest() == frame)
                overlays.emplace_back(look::readingOverlay(r, hasNumbers));
    }
    for (auto& overlay : overlays) {
        if (auto* d = std::get_if<look::DrawingOverlay>(&overlay)) {
            if (!hasNumbers || growth < 1)
                d->label.clear();
            if (stands && !stop.isStretch())
                d->shape.figure = grown(d->shape.figure, growth);
        }
        if (auto* f = std::get_if<look::FigureOverlay>(&overlay)) {
            f->figure = grown(f->figure, growth);
            if (growth < 1)
                f->label.clear();
        }
    }
    return overlays;
}

Expected<WrittenWalk> writeWalk(const WalkScript& script, const std::vector<RepetitionFilm>& films, const std::string& file,
                                const WalkFilmOptions& options, std::stop_token stop)
{
    return WalkWriter(script, films, file, options, std::move(stop)).write();
}

} // namespace kestrel::report
