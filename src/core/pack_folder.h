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

/// The packs of all those folders by id; one of a later folder stands in for one of the same id before it, as a coach's own
/// does for a shipped one. \param problems  receives what is wrong with those that could not be read; the others stay
std::vector<Pack> loadPacks(const std::vector<std::string>& folders, std::vector<Error>& problems);

/// The file's pack with every drill written out, so that it needs no other file. Errors: those of loadPack.
Expected<nlohmann::json> selfContainedPack(const std::string& file);

/// A pack by file, when the text names one that exists, else by its id among the shipped ones.
/// Errors: NotFound listing the ids there are; those of loadPack.
Expected<Pack> findPack(const std::string& idOrFile);

} // namespace kestrel
