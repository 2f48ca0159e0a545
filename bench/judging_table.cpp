// Whether the faults of the simulated athlete are called, and nothing else: docs/accuracy.md.

#include "core/judge/review.h"
#include "faults.h"
#include "marked.h"
#include "sim/simulate.h"

#include <QGuiApplication>

#include <algorithm>
#include <cstdio>
#include <iostream>
#include <set>

using namespace kestrel;

namespace {

constexpr double kRate = 240;
constexpr std::uint32_t kSeeds[] = {1, 2, 3};
constexpr double kAmounts[] = {0.7, 1.0};
constexpr Hand kHands[] = {Hand::Right, Hand::Left};

struct Row {
    std::string name;
    bench::Count called, one, falseOff, quiet;
    std::set<std::string> missed, wrong;
};

void judgeVariant(const sim::SimSkill& skill, const sim::SimVariant& variant, const Pack& pack, Row& row)
{
    sim::SimulateOptions o;
    o.skill = skill.id;
    o.frameRate = kRate;
    o.motion.variant = variant.id;
    o.motion.school = skill.schools.front().id;
    std::set<View> views;
    for (const auto& m : pack.measures)
        views.insert(m.views.front());
    for (const auto seed : kSeeds)
        for (const auto hand : kHands) {
            o.motion.seed = seed;
            o.hand = hand;
            o.motion.faults.clear();
            for (const auto view : views) {
                o.camera.view = view;
                const auto r = bench::reviewOfMarked(o, pack);
                if (!r)
                    continue;
                for (const auto& reading : r->readings)
                    if (reading.value) {
                        row.falseOff.add(reading.verdict == Verdict::Off);
                        if (reading.verdict == Verdict::Off)
                            row.wrong.insert(reading.measure);
                    }
                for (const auto& f : skill.faults)
                    if (f.isFor(variant.id))
                        row.quiet.add(!r->oneThing || bench::namesOf(f, pack).count(r->oneThing->fault) == 0);
            }
            for (const auto& f : skill.faults) {
                if (!f.isFor(variant.id))
                    continue;
                const Measure* main = bench::mainMeasure(f, variant.id, pack);
                if (!main)
                    continue;
                const auto names = bench::namesOf(f, pack), all = bench::withCauses(names, pack);
                for (const double amount : kAmounts) {
                    o.camera.view = main->views.front();
                    o.motion.faults = {{f.id, amount}};
                    const auto r = bench::reviewOfMarked(o, pack);
                    if (!r)
                        continue;
                    const bool called = bench::isCalled(*r, all);
                    row.called.add(called);
                    row.one.add(r->oneThing && all.count(r->oneThing->fault) > 0);
                    char text[96];
                    std::snprintf(text, sizeof text, "%s at %.1f", f.id.c_str(), amount);
                    if (!called)
                        row.missed.insert(text);
                }
            }
        }
}

std::string listed(const std::set<std::string>& names)
{
    std::string text;
    for (const auto& n : names)
        text += (text.empty() ? "" : ", ") + n;
    return text;
}

void print(const Row& r)
{
    std::printf("| %s | %.0f | %.0f | %.1f | %.0f | %s |\n", r.name.c_str(), r.called.percent(), r.one.percent(),
                r.falseOff.percent(), r.quiet.percent(),
                (listed(r.missed) + (r.missed.empty() || r.wrong.empty() ? "" : "; ") +
                 (r.wrong.empty() ? "" : "off without a fault: " + listed(r.wrong)))
                    .c_str());
}

} // namespace

int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    std::printf("# Whether faults are called\n\n"
                "Made by `./kestrel tables`: the simulated athlete of 13, 240 pictures a second, 1280x720, every point marked on "
                "every frame\n"
                "with %.0f pixels of noise, three seeds, both hands. Each fault at 0.7 and 1.0, filmed from the view its first "
                "measure is read\n"
                "in. *Called*: the fault that rests on that measure, or one declared to lead to it, is off. *False off*: "
                "readings off without\n"
                "any fault, in all views the pack reads.\n\n"
                "| skill | called, %% (goal 95) | the one thing, %% (80) | false off, %% (2) | fault at 0 not the one thing, %% "
                "(97) | missed at least once |\n"
                "|---|---|---|---|---|---|\n",
                bench::kNoise);
    Row sum;
    sum.name = "**all**";
    const bool isWhole = bench::eachSkill([&](const sim::SimSkill& skill, const Pack& pack) {
        Row row;
        row.name = pack.name;
        for (const auto& variant : skill.variants)
            judgeVariant(skill, variant, pack, row);
        print(row);
        std::fflush(stdout);
        for (const auto& [to, from] : {std::pair{&sum.called, &row.called},
                                       {&sum.one, &row.one},
                                       {&sum.falseOff, &row.falseOff},
                                       {&sum.quiet, &row.quiet}}) {
            to->of += from->of;
            to->yes += from->yes;
        }
    });
    print(sum);
    return isWhole ? 0 : 1;
}
