#pragma once

#include "sim/motion.h"

#include <cstdint>
#include <map>
#include <string>
#include <vector>

namespace kestrel::sim {

/// What a simulated repetition is to be.
struct MotionOptions {
    std::string variant;                  ///< empty: the skill's first
    std::string school;                   ///< empty: the skill's first
    std::map<std::string, double> faults; ///< id -> amount; 0 none, 1 clearly visible, up to 1.5
    std::uint32_t seed = 1;               ///< small differences from repetition to repetition
};

struct SimFault {
    std::string id;
    std::vector<std::string> disturbs; ///< measure ids of the pack
};

/// A movement the simulator knows.
struct SimSkill {
    std::string id; ///< the pack's
    std::vector<std::string> variants, schools;
    std::vector<SimFault> faults;
    std::string releaseAt; ///< key position at which the ball leaves the hand
    Motion (*motion)(const MotionOptions&);
};

const std::vector<SimSkill>& simSkills();
const SimSkill* findSimSkill(const std::string& id);

} // namespace kestrel::sim
