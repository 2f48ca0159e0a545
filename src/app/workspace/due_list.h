#pragma once

#include "core/plan/due.h"
#include "store/library.h"

#include <map>

namespace kestrel::app {

/// What is due for everybody, as the library has it. Those for whom nothing is due are left out.
Expected<std::map<store::AthleteId, std::vector<DueItem>>> dueList(const store::Library&, const std::vector<store::Athlete>&,
                                                                   Date today);

/// "33 pitches left today", "rest until 2026-11-23"; empty: nothing was pitched in the last four weeks, and no pain is open.
std::string leftWords(const store::Library&, store::AthleteId, Date today);

/// The library's own workload rule, else the one that comes with the program.
WorkloadRule workloadRuleOf(const store::Library&);

} // namespace kestrel::app
