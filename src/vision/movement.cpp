#include "vision/movement.h"

#include "media/film.h"

#include <algorithm>
#include <cmath>
#include <cstdlib>

namespace kestrel::vision {

namespace {

constexpr double kSamplesASecond = 6;
constexpr media::PixelSize kSmall{160, 90};
constexpr int kChanged = 14; // grey levels: more than a coder's noise

/// Grey, one byte a pixel.
std::vector<std::uint8_t> greyOf(const media::Picture& p)
{
    std::vector<std::uint8_t> grey;
    grey.reserve(static_cast<std::size_t>(p.size.width) * static_cast<std::size_t>(p.size.height));
    for (int y = 0; y < p.size.height; ++y) {
        const std::uint8_t* row = p.row(y);
        for (int x = 0; x < p.size.width; ++x)
            grey.push_back(static_cast<std::uint8_t>((row[4 * x] + 2 * row[4 * x + 1] + row[4 * x + 2]) / 4));
    }
    return grey;
}

} // namespace

Expected<std::vector<MovementSample>> movementOf(const std::string& file, const std::function<void(double)>& progress,
                                                 std::stop_token stop)
{
    auto film = media::Film::open(file, {.stop = stop, .kept = 8});
    if (!film)
        return tl::unexpected(film.error());
    const auto& shown = film->info().shown;
    std::vector<MovementSample> samples;
    std::vector<std::uint8_t> before;
    double next = 0;
    for (std::size_t n = 0; n < shown.size(); ++n) {
        const double seconds = shown[n].seconds();
        if (seconds < next)
            continue;
        next = seconds + 1 / kSamplesASecond - 1e-6;
        const auto picture = film->frame(FrameIndex(static_cast<std::int64_t>(n)), kSmall, stop);
        if (!picture) {
            if (picture.error().code == ErrorCode::Cancelled)
                return tl::unexpected(picture.error());
            continue; // a damaged picture shows no movement
        }
        auto grey = greyOf(*picture);
        if (before.size() == grey.size()) {
            std::size_t changed = 0;
            for (std::size_t i = 0; i < grey.size(); ++i)
                changed += std::abs(grey[i] - before[i]) > kChanged;
            samples.push_back({seconds, static_cast<double>(changed) / static_cast<double>(grey.size())});
        }
        before = std::move(grey);
        if (progress)
            progress(static_cast<double>(n + 1) / static_cast<double>(shown.size()));
    }
    return samples;
}

} // namespace kestrel::vision
