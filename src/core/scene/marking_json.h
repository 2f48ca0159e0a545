#pragma once

#include "core/base/error.h"
#include "core/scene/marking.h"

#include <nlohmann/json_fwd.hpp>

namespace kestrel {

/// Reads a marking (format "jolly-kestrel/marking", version 1). Unknown keys are ignored; a wrong field is refused
/// with its JSON pointer. Two marks of one landmark on one frame: the more trusted source stays.
Expected<Marking> parseMarking(const nlohmann::json& root, const std::string& file);
Expected<Marking> loadMarking(const std::string& file);

nlohmann::json toJson(const Marking&);
Expected<void> saveMarking(const Marking&, const std::string& file);

/// The scene alone, as it stands inside a marking; the library keeps it per clip.
nlohmann::json toJson(const Scene&);
Expected<Scene> parseScene(const nlohmann::json&, const std::string& file);

} // namespace kestrel
