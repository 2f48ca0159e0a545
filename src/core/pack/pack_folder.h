#pragma once

#include "core/pack/pack.h"

#include <string>
#include <vector>

namespace kestrel {

/// The folder of files shipped with the program ("packs"): beside an installed program in ../share/jolly-kestrel,
/// else in the source tree it was built from. May not exist.
std::string shippedFolder(const std::string& name);

/// The file of that name ("drills", "detectors") beside the pack, else the one shipped with the program, so that a coach's own
/// pack is read with them too. Empty: there is none. Errors: as loadJson, and another format.
Expected<std::optional<nlohmann::json>> loadBesidePack(const std::string& name, const std::string& packFile);

/// Every pack file (*.json except the schema and what packs share) of the folder, by name.
std::vector<std::string> packFiles(const std::string& folder);

/// Adds the folder's packs; one of the same id as a present one takes its place, as a coach's own does a shipped one's.
/// \param problems  receives what is wrong with those that could not be read; the others are there
void addPacks(std::vector<Pack>& packs, const std::string& folder, std::vector<Error>& problems);

/// The file's pack with every drill written out, so that it needs no other file. Errors: those of loadPack.
Expected<nlohmann::json> selfContainedPack(const std::string& file);

/// A pack by file, when the text names one that exists, else by its id among the shipped ones.
/// Errors: NotFound listing the ids there are; those of loadPack.
Expected<Pack> findPack(const std::string& idOrFile);
/// The shipped pack of that id and no other: for names that come out of a file. Errors: NotFound and those of loadPack.
Expected<Pack> findShippedPack(const std::string& id);

} // namespace kestrel
