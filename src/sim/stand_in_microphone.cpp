#include "sim/stand_in_microphone.h"

#include <cmath>
#include <numbers>

namespace kestrel::sim {

namespace {

constexpr double kSyllable = 0.22, kPause = 0.08; // seconds
constexpr double kPitches[] = {140, 165, 150, 180, 130};
constexpr double kLoud = 7000;

std::int16_t sampleAt(std::size_t n)
{
    const double t = static_cast<double>(n) / media::kSoundRate, whole = kSyllable + kPause;
    const auto syllable = static_cast<std::size_t>(t / whole);
    const double into = t - static_cast<double>(syllable) * whole;
    if (into > kSyllable)
        return 0;
    const double swell = std::sin(std::numbers::pi * into / kSyllable);
    const double phase = 2 * std::numbers::pi * kPitches[syllable % std::size(kPitches)] * into;
    return static_cast<std::int16_t>(kLoud * swell * (std::sin(phase) + 0.5 * std::sin(2 * phase) + 0.25 * std::sin(3 * phase)) /
                                     1.75);
}

} // namespace

std::vector<std::int16_t> StandInMicrophone::hear(double seconds)
{
    std::vector<std::int16_t> samples(static_cast<std::size_t>(seconds * media::kSoundRate));
    for (auto& s : samples)
        s = sampleAt(m_heard++);
    return samples;
}

} // namespace kestrel::sim
