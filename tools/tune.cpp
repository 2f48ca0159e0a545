// Finds the rules by which key positions are found, and writes them into packs/detectors.json. They are chosen on simulated
// people of even styles and shown on odd ones.
//
//   tune FOLDER [SKILL ...]    those skills; all when none is named. The others stay as they are. FOLDER keeps what the network
//                              marked on painted films.

#include "core/base/json_reader.h"
#include "core/base/part_file.h"
#include "core/detect/detect.h"
#include "core/pack/pack_folder.h"
#include "rule_search.h"

#include <QGuiApplication>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <future>
#include <iostream>

using namespace kestrel;
using namespace kestrel::tools;

namespace {

constexpr Seen kAllSeen[] = {Seen::FromSide, Seen::FromEnd, Seen::FromAbove};
constexpr double kLeastPace = 0.15;                     // seconds
constexpr std::size_t kPainted = 6, kPaintedToShow = 3; // films of a skill from one view
constexpr double kLeastDoubtOfStandIn = 20;             // milliseconds
constexpr double kWeights[] = {0.6, 0.3, 0.1};          // of the views, for the choice of the pace

std::string detectorsFile()
{
    return std::string(KESTREL_SOURCE_DIR) + "/packs/detectors.json";
}

/// Fewer of each where there are many variants.
std::vector<std::uint32_t> stylesFor(const sim::SimSkill& skill, std::uint32_t first)
{
    std::vector<std::uint32_t> styles;
    const std::size_t count = std::max<std::size_t>(6, 24 / skill.variants.size());
    for (std::uint32_t n = first; styles.size() < count; n += 2)
        styles.push_back(n);
    return styles;
}

std::optional<SequenceSpan> choosePace(const Pack& pack, const std::vector<TrainingFilm>& films,
                                       const std::vector<std::map<std::string, double>>& losses)
{
    std::optional<SequenceSpan> best;
    double least = 1e9;
    for (std::size_t a = 0; a < pack.keyPositions.size(); ++a)
        for (std::size_t b = a + 1; b < pack.keyPositions.size(); ++b) {
            const auto &from = pack.keyPositions[a].id, &to = pack.keyPositions[b].id;
            if (!std::all_of(films.begin(), films.end(),
                             [&](const TrainingFilm& f) { return f.truth.at(to) - f.truth.at(from) > kLeastPace; }))
                continue;
            double loss = 0;
            for (std::size_t v = 0; v < losses.size(); ++v)
                loss += kWeights[v] * (losses[v].at(from) + losses[v].at(to));
            if (loss < least) {
                least = loss;
                best = SequenceSpan{from, to};
            }
        }
    return best;
}

bool usesEquipment(const nlohmann::json& detector)
{
    const std::string text = detector.dump();
    return text.find("implement.") != std::string::npos || text.find("ball") != std::string::npos;
}

/// What stands in says itself how far off it may be on a film; see vision/propose.cpp.
nlohmann::json standIn(nlohmann::json detector)
{
    for (const char* doubt : {"doubtMs", "filmDoubtMs"})
        detector[doubt] = std::max(kLeastDoubtOfStandIn, detector[doubt].get<double>());
    return detector;
}

nlohmann::json tuneSkill(const sim::SimSkill& skill, const Pack& pack, const std::string& folder)
{
    const auto styles = stylesFor(skill, 2);
    std::vector<std::vector<TrainingFilm>> films;
    for (const auto seen : kAllSeen)
        films.push_back(trainingFilms(skill, pack, seen, styles, {folder, kPainted}));
    for (auto& seen : films) // nothing is learned from where somebody else was marked
        std::erase_if(seen, [](const TrainingFilm& f) { return !f.isOfThePlayer; });
    std::vector<std::map<std::string, double>> losses;
    for (std::size_t v = 0; v < films.size(); ++v)
        losses.push_back(lossWithoutDelay(pack, films[v], plainRules(pack, kAllSeen[v], v == 0)));
    const auto pace = choosePace(pack, films.front(), losses);
    if (!pace)
        return {};
    // from the side with and without what is held; from behind and above with the body alone
    const auto search = [&](std::size_t v, bool withEquipment) {
        return std::async(std::launch::async, [&, v, withEquipment] {
            return searchRules(pack, *pace, films[v], plainRules(pack, kAllSeen[v], withEquipment));
        });
    };
    auto whole = search(0, true), body = search(0, false), end = search(1, false), above = search(2, false);
    auto bySide = whole.get(), byBody = body.get(), byEnd = end.get(), byAbove = above.get();
    nlohmann::json positions = nlohmann::json::object();
    for (const auto& k : pack.keyPositions) {
        if (!bySide.count(k.id))
            continue;
        nlohmann::json& p = positions[k.id];
        p["detector"] = bySide[k.id];
        if (usesEquipment(bySide[k.id]) && byBody.count(k.id))
            p["otherwise"] = standIn(byBody[k.id]);
        if (byEnd.count(k.id))
            p["fromEnd"] = byEnd[k.id];
        if (byAbove.count(k.id))
            p["fromAbove"] = byAbove[k.id];
    }
    return {{"pace", {{"from", pace->from}, {"to", pace->to}}}, {"keyPositions", positions}};
}

/// Share within one and two pictures on true marks and on a network's, and which positions are worst there: share within one, and
/// the quartiles of how many pictures late.
void show(const char* name, const sim::SimSkill& skill, const Pack& pack, std::uint32_t first, const std::string& folder)
{
    constexpr double kFew = 0.8;
    struct Count {
        int of = 0, withinOne = 0, withinTwo = 0;
        std::vector<double> late; // pictures
        void add(std::optional<double> pictures)
        {
            ++of;
            if (!pictures)
                return;
            withinOne += std::abs(*pictures) <= 1, withinTwo += std::abs(*pictures) <= 2;
            late.push_back(*pictures);
        }
        std::string quartiles()
        {
            std::sort(late.begin(), late.end());
            const auto at = [&](std::size_t quarters) {
                return late.empty() ? std::string("-") : std::to_string(std::lround(late[(late.size() - 1) * quarters / 4]));
            };
            return at(1) + ".." + at(2) + ".." + at(3);
        }
    };
    std::printf("  %-6s", name);
    for (const auto seen : {Seen::FromSide, Seen::FromEnd}) {
        const auto films =
            trainingFilms(skill, pack, seen, stylesFor(skill, first), {folder, first % 2 == 0 ? kPainted : kPaintedToShow});
        for (const auto marked : {Marked::Truly, Marked::ByNetwork}) {
            Count all;
            std::map<std::string, Count> each;
            for (const auto& f : films)
                for (const auto& d :
                     f.marked == marked ? detectKeyPositions(pack, f.repetition, f.roughness) : std::vector<Detection>{}) {
                    const auto truth = f.truth.find(d.keyPosition);
                    if (truth == f.truth.end())
                        continue;
                    const auto t = d.frame ? f.repetition.clock().timeOf(*d.frame) : std::nullopt;
                    const auto off = t ? std::optional((t->seconds - truth->second) * 60) : std::nullopt;
                    all.add(off);
                    each[d.keyPosition].add(off);
                }
            std::printf(" | %s %s %3.0f / %3.0f of %d", seen == Seen::FromSide ? "side" : "end",
                        marked == Marked::Truly ? "true" : "film", 100.0 * all.withinOne / std::max(1, all.of),
                        100.0 * all.withinTwo / std::max(1, all.of), all.of);
            for (auto& [id, n] : each)
                if (n.withinOne < kFew * n.of)
                    std::printf(" %s %d (%s)", id.c_str(), 100 * n.withinOne / n.of, n.quartiles().c_str());
        }
    }
    std::printf("\n");
    std::fflush(stdout);
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    if (argc < 2) {
        std::cerr << "Usage: tune FOLDER [SKILL ...]\n";
        return 2;
    }
    const std::string folder = argv[1];
    const std::vector<std::string> asked(argv + 2, argv + argc);
    const auto known = loadJson(detectorsFile());
    nlohmann::json all = known ? *known : nlohmann::json{{"skills", nlohmann::json::object()}};
    all["format"] = "jolly-kestrel/detectors";
    all["version"] = 1;
    all["madeBy"] = "./kestrel tune; do not edit";
    const auto skills = sim::simSkillIds();
    for (const auto& id : asked)
        if (std::find(skills.begin(), skills.end(), id) == skills.end()) {
            std::cerr << "There is no motion \"" << id << "\" in motions/.\n";
            return 2;
        }
    for (const auto& id : skills) {
        if (!asked.empty() && std::find(asked.begin(), asked.end(), id) == asked.end())
            continue;
        const auto skill = sim::loadSimSkill(id);
        const auto pack = findPack(id);
        if (!skill || !pack) {
            std::cerr << (skill ? pack.error() : skill.error()).text() << "\n";
            return 2;
        }
        std::printf("%s\n", id.c_str());
        show("before", *skill, *pack, 1, folder);
        all["skills"][id] = tuneSkill(*skill, *pack, folder);
        if (const auto saved = saveText(detectorsFile(), printed(all, 1)); !saved) {
            std::cerr << saved.error().text() << "\n";
            return 2;
        }
        if (const auto tuned = findPack(id)) {
            show("even", *skill, *tuned, 2, folder);
            show("odd", *skill, *tuned, 1, folder);
        } else {
            std::cerr << tuned.error().text() << "\n";
            return 2;
        }
    }
    return 0;
}
