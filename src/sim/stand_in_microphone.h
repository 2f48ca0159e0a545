#pragma once

#include "media/sound.h"

namespace kestrel::sim {

/// A microphone that is not there: somebody who hums in syllables, the same on every run.
class StandInMicrophone {
public:
    /// What it hears next.
    std::vector<std::int16_t> hear(double seconds);

private:
    std::size_t m_heard = 0; // samples
};

} // namespace kestrel::sim
