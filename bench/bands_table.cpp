// The bands of every pack beside the published or taught ones they come from, and where the faultless simulated athlete stands at
// three ages: docs/bands.md. The exit code is 1 when a band differs from its source without a reason in the pack.
//
//   table_bands [raw]    raw: one line a measure, for work on the motions

#include "bands.h"
#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "marked.h"
#include "sim/simulate.h"

#include <QGuiApplication>

#include <algorithm>
#include <cmath>
#include <iostream>
#include <map>

using namespace kestrel;

namespace {

constexpr double kAges[] = {9, 13, 17};
constexpr double kHeights[] = {1.35, 1.58, 1.76}; // metres, of a boy of that age

struct Source {
    std::optional<double> low, high;
    std::string evidence, note;
};
using Sources = std::map<std::string, Source>;

/// What is taught or published, by measure: bench/taught_bands.json.
Sources loadSources(const std::string& skill)
{
    Sources sources;
    const auto root = loadJson(std::string(KESTREL_SOURCE_DIR) + "/bench/taught_bands.json");
    if (!root || !root->contains(skill))
        return sources;
    for (const auto& [id, band] : root->at(skill).items()) {
        Source s{{}, {}, band.value("evidence", "T"), band.value("note", "")};
        if (band.contains("low"))
            s.low = band["low"].get<double>();
        if (band.contains("high"))
            s.high = band["high"].get<double>();
        sources.emplace(id, s);
    }
    return sources;
}

bool isSame(const Source& s, const Band& b)
{
    return s.low == b.low && s.high == b.high;
}

/// The value at each age, and whether it is inside.
struct Truth {
    std::optional<double> value;
    bool isOut = false;
};

std::map<std::string, std::vector<Truth>> truthOf(const sim::SimSkill& skill, const std::string& variant,
                                                  const std::string& school, const Pack& pack)
{
    std::map<std::string, std::vector<Truth>> all;
    for (std::size_t i = 0; i < std::size(kAges); ++i) {
        sim::SimulateOptions o;
        o.skill = skill.id;
        o.motion.variant = variant;
        o.motion.school = school;
        o.person.age = kAges[i];
        o.person.heightMetres = kHeights[i];
        for (const auto& r : sim::trueReadings(o, pack)) {
            all[r.measure].push_back({r.value, r.value && bench::isOutside(*r.value, r.low, r.high)});
        }
    }
    return all;
}

/// One line a banded measure of a variant and school. Returns how many values lie outside.
int printRaw(const sim::SimSkill& skill, const sim::SimVariant& variant, const std::string& school, const Pack& pack)
{
    int outs = 0;
    const auto truth = truthOf(skill, variant.id, school, pack);
    const Sources sources = loadSources(pack.id);
    for (const auto& m : pack.measures) {
        const auto it = truth.find(m.id);
        const Band* band = bandFor(m, school, 13, variant.id);
        if (it == truth.end() || !band)
            continue;
        std::cout << pack.id << " " << variant.id << " " << school << " " << m.id << " @" << m.at << " " << wordOf(m.unit) << " ["
                  << bench::rangeText(band->low, band->high) << "]";
        if (const auto s = sources.find(m.id); s != sources.end())
            std::cout << " taught [" << bench::rangeText(s->second.low, s->second.high) << "]";
        for (const auto& t : it->second) {
            std::cout << " " << (t.value ? shortNumber(*t.value) : "-") << (t.isOut ? "!" : "");
            outs += t.isOut;
        }
        std::cout << "\n";
    }
    return outs;
}

/// One row a band. Returns how many differ without a reason.
int printTable(const sim::SimSkill& skill, const Pack& pack)
{
    int unexplained = 0;
    const Sources sources = loadSources(pack.id);
    std::map<std::string, std::map<std::string, std::vector<Truth>>> truth;
    for (const auto& v : skill.variants)
        truth[v.id] = truthOf(skill, v.id, skill.schools.front().id, pack);
    std::cout << "\n## " << pack.name
              << "\n\n| measure | band | whose range | source | faultless at 9, 13, 17 | why they differ "
                 "|\n|---|---|---|---|---|---|\n";
    for (const auto& m : pack.measures) {
        if (m.isReported)
            continue;
        const auto source = sources.find(m.id);
        const bool hasNumber = source != sources.end() && (source->second.low || source->second.high);
        const bool differs =
            hasNumber && std::none_of(m.bands.begin(), m.bands.end(), [&](const Band& b) { return isSame(source->second, b); });
        const std::string why = differs ? m.doubt : source != sources.end() ? source->second.note : std::string();
        unexplained += differs && why.empty();
        std::string bands, whose, values;
        for (const auto& b : m.bands) {
            std::string of;
            for (const auto& v : b.variants)
                of += (of.empty() ? "" : ", ") + v;
            if (!b.school.empty())
                of += (of.empty() ? "" : "; ") + b.school;
            if (b.minAge || b.maxAge)
                of += (of.empty() ? "" : "; ") + std::string("age ") + bench::rangeText(b.minAge, b.maxAge);
            bands += (bands.empty() ? "" : "<br>") + bench::rangeText(b.low, b.high) + (of.empty() ? "" : " (" + of + ")");
            whose += (whose.empty() ? "" : "<br>") + std::string(letterOf(b.evidence)) + (b.of.empty() ? "" : ": " + b.of);
        }
        for (const auto& v : skill.variants) {
            const auto it = truth[v.id].find(m.id);
            if (it == truth[v.id].end())
                continue;
            std::string row;
            for (const auto& t : it->second)
                row += (row.empty() ? "" : ", ") + (t.value ? shortNumber(*t.value) : std::string("–")) +
                       (t.isOut ? " **out**" : "");
            values += (values.empty() ? "" : "<br>") + (skill.variants.size() > 1 ? v.id + ": " : std::string()) + row;
        }
        std::cout << "| " << m.id << ", " << wordOf(m.unit) << " | " << bands << " | " << whose << " | "
                  << (!hasNumber ? std::string("none: our own")
                                 : bench::rangeText(source->second.low, source->second.high) + " " + source->second.evidence)
                  << " | " << values << " | " << (differs && why.empty() ? "**no reason given**" : why) << " |\n";
    }
    return unexplained;
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const bool isRaw = argc > 1 && std::string(argv[1]) == "raw";
    const std::string only = argc > 2 ? argv[2] : "";
    int count = 0;
    if (!isRaw)
        std::cout
            << "# Bands\n\n"
               "Made by `./kestrel tables` from the packs, beside what is commonly taught (T), reported in papers (P) or "
               "follows\n"
               "from geometry (G), as collected in `bench/taught_bands.json`. *Faultless* is the simulated athlete of the first\n"
               "school at 9, 13 and 17 years, read without error. Where a band differs from its source the pack says why.\n";
    const bool isWhole = bench::eachSkill([&](const sim::SimSkill& skill, const Pack& pack) {
        if (!only.empty() && only != pack.id)
            return;
        if (!isRaw) {
            count += printTable(skill, pack);
            return;
        }
        for (const auto& v : skill.variants)
            for (const auto& s : skill.schools)
                count += printRaw(skill, v, s.id, pack);
    });
    if (isRaw)
        std::cout << count << " values lie outside their band\n";
    return isWhole && (isRaw || count == 0) ? 0 : 1;
}
