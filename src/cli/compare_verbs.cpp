#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/base/parallel_for.h"
#include "core/compare/change.h"
#include "core/compare/differences.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"

#include <nlohmann/json.hpp>

namespace kestrel::cli {

namespace {

Expected<std::vector<Marking>> loadAll(const Pack& pack, const std::vector<std::string>& files)
{
    std::vector<Marking> markings;
    for (const auto& file : files) {
        auto m = loadMarking(file);
        if (!m)
            return tl::unexpected(m.error());
        if (!m->skill.empty() && m->skill != pack.id)
            return fail(ErrorCode::WrongField,
                        "The marking is of the skill \"" + m->skill + "\", the pack is for \"" + pack.id +
                            "\": only films of one skill can be compared.",
                        file, "/skill");
        markings.push_back(std::move(*m));
    }
    return markings;
}

std::vector<std::vector<Reading>> readAll(const Pack& pack, const std::vector<Marking>& markings)
{
    return parallelMap(markings.size(), [&](std::size_t n) { return calcReadings(pack, PreparedRepetition(markings[n]), {}); });
}

} // namespace

VerbResult change(const Words& words, Streams io)
{
    // --before and --after take several files each
    Words spread;
    std::string list;
    for (const auto& w : words) {
        if (w.rfind("--", 0) == 0)
            list = w == "--before" || w == "--after" ? w : std::string();
        if (list.empty())
            spread.push_back(w);
        else if (w != list)
            spread.insert(spread.end(), {list, w});
    }
    Arguments args(spread, {"pack", "before", "after", "one-thing"});
    args.noPlain();
    const std::string packName = args.required("pack");
    args.required("before");
    args.required("after");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    const std::string oneThing = args.text("one-thing").value_or("");
    if (!oneThing.empty() && !pack->findMeasure(oneThing))
        return fail(ErrorCode::NotFound, "The pack has no measure \"" + oneThing + "\".", pack->file);
    const auto before = loadAll(*pack, args.all("before"));
    if (!before)
        return tl::unexpected(before.error());
    const auto after = loadAll(*pack, args.all("after"));
    if (!after)
        return tl::unexpected(after.error());
    const DayChange done = calcChange(*pack, readAll(*pack, *before), readAll(*pack, *after), oneThing);
    nlohmann::json measures = nlohmann::json::array();
    for (const auto& m : done.measures)
        measures.push_back(
            {{"measure", m.measure},
             {"unit", wordOf(m.unit)},
             {"n", {m.before, m.after}},
             {"before", m.before > 0 ? nlohmann::json(m.meanBefore) : nlohmann::json()},
             {"after", m.after > 0 ? nlohmann::json(m.meanAfter) : nlohmann::json()},
             {"change", m.verdict == ChangeVerdict::NotComparable ? nlohmann::json() : nlohmann::json(m.change)},
             {"interval", m.verdict == ChangeVerdict::NotComparable ? nlohmann::json() : nlohmann::json{m.low, m.high}},
             {"smallestReal", m.verdict == ChangeVerdict::NotComparable ? nlohmann::json() : nlohmann::json(m.smallestReal)},
             {"verdict", wordOf(m.verdict)},
             {"needed", m.needed ? nlohmann::json(*m.needed) : nlohmann::json()},
             {"why", m.why}});
    const nlohmann::json root{{"measures", std::move(measures)},
                              {"falseDiscoveryRate", kFalseDiscoveries},
                              {"unfair", unfairness(before->front(), after->front())},
                              {"answer", done.answer}};
    io.out << printed(root, 2);
    return Done;
}

VerbResult compare(const Words& words, Streams io)
{
    Arguments args(words, {"pack", "marking", "other", "at"});
    args.noPlain();
    const std::string packName = args.required("pack");
    const std::string fileA = args.required("marking"), fileB = args.required("other");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto pack = findPack(packName);
    if (!pack)
        return tl::unexpected(pack.error());
    const auto markings = loadAll(*pack, {fileA, fileB});
    if (!markings)
        return tl::unexpected(markings.error());
    const Marking &a = (*markings)[0], &b = (*markings)[1];
    std::string at = args.text("at").value_or("");
    if (!at.empty() && !pack->findKeyPosition(at))
        return fail(ErrorCode::NotFound, "The pack has no key position \"" + at + "\".", pack->file);
    if (!at.empty() && (!findEvent(a, at) || !findEvent(b, at)))
        return fail(ErrorCode::WrongField, "The key position \"" + at + "\" is not placed on both.",
                    findEvent(a, at) ? fileB : fileA, "/events");
    if (at.empty())
        for (const auto& k : pack->keyPositions)
            if (findEvent(a, k.id) && findEvent(b, k.id) && (at.empty() || k.id == pack->zero))
                at = k.id;
    const PreparedRepetition pa(a), pb(b);
    const auto readings = readAll(*pack, *markings);
    nlohmann::json differences = nlohmann::json::array();
    for (const auto& d : calcDifferences(*pack, readings[0], readings[1], a.film.file == b.film.file && a.scene == b.scene))
        differences.push_back({{"measure", d.measure},
                               {"keyPosition", d.keyPosition},
                               {"unit", wordOf(d.unit)},
                               {"a", d.a},
                               {"b", d.b},
                               {"difference", d.difference},
                               {"uncertainty", d.uncertainty},
                               {"real", d.isReal ? nlohmann::json(*d.isReal) : nlohmann::json()},
                               {"why", d.why}});
    nlohmann::json tempo = nlohmann::json::array();
    for (const auto& p : calcTempo(*pack, a, pa.clock(), b, pb.clock()))
        tempo.push_back({{"from", p.from}, {"to", p.to}, {"a", p.a}, {"b", p.b}, {"shareA", p.shareA}, {"shareB", p.shareB}});
    nlohmann::json lined = nullptr;
    if (!at.empty())
        lined = {{"at", at}, {"a", findEvent(a, at)->frame.value}, {"b", findEvent(b, at)->frame.value}};
    const nlohmann::json root{{"lined", std::move(lined)},
                              {"differences", std::move(differences)},
                              {"tempo", std::move(tempo)},
                              {"unfair", unfairness(a, b)}};
    io.out << printed(root, 2);
    return Done;
}

} // namespace kestrel::cli
