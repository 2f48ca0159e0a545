// Whether a change between two days is called real when there is one, and only then: docs/accuracy.md.

#include "core/base/parallel_for.h"
#include "core/compare/change.h"
#include "faults.h"
#include "marked.h"
#include "sim/simulate.h"

#include <QGuiApplication>

#include <cstdio>
#include <iostream>

using namespace kestrel;

namespace {

constexpr double kRate = 240, kYaw = 3, kNearer = 0.95; // the camera is set up anew: so many degrees off, and so much nearer
constexpr double kAfter[] = {1.0, 0.5, 0.0};            // of the fault, which is whole on the first day

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
};

void tell(const char* name, const Row& r)
{
    std::printf("| %s |", name);
    for (const bench::Count* c : {&r.noneOfTask, &r.noneOfOthers, &r.half, &r.gone, &r.worse})
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
        "as it "
        "was, half mended, or mended. Every point marked\nby hand, 2 px off; on the second day the camera stands 3 degrees off "
        "and "
        "5 %% nearer. *Others* are all measures but the task's. The simulated\nathlete repeats itself more evenly than a child "
        "does.\n\n");
    for (const int repetitions : {3, 5}) {
        std::printf("%d repetitions a day:\n\n| skill | task called real, nothing changed | others called real, nothing changed "
                    "| half mended: better | "
                    "mended: better | mended: worse |\n|---|---|---|---|---|---|\n",
                    repetitions);
        Row all;
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
                const auto before = dayOf(o, pack, 1, repetitions);
                o.camera.yawError = kYaw;
                o.camera.distance = 9.5 * kNearer;
                for (const double amount : kAfter) {
                    o.motion.faults = {{f.id, amount}};
                    const DayChange change = calcChange(pack, before, dayOf(o, pack, 101, repetitions), main->id);
                    for (const auto& m : change.measures) {
                        if (m.verdict == ChangeVerdict::NotComparable)
                            continue;
                        const bool isTask = m.measure == main->id;
                        for (Row* r : {&row, &all}) {
                            if (amount == 1.0)
                                (isTask ? r->noneOfTask : r->noneOfOthers).add(isReal(m.verdict));
                            else if (isTask)
                                (amount > 0 ? r->half : r->gone).add(m.verdict == ChangeVerdict::Better);
                            if (amount == 0.0 && isTask)
                                r->worse.add(m.verdict == ChangeVerdict::Worse);
                        }
                    }
                }
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
