#include "core/pack/pack_folder.h"

#include "core/base/json_reader.h"

#include <algorithm>
#include <filesystem>

namespace kestrel {

namespace fs = std::filesystem;

std::string shippedFolder(const std::string& name)
{
    std::error_code ec;
    const fs::path program = fs::read_symlink("/proc/self/exe", ec);
    if (!ec) {
        const fs::path installed = program.parent_path().parent_path() / "share" / "jolly-kestrel" / name;
        if (fs::is_directory(installed, ec))
            return installed.string();
    }
    return (fs::path(KESTREL_SOURCE_DIR) / name).string();
}

Expected<std::optional<nlohmann::json>> loadBesidePack(const std::string& name, const std::string& packFile)
{
    std::error_code ec;
    auto file = (fs::path(packFile).parent_path() / (name + ".json")).string();
    if (packFile.empty() || !fs::exists(file, ec))
        file = (fs::path(shippedFolder("packs")) / (name + ".json")).string();
    if (!fs::exists(file, ec))
        return std::nullopt;
    auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    if (auto e = checkFormat(*root, "jolly-kestrel/" + name, file))
        return tl::unexpected(*e);
    return std::optional(std::move(*root));
}

std::vector<std::string> packFiles(const std::string& folder)
{
    std::vector<std::string> files;
    std::error_code ec;
    for (const auto& entry : fs::directory_iterator(folder, ec))
        if (entry.path().extension() == ".json" && entry.path().stem().extension() != ".schema" &&
            entry.path().stem() != "drills" && entry.path().stem() != "detectors")
            files.push_back(entry.path().string());
    std::sort(files.begin(), files.end());
    return files;
}

void addPacks(std::vector<Pack>& packs, const std::string& folder, std::vector<Error>& problems)
{
    for (const auto& file : packFiles(folder)) {
        auto pack = loadPack(file);
        if (!pack) {
            problems.push_back(pack.error());
            continue;
        }
        const auto same = std::find_if(packs.begin(), packs.end(), [&](const Pack& p) { return p.id == pack->id; });
        if (same == packs.end())
            packs.push_back(std::move(*pack));
        else
            *same = std::move(*pack);
    }
}

namespace {

/// What finds the pack's key positions, written into it.
void addDetectors(nlohmann::json& root, const std::string& file)
{
    const auto shared = loadBesidePack("detectors", file);
    if (!shared || !*shared)
        return;
    const auto skill = (**shared)["skills"].find(root.value("id", ""));
    if (skill == (**shared)["skills"].end() || std::any_of(root["keyPositions"].begin(), root["keyPositions"].end(),
                                                           [](const auto& k) { return k.contains("detector"); }))
        return;
    if (skill->contains("pace"))
        root["pace"] = (*skill)["pace"];
    for (auto& k : root["keyPositions"])
        if (const auto own = (*skill)["keyPositions"].find(k["id"].template get<std::string>());
            own != (*skill)["keyPositions"].end())
            k.update(*own);
}

} // namespace

Expected<nlohmann::json> selfContainedPack(const std::string& file)
{
    const auto pack = loadPack(file);
    if (!pack)
        return tl::unexpected(pack.error());
    return loadJson(file).map([&](nlohmann::json root) {
        for (auto& drill : root["drills"])
            if (drill.is_string())
                drill = toJson(*pack->findDrill(drill.get<std::string>()));
        addDetectors(root, file);
        return root;
    });
}

Expected<Pack> findPack(const std::string& idOrFile)
{
    std::error_code ec;
    if (fs::is_regular_file(idOrFile, ec))
        return loadPack(idOrFile);
    return findShippedPack(idOrFile);
}

Expected<Pack> findShippedPack(const std::string& wanted)
{
    std::string known;
    for (const auto& file : packFiles(shippedFolder("packs"))) {
        const std::string id = fs::path(file).stem().string();
        if (id == wanted)
            return loadPack(file);
        known += (known.empty() ? "" : ", ") + id;
    }
    return fail(ErrorCode::NotFound,
                "There is no pack \"" + wanted + "\" and no file of that name; the packs are: " + known + ".");
}

} // namespace kestrel
