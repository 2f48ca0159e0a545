#pragma once

#include <cstdint>
#include <memory>

namespace kestrel::media {

/// A size in pixels. Zero or less in a request means "no limit".
struct PixelSize {
    int width = 0, height = 0;
    bool operator==(const PixelSize&) const = default;
};

/// One upright picture with square pixels: rows from the top, four bytes a pixel in the order blue, green, red, 255.
/// Copies share the pixels, which never change.
struct Picture {
    PixelSize size;
    int stride = 0; ///< bytes from one row to the next
    std::shared_ptr<const std::uint8_t[]> pixels;

    bool isEmpty() const { return !pixels; }
    const std::uint8_t* row(int y) const { return pixels.get() + static_cast<std::ptrdiff_t>(y) * stride; }
};

} // namespace kestrel::media
