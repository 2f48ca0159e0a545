#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/detect/detect.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "vision/propose.h"

#include <nlohmann/json.hpp>

#include <algorithm>

namespace kestrel::cli {

VerbResult positions(const Words& words, Streams io)
{
    Arguments args(words, {"pack", "marking", "out"});
    args.noPlain();
    const std::string packName = args.required("pack"), file = args.required("marking");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    auto marking = loadMarking(file);
    if (!marking)
        return tl::unexpected(marking.error());
    const PreparedRepetition repetition(*marking);
    const bool trembles =
        std::any_of(marking->marks.begin(), marking->marks.end(), [](const Mark& m) { return isByProgram(m.source); });
    const auto found =
        trembles ? vision::proposeKeyPositions(*pack, *marking, repetition.clock()) : detectKeyPositions(*pack, repetition);
    nlohmann::json list = nlohmann::json::array();
    bool isWhole = true;
    for (const auto& d : found) {
        isWhole = isWhole && d.frame;
        list.push_back({{"keyPosition", d.keyPosition},
                        {"frame", d.frame ? nlohmann::json(d.frame->value) : nlohmann::json()},
                        {"uncertaintyFrames", d.uncertaintyFrames},
                        {"why", d.why}});
        if (d.frame) // a coach's own stays
            setEvent(*marking, {d.keyPosition, *d.frame, d.uncertaintyFrames, Source::Tracked});
    }
    if (const auto out = args.text("out"))
        if (auto saved = saveMarking(*marking, *out); !saved)
            return tl::unexpected(saved.error());
    io.out << printed(nlohmann::json{{"positions", list}}, 2);
    return static_cast<int>(isWhole ? Done : PartlyDone);
}

} // namespace kestrel::cli
