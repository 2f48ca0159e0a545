#pragma once

#include "core/pack.h"

#include <string>
#include <vector>

namespace kestrel {

/// The folder of files shipped with the program ("packs"): beside an installed program in ../share/jolly-kestrel,
/// else in the source tree it was built from. May not exist.
std::string shippedFolder(const std::string& name);

/// Every pack file (*.json except the schema and the shared drills) of the folder, by name.
std::vector<std::string> packFiles(const std::string& folder);

/// A pack by file, when the text names one that exists, else by its id among the shipped ones.
/// Errors: NotFound listing the ids there are; those of loadPack.
Expected<Pack> findPack(const std::string& idOrFile);

} // namespace kestrel
