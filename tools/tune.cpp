// Finds the rules by which key positions are found, and writes them into packs/detectors.json. They are chosen on simulated
// people of even styles and shown on odd ones.
//
//   tune [SKILL ...]    those skills; all when none is named. The others stay as they are.

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
constexpr double kLeastPace = 0.15;            // seconds
constexpr double kLeastDoubtOfStandIn = 20;    // milliseconds
constexpr double kWeights[] = {0.6, 0.3, 0.1}; // of the views, for the choice of the pace

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
    detector["doubtMs"] = std::max(kLeastDoubtOfStandIn, detector["doubtMs"].get<double>());
    return detector;
}

nlohmann::json tuneSkill(const sim::SimSkill& skill, const Pack& pack)
{
    const auto styles = stylesFor(skill, 2);
    std::vector<std::future<std::vector<TrainingFilm>>> making;
    for (const auto seen : kAllSeen)
        making.push_back(std::async(std::launch::async, [&, seen] { return trainingFilms(skill, pack, seen, styles); }));
    std::vector<std::vector<TrainingFilm>> films;
    for (auto& m : making)
        films.push_back(m.get());
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

/// Share within so many pictures of careful films, and of rough ones.
void show(const char* name, const sim::SimSkill& skill, const Pack& pack, std::uint32_t first)
{
    std::printf("  %-6s", name);
    for (const auto seen : {Seen::FromSide, Seen::FromEnd}) {
        int of[2] = {}, within1[2] = {}, within2[2] = {};
        std::map<std::string, std::pair<int, int>> each;
        for (const auto& f : trainingFilms(skill, pack, seen, stylesFor(skill, first))) {
            const int rough = f.roughness > 1;
            for (const auto& d : detectKeyPositions(pack, f.repetition, f.roughness)) {
                if (!f.truth.count(d.keyPosition))
                    continue;
                const auto t = d.frame ? f.repetition.clock().timeOf(*d.frame) : std::nullopt;
                const double off = t ? std::abs(t->seconds - f.truth.at(d.keyPosition)) * 60 : 1e9;
                ++of[rough];
                within1[rough] += off <= 1;
                within2[rough] += off <= 2;
                if (!rough) {
                    ++each[d.keyPosition].first;
                    each[d.keyPosition].second += off <= 1;
                }
            }
        }
        for (int r = 0; r < 2; ++r)
            std::printf(" | %s %s %3.0f / %3.0f", seen == Seen::FromSide ? "side" : "end", r == 0 ? "true" : "rough",
                        100.0 * within1[r] / std::max(1, of[r]), 100.0 * within2[r] / std::max(1, of[r]));
        for (const auto& [id, n] : each)
            if (n.second < 0.8 * n.first)
                std::printf(" %s %d", id.c_str(), 100 * n.second / n.first);
    }
    std::printf("\n");
    std::fflush(stdout);
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const std::vector<std::string> asked(argv + 1, argv + argc);
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
        show("before", *skill, *pack, 1);
        all["skills"][id] = tuneSkill(*skill, *pack);
        if (const auto saved = saveText(detectorsFile(), printed(all, 1)); !saved) {
            std::cerr << saved.error().text() << "\n";
            return 2;
        }
        if (const auto tuned = findPack(id)) {
            show("even", *skill, *tuned, 2);
            show("odd", *skill, *tuned, 1);
        } else {
            std::cerr << tuned.error().text() << "\n";
            return 2;
        }
    }
    return 0;
}
