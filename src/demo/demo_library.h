#pragma once

#include "core/error.h"

#include <functional>
#include <stop_token>
#include <string>

namespace kestrel::demo {

/// Makes a library of made-up athletes in a new folder: films by the simulator, and for the clips that the scenario
/// names the key positions and marks as a careful coach would have set them.
/// \param scenario  JSON, format "jolly-kestrel/demo" (see demo/club.json)
/// \param folder    must not hold a library yet
/// \param progress  what is being made, pictures done and in all
/// Errors: those of the scenario with their place; BadArgument for a folder in use; CannotWrite; Cancelled.
Expected<void> makeDemoLibrary(const std::string& scenario, const std::string& folder,
                               const std::function<void(const std::string&, int, int)>& progress = {}, std::stop_token stop = {});

} // namespace kestrel::demo
