// Opening, sequential reading and stepping, each against plain FFmpeg decoding of the same file in the same run.

#include "media/film.h"
#include "media/ffmpeg.h"
#include "support/coded_film.h"

#include <QTemporaryDir>
#include <benchmark/benchmark.h>

#include <chrono>
#include <cstdlib>

using namespace kestrel;

namespace {

constexpr int kFrames = 600; // ten seconds
constexpr int kRun = 240;
constexpr media::PixelSize kShown{1000, 562};

/// 1080p at 60 pictures a second, H.264 with B-frames, a key frame every second.
const std::string& film()
{
    static QTemporaryDir folder;
    static const std::string file = [] {
        test::CodedFilm f;
        f.frames = kFrames;
        f.width = 1920;
        f.height = 1080;
        f.frameRate = 60;
        f.keyEvery = 60;
        return f.write(folder.path().toStdString());
    }();
    return file;
}

double now()
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now().time_since_epoch()).count();
}

/// The least anybody can do: open, probe, decode so many pictures, convert none. Seconds; then pictures decoded.
std::pair<double, int> plainDecoding(int pictures)
{
    const double start = now();
    AVFormatContext* raw = nullptr;
    if (avformat_open_input(&raw, film().c_str(), nullptr, nullptr) < 0)
        std::abort();
    const media::FormatPtr format(raw);
    avformat_find_stream_info(raw, nullptr);
    const int stream = av_find_best_stream(raw, AVMEDIA_TYPE_VIDEO, -1, -1, nullptr, 0);
    const AVCodec* codec = avcodec_find_decoder(raw->streams[stream]->codecpar->codec_id);
    const media::CodecPtr decoder(avcodec_alloc_context3(codec));
    avcodec_parameters_to_context(decoder.get(), raw->streams[stream]->codecpar);
    decoder->thread_count = 0;
    avcodec_open2(decoder.get(), codec, nullptr);
    const media::PacketPtr packet(av_packet_alloc());
    const media::FramePtr frame(av_frame_alloc());
    int decoded = 0;
    while (decoded < pictures && av_read_frame(raw, packet.get()) >= 0) {
        if (packet->stream_index == stream)
            avcodec_send_packet(decoder.get(), packet.get());
        av_packet_unref(packet.get());
        while (decoded < pictures && avcodec_receive_frame(decoder.get(), frame.get()) == 0)
            ++decoded;
    }
    return {now() - start, decoded};
}

void openToFirstPicture(benchmark::State& state)
{
    film();
    double ours = 0, plain = 0;
    for (auto _ : state) {
        plain += plainDecoding(1).first;
        const double start = now();
        auto f = media::Film::open(film());
        benchmark::DoNotOptimize(f->frame(FrameIndex(0), kShown));
        ours += now() - start;
    }
    state.counters["ours_ms"] = 1000 * ours / static_cast<double>(state.iterations());
    state.counters["ratio_to_plain"] = ours / plain; // goal: at most 1.3
}
BENCHMARK(openToFirstPicture)->Iterations(12)->Unit(benchmark::kMillisecond);

void sequentialReading(benchmark::State& state)
{
    double ours = 0, plain = 0;
    for (auto _ : state) {
        plain += plainDecoding(kRun).first - plainDecoding(1).first;
        auto f = media::Film::open(film());
        benchmark::DoNotOptimize(f->frame(FrameIndex(0), kShown));
        const double start = now();
        for (int n = 1; n < kRun; ++n)
            benchmark::DoNotOptimize(f->frame(FrameIndex(n), kShown));
        ours += now() - start;
    }
    state.counters["frames_per_s"] = (kRun - 1) * static_cast<double>(state.iterations()) / ours;
    state.counters["share_of_plain_rate"] = plain / ours; // goal: at least 0.85
}
BENCHMARK(sequentialReading)->Iterations(4)->Unit(benchmark::kMillisecond);

/// One step forward, then one back, at the size that is shown, in units of one plainly decoded picture.
void steps(benchmark::State& state)
{
    double forward = 0, backward = 0, plain = 0;
    std::int64_t decodedForward = 0, decodedBackward = 0;
    for (auto _ : state) {
        plain += (plainDecoding(kRun).first - plainDecoding(1).first) / (kRun - 1);
        auto f = media::Film::open(film());
        benchmark::DoNotOptimize(f->frame(FrameIndex(100), kShown));
        std::int64_t decoded = f->decodedFrames();
        double start = now();
        for (int n = 101; n <= 150; ++n)
            benchmark::DoNotOptimize(f->frame(FrameIndex(n), kShown));
        forward += (now() - start) / 50;
        decodedForward += f->decodedFrames() - decoded;
        decoded = f->decodedFrames();
        start = now();
        for (int n = 149; n >= 100; --n)
            benchmark::DoNotOptimize(f->frame(FrameIndex(n), kShown));
        backward += (now() - start) / 50;
        decodedBackward += f->decodedFrames() - decoded;
    }
    const auto runs = static_cast<double>(state.iterations());
    state.counters["forward_ms"] = 1000 * forward / runs;
    state.counters["backward_ms"] = 1000 * backward / runs;
    state.counters["forward_in_decoded_pictures"] = forward / plain;
    state.counters["backward_in_decoded_pictures"] = backward / plain;
    state.counters["decoded_per_step_forward"] = static_cast<double>(decodedForward) / 50 / runs;
    state.counters["decoded_per_step_backward"] = static_cast<double>(decodedBackward) / 50 / runs;
}
BENCHMARK(steps)->Iterations(4)->Unit(benchmark::kMillisecond);

} // namespace

BENCHMARK_MAIN();
