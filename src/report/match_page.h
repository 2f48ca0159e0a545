#pragma once

#include "core/match/tally.h"
#include "report/document.h"

namespace kestrel::report {

/// A match on one side of A4: the score, what to train next, points won by stroke, serve and kind of score with their intervals.
Document matchDocument(const MatchLog&, const MatchSport&);

} // namespace kestrel::report
