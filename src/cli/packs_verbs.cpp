#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "report/pack_sheet.h"

namespace kestrel::cli {

VerbResult packsList(const Words& words, Streams io)
{
    Arguments args(words, {});
    args.noPlain();
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    nlohmann::json list = nlohmann::json::array();
    int exitCode = Done;
    for (const auto& file : packFiles(shippedFolder("packs"))) {
        const auto pack = loadPack(file);
        if (!pack) { // one broken pack does not hide the others
            io.err << pack.error().text() << "\n";
            exitCode = PartlyDone;
            continue;
        }
        nlohmann::json schools = nlohmann::json::array();
        for (const auto& s : pack->schools)
            schools.push_back(s.id);
        list.push_back({{"id", pack->id},
                        {"name", pack->name},
                        {"variants", pack->variants},
                        {"schools", schools},
                        {"keyPositions", pack->keyPositions.size()},
                        {"measures", pack->measures.size()},
                        {"faults", pack->faults.size()},
                        {"drills", pack->drills.size()}});
    }
    io.out << printed(nlohmann::json{{"packs", list}}, 2);
    return exitCode;
}

VerbResult packsCheck(const Words& words, Streams io)
{
    Arguments args(words, {});
    const std::string file = args.onlyPlain("a pack file");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    const auto mistakes = checkPack(*root, file);
    nlohmann::json list = nlohmann::json::array();
    for (const auto& e : mistakes) {
        list.push_back({{"place", e.place}, {"message", e.message}});
        io.err << e.text() << "\n";
    }
    io.out << printed(nlohmann::json{{"file", file}, {"mistakes", list}}, 2);
    return mistakes.empty() ? Done : BadInput;
}

VerbResult packsDescribe(const Words& words, Streams io)
{
    Arguments args(words, {});
    const std::string pack = args.onlyPlain("a pack's id or file");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    return findPack(pack).map([&](const Pack& p) {
        io.out << report::toMarkdown(p);
        return static_cast<int>(Done);
    });
}

} // namespace kestrel::cli
