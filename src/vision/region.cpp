#include "vision/region.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace kestrel::vision {

namespace {

constexpr double kMargin = 1.25;   // of what the landmark network was trained on
constexpr double kBelowTop = 0.52; // of a box's height: the middle of a body is a little below it

} // namespace

ImagePoint Region::at(double across, double down) const
{
    const double dx = (isMirrored ? 0.5 - across : across - 0.5) * side, dy = (down - 0.5) * side;
    const double c = std::cos(angle), s = std::sin(angle);
    return {centre.x + dx * c - dy * s, centre.y + dx * s + dy * c};
}

double Region::sideTo(ImagePoint p) const
{
    const ImageVector d = p - centre;
    const double c = std::cos(angle), s = std::sin(angle);
    return 2 * std::max(std::abs(d.x * c + d.y * s), std::abs(d.y * c - d.x * s));
}

Region regionFrom(ImagePoint middle, ImagePoint rim)
{
    const double dx = rim.x - middle.x, dy = rim.y - middle.y;
    return {middle, 2 * kMargin * std::hypot(dx, dy), std::numbers::pi / 2 - std::atan2(-dy, dx), false};
}

Region regionOfBox(ImagePoint corner, double width, double height)
{
    return {{corner.x + width / 2, corner.y + kBelowTop * height}, kMargin * height, 0, false};
}

void sample(const media::Picture& picture, const Region& region, int side, Beyond beyond, float least, float most,
            std::span<float> rgb)
{
    const int each = std::clamp(static_cast<int>(region.side / side / 2), 1, 4); // samples a pixel, each way
    const double step = 1.0 / (side * each);
    const ImageVector toCentre{0.5, 0.5}; // of the first pixel, from where OpenCV counts
    const ImagePoint first = region.at(step / 2, step / 2);
    const ImageVector right = region.at(1.5 * step, step / 2) - first, down = region.at(step / 2, 1.5 * step) - first;
    const cv::Matx23d toPicture(right.x, down.x, first.x - toCentre.x, right.y, down.y, first.y - toCentre.y);
    const cv::Mat whole(picture.size.height, picture.size.width, CV_8UC4, const_cast<std::uint8_t*>(picture.row(0)),
                        static_cast<std::size_t>(picture.stride));
    cv::Mat cut, small, colours;
    cv::warpAffine(whole, cut, toPicture, {side * each, side * each}, cv::INTER_LINEAR | cv::WARP_INVERSE_MAP,
                   beyond == Beyond::Border ? cv::BORDER_REPLICATE : cv::BORDER_CONSTANT);
    if (each > 1)
        cv::resize(cut, small, {side, side}, 0, 0, cv::INTER_AREA);
    cv::cvtColor(each > 1 ? small : cut, colours, cv::COLOR_BGRA2RGB);
    cv::Mat numbers(side, side, CV_32FC3, rgb.data());
    colours.convertTo(numbers, CV_32F, (most - least) / 255, least);
}

} // namespace kestrel::vision
