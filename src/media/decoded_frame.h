#pragma once

#include <cstddef>
#include <memory>

struct AVFrame;

namespace kestrel::media {

/// One picture as it is kept in memory: the codec's own planes, lying as they are stored, or smaller ones made of them.
/// Copies share the planes, which never change.
struct DecodedFrame {
    std::shared_ptr<const AVFrame> planes;
    bool isSmall = false;
    std::size_t bytes = 0; ///< of memory that is held

    bool isEmpty() const { return !planes; }
};

/// Takes over what \p frame refers to and leaves it blank.
DecodedFrame takeOver(AVFrame& frame);

/// The same picture at half width and height, in an eighth to a quarter of the memory. Empty when it cannot be made
/// smaller.
DecodedFrame halved(const DecodedFrame&);

} // namespace kestrel::media
