#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/base/parallel_for.h"
#include "core/judge/review.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"

#include <nlohmann/json.hpp>

#include <filesystem>
#include <map>

namespace kestrel::cli {

namespace {

/// What read and review are given.
struct Given {
    Pack pack;
    JudgeOptions options;
    std::vector<ReadRepetition> repetitions; ///< one per marking
};

Expected<Marking> loadOf(const Pack& pack, const std::string& file)
{
    auto marking = loadMarking(file);
    if (marking && !marking->skill.empty() && marking->skill != pack.id)
        return fail(ErrorCode::WrongField,
                    "The marking is of the skill \"" + marking->skill + "\", the pack is for \"" + pack.id + "\".", file,
                    "/skill");
    return marking;
}

Expected<Given> readGiven(const Words& words, bool mayRepeat)
{
    Arguments args(words, {"pack", "marking", "other-side", "school", "age", "tasks", "not-yet", "pain", "last"});
    args.noPlain();
    const std::string packName = args.required("pack");
    args.required("marking");
    const auto files = args.all("marking");
    if (files.size() > 1 && !mayRepeat)
        args.complain("read takes one --marking; review takes several.");
    const auto secondCameras = args.all("other-side");
    if (secondCameras.size() > files.size())
        args.complain("There are more --other-side than --marking; the first belongs to the first, and so on.");
    Given given;
    given.options.school = args.text("school").value_or("");
    given.options.age = args.number("age", 1, 120);
    given.options.tasks = static_cast<int>(args.number("tasks", 1, 3).value_or(1));
    given.options.notYetTaught = args.all("not-yet");
    for (const auto& word : args.all("pain")) {
        const auto region = findBodyRegion(word);
        if (!region)
            args.complain("--pain is one of neck, shoulder, elbow, wrist, back, hip, knee, ankle, other; it may be given again.");
        given.options.pain.insert(region.value_or(BodyRegion::Other));
    }
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    if (const auto last = args.text("last")) {
        const auto page = loadReview(*last);
        if (!page)
            return tl::unexpected(page.error());
        given.options.lastTask = page->oneThing ? page->oneThing->fault : std::string();
    }
    auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    given.pack = std::move(*pack);
    if (!given.options.school.empty() && !given.pack.findSchool(given.options.school)) {
        std::string known;
        for (const auto& s : given.pack.schools)
            known += (known.empty() ? "" : ", ") + s.id;
        return fail(ErrorCode::NotFound, "The pack has no school \"" + given.options.school + "\"; it has: " + known + ".",
                    given.pack.file);
    }
    for (const auto& fault : given.options.notYetTaught)
        if (!given.pack.findFault(fault))
            return fail(ErrorCode::NotFound, "The pack has no fault \"" + fault + "\".", given.pack.file);
    std::vector<Marking> markings;
    std::map<std::size_t, PreparedRepetition> fromSecondCamera;
    for (std::size_t i = 0; i < files.size(); ++i) {
        auto marking = loadOf(given.pack, files[i]);
        if (!marking)
            return tl::unexpected(marking.error());
        if (i < secondCameras.size()) {
            const auto other = loadOf(given.pack, secondCameras[i]);
            if (!other)
                return tl::unexpected(other.error());
            if (!seeTogether(marking->scene.view, other->scene.view))
                return fail(ErrorCode::WrongField,
                            "A " + plainWordsOf(other->scene.view) + " adds nothing to a " + plainWordsOf(marking->scene.view) +
                                "; one has to be from the side, the other from the front or rear.",
                            secondCameras[i], "/scene/view");
            fromSecondCamera.emplace(i, PreparedRepetition(*other));
        }
        if (files.size() > 1) // two films of one name in different folders are two films
            marking->film.file = (std::filesystem::path(files[i]).parent_path() / marking->film.file).lexically_normal().string();
        markings.push_back(std::move(*marking));
    }
    given.repetitions = parallelMap(markings.size(), [&](std::size_t n) {
        const auto other = fromSecondCamera.find(n);
        return readRepetition(given.pack, PreparedRepetition(markings[n]), given.options,
                              other != fromSecondCamera.end() ? &other->second : nullptr);
    });
    return given;
}

} // namespace

VerbResult read(const Words& words, Streams io)
{
    return readGiven(words, false).map([&](const Given& g) {
        io.out << printed(nlohmann::json{{"readings", toJson(g.repetitions.front().readings)}}, 2);
        return static_cast<int>(Done);
    });
}

VerbResult review(const Words& words, Streams io)
{
    return readGiven(words, true).map([&](const Given& g) {
        const Review r = calcReview(g.pack, g.repetitions, g.options);
        io.out << printed(toJson(r, g.pack), 2);
        return static_cast<int>(Done);
    });
}

} // namespace kestrel::cli
