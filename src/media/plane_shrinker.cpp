#include "media/plane_shrinker.h"

#include <libyuv/planar_functions.h>

#include <algorithm>
#include <cmath>
#include <cstring>

#if defined(__x86_64__)
#include <immintrin.h>
#endif

namespace kestrel::media {

namespace {

constexpr int kAtOnce = 8;  // pixels of a row
constexpr int kReadAt = 16; // bytes of the wide row that hold all their neighbours while it is less than twice as wide
constexpr int kColumnParts = 64, kRowParts = 256;

struct Between {
    int first = 0;    ///< and the one after it
    double share = 0; ///< of the one after it, 0 to 1
};

/// Where the middle of a shrunken pixel lies among the old ones.
Between neighbours(int pixel, int from, int to)
{
    const double at = (pixel + 0.5) * from / to - 0.5;
    const int first = std::clamp(static_cast<int>(std::floor(at)), 0, from - 2);
    return {first, std::clamp(at - first, 0.0, 1.0)};
}

bool hasInstructions()
{
#if defined(__x86_64__)
    return __builtin_cpu_supports("ssse3");
#else
    return false;
#endif
}

bool canShrinkTo(int from, int to)
{
    return to >= kAtOnce && to <= from && 2 * to > from;
}

#if defined(__x86_64__)
__m128i load(const void* at)
{
    return _mm_loadu_si128(static_cast<const __m128i*>(at));
}
#endif

} // namespace

bool PlaneShrinker::canShrink(PixelSize from, PixelSize to)
{
    return hasInstructions() && canShrinkTo(from.width, to.width) && canShrinkTo(from.height, to.height);
}

PlaneShrinker::PlaneShrinker(PixelSize from, PixelSize to) : m_from(from), m_to(to)
{
    for (int x = 0; x < to.width; x += kAtOnce) {
        Eight eight;
        eight.first = neighbours(x, from.width, to.width).first;
        for (int i = 0; i < kAtOnce; ++i) {
            const Between at = neighbours(std::min(x + i, to.width - 1), from.width, to.width);
            const auto right = static_cast<std::int8_t>(std::lround(kColumnParts * at.share));
            const auto offset = static_cast<std::uint8_t>(at.first - eight.first);
            eight.pick[2 * i] = offset;
            eight.pick[2 * i + 1] = static_cast<std::uint8_t>(offset + 1);
            eight.weight[2 * i] = static_cast<std::int8_t>(kColumnParts - right);
            eight.weight[2 * i + 1] = right;
        }
        m_columns.push_back(eight);
    }
    for (int y = 0; y < to.height; ++y) {
        const Between at = neighbours(y, from.height, to.height);
        const int lower = static_cast<int>(std::lround(kRowParts * at.share));
        // the blend knows no whole: that is the lower row alone
        m_rows.push_back(lower == kRowParts ? RowOf{at.first + 1, 0} : RowOf{at.first, lower});
    }
    m_blended.resize(static_cast<std::size_t>(from.width) + kReadAt);
}

void PlaneShrinker::shrink(const std::uint8_t* from, int fromStride, std::uint8_t* to, int toStride)
{
    for (const RowOf& row : m_rows) {
        const std::uint8_t* const upper = from + static_cast<std::ptrdiff_t>(row.upper) * fromStride;
        libyuv::InterpolatePlane(upper, 0, row.lowerShare > 0 ? upper + fromStride : upper, 0, m_blended.data(), 0, m_from.width,
                                 1, row.lowerShare);
        shrinkRow(to);
        to += toStride;
    }
}

#if defined(__x86_64__)

__attribute__((target("ssse3"))) void PlaneShrinker::shrinkRow(std::uint8_t* to) const
{
    const __m128i half = _mm_set1_epi16(kColumnParts / 2);
    int left = m_to.width;
    for (const Eight& eight : m_columns) {
        const __m128i pairs = _mm_shuffle_epi8(load(m_blended.data() + eight.first), load(eight.pick));
        const __m128i sums = _mm_add_epi16(_mm_maddubs_epi16(pairs, load(eight.weight)), half);
        const __m128i bytes = _mm_packus_epi16(_mm_srli_epi16(sums, 6), _mm_setzero_si128());
        if (left >= kAtOnce) {
            _mm_storel_epi64(reinterpret_cast<__m128i*>(to), bytes);
        } else {
            const auto last = static_cast<std::uint64_t>(_mm_cvtsi128_si64(bytes));
            std::memcpy(to, &last, static_cast<std::size_t>(left));
        }
        to += kAtOnce;
        left -= kAtOnce;
    }
}

#else

void PlaneShrinker::shrinkRow(std::uint8_t*) const {} // canShrink() says no

#endif

} // namespace kestrel::media
