#pragma once

#include <compare>
#include <cstdint>

namespace kestrel {

/// A zero-based ordinal that does not convert to or from other ordinals.
template <class Tag> struct Index {
    constexpr Index() = default;
    constexpr explicit Index(std::int64_t v) : value(v) {}
    friend constexpr auto operator<=>(Index, Index) = default;

    std::int64_t value = 0;
};

/// The n-th picture of a film in the order it is shown.
using FrameIndex = Index<struct FrameTag>;

/// A place between pictures, in frames from the first picture: 211.4 lies 40 % of the way from picture 211 to 212.
struct FramePosition {
    constexpr FramePosition() = default;
    constexpr explicit FramePosition(double v) : value(v) {}
    constexpr explicit FramePosition(FrameIndex f) : value(static_cast<double>(f.value)) {}
    friend constexpr auto operator<=>(FramePosition, FramePosition) = default;

    /// The picture on which the position falls, halves going up.
    FrameIndex nearest() const { return FrameIndex(static_cast<std::int64_t>(value + (value < 0 ? -0.5 : 0.5))); }

    double value = 0;
};

/// A stretch of film; both ends belong to it.
struct FrameRange {
    FrameIndex first, last;
    bool operator==(const FrameRange&) const = default;
    constexpr bool contains(FrameIndex f) const { return f >= first && f <= last; }
};

} // namespace kestrel
