#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/scene/marking_json.h"

#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

Marking fullMarking()
{
    Marking m = plainMarking();
    m.skill = "overhand-pitch";
    m.variant = "windup";
    m.scene.view = View::Rear;
    m.scene.target = TargetDirection::Away;
    m.scene.up = {0.02, -0.98};
    m.athlete.hand = Hand::Left;
    m.clock = {240, 30};
    place(m, "set", 3.25, 0.5);
    place(m, "strike", 40);
    mark(m, 3, "wrist.left", 12.5, 99.25, 1.5);
    mark(m, 40, "ref.plate", 700, 650);
    m.marks.back().visible = false;
    return m;
}

} // namespace

class MarkingTest : public QObject {
    Q_OBJECT
private slots:
    void json_roundTrip_keepsEverything();
    void json_fileOfTheFormatDescription_isRead();
    void json_unknownKeys_areIgnored();
    void json_wrongField_isRefusedWithItsPlace_data();
    void json_wrongField_isRefusedWithItsPlace();
    void json_twoMarksOfOnePoint_theMoreTrustedStays();
    void scene_roundTrip();
    void setMark_program_neverReplacesTheCoach();
    void setMark_coach_replacesEveryone();
    void setEvent_program_neverReplacesTheCoach();
    void find_absent_isNull();
    void save_roundTrip_onDisk();
};

void MarkingTest::json_roundTrip_keepsEverything()
{
    const Marking m = fullMarking();
    const auto back = parseMarking(toJson(m), "m.json");
    QVERIFY2(back, back ? "" : back.error().text().c_str());
    QVERIFY(*back == m);
}

void MarkingTest::json_fileOfTheFormatDescription_isRead()
{
    const auto root = nlohmann::json::parse(R"({ "format": "jolly-kestrel/marking", "version": 1,
      "film":    { "file": "clip.mp4", "width": 1280, "height": 720, "frames": 480 },
      "clock":   { "captureRate": 240.0, "playbackRate": 240.0 },
      "scene":   { "view": "side", "targetDirection": "right", "up": [0,-1],
                   "scale": { "from": [100,600], "to": [300,600], "metres": 1.0 } },
      "athlete": { "hand": "right", "heightMetres": 1.62, "age": 13 },
      "events":  [ { "keyPosition": "strike", "frame": 211, "uncertaintyFrames": 0.5, "source": "coach" } ],
      "marks":   [ { "frame": 211, "landmark": "wrist.right", "x": 640.2, "y": 222.9, "sigma": 1.5, "source": "coach", "visible": true } ] })");
    const auto m = parseMarking(root, "m.json");
    QVERIFY(m);
    QCOMPARE(m->marks.front().at.x, 640.2);
    QCOMPARE(m->events.front().frame.value, 211.0);
    QCOMPARE(m->athlete.heightMetres, std::optional(1.62));
    QCOMPARE(m->clock.slowFactor(), 1.0);
}

void MarkingTest::json_unknownKeys_areIgnored()
{
    auto root = toJson(fullMarking());
    root["mood"] = "sunny";
    root["scene"]["weather"] = {{"wind", 3}};
    root["marks"][0]["note"] = nullptr;
    QVERIFY(parseMarking(root, "m.json"));
}

void MarkingTest::json_wrongField_isRefusedWithItsPlace_data()
{
    QTest::addColumn<QString>("pointer");
    QTest::addColumn<QString>("value"); // JSON; empty: the field is removed
    QTest::newRow("a mark's x as text") << "/marks/0/x"
                                        << "\"12\"";
    QTest::newRow("a mark's x missing") << "/marks/0/x"
                                        << "";
    QTest::newRow("a mark's x is null") << "/marks/0/x"
                                        << "null";
    QTest::newRow("a mark far outside any picture") << "/marks/0/y"
                                                    << "1e9";
    QTest::newRow("unknown landmark") << "/marks/1/landmark"
                                      << "\"tail.left\"";
    QTest::newRow("a landmark without its side") << "/marks/1/landmark"
                                                 << "\"wrist\"";
    QTest::newRow("negative frame") << "/marks/0/frame"
                                    << "-3";
    QTest::newRow("a frame beyond the film") << "/marks/0/frame"
                                             << "100";
    QTest::newRow("a broken frame number") << "/marks/0/frame"
                                           << "1.5";
    QTest::newRow("negative sigma") << "/marks/0/sigma"
                                    << "-1";
    QTest::newRow("unknown source") << "/marks/0/source"
                                    << "\"guess\"";
    QTest::newRow("visible as number") << "/marks/0/visible"
                                       << "1";
    QTest::newRow("an event beyond the film") << "/events/1/frame"
                                              << "5000";
    QTest::newRow("an event without a name") << "/events/0/keyPosition"
                                             << "";
    QTest::newRow("view") << "/scene/view"
                          << "\"sideways\"";
    QTest::newRow("target") << "/scene/targetDirection"
                            << "\"north\"";
    QTest::newRow("up without length") << "/scene/up"
                                       << "[0, 0]";
    QTest::newRow("up with three numbers") << "/scene/up"
                                           << "[0, -1, 0]";
    QTest::newRow("a scale of no length") << "/scene/scale"
                                          << R"({"from": [1,1], "to": [1,1], "metres": 1})";
    QTest::newRow("a scale of minus a metre") << "/scene/scale/metres"
                                              << "-1";
    QTest::newRow("hand") << "/athlete/hand"
                          << "\"both\"";
    QTest::newRow("a giant") << "/athlete/heightMetres"
                             << "17";
    QTest::newRow("capture rate of nothing") << "/clock/captureRate"
                                             << "0";
    QTest::newRow("marks as an object") << "/marks"
                                        << "{}";
    QTest::newRow("film of no size") << "/film/width"
                                     << "0";
}

void MarkingTest::json_wrongField_isRefusedWithItsPlace()
{
    QFETCH(QString, pointer);
    QFETCH(QString, value);
    auto root = toJson(fullMarking());
    const nlohmann::json::json_pointer at(pointer.toStdString());
    if (value.isEmpty())
        root[at.parent_pointer()].erase(at.back());
    else
        root[at] = nlohmann::json::parse(value.toStdString());
    const auto read = parseMarking(root, "wrong.json");
    QVERIFY(!read);
    QCOMPARE(read.error().file, std::string("wrong.json"));
    QVERIFY2(QString::fromStdString(read.error().place).startsWith(pointer), read.error().text().c_str());
    QVERIFY(read.error().message.size() > 10);
}

void MarkingTest::json_twoMarksOfOnePoint_theMoreTrustedStays()
{
    auto root = toJson(plainMarking());
    const auto markJson = [](double x, const char* source) {
        return nlohmann::json{{"frame", 5}, {"landmark", "nose"}, {"x", x}, {"y", 1}, {"sigma", 1}, {"source", source}};
    };
    root["marks"] = {markJson(10, "coach"), markJson(20, "network")};
    const auto m = parseMarking(root, "m.json");
    QVERIFY(m);
    QCOMPARE(m->marks.size(), std::size_t{1});
    QCOMPARE(m->marks.front().at.x, 10.0);
}

void MarkingTest::scene_roundTrip()
{
    const Scene scene = fullMarking().scene;
    const auto back = parseScene(toJson(scene), "library");
    QVERIFY(back);
    QVERIFY(*back == scene);
}

void MarkingTest::setMark_program_neverReplacesTheCoach()
{
    Marking m = plainMarking();
    mark(m, 5, "nose", 10, 10);
    for (const auto source : {Source::Tracked, Source::Network, Source::Simulated})
        QVERIFY(!setMark(m, {FrameIndex(5), *findLandmark("nose"), {99, 99}, 1, source, true}));
    QCOMPARE(findMark(m, FrameIndex(5), *findLandmark("nose"))->at.x, 10.0);
    QCOMPARE(m.marks.size(), std::size_t{1});
}

void MarkingTest::setMark_coach_replacesEveryone()
{
    Marking m = plainMarking();
    QVERIFY(setMark(m, {FrameIndex(5), *findLandmark("nose"), {1, 1}, 1, Source::Network, true}));
    QVERIFY(setMark(m, {FrameIndex(5), *findLandmark("nose"), {2, 2}, 1, Source::Coach, true}));
    QVERIFY(setMark(m, {FrameIndex(5), *findLandmark("nose"), {3, 3}, 1, Source::Coach, true}));
    QCOMPARE(findMark(m, FrameIndex(5), *findLandmark("nose"))->at.x, 3.0);
}

void MarkingTest::setEvent_program_neverReplacesTheCoach()
{
    Marking m = plainMarking();
    place(m, "set", 5);
    QVERIFY(!setEvent(m, {"set", FramePosition(9.0), 0, Source::Network}));
    QVERIFY(setEvent(m, {"lift", FramePosition(9.0), 0, Source::Network}));
    QCOMPARE(findEvent(m, "set")->frame.value, 5.0);
    QVERIFY(setEvent(m, {"lift", FramePosition(11.0), 0, Source::Coach}));
    QCOMPARE(findEvent(m, "lift")->frame.value, 11.0);
}

void MarkingTest::find_absent_isNull()
{
    const Marking m = plainMarking();
    QVERIFY(!findEvent(m, "set"));
    QVERIFY(!findMark(m, FrameIndex(0), *findLandmark("nose")));
}

void MarkingTest::save_roundTrip_onDisk()
{
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("ü marking.json")).toStdString();
    QVERIFY(saveMarking(fullMarking(), file));
    const auto back = loadMarking(file);
    QVERIFY(back);
    QVERIFY(*back == fullMarking());
}

KESTREL_TEST(MarkingTest)
#include "marking_test.moc"
