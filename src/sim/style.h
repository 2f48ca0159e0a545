#pragma once

#include "sim/motion.h"
#include "sim/person.h"

#include <array>
#include <cstdint>
#include <vector>

namespace kestrel::sim {

/// What differs from one person to the next who both do it well.
enum class StylePart { Tempo, Stance, Hips, Trunk, Shoulders, Head, Feet, OffArm, DomArm, Implement, Build };
inline constexpr std::size_t kStyleParts = 11;

/// Another person's way of doing the same, which coaches leave alone: pose angles 4 degrees off and at most 8, the time of each
/// phase by a tenth and at most a fifth, the stance by a twentieth, limbs and breadth by a few per cent. Number 0 is the athlete
/// of the motion's file. The same number is the same person in every repetition.
struct Style {
    std::uint32_t number = 0;
    std::array<std::uint8_t, kStyleParts>
        redraws{}; ///< how often each part was drawn again; the later, the smaller. See fitStyle
    bool operator==(const Style&) const = default;
};
/// So many redraws of a part leave nothing of it.
inline constexpr std::uint8_t kMostRedraws = 8;

/// Changes the key poses, which stand in time order; the one at 0 seconds keeps its time.
void apply(std::vector<KeyPose>&, const Style&);
/// The person in that style.
Person styled(Person, const Style&);

} // namespace kestrel::sim
