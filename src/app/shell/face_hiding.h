#pragma once

#include "app/workspace/consent.h"

namespace kestrel::app {

/// Whether faces are hidden on what leaves, as the coach has set it.
bool hidesFaces(const store::Athlete&, std::optional<double> age);

} // namespace kestrel::app
