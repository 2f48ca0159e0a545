#pragma once

#include "core/pack/pack.h"
#include "core/plan/plan.h"
#include "report/document.h"

namespace kestrel::report {

/// The plan with a box to tick for each drill: on paper (A4, upright), and as a page for a telephone that remembers nothing and
/// fetches nothing. A plan that does not fit one side in readable letters says how many sessions follow in the web page.
Document documentOf(const Plan&, const Pack&);

} // namespace kestrel::report
