#include "vision/face_hider.h"

#include "core/drawing/drawn_shape.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace kestrel::vision {

namespace {

constexpr int kBlocks = 4;              // across what is hidden
constexpr std::int64_t kRemembered = 8; // pictures for which a head that is no longer found stays hidden

/// A copy, as the networks want it.
media::Picture pictureOf(const PictureBits& p)
{
    const auto bytes = static_cast<std::size_t>(p.stride) * static_cast<std::size_t>(p.size.height);
    std::shared_ptr<std::uint8_t[]> pixels(new std::uint8_t[bytes]);
    std::copy_n(p.bgra, bytes, pixels.get());
    return {p.size, p.stride, std::move(pixels)};
}

/// What the coach drew to be hidden, as it lies on the picture.
std::vector<Head> drawnOn(const Marking& m, FrameRange range, FrameIndex frame, double scale)
{
    std::vector<Head> rounds;
    for (const auto& d : m.drawings) {
        const auto seen = d.hides ? rangeOf(d.lives, m, range) : std::nullopt;
        if (!seen || !seen->contains(frame) || d.at.empty())
            continue;
        const ImagePoint first = d.at.front().at;
        if (d.kind == DrawingKind::Circle) {
            rounds.push_back({{first.x * scale, first.y * scale}, d.radius * scale});
        } else if (d.kind == DrawingKind::Box && d.at.size() == 2) {
            const ImagePoint middle = midpoint(first, d.at[1].at);
            rounds.push_back({{middle.x * scale, middle.y * scale}, (d.at[1].at - first).length() / 2 * scale});
        }
    }
    return rounds;
}

} // namespace

void hide(PictureBits p, const Head& head)
{
    const int left = std::max(0, static_cast<int>(std::floor(head.centre.x - head.radius)));
    const int top = std::max(0, static_cast<int>(std::floor(head.centre.y - head.radius)));
    const int right = std::min(p.size.width, static_cast<int>(std::ceil(head.centre.x + head.radius)));
    const int bottom = std::min(p.size.height, static_cast<int>(std::ceil(head.centre.y + head.radius)));
    const double side = 2 * head.radius / kBlocks;
    struct Block {
        std::array<std::uint64_t, 3> sum{};
        std::uint64_t count = 0;
    };
    std::array<Block, kBlocks * kBlocks> blocks{};
    const auto blockAt = [&](int x, int y) -> Block& {
        const auto column = std::clamp(static_cast<int>((x + 0.5 - head.centre.x + head.radius) / side), 0, kBlocks - 1);
        const auto row = std::clamp(static_cast<int>((y + 0.5 - head.centre.y + head.radius) / side), 0, kBlocks - 1);
        return blocks[static_cast<std::size_t>(row * kBlocks + column)];
    };
    const auto pixelAt = [&](int x, int y) {
        return p.bgra + static_cast<std::ptrdiff_t>(y) * p.stride + 4 * static_cast<std::ptrdiff_t>(x);
    };
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x) {
            Block& b = blockAt(x, y);
            for (std::size_t c = 0; c < 3; ++c)
                b.sum[c] += pixelAt(x, y)[c];
            ++b.count;
        }
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x) {
            if (std::hypot(x + 0.5 - head.centre.x, y + 0.5 - head.centre.y) > head.radius)
                continue;
            const Block& b = blockAt(x, y);
            for (std::size_t c = 0; c < 3; ++c)
                pixelAt(x, y)[c] = static_cast<std::uint8_t>(b.sum[c] / std::max<std::uint64_t>(1, b.count));
        }
}

Expected<FaceHider> FaceHider::load(const std::string& models, bool hidesFaces)
{
    if (!hidesFaces)
        return FaceHider(std::nullopt);
    return HeadFinder::load(models).map([](HeadFinder finder) { return FaceHider(std::move(finder)); });
}

std::vector<Head> FaceHider::headsOn(const PictureBits& bits, const Marking& marking, FrameIndex frame, double scale)
{
    std::vector<Head> heads = m_finder->find(pictureOf(bits));
    if (const auto own = markedHead(marking, frame, scale)) { // marks tell it more closely
        std::erase_if(heads, [&](const Head& h) { return isTheAthlete(h, *own); });
        heads.push_back(*own);
    }
    if (heads.empty())
        ++m_unsure;
    std::vector<Known> known;
    for (const auto& head : heads)
        known.push_back({{{head.centre.x / scale, head.centre.y / scale}, head.radius / scale}, frame});
    const std::size_t found = known.size();
    for (const auto& k : m_known) { // what was seen a moment ago and has no counterpart now
        const bool isNear = std::abs(frame.value - k.seenOn.value) <= kRemembered;
        const bool isFound =
            std::any_of(known.begin(), known.begin() + static_cast<std::ptrdiff_t>(found), [&](const Known& now) {
                return (now.head.centre - k.head.centre).length() < std::max(now.head.radius, k.head.radius);
            });
        if (!isNear || isFound)
            continue;
        known.push_back(k);
        heads.push_back({{k.head.centre.x * scale, k.head.centre.y * scale}, k.head.radius * scale});
    }
    m_known = std::move(known);
    return heads;
}

void FaceHider::hide(PictureBits bits, const std::string& film, const Marking& marking, FrameRange range, FrameIndex frame)
{
    if (!bits.bgra || bits.size.width <= 0 || marking.film.width <= 0)
        return;
    const double scale = static_cast<double>(bits.size.width) / marking.film.width;
    if (film != m_film)
        m_known.clear();
    m_film = film;
    std::vector<Head> hidden = drawnOn(marking, range, frame, scale);
    if (m_finder)
        for (const auto& head : headsOn(bits, marking, frame, scale))
            hidden.push_back(head);
    for (const auto& head : hidden)
        vision::hide(bits, head);
}

std::string FaceHider::warning() const
{
    if (m_unsure == 0)
        return {};
    return "On " + std::to_string(m_unsure) + (m_unsure == 1 ? " picture" : " pictures") +
           " no head was found to be hidden: look at it before it leaves, and draw a circle to hide what is seen.";
}

} // namespace kestrel::vision
