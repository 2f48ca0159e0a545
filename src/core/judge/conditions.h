#pragma once

#include "core/judge/review.h"

namespace kestrel {

/// Whether the value lies out of its band on that side.
bool isBeyond(const Reading&, Beyond side);

/// What the coach answered about a repetition; null: nothing, or not for its variant.
const Observation::Choice* answerOf(const Pack&, const ReadRepetition&, const std::string& observation);

/// Of each observation the answer given most often; among those given as often, the worse one.
std::vector<Observed> typicalAnswers(const Pack&, const std::vector<const ReadRepetition*>& repetitions);

} // namespace kestrel
