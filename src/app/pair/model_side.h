#pragma once

#include "app/pair/pair_side.h"
#include "core/base/error.h"
#include "core/pack/pack.h"

#include <functional>
#include <stop_token>

namespace kestrel::app {

/// The simulated athlete doing the same as a player: same skill, variant, hand, height, age and, as far as the marks tell, limbs;
/// seen from where the player's camera stood, as far as the scene tells. It is a
/// picture of the pack's bands. Painted once and kept in the computer's cache, where it may be thrown away at any time.
/// \param school    of the pack; empty: its first
/// \param progress  pictures done and in all
/// Errors: NotFound for a skill that the simulator does not know, CannotWrite, Cancelled.
Expected<PairSide> modelSide(const Pack&, const std::string& school, const Marking& player,
                             const std::function<void(int, int)>& progress, std::stop_token);

} // namespace kestrel::app
