#include "look/strobe.h"

#include "look/film_image.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kestrel::look {

namespace {

constexpr std::size_t kLeast = 3, kMost = 40;   // pictures
constexpr media::PixelSize kLargest{1280, 720}; // they are cut out of
constexpr int kMoved = 42;          // how far from the still background, in colour steps summed over red, green and blue
constexpr int kReach = 2;           // pixels to either side that decide together
constexpr double kMostMoving = 0.3; // of the picture: more, and it is the camera that moves

/// What is seen most of the time at each pixel.
QImage backgroundOf(const std::vector<std::pair<FrameIndex, QImage>>& pictures)
{
    const QSize size = pictures.front().second.size();
    QImage background(size, QImage::Format_RGB32);
    const std::size_t count = pictures.size();
    std::array<int, kMost> values{};
    for (int y = 0; y < size.height(); ++y) {
        auto* to = reinterpret_cast<QRgb*>(background.scanLine(y));
        std::array<const QRgb*, kMost> rows{};
        for (std::size_t n = 0; n < count; ++n)
            rows[n] = reinterpret_cast<const QRgb*>(pictures[n].second.constScanLine(y));
        for (int x = 0; x < size.width(); ++x) {
            int colour[3];
            for (int c = 0; c < 3; ++c) {
                for (std::size_t n = 0; n < count; ++n)
                    values[n] = static_cast<int>((rows[n][x] >> (8 * c)) & 0xFF);
                std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(count / 2),
                                 values.begin() + static_cast<std::ptrdiff_t>(count));
                colour[c] = values[count / 2];
            }
            to[x] = qRgb(colour[2], colour[1], colour[0]);
        }
    }
    return background;
}

/// 255 where something moves. Pixels decide together with their neighbours, so that noise does not.
QImage movingMask(const QImage& picture, const QImage& background)
{
    const int width = picture.width(), height = picture.height();
    // sums of differences, so that the mean around each pixel costs four additions
    std::vector<std::int64_t> sums(static_cast<std::size_t>(width + 1) * static_cast<std::size_t>(height + 1), 0);
    const auto at = [&](int x, int y) -> std::int64_t& {
        return sums[static_cast<std::size_t>(y) * static_cast<std::size_t>(width + 1) + static_cast<std::size_t>(x)];
    };
    for (int y = 0; y < height; ++y) {
        const auto* a = reinterpret_cast<const QRgb*>(picture.constScanLine(y));
        const auto* b = reinterpret_cast<const QRgb*>(background.constScanLine(y));
        for (int x = 0; x < width; ++x) {
            const int difference =
                std::abs(qRed(a[x]) - qRed(b[x])) + std::abs(qGreen(a[x]) - qGreen(b[x])) + std::abs(qBlue(a[x]) - qBlue(b[x]));
            at(x + 1, y + 1) = difference + at(x, y + 1) + at(x + 1, y) - at(x, y);
        }
    }
    QImage mask(width, height, QImage::Format_Alpha8);
    for (int y = 0; y < height; ++y) {
        auto* to = mask.scanLine(y);
        const int top = std::max(0, y - kReach), bottom = std::min(height, y + kReach + 1);
        for (int x = 0; x < width; ++x) {
            const int left = std::max(0, x - kReach), right = std::min(width, x + kReach + 1);
            const std::int64_t sum = at(right, bottom) - at(left, bottom) - at(right, top) + at(left, top);
            to[x] = sum > static_cast<std::int64_t>(kMoved) * (right - left) * (bottom - top) ? 255 : 0;
        }
    }
    return mask;
}

QRect extentOf(const QImage& mask, double& share)
{
    QRect box;
    std::int64_t count = 0;
    for (int y = 0; y < mask.height(); ++y) {
        const auto* row = mask.constScanLine(y);
        for (int x = 0; x < mask.width(); ++x)
            if (row[x]) {
                ++count;
                box |= QRect(x, y, 1, 1);
            }
    }
    share = static_cast<double>(count) / (static_cast<double>(mask.width()) * mask.height());
    return box;
}

} // namespace

Strobe cutOut(const std::vector<std::pair<FrameIndex, QImage>>& pictures, double scale)
{
    Strobe strobe;
    const QImage background = backgroundOf(pictures);
    for (const auto& [frame, picture] : pictures) {
        const QImage mask = movingMask(picture, background);
        double share = 0;
        const QRect box = extentOf(mask, share);
        if (share > kMostMoving) {
            strobe.isStill = false;
            strobe.cutOuts.clear();
            return strobe;
        }
        if (box.isEmpty())
            continue;
        QImage cut = picture.copy(box).convertToFormat(QImage::Format_ARGB32);
        for (int y = 0; y < box.height(); ++y) {
            auto* to = reinterpret_cast<QRgb*>(cut.scanLine(y));
            const auto* from = mask.constScanLine(box.top() + y) + box.left();
            for (int x = 0; x < box.width(); ++x)
                to[x] = from[x] ? to[x] | 0xFF000000 : 0;
        }
        strobe.cutOuts.push_back({frame, {box.left() * scale, box.top() * scale}, std::move(cut), scale});
    }
    return strobe;
}

Expected<Strobe> makeStrobe(media::Film& film, const Drawing& d, FrameRange range, const HidePicture& hide, std::stop_token stop)
{
    std::vector<std::pair<FrameIndex, QImage>> pictures;
    const std::int64_t last = std::min(range.last.value, film.info().frames() - 1);
    for (std::int64_t f = range.first.value; f <= last && pictures.size() < kMost; f += d.every) {
        const auto picture = film.frame(FrameIndex(f), kLargest, stop);
        if (!picture)
            return tl::unexpected(picture.error());
        QImage image = toImage(*picture).copy();
        if (hide)
            hide(FrameIndex(f), image);
        pictures.emplace_back(FrameIndex(f), std::move(image));
    }
    if (pictures.size() < kLeast)
        return fail(ErrorCode::BadArgument, "A strobe needs three pictures or more; let them follow each other closer.",
                    film.file());
    return cutOut(pictures, static_cast<double>(film.info().size.width) / pictures.front().second.width());
}

void addStrobe(const Strobe& strobe, FrameIndex now, std::vector<Overlay>& into)
{
    for (const auto& cut : strobe.cutOuts)
        if (cut.frame <= now)
            into.emplace_back(CutOutOverlay{cut.image, cut.at, cut.scale});
}

} // namespace kestrel::look
