#pragma once

#include "media/picture.h"

#include <cstdint>
#include <vector>

namespace kestrel::media {

/// Bilinear shrinking of one plane of bytes to between half and the whole of its size, in each direction for itself. The
/// middle of a pixel lies at half its width, so that the picture does not move. Twice as fast as libyuv's scaler, which
/// is what reading on through a film at screen size spends its time on besides decoding.
class PlaneShrinker {
public:
    /// Whether it can be done here: more than half and at most the whole, eight pixels or more, on a processor that has
    /// the instructions (SSSE3).
    static bool canShrink(PixelSize from, PixelSize to);

    PlaneShrinker() = default;
    /// \pre canShrink
    PlaneShrinker(PixelSize from, PixelSize to);
    bool isFor(PixelSize from, PixelSize to) const { return m_from == from && m_to == to; }

    /// Strides in bytes. Nothing outside \p to's rows is written.
    void shrink(const std::uint8_t* from, int fromStride, std::uint8_t* to, int toStride);

private:
    /// Eight pixels of a row: each is made of two neighbours within sixteen bytes, weighted in 64ths.
    struct Eight {
        int first = 0;          ///< where in the row the sixteen bytes begin
        std::uint8_t pick[16];  ///< which of them, in pairs
        std::int8_t weight[16]; ///< of each
    };
    struct RowOf {
        int upper = 0;      ///< the row below it is the other one
        int lowerShare = 0; ///< in 256ths
    };
    void shrinkRow(std::uint8_t* to) const;

    PixelSize m_from, m_to;
    std::vector<Eight> m_columns;
    std::vector<RowOf> m_rows;
    std::vector<std::uint8_t> m_blended; ///< two rows made one, at full width
};

} // namespace kestrel::media
