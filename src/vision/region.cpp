#include "vision/region.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr double kMargin = 1.25;   // of what the landmark network was trained on
constexpr double kBelowTop = 0.52; // of a box's height: the middle of a body is a little below it

void add(const media::Picture& p, double x, double y, Beyond beyond, float weight, float* rgb)
{
    x -= 0.5;
    y -= 0.5;
    if (beyond == Beyond::Black && (x < -1 || y < -1 || x > p.size.width || y > p.size.height))
        return;
    const double left = std::floor(x), top = std::floor(y);
    const auto fx = static_cast<float>(x - left), fy = static_cast<float>(y - top);
    const auto column = [&](double v) { return static_cast<int>(std::clamp<double>(v, 0, p.size.width - 1)) * 4; };
    const auto row = [&](double v) { return p.row(static_cast<int>(std::clamp<double>(v, 0, p.size.height - 1))); };
    const std::uint8_t *upper = row(top), *lower = row(top + 1);
    const int a = column(left), b = column(left + 1);
    for (int c = 0; c < 3; ++c) { // stored as blue, green, red
        const float high = static_cast<float>(upper[a + c]) * (1 - fx) + static_cast<float>(upper[b + c]) * fx;
        const float low = static_cast<float>(lower[a + c]) * (1 - fx) + static_cast<float>(lower[b + c]) * fx;
        rgb[2 - c] += weight * (high * (1 - fy) + low * fy);
    }
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
    const int each = std::clamp(static_cast<int>(std::lround(region.side / side / 2)), 1, 4); // samples a pixel, each way
    const float weight = (most - least) / 255 / static_cast<float>(each * each);
    const ImagePoint origin = region.at(0, 0), right = region.at(1, 0), down = region.at(0, 1);
    const double step = 1.0 / (side * each);
    const double rightX = (right.x - origin.x) * step, rightY = (right.y - origin.y) * step;
    const double downX = (down.x - origin.x) * step, downY = (down.y - origin.y) * step;
    float* to = rgb.data();
    for (int y = 0; y < side; ++y)
        for (int x = 0; x < side; ++x, to += 3) {
            std::fill_n(to, 3, least);
            for (int n = 0; n < each * each; ++n) {
                const double u = x * each + n % each + 0.5, v = y * each + n / each + 0.5;
                add(picture, origin.x + u * rightX + v * downX, origin.y + u * rightY + v * downY, beyond, weight, to);
            }
        }
}

} // namespace kestrel::vision
