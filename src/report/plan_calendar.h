#pragma once

#include "core/pack/pack.h"
#include "core/plan/plan.h"

#include <string>

namespace kestrel::report {

/// The plan as an iCalendar file (RFC 5545): an all-day event for each session with its drills and a reminder, the day of filming
/// again, and a cancelled event for each session that was dropped. The uid of an event stays and its sequence rises with the
/// plan's, so that importing it again updates what is there.
/// \param made  when it was made, "20261129T120000Z"
std::string toCalendar(const Plan&, const Pack&, const std::string& made);

} // namespace kestrel::report
