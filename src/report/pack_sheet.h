#pragma once

#include "core/pack/pack.h"

#include <string>

namespace kestrel::report {

/// Everything a pack says, as a Markdown page a coach can read and argue with: key positions, measures with bands and
/// what each band rests on, faults with their cues, drills.
std::string toMarkdown(const Pack&);

} // namespace kestrel::report
