#pragma once

#include "core/judge/review.h"

namespace kestrel {

/// Adds to a judged review what a coach would say beside the verdicts: habits, what varies, what the player can do already, what
/// tells good ones from bad ones, other schools, rules, growth and equipment.
/// \param live  those that were judged \param shadows  swings without a ball beside them
void addRemarks(const Pack&, Review&, const std::vector<const ReadRepetition*>& live,
                const std::vector<const ReadRepetition*>& shadows);

} // namespace kestrel
