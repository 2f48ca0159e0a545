// What each fault of the simulated athlete does to each measure of the skill's pack: docs/fault-response.md.

#include "bands.h"
#include "marked.h"
#include "sim/simulate.h"

#include <QGuiApplication>

#include <algorithm>
#include <cmath>
#include <iostream>

using namespace kestrel;

namespace {

std::map<std::string, double> valuesOf(const sim::SimulateOptions& o, const Pack& pack)
{
    std::map<std::string, double> values;
    for (const auto& r : sim::trueReadings(o, pack))
        if (r.value)
            values[r.measure] = *r.value;
    return values;
}

void printSkill(const sim::SimSkill& skill, const sim::SimVariant& variant, const Pack& pack)
{
    sim::SimulateOptions o;
    o.skill = skill.id;
    o.motion.variant = variant.id;
    o.motion.school = skill.schools.front().id;
    const auto calm = valuesOf(o, pack);
    std::vector<const sim::SimFault*> faults;
    std::vector<std::map<std::string, double>> wrong;
    for (const auto& f : skill.faults)
        if (f.isFor(variant.id)) {
            faults.push_back(&f);
            o.motion.faults = {{f.id, 1}};
            wrong.push_back(valuesOf(o, pack));
        }
    std::cout << "\n## " << pack.name << ", " << variant.id << "\n\n| measure | band | faultless |";
    for (const auto* f : faults)
        std::cout << " " << f->id << " |";
    std::cout << "\n|---|---|---|";
    for (std::size_t i = 0; i < faults.size(); ++i)
        std::cout << "---|";
    std::cout << "\n";
    for (const auto& m : pack.measures) {
        if (calm.count(m.id) == 0)
            continue;
        const Band* band = bandFor(m, o.motion.school, o.person.age, variant.id);
        // what is only reported has no band: a twentieth of the value stands for a twentieth of the band
        const double width = m.isReported                      ? std::abs(calm.at(m.id))
                             : band && band->low && band->high ? *band->high - *band->low
                                                               : 4 * m.margin;
        std::cout << "| " << m.id << ", " << wordOf(m.unit) << " | "
                  << (band ? bench::rangeText(band->low, band->high) : std::string()) << " | " << shortNumber(calm.at(m.id))
                  << " |";
        for (const auto& w : wrong) {
            const auto it = w.find(m.id);
            if (it == w.end()) {
                std::cout << " ? |";
                continue;
            }
            const double change = it->second - calm.at(m.id);
            const std::string text = std::abs(change) < 0.05 * width ? "" : (change > 0 ? "+" : "") + shortNumber(change);
            std::cout << " "
                      << (band && bench::isOutside(it->second, band->low, band->high)
                              ? "**" + (text.empty() ? "out" : text) + "**"
                              : text)
                      << " |";
        }
        std::cout << "\n";
    }
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    std::cout
        << "# What each fault does to each measure\n\n"
           "Made by `./kestrel tables`: the simulated athlete of 13 with each fault at amount 1, read without error from so far "
           "away\n"
           "that perspective plays no part, each measure from the first view it is valid in. A cell is the change against the\n"
           "faultless repetition; changes below a twentieth of the band are left empty, **bold** has left the band.\n"
           "`tests/sim/simulate_test.cpp` holds that a fault takes the first measure it names out of its band, and moves none it "
           "does\n"
           "not name by more than a quarter of the band.\n";
    const bool isWhole = bench::eachSkill([](const sim::SimSkill& skill, const Pack& pack) {
        for (const auto& variant : skill.variants)
            printSkill(skill, variant, pack);
    });
    return isWhole ? 0 : 1;
}
