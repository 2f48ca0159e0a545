// From a painted film to the review without a click: docs/accuracy.md.

#include "faults.h"
#include "marked.h"
#include "painted.h"
#include "vision/propose.h"

#include <QGuiApplication>
#include <QTemporaryDir>

#include <cmath>
#include <cstdio>

using namespace kestrel;

namespace {

constexpr std::uint32_t kSeed = 411;
constexpr double kRate = 60, kAmount = 0.8;
constexpr std::uint32_t kFirstStyle = 101, kStyles = 6;
constexpr double kSlowMotion = 120; // for what a measure says cannot be read at the usual rate

/// What was judged of one film: with the key positions the program proposed, and with those a coach placed.
struct Judged {
    Review proposed, placed;
};

std::optional<Judged> judge(const sim::SimulateOptions& o, const Pack& pack, const std::string& file, vision::BodyNetwork body)
{
    const auto film = bench::markedFilm(o, pack, file, body);
    if (!film || film->seen == 0)
        return std::nullopt;
    Marking m = film->truth.truth; // scale and view are the coach's
    m.marks = film->marks;
    for (auto& e : m.events) { // on the nearest picture, as a coach does
        e.frame = FramePosition(std::round(e.frame.value));
        e.uncertaintyFrames = 0.5;
    }
    const JudgeOptions read{{o.motion.school, {}}};
    const auto reviewed = [&](const Marking& marking) {
        return calcReview(pack, {readRepetition(pack, PreparedRepetition(marking), read)}, read);
    };
    Marking proposed = m;
    proposed.events.clear();
    for (const auto& d : vision::proposeKeyPositions(pack, proposed, film->clock))
        if (d.frame)
            proposed.events.push_back({d.keyPosition, *d.frame, d.uncertaintyFrames, Source::Network});
    return Judged{reviewed(proposed), reviewed(m)};
}

void countOff(const Review& review, bench::Count& count)
{
    for (const auto& r : review.readings)
        if (r.value)
            count.add(r.verdict == Verdict::Off);
}

struct Row {
    bench::Count called, calledPlaced, off, offPlaced;
    void add(const Row& o) { called.add(o.called), calledPlaced.add(o.calledPlaced), off.add(o.off), offPlaced.add(o.offPlaced); }
    void print(const std::string& name) const
    {
        std::printf("| %s | %d | %.0f | %.0f | %.1f of %d | %.1f of %d |\n", name.c_str(), called.of, called.percent(),
                    calledPlaced.percent(), off.percent(), off.of, offPlaced.percent(), offPlaced.of);
        std::fflush(stdout);
    }
};

} // namespace

/// Arguments: as marking_table.cpp; after them "styles": each fault in one of six styles, another person's way of doing the same.
int main(int argc, char** argv)
{
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(argc, argv);
    const std::string only = argc > 1 ? argv[1] : "all";
    const auto body = bench::networkOf(argc, argv);
    if (!body)
        return 1;
    const bool inStyles = argc > 3 && std::string(argv[3]) == "styles";
    const QTemporaryDir folder;
    const std::string file = (folder.path() + QStringLiteral("/clip.mp4")).toStdString();
    std::printf("# From film to judgement without a click%s\n\n"
                "Made by `./kestrel tables`: each fault at %.1f, right-handed, 60 pictures a second at 1280x720 (120 where its "
                "first measure asks for more), painted from where its first measure is read, marked by the\nprogram with the %s "
                "network and judged with the "
                "known length and the view the coach gave: once with "
                "the key positions the program proposed and "
                "once with those\na coach placed. From above it proposes first moves and what a pack names for there.\n\n"
                "*Called*: goal 80 %%. *Falsely off*: readings off on films of the faultless athlete, goal at most 5 %%, of how "
                "many that were read.\n\n",
                inStyles ? ", when somebody else does it" : "", kAmount, std::string(vision::wordOf(*body)).c_str());
    if (inStyles)
        std::printf("Each fault is painted in one of the styles %u to %u in turn; those without a fault in the first.\n\n",
                    kFirstStyle, kFirstStyle + kStyles - 1);
    std::printf("| skill | faults | called, %% | called, positions placed, %% | falsely off, %% | falsely off, positions placed, "
                "%% |\n|---|---|---|---|---|---|\n");
    Row all;
    const bool isWhole = bench::eachSkill([&](const sim::SimSkill& skill, const Pack& pack) {
        if (only != "all" && only != skill.id)
            return;
        Row row;
        sim::SimulateOptions o = bench::filmOf(skill, kSeed, kRate);
        if (inStyles)
            o.motion.style = sim::fitStyle(o, pack, kFirstStyle);
        for (const View view : {View::Side, View::Rear}) {
            o.camera.view = view;
            if (const auto judged = judge(o, pack, file, *body)) {
                countOff(judged->proposed, row.off);
                countOff(judged->placed, row.offPlaced);
            }
        }
        std::uint32_t style = 0;
        for (const auto& f : skill.faults) {
            if (inStyles) // each fault as another person has it
                o.motion.style = sim::fitStyle(o, pack, kFirstStyle + style++ % kStyles);
            const Measure* main = f.isFor(o.motion.variant) ? bench::mainMeasure(f, o.motion.variant, pack) : nullptr;
            if (!main)
                continue;
            o.camera.view = main->views.front();
            o.frameRate = main->minRate > kRate ? std::max(kSlowMotion, main->minRate) : kRate;
            o.motion.faults = {{f.id, kAmount}};
            const auto names = bench::withCauses(bench::namesOf(f, pack), pack);
            const auto judged = judge(o, pack, file, *body);
            row.called.add(judged && bench::isCalled(judged->proposed, names));
            row.calledPlaced.add(judged && bench::isCalled(judged->placed, names));
        }
        row.print(pack.name);
        all.add(row);
    });
    all.print("**all**");
    return isWhole ? 0 : 1;
}
