// Whether faults are called and key positions found when somebody else does it, in a way of their own: docs/accuracy.md.
//
//   table_styles [FIRST LAST [SKILL]]    styles; 101 to 130 when none are named

#include "core/detect/detect.h"
#include "core/judge/review.h"
#include "faults.h"
#include "marked.h"
#include "sim/simulate.h"

#include <QGuiApplication>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <iostream>
#include <set>
#include <thread>

using namespace kestrel;

namespace {

constexpr double kJudgedRate = 240, kFoundRate = 60; // pictures a second
constexpr double kAmounts[] = {0.7, 1.0};
constexpr View kViews[] = {View::Side, View::Rear, View::Front};

struct Row {
    std::string name;
    bench::Count called, one, falseOff;
    bench::Count within1[2], within2[2]; // from the side, from behind
    std::map<std::string, bench::Count> byFault, byPosition;
    std::map<std::string, int> wrong;

    void add(const Row& o)
    {
        called.add(o.called);
        one.add(o.one);
        falseOff.add(o.falseOff);
        for (int v = 0; v < 2; ++v) {
            within1[v].add(o.within1[v]);
            within2[v].add(o.within2[v]);
        }
        for (const auto& [id, c] : o.byFault)
            byFault[id].add(c);
        for (const auto& [id, c] : o.byPosition)
            byPosition[id].add(c);
        for (const auto& [id, n] : o.wrong)
            wrong[id] += n;
    }
};

void findPositions(const sim::SimulateOptions& asked, const Pack& pack, Row& row)
{
    for (int v = 0; v < 2; ++v) {
        sim::SimulateOptions o = asked;
        o.frameRate = kFoundRate;
        o.camera.view = v == 0 ? View::Side : View::Rear;
        const auto s = sim::simulate(o);
        if (!s)
            continue;
        Marking m = s->truth;
        const auto truth = m.events;
        m.events.clear();
        const auto found = detectKeyPositions(pack, PreparedRepetition(m));
        for (const auto& t : truth) {
            const auto it =
                std::find_if(found.begin(), found.end(), [&](const Detection& d) { return d.keyPosition == t.keyPosition; });
            if (it == found.end())
                continue;
            const double off = it->frame ? std::abs(it->frame->value - t.frame.value) : 1e9;
            row.within1[v].add(off <= 1);
            row.within2[v].add(off <= 2);
            row.byPosition[t.keyPosition + (v == 0 ? " (side)" : " (behind)")].add(off <= 1);
        }
    }
}

/// A view of one camera beside, behind or in front, from which the measure is read.
std::optional<View> groundView(const Measure& m)
{
    for (const View v : m.views)
        if (std::find(std::begin(kViews), std::end(kViews), v) != std::end(kViews))
            return v;
    return std::nullopt;
}

Row judge(const sim::SimSkill& skill, const sim::SimVariant& variant, const Pack& pack, std::uint32_t number)
{
    Row row;
    sim::SimulateOptions o;
    o.skill = skill.id;
    o.motion.variant = variant.id;
    o.motion.school = skill.schools.front().id;
    o.motion.style = sim::fitStyle(o, pack, number);
    o.motion.seed = number;
    o.hand = number % 2 == 0 ? Hand::Right : Hand::Left;
    findPositions(o, pack, row);
    o.frameRate = kJudgedRate;
    for (const View v : kViews) {
        o.camera.view = v;
        if (const auto r = bench::reviewOfMarked(o, pack))
            for (const auto& reading : r->readings)
                if (reading.value) {
                    row.falseOff.add(reading.verdict == Verdict::Off);
                    row.wrong[reading.measure] += reading.verdict == Verdict::Off;
                }
    }
    for (const auto& f : skill.faults) {
        const Measure* main = f.isFor(variant.id) ? bench::mainMeasure(f, variant.id, pack) : nullptr;
        const auto view = main ? groundView(*main) : std::nullopt;
        if (!view)
            continue;
        o.camera.view = *view;
        const auto all = bench::withCauses(bench::namesOf(f, pack), pack);
        for (const double amount : kAmounts) {
            o.motion.faults = {{f.id, amount}};
            if (const auto r = bench::reviewOfMarked(o, pack)) {
                row.called.add(bench::isCalled(*r, all));
                row.one.add(r->oneThing && all.count(r->oneThing->fault) > 0);
                row.byFault[f.id].add(bench::isCalled(*r, all));
            }
        }
    }
    return row;
}

/// The worst of a list, below so many per cent.
std::string worst(const std::map<std::string, bench::Count>& list, double below)
{
    std::string text;
    for (const auto& [id, c] : list)
        if (c.percent() < below)
            text += (text.empty() ? "" : ", ") + id + " " + std::to_string(static_cast<int>(std::lround(c.percent())));
    return text;
}

void print(const Row& r, bool withList)
{
    std::string wrong;
    for (const auto& [id, n] : r.wrong)
        if (n > 0)
            wrong += (wrong.empty() ? "" : ", ") + id + " " + std::to_string(n) + "x";
    std::printf("| %s | %.0f | %.0f | %.1f | %.0f / %.0f | %.0f / %.0f | %s |\n", r.name.c_str(), r.called.percent(),
                r.one.percent(), r.falseOff.percent(), r.within1[0].percent(), r.within2[0].percent(), r.within1[1].percent(),
                r.within2[1].percent(),
                withList ? (worst(r.byFault, 90) + (wrong.empty() ? "" : "; falsely off: " + wrong)).c_str() : "");
    if (withList && !worst(r.byPosition, 85).empty())
        std::cerr << r.name << ": " << worst(r.byPosition, 85) << "\n";
    std::fflush(stdout);
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const auto first = static_cast<std::uint32_t>(argc > 2 ? std::atoi(argv[1]) : 101),
               last = static_cast<std::uint32_t>(argc > 2 ? std::atoi(argv[2]) : 130);
    const std::string only = argc > 3 ? argv[3] : "";
    std::printf(
        "# When somebody else does it\n\n"
        "Made by `./kestrel tables`: the simulated athlete in the styles %u to %u, each another person's way of doing the same\n"
        "(`src/sim/style.h`), marked with %.0f pixels of noise, filmed from the side, behind or in front. Faults at 0.7 and "
        "1.0.\n"
        "*Positions*: within one / within two pictures at 60 a second, on true marks.\n\n"
        "| skill | called, %% (goal 95) | the one thing, %% (85) | false off, %% (2) | positions from the side, %% (90 / 97) | "
        "from behind, %% (85 / 94) | called in less than 90 %% |\n|---|---|---|---|---|---|---|\n",
        first, last, bench::kNoise);
    Row sum;
    sum.name = "**all**";
    const bool isWhole = bench::eachSkill([&](const sim::SimSkill& skill, const Pack& pack) {
        if (!only.empty() && only != pack.id)
            return;
        Row row;
        row.name = pack.name;
        for (const auto& variant : skill.variants) {
            Row halves[2];
            const auto work = [&](std::uint32_t half) {
                for (std::uint32_t n = first + half; n <= last; n += 2)
                    halves[half].add(judge(skill, variant, pack, n));
            };
            std::thread other(work, 1);
            work(0);
            other.join();
            row.add(halves[0]);
            row.add(halves[1]);
        }
        print(row, true);
        sum.add(row);
    });
    print(sum, false);
    return isWhole ? 0 : 1;
}
