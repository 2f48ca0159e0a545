#include "sim/film_maker.h"

#include "core/base/error_sample.h"
#include "media/film_writer.h"

#include <QPainter>
#include <QTransform>
#include <algorithm>
#include <cmath>
#include <future>

namespace kestrel::sim {

namespace {

constexpr double kPixelsASample = 1.5; // of movement between two moments that make up one smeared picture
constexpr int kMostSamples = 16;
constexpr int kBands = 12; // of rows taken at one moment by a rolling shutter

} // namespace

FilmMaker::FilmMaker(const Simulated& s)
    : m_s(s), m_film(s.options.film), m_painter(s.skill, s.build, s.skill.variantOf(s.options.motion).ballKind,
                                                lookOf(s.options.look, s.skill.setting, s.options.person.sex))
{
    const auto& stages = s.skill.variantOf(s.options.motion).ball;
    for (const auto& stage : stages)
        if (stage.kind == BallStage::Kind::Held && stage.place != BallPlace::OffHand && stage.place != BallPlace::Blade)
            m_heldUntil = s.motion.secondsOf(stage.until);
}

QImage FilmMaker::picture(std::size_t frame)
{
    const double seconds = m_s.instants[frame];
    QImage image = m_film.readout > 0 ? rolled(seconds) : smeared(seconds);
    if (m_film.noise > 0 || m_film.dim != 1)
        spoil(image, frame);
    if (m_film.rotation != 0) // a player turns it back
        image = image.transformed(QTransform().rotate(-m_film.rotation)).convertToFormat(QImage::Format_RGB32);
    return image;
}

QImage FilmMaker::moment(double seconds)
{
    const Skeleton body = m_s.bodyAt(seconds);
    const auto ball = m_s.ball.at(seconds, body);
    return m_painter.paint(m_s.cameraAt(seconds), body, ball.isThere ? std::optional(ball) : std::nullopt,
                           seconds <= m_heldUntil);
}

/// How far anything moves in the picture meanwhile, pixels.
double FilmMaker::movement(double from, double to) const
{
    const Skeleton a = m_s.bodyAt(from), b = m_s.bodyAt(to);
    const Camera ca = m_s.cameraAt(from), cb = m_s.cameraAt(to);
    double most = 0;
    for (const auto& [landmark, p] : a.points) {
        const ImagePoint u = ca.project(p), v = cb.project(b.points.at(landmark));
        most = std::max(most, std::hypot(v.x - u.x, v.y - u.y));
    }
    return most;
}

QImage FilmMaker::smeared(double seconds)
{
    if (m_film.exposure <= 0)
        return moment(seconds);
    const double open = seconds - m_film.exposure / 2;
    const int samples = std::clamp(static_cast<int>(movement(open, open + m_film.exposure) / kPixelsASample), 1, kMostSamples);
    if (samples == 1)
        return moment(seconds);
    QImage image;
    std::vector<std::uint32_t> sums;
    for (int i = 0; i < samples; ++i) {
        image = moment(open + m_film.exposure * (i + 0.5) / samples);
        const auto* bytes = image.constBits();
        sums.resize(static_cast<std::size_t>(image.sizeInBytes()));
        for (std::size_t k = 0; k < sums.size(); ++k)
            sums[k] += bytes[k];
    }
    auto* bytes = image.bits();
    for (std::size_t k = 0; k < sums.size(); ++k)
        bytes[k] = static_cast<std::uint8_t>(sums[k] / static_cast<std::uint32_t>(samples));
    return image;
}

QImage FilmMaker::rolled(double seconds)
{
    QImage image;
    for (int band = 0; band < kBands; ++band) {
        const QImage now = smeared(seconds + m_film.readout * ((band + 0.5) / kBands - 0.5));
        if (image.isNull())
            image = now;
        for (int y = now.height() * band / kBands; y < now.height() * (band + 1) / kBands; ++y)
            std::copy_n(now.constScanLine(y), now.bytesPerLine(), image.scanLine(y));
    }
    return image;
}

void FilmMaker::spoil(QImage& image, std::size_t frame) const
{
    std::uint64_t random = ErrorSample::mix(m_s.options.motion.seed, frame + 1);
    const auto dim = static_cast<int>(m_film.dim * 256);
    auto* bytes = image.bits();
    for (qsizetype k = 0; k < image.sizeInBytes(); k += 4) {
        random = ErrorSample::mix(random); // four even draws sum up to nearly a normal one
        const int even =
            static_cast<int>((random & 255) + (random >> 8 & 255) + (random >> 16 & 255) + (random >> 24 & 255)) - 510;
        const auto grain = static_cast<int>(even * m_film.noise / 148); // 148: their standard deviation
        for (int c = 0; c < 3; ++c)
            bytes[k + c] = static_cast<std::uint8_t>(std::clamp((bytes[k + c] * dim >> 8) + grain, 0, 255));
    }
}

Expected<void> saveClip(const Simulated& s, const std::string& file, const std::function<void(int, int)>& progress,
                        std::stop_token stop)
{
    media::FilmWriterSettings settings;
    settings.size = s.options.size;
    settings.rotation = s.options.film.rotation;
    if (settings.rotation % 180 != 0)
        std::swap(settings.size.width, settings.size.height);
    settings.frameRate = s.truth.clock.playback;
    settings.quality = s.options.film.quality;
    auto writer = media::FilmWriter::open(file, settings);
    if (!writer)
        return tl::unexpected(writer.error());
    FilmMaker maker(s);
    const int frames = static_cast<int>(s.frames());
    const auto paint = [&](std::size_t frame) {
        return std::async(std::launch::async, [&maker, frame] { return maker.picture(frame); });
    };
    std::future<QImage> next = paint(0); // while one picture is coded the next is painted
    for (int f = 0; f < frames; ++f) {
        if (stop.stop_requested())
            return fail(ErrorCode::Cancelled, "Stopped; no film was written.", file);
        const auto i = static_cast<std::size_t>(f);
        const QImage image = next.get();
        if (f + 1 < frames)
            next = paint(i + 1);
        if (auto written = writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()), s.shown[i]); !written)
            return written;
        if (progress)
            progress(f + 1, frames);
    }
    return writer->finish();
}

} // namespace kestrel::sim
