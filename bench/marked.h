#pragma once

#include "core/base/error_sample.h"
#include "core/judge/review.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking.h"
#include "sim/simulate.h"

#include <functional>
#include <iostream>

namespace kestrel::bench {

inline constexpr double kNoise = 2; // pixels at 1280x720

/// What an attentive marker has: every point on every frame, each a little off.
inline Marking marked(const Marking& truth, std::uint32_t seed)
{
    Marking m = truth;
    const ErrorSample sample(seed + 100);
    for (std::size_t i = 0; i < m.marks.size(); ++i) {
        m.marks[i].at.x += kNoise * sample.normal(2 * i);
        m.marks[i].at.y += kNoise * sample.normal(2 * i + 1);
        m.marks[i].sigma = kNoise;
    }
    return m;
}

/// The review of one repetition so marked. Empty, with the reason on standard error, when it cannot be simulated.
inline std::optional<Review> reviewOfMarked(const sim::SimulateOptions& o, const Pack& pack)
{
    const auto s = sim::simulate(o);
    if (!s) {
        std::cerr << s.error().text() << "\n";
        return std::nullopt;
    }
    const JudgeOptions options{{o.motion.school, {}}};
    return calcReview(pack, {readRepetition(pack, PreparedRepetition(marked(s->truth, o.motion.seed)), options)}, options);
}

/// Every skill the simulator knows with its pack. False, with the reason on standard error, when one cannot be read.
inline bool eachSkill(const std::function<void(const sim::SimSkill&, const Pack&)>& visit)
{
    for (const auto& id : sim::simSkillIds()) {
        const auto skill = sim::loadSimSkill(id);
        const auto pack = findPack(id);
        if (!skill || !pack) {
            std::cerr << (skill ? pack.error() : skill.error()).text() << "\n";
            return false;
        }
        visit(*skill, *pack);
    }
    return true;
}

} // namespace kestrel::bench
