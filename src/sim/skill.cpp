#include "sim/skill.h"

#include "sim/overhand_pitch.h"

#include <algorithm>

namespace kestrel::sim {

const std::vector<SimSkill>& simSkills()
{
    static const std::vector<SimSkill> all{
        {"overhand-pitch",
         {"stretch", "windup"},
         {"tall", "low-drive"},
         {{"head_drop", {"head_dip", "trail_knee_drive"}},
          {"late_hands", {"break_timing", "forearm_up_strike"}},
          {"open_landing", {"landing_line", "head_on_line"}},
          {"stiff_front_leg", {"lead_knee_strike", "trunk_lean_release", "chest_over_knee"}},
          {"glove_flies_out", {"glove_arm_strike", "glove_to_chest"}},
          {"short_stride", {"stride_length"}}},
         "release",
         overhandPitch},
    };
    return all;
}

const SimSkill* findSimSkill(const std::string& id)
{
    const auto& all = simSkills();
    const auto it = std::find_if(all.begin(), all.end(), [&](const SimSkill& s) { return s.id == id; });
    return it == all.end() ? nullptr : &*it;
}

} // namespace kestrel::sim
