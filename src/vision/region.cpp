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

/// Two pixels side by side.
struct Pair {
    Colour left, right;
};

Pair pairAt(const std::uint8_t* pixel)
{
    // each step widens all at once; converted byte by byte, the whole of sample took 1.4 times as long
    using Bytes = std::uint8_t __attribute__((vector_size(16)));
    using Words = std::uint16_t __attribute__((vector_size(16)));
    using Longs = std::int32_t __attribute__((vector_size(16)));
    using Quads = std::uint64_t __attribute__((vector_size(16)));
    std::uint64_t both;
    std::memcpy(&both, pixel, sizeof both);
    const auto bytes = reinterpret_cast<Bytes>(Quads{both, 0});
    const auto words =
        reinterpret_cast<Words>(__builtin_shufflevector(bytes, Bytes{}, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23));
    return {__builtin_convertvector(reinterpret_cast<Longs>(__builtin_shufflevector(words, Words{}, 0, 8, 1, 9, 2, 10, 3, 11)),
                                    Colour),
            __builtin_convertvector(reinterpret_cast<Longs>(__builtin_shufflevector(words, Words{}, 4, 12, 5, 13, 6, 14, 7, 15)),
                                    Colour)};
}

/// The picture's colour at a place, between its four pixels, which all lie inside.
Colour colourInside(const media::Picture& p, float x, float y)
{
    const int left = static_cast<int>(x), top = static_cast<int>(y);
    const float fx = x - static_cast<float>(left), fy = y - static_cast<float>(top);
    const std::uint8_t* upper = p.row(top) + 4 * left;
    const Pair one = pairAt(upper), other = pairAt(upper + p.stride);
    const Colour above = one.left + fx * (one.right - one.left), below = other.left + fx * (other.right - other.left);
    return above + fy * (below - above);
}

/// The same anywhere. \param x, y  from the centre of the first pixel
Colour colourAt(const media::Picture& p, float x, float y, Beyond beyond)
{
    const auto right = static_cast<float>(p.size.width - 1), bottom = static_cast<float>(p.size.height - 1);
    if (x >= 0 && y >= 0 && x < right && y < bottom)
        return colourInside(p, x, y);
    if (beyond == Beyond::Black && (x < -1 || y < -1 || x > right + 1 || y > bottom + 1))
        return Colour{};
    const auto column = static_cast<int>(std::clamp(x, 0.0f, right) + 0.5f),
               row = static_cast<int>(std::clamp(y, 0.0f, bottom) + 0.5f);
    const std::uint8_t* at = p.row(row) + 4 * column;
    return Colour{static_cast<float>(at[0]), static_cast<float>(at[1]), static_cast<float>(at[2]), 0};
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
    const auto downX = static_cast<float>((down.x - origin.x) * step), downY = static_cast<float>((down.y - origin.y) * step);
    const auto fromX = static_cast<float>(origin.x - 0.5), fromY = static_cast<float>(origin.y - 0.5);
    float* to = rgb.data();
    for (int v = 0; v < side; ++v)
        for (int u = 0; u < side; ++u, to += 3) {
            Colour sum{};
            for (int b = v * each; b < (v + 1) * each; ++b)
                for (int a = u * each; a < (u + 1) * each; ++a) {
                    const float along = static_cast<float>(a) + 0.5f, across = static_cast<float>(b) + 0.5f;
                    sum += colourAt(picture, fromX + along * rightX + across * downX, fromY + along * rightY + across * downY,
                                    beyond);
                }
            for (int n = 0; n < 3; ++n) // stored as blue, green, red
                to[2 - n] = least + weight * sum[n];
        }
}

} // namespace kestrel::vision
