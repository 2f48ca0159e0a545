#pragma once

#include "core/base/error.h"

#include <cstdint>
#include <string>
#include <vector>

namespace kestrel::media {

inline constexpr int kSoundRate = 48000; ///< samples a second of all sound in the program; one channel

/// What was spoken.
struct Sound {
    std::vector<std::int16_t> samples;
    double seconds() const { return static_cast<double>(samples.size()) / kSoundRate; }
    bool operator==(const Sound&) const = default;
};

/// Any sound file, as one channel at kSoundRate. Errors: CannotOpen; NotAFilm when there is no sound in it.
Expected<Sound> loadSound(const std::string& file);
/// As WAV, whole or not at all. Errors: CannotWrite.
Expected<void> saveWav(const Sound&, const std::string& file);

/// How loud it is: 0 silence, 1 as loud as can be.
double loudnessOf(const std::vector<std::int16_t>& samples);

} // namespace kestrel::media
