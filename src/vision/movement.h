#pragma once

#include "core/base/error.h"
#include "core/match/find_rallies.h"

#include <functional>
#include <stop_token>
#include <string>
#include <vector>

namespace kestrel::vision {

/// How much moves through a film, several times a second, on small pictures. Reads the film once, whatever its length.
/// \param progress  0 to 1. Errors: those of opening and reading the film; Cancelled.
Expected<std::vector<MovementSample>> movementOf(const std::string& film, const std::function<void(double)>& progress = {},
                                                 std::stop_token = {});

} // namespace kestrel::vision
