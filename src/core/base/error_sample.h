#pragma once

#include <array>
#include <cmath>
#include <cstdint>
#include <numbers>
#include <string_view>

namespace kestrel {

/// Highest number of a draw.
inline constexpr std::uint32_t kErrorSamples = 96;

/// One draw of everything that is uncertain about a repetition. Draw 0 is the best estimate; the others disturb it.
/// Random numbers come from hashing what they are for, so the same question always gets the same answer, in any order
/// and on any thread: same marking, same uncertainty.
class ErrorSample {
public:
    constexpr ErrorSample() = default;
    constexpr explicit ErrorSample(std::uint32_t number) : m_number(number) {}
    constexpr std::uint32_t number() const { return m_number; }
    constexpr bool isBestEstimate() const { return m_number == 0; }

    /// Even between -1 and 1; 0 for the best estimate.
    double even(std::uint64_t what) const { return isBestEstimate() ? 0 : 2 * unit(mixed(what)) - 1; }

    /// Normal with standard deviation 1; 0 for the best estimate.
    double normal(std::uint64_t what) const
    {
        if (isBestEstimate())
            return 0;
        const std::uint64_t h = mixed(what);
        // Box-Muller on the two halves of one hash
        const double a = (static_cast<double>(h >> 32) + 1.0) * 0x1p-32;
        const double b = static_cast<double>(h & 0xffffffffu) * 0x1p-32;
        return std::sqrt(-2.0 * std::log(a)) * std::cos(2.0 * std::numbers::pi * b);
    }

    /// Two of them that know nothing of each other, in 4096 equally likely steps: several times as quick, for what is drawn at
    /// every mark.
    std::array<double, 2> normalPair(std::uint64_t what) const;

    static constexpr std::uint64_t mix(std::uint64_t x)
    {
        // splitmix64, public domain
        x += 0x9e3779b97f4a7c15u;
        x = (x ^ (x >> 30)) * 0xbf58476d1ce4e5b9u;
        x = (x ^ (x >> 27)) * 0x94d049bb133111ebu;
        return x ^ (x >> 31);
    }
    static constexpr std::uint64_t mix(std::uint64_t a, std::uint64_t b) { return mix(mix(a) ^ (b + 0x632be59bd9b4e019u)); }

    /// The same number for the same text on every machine (FNV-1a).
    static constexpr std::uint64_t keyOf(std::string_view text)
    {
        std::uint64_t h = 0xcbf29ce484222325u;
        for (const char c : text)
            h = (h ^ static_cast<unsigned char>(c)) * 0x100000001b3u;
        return h;
    }

private:
    std::uint64_t mixed(std::uint64_t what) const { return mix(m_number, what); }
    static double unit(std::uint64_t h) { return static_cast<double>(h >> 11) * 0x1p-53; }

    std::uint32_t m_number = 0;
};

} // namespace kestrel
