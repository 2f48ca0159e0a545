#pragma once

#include "core/base/error.h"
#include "sim/ball.h"
#include "sim/motion.h"
#include "sim/skeleton.h"
#include "sim/style.h"

#include <nlohmann/json_fwd.hpp>

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
    Style style;                          ///< the person's own way
    double tempo = 1;                     ///< 2 is twice as fast
    std::uint32_t seed = 1;               ///< small differences from repetition to repetition
};

/// What is added to one or several key poses: a fault, a variant, a school.
struct PoseChange {
    std::string first, last; ///< key positions, both included
    double seconds = 0;
    std::map<std::string, double> delay;
    Pose pose = noPose();
};

/// Adds so much of the changes to the key poses they name, which stand in time order.
void apply(std::vector<KeyPose>&, const std::vector<PoseChange>&, double amount);

struct SimFault {
    std::string id;
    std::string says;                  ///< what the athlete does, one sentence
    std::vector<std::string> disturbs; ///< measure ids of the pack
    std::vector<PoseChange> change;    ///< at amount 1
    std::vector<std::string> variants; ///< those in which it means something; empty: all

    bool isFor(const std::string& variant) const;
};

struct SimSchool {
    std::string id;
    std::vector<PoseChange> change;
};

struct SimVariant {
    std::string id;
    std::vector<KeyPose> poses;
    BallKind ballKind = BallKind::Baseball;
    std::vector<BallStage> ball;
};

/// Where the action is set.
enum class Setting { Mound, BattersBox, TennisCourt, SquashCourt, Table, Hoop, Rink, Circle, Infield };

/// What a level camera has to show, shares of height.
struct Framing {
    double x = 0.4, y = 0.57;          ///< the picture's middle
    double width = 1.9, height = 1.58; ///< at least
};

/// A movement the simulator knows, read from one file in motions/.
struct SimSkill {
    std::string id; ///< the pack's
    DominantSide dominant = DominantSide::Trail;
    Setting setting = Setting::Mound;
    Framing framing;
    bool hasGlove = false;
    std::optional<Implement> implement;
    std::vector<SimVariant> variants;
    std::vector<SimSchool> schools; ///< at least one
    std::vector<SimFault> faults;

    /// What the options, which name only what there is, make of it.
    Motion motion(const MotionOptions&) const;
    const SimVariant& variantOf(const MotionOptions&) const;
};

/// Errors: as parsePack, with JSON pointers.
Expected<SimSkill> parseSimSkill(const nlohmann::json& root, const std::string& file);

/// The ids of the skills shipped with the program, by name.
std::vector<std::string> simSkillIds();
/// Errors: NotFound listing the skills there are; those of parseSimSkill.
Expected<SimSkill> loadSimSkill(const std::string& id);

} // namespace kestrel::sim
