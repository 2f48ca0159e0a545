#include "support/markings.h"

#include <QFile>
#include <QTemporaryDir>

#include "core/pack/pack_folder.h"
#include "core/read/reading.h"

#include <QtTest>

#include <fstream>
#include <sstream>

namespace kestrel::test {

const Pack& pitchPack()
{
    static const Pack pack = [] {
        auto loaded = findPack("overhand-pitch");
        if (!loaded)
            qFatal("%s", loaded.error().text().c_str());
        return *loaded;
    }();
    return pack;
}

std::string packFolder()
{
    return KESTREL_SOURCE_DIR "/packs";
}

Marking plainMarking()
{
    Marking m;
    m.film = {"clip.mp4", 1000, 800, 100};
    m.clock = {100, 100};
    m.scene = {View::Side, TargetDirection::Right, {0, -1}, Scale{{0, 700}, {1000, 700}, 10.0}};
    m.athlete = {Hand::Right, 1.60, 13.0};
    return m;
}

void place(Marking& m, const std::string& keyPosition, double frame, double uncertaintyFrames)
{
    setEvent(m, {keyPosition, FramePosition(frame), uncertaintyFrames, Source::Coach});
}

void mark(Marking& m, int frame, const std::string& name, double x, double y, double sigma)
{
    const auto landmark = findLandmark(name);
    if (!landmark)
        qFatal("no landmark %s", name.c_str());
    setMark(m, {FrameIndex(frame), *landmark, {x, y}, sigma, Source::Coach, true});
}

Pack packOfOne(const char* kind, const std::vector<const char*>& points, Unit unit, bool isSpan, View view, Band band,
               double margin)
{
    Pack pack;
    pack.id = "test";
    pack.schools = {{"one", "One", ""}, {"two", "Two", ""}};
    pack.keyPositions = {{"a", "The A", "first"}, {"b", "The B", "second"}};
    Measure m;
    m.id = "m";
    m.name = "Measure";
    m.kind = findMeasureKind(kind);
    for (const auto* p : points)
        m.points.push_back(*findPointRole(p));
    m.unit = unit;
    m.at = isSpan ? "b" : "a";
    m.from = isSpan ? "a" : "";
    m.views = {view};
    m.bands = {band};
    m.margin = margin;
    pack.measures = {m};
    return pack;
}

sim::Simulated simulated(const sim::SimulateOptions& options)
{
    auto done = sim::simulate(options);
    if (!done)
        qFatal("%s", done.error().text().c_str());
    return *done;
}

sim::SimulateOptions pitch(View view, std::vector<std::string> faults)
{
    sim::SimulateOptions o;
    o.skill = "overhand-pitch";
    o.camera.view = view;
    for (const auto& f : faults)
        o.motion.faults[f] = 1;
    return o;
}

Review reviewOf(const Marking& m, const std::string& school)
{
    const JudgeOptions options{{school, {}}};
    return calcReview(pitchPack(), {readRepetition(pitchPack(), PreparedRepetition(m), options)}, options);
}

std::string contentOf(const std::string& file)
{
    std::ifstream in(file, std::ios::binary);
    std::ostringstream text;
    text << in.rdbuf();
    return text.str();
}

void writeFile(const std::string& file, const std::string& content)
{
    std::ofstream out(file, std::ios::binary);
    out << content;
    if (!out)
        qFatal("cannot write %s", file.c_str());
}

} // namespace kestrel::test
