// Drawings painted over a picture, and a walk-through written, against the plain encoder on the same pictures.

#include "support/markings.h"

#include "core/drawing/drawn_shape.h"
#include "look/drawing_overlays.h"
#include "look/film_image.h"
#include "media/film.h"
#include "media/film_writer.h"
#include "report/walk_film.h"
#include "sim/film_maker.h"

#include <QGuiApplication>
#include <QTemporaryDir>
#include <benchmark/benchmark.h>

#include <chrono>

using namespace kestrel;
using namespace kestrel::test;

namespace {

double secondsOf(const std::function<void()>& work)
{
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
}

/// Two hundred lines, circles, boxes and angles on a frame.
std::vector<Drawing> manyDrawings(std::size_t count)
{
    std::vector<Drawing> all;
    for (std::size_t i = 0; i < count; ++i) {
        Drawing d;
        d.kind = std::array{DrawingKind::Line, DrawingKind::Circle, DrawingKind::Box, DrawingKind::Arrow}[i % 4];
        const double x = 40 + 53 * static_cast<double>(i % 20), y = 40 + 60 * static_cast<double>(i / 20 % 10);
        d.at = {{{x, y}, {}}, {{x + 60, y + 35}, {}}};
        d.at.resize(pinCountOf(d.kind).most);
        d.radius = 25;
        d.lives.on = Lives::On::Repetition;
        all.push_back(d);
    }
    return all;
}

void paintDrawings(benchmark::State& state)
{
    const PreparedRepetition prepared(plainMarking());
    const FrameRange all{FrameIndex(0), FrameIndex(99)};
    const auto drawings = manyDrawings(static_cast<std::size_t>(state.range(0)));
    QImage picture(1000, 562, QImage::Format_RGB32);
    picture.fill(Qt::darkGreen);
    for (auto _ : state) {
        std::vector<look::Overlay> overlays;
        for (const auto& d : drawings)
            if (auto shape = shapeOn(d, prepared, all, FrameIndex(10)))
                overlays.emplace_back(look::DrawingOverlay{std::move(*shape)});
        QPainter painter(&picture);
        look::paintOverlays(painter, overlays, QTransform::fromScale(0.78, 0.78), look::lightPalette(), 1);
    }
    state.counters["goal_ms"] = state.range(0) == 200 ? 4 : 1;
}

/// A walk-through of ten seconds at 720p; the limit is FFmpeg's encoder alone on the very same pictures.
void writeWalkThrough(benchmark::State& state)
{
    const QTemporaryDir folder;
    auto o = pitch(View::Side);
    o.frameRate = 60;
    o.size = {1280, 720};
    const auto s = simulated(o);
    report::RepetitionFilm film;
    film.file = folder.filePath(QStringLiteral("clip.mp4")).toStdString();
    if (!sim::saveClip(s, film.file))
        return state.SkipWithError("no film");
    film.marking = s.truth;
    film.clock = PreparedRepetition(s.truth).clock();
    film.repetition = {FrameIndex(0), FrameIndex(s.truth.film.frames - 1)};
    film.marking.drawings = manyDrawings(4);
    report::WalkStop stretch;
    stretch.frames = {FrameIndex(0), FrameIndex(100)};
    stretch.speed = 0.25;
    stretch.text = "Watch the head: it stays on one level line.";
    const report::WalkScript script{"", {stretch}};
    const std::string out = folder.filePath(QStringLiteral("walk.mp4")).toStdString();
    double ours = 0, alone = 0;
    for (auto _ : state) {
        ours += secondsOf([&] {
            if (!report::writeWalk(script, {film}, out, {}))
                state.SkipWithError("not written");
        });
        // the pictures it wrote, decoded beforehand, through the encoder alone
        auto written = media::Film::open(out);
        std::vector<media::Picture> pictures;
        for (std::int64_t n = 0; written && n < written->info().frames(); ++n)
            pictures.push_back(*written->frame(FrameIndex(n)));
        media::FilmWriterSettings settings;
        settings.size = {1280, 720};
        settings.bFrames = 0;
        alone += secondsOf([&] {
            auto writer = media::FilmWriter::open(folder.filePath(QStringLiteral("alone.mp4")).toStdString(), settings);
            for (std::size_t n = 0; writer && n < pictures.size(); ++n)
                (void)writer->write(pictures[n].pixels.get(), pictures[n].stride,
                                    MediaTime::fromSeconds(static_cast<double>(n) / 30));
            (void)writer->finish();
        });
        state.counters["pictures"] = static_cast<double>(pictures.size());
    }
    state.counters["against_the_encoder"] = ours / alone;
    state.counters["goal"] = 1.5;
}

} // namespace

BENCHMARK(paintDrawings)->Arg(10)->Arg(200)->Unit(benchmark::kMillisecond);
BENCHMARK(writeWalkThrough)->Iterations(2)->Unit(benchmark::kSecond);

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
}
