#pragma once

#include "core/base/error.h"

#include <functional>
#include <stop_token>
#include <string>

namespace kestrel::demo {

/// How far the making has come.
struct Progress {
    std::string file;              ///< that is being painted
    int film = 0, films = 0;       ///< the how manieth of how many
    int picture = 0, pictures = 0; ///< of this film: done, and in all
};

/// Makes a library of made-up athletes in a new folder: films by the simulator, and for the clips that the scenario
/// names the key positions and marks as a careful coach would have set them.
/// \param scenario  JSON, format "jolly-kestrel/demo" (see demo/club.json)
/// \param folder    must not hold a library yet
/// Errors: those of the scenario with their place; BadArgument for a folder in use; CannotWrite; Cancelled.
Expected<void> makeDemoLibrary(const std::string& scenario, const std::string& folder,
                               const std::function<void(const Progress&)>& progress = {}, std::stop_token stop = {});

/// Reads a scenario and makes nothing. Errors: those of the scenario.
Expected<void> checkScenario(const std::string& scenario);

} // namespace kestrel::demo
