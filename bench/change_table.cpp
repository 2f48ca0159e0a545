// Whether a change between two days is called real when there is one, and only then: docs/accuracy.md.

#include "core/base/parallel_for.h"
#include "core/compare/change.h"
#include "faults.h"
#include "marked.h"
#include "sim/simulate.h"

#include <QGuiApplication>

#include <cmath>
#include <cstdio>
#include <iostream>
#include <map>

using namespace kestrel;

namespace {

constexpr double kRate = 240;
constexpr double kYaw = 3, kHeight = 0.15, kDistance = 0.05; // standard deviations of how a camera is set up anew: degrees,
                                                             // metres, and a share of the usual distance
constexpr double kAfter[] = {1.0, 0.5, 0.0};                 // of the fault, which is whole on the first day
constexpr std::uint32_t kTrueSeeds = 6;                      // repetitions whose mean is what a day truly has
constexpr std::uint32_t kFirstStyle = 101, kStyles = 30;

/// Where the camera stands on that day.
void setUp(sim::CameraSetup& camera, std::uint32_t day)
{
    const ErrorSample drawn(day);
    camera.yawError = kYaw * drawn.normal(1);
    camera.height = 1.1 + kHeight * drawn.normal(2);
    camera.distance = 9.5 * (1 + kDistance * drawn.normal(3));
}

/// What each measure truly is on average.
std::map<std::string, double> trueMeans(sim::SimulateOptions o, const Pack& pack)
{
    std::map<std::string, std::pair<double, int>> sums;
    o.camera = {};
    for (std::uint32_t seed = 201; seed < 201 + kTrueSeeds; ++seed) {
        o.motion.seed = seed;
        for (const auto& r : sim::trueReadings(o, pack))
            if (r.value) {
                sums[r.measure].first += *r.value;
                ++sums[r.measure].second;
            }
    }
    std::map<std::string, double> means;
    for (const auto& [measure, sum] : sums)
        means[measure] = sum.first / sum.second;
    return means;
}

/// Readings of a day's repetitions, each marked by hand.
std::vector<std::vector<Reading>> dayOf(sim::SimulateOptions o, const Pack& pack, std::uint32_t firstSeed, int repetitions)
{
    return parallelMap(static_cast<std::size_t>(repetitions), [&](std::size_t n) -> std::vector<Reading> {
        auto own = o;
        own.motion.seed = firstSeed + static_cast<std::uint32_t>(n);
        const auto s = sim::simulate(own);
        if (!s)
            return {};
        return calcReadings(pack, PreparedRepetition(bench::marked(s->truth, own.motion.seed)), {o.motion.school, {}});
    });
}

bool isReal(ChangeVerdict v)
{
    return v == ChangeVerdict::Better || v == ChangeVerdict::Worse || v == ChangeVerdict::Changed;
}

struct Row {
    bench::Count noneOfTask, noneOfOthers; ///< called real though nothing changed
    bench::Count half, gone;               ///< called better
    bench::Count worse;                    ///< called worse though it was mended
    bench::Count holds;                    ///< the true difference lies in the stated interval
    bench::Count large, wrongWay;          ///< truly twice the least that is called real: called real, and the wrong way
};

void tell(const char* name, const Row& r)
{
    std::printf("| %s |", name);
    for (const bench::Count* c : {&r.noneOfTask, &r.noneOfOthers, &r.half, &r.gone, &r.worse, &r.holds, &r.large, &r.wrongWay})
        std::printf(" %.0f %% of %d |", c->percent(), c->of);
    std::printf("\n");
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    std::printf(
        "# Change between two days\n\nMade by `table_change`: every fault of every skill, whole on the first day; on the second "
        "as it was, half mended, or mended. Every point marked\nby hand, 2 px off. The camera is set up anew each day: %.0f "
        "degrees, "
        "%.0f cm in height and %.0f %% of the distance (standard deviations). Each fault is somebody else's\n(styles %u to %u). "
        "*Others* are all measures but the task's. *Interval*: how often the true difference lies in the stated 95 %% interval. "
        "*Large*: changes that are truly\ntwice the least that is called real, called real, and called the wrong way. The "
        "simulated "
        "athlete repeats itself more evenly than a child does.\n\n",
        kYaw, 100 * kHeight, 100 * kDistance, kFirstStyle, kFirstStyle + kStyles - 1);
    for (const int repetitions : {3, 5}) {
        std::printf("%d repetitions a day:\n\n| skill | task called real, nothing changed | others called real, nothing changed "
                    "| half mended: better | mended: better | mended: worse | interval | large: real | large: wrong way |\n"
                    "|---|---|---|---|---|---|---|---|---|\n",
                    repetitions);
        Row all;
        std::uint32_t number = 0; // of the fault, over all skills
        const bool isWhole = bench::eachSkill([&](const sim::SimSkill& skill, const Pack& pack) {
            Row row;
            const auto& variant = skill.variants.front();
            for (const auto& f : skill.faults) {
                const Measure* main = f.isFor(variant.id) ? bench::mainMeasure(f, variant.id, pack) : nullptr;
                if (!main)
                    continue;
                sim::SimulateOptions o;
                o.skill = skill.id;
                o.frameRate = kRate;
                o.motion.variant = variant.id;
                o.motion.school = skill.schools.front().id;
                o.motion.faults = {{f.id, 1.0}};
                o.camera.view = main->views.front();
                o.motion.style = sim::fitStyle(o, pack, kFirstStyle + number % kStyles);
                setUp(o.camera, 1000 + 10 * number);
                const auto before = dayOf(o, pack, 1, repetitions);
                const auto trueBefore = trueMeans(o, pack);
                for (const double amount : kAfter) {
                    o.motion.faults = {{f.id, amount}};
                    setUp(o.camera, 1001 + 10 * number + static_cast<std::uint32_t>(10 * amount) % 9);
                    const auto trueAfter = trueMeans(o, pack);
                    const DayChange change = calcChange(pack, before, dayOf(o, pack, 101, repetitions), main->id);
                    for (const auto& m : change.measures) {
                        if (m.verdict == ChangeVerdict::NotComparable)
                            continue;
                        const bool isTask = m.measure == main->id;
                        const auto a = trueBefore.find(m.measure), b = trueAfter.find(m.measure);
                        const bool isKnown = a != trueBefore.end() && b != trueAfter.end();
                        double truly = isKnown ? b->second - a->second : 0;
                        if (m.unit == Unit::Degree)
                            truly = std::remainder(truly, 360); // directions: the short way round
                        for (Row* r : {&row, &all}) {
                            if (amount == 1.0)
                                (isTask ? r->noneOfTask : r->noneOfOthers).add(isReal(m.verdict));
                            else if (isTask)
                                (amount > 0 ? r->half : r->gone).add(m.verdict == ChangeVerdict::Better);
                            if (amount == 0.0 && isTask)
                                r->worse.add(m.verdict == ChangeVerdict::Worse);
                            if (isKnown && m.low < m.high)
                                r->holds.add(truly >= m.low && truly <= m.high);
                            if (isKnown && m.smallestReal > 0 && std::abs(truly) >= 2 * m.smallestReal) {
                                r->large.add(isReal(m.verdict));
                                r->wrongWay.add(isReal(m.verdict) && m.change * truly < 0);
                            }
                        }
                    }
                }
                ++number;
            }
            tell(skill.id.c_str(), row);
            std::fflush(stdout);
        });
        if (!isWhole)
            return 1;
        tell("all", all);
        std::printf("\n");
    }
}
