#include "vision/region.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr double kMargin = 1.25;   // of what the landmark network was trained on
constexpr double kBelowTop = 0.52; // of a box's height: the middle of a body is a little below it

/// Blue, green, red and 255, worked on together.
using Colour = float __attribute__((vector_size(16)));

Colour colourAt(const std::uint8_t* pixel)
{
    using Bytes = std::uint8_t __attribute__((vector_size(4)));
    Bytes bytes;
    std::memcpy(&bytes, pixel, sizeof bytes);
    return __builtin_convertvector(bytes, Colour);
}

/// Adds the picture's colour at a place, between its four pixels, which all lie inside.
void addInside(const media::Picture& p, float x, float y, float weight, float* rgb)
{
    const int left = static_cast<int>(x), top = static_cast<int>(y);
    const float fx = x - static_cast<float>(left), fy = y - static_cast<float>(top);
    const std::uint8_t *upper = p.row(top) + 4 * left, *lower = upper + p.stride;
    const Colour above = colourAt(upper) * (1 - fx) + colourAt(upper + 4) * fx;
    const Colour below = colourAt(lower) * (1 - fx) + colourAt(lower + 4) * fx;
    const Colour sum = weight * ((1 - fy) * above + fy * below);
    for (int n = 0; n < 3; ++n) // stored as blue, green, red
        rgb[2 - n] += sum[n];
}

/// The same anywhere. \param x, y  from the centre of the first pixel
void add(const media::Picture& p, float x, float y, Beyond beyond, float weight, float* rgb)
{
    const auto right = static_cast<float>(p.size.width - 1), bottom = static_cast<float>(p.size.height - 1);
    if (x >= 0 && y >= 0 && x < right && y < bottom)
        return addInside(p, x, y, weight, rgb);
    if (beyond == Beyond::Black && (x < -1 || y < -1 || x > right + 1 || y > bottom + 1))
        return;
    const auto column = std::clamp(static_cast<int>(std::lround(x)), 0, p.size.width - 1);
    const std::uint8_t* at = p.row(std::clamp(static_cast<int>(std::lround(y)), 0, p.size.height - 1)) + 4 * column;
    for (int n = 0; n < 3; ++n)
        rgb[2 - n] += weight * at[n];
}

} // namespace

ImagePoint Region::at(double across, double down) const
{
    const double dx = (across - 0.5) * side, dy = (down - 0.5) * side;
    const double c = std::cos(angle), s = std::sin(angle);
    return {centre.x + dx * c - dy * s, centre.y + dx * s + dy * c};
}

Region regionFrom(ImagePoint middle, ImagePoint rim)
{
    const double dx = rim.x - middle.x, dy = rim.y - middle.y;
    return {middle, 2 * kMargin * std::hypot(dx, dy), std::numbers::pi / 2 - std::atan2(-dy, dx)};
}

Region regionOfBox(ImagePoint corner, double width, double height)
{
    return {{corner.x + width / 2, corner.y + kBelowTop * height}, kMargin * height, 0};
}

void sample(const media::Picture& picture, const Region& region, int side, Beyond beyond, float least, float most,
            std::span<float> rgb)
{
    const int each = std::clamp(static_cast<int>(region.side / side / 2), 1, 4); // samples a pixel, each way
    const float weight = (most - least) / 255 / static_cast<float>(each * each);
    const ImagePoint origin = region.at(0, 0), right = region.at(1, 0), down = region.at(0, 1);
    const double step = 1.0 / (side * each);
    const auto rightX = static_cast<float>((right.x - origin.x) * step), rightY = static_cast<float>((right.y - origin.y) * step);
    const double downX = (down.x - origin.x) * step, downY = (down.y - origin.y) * step;
    std::fill(rgb.begin(), rgb.end(), least);
    for (int v = 0; v < side * each; ++v) {
        const auto fromX = static_cast<float>(origin.x - 0.5 + (v + 0.5) * downX),
                   fromY = static_cast<float>(origin.y - 0.5 + (v + 0.5) * downY);
        float* to = rgb.data() + static_cast<std::ptrdiff_t>(v / each) * side * 3;
        for (int u = 0; u < side * each; ++u) {
            const float along = static_cast<float>(u) + 0.5f;
            add(picture, fromX + along * rightX, fromY + along * rightY, beyond, weight, to + 3 * (u / each));
        }
    }
}

} // namespace kestrel::vision
