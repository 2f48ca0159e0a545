#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "demo/demo_library.h"
#include "media/film.h"
#include "store/content_hash.h"
#include "store/library.h"

#include <QTemporaryDir>
#include <QtTest>

#include <set>

using namespace kestrel;
using namespace kestrel::test;

namespace {

const char* const kSmall = R"({ "format": "jolly-kestrel/demo", "version": 1, "athletes": [
  { "name": "Test Person", "birthDate": "2012-02-03", "hand": "left", "heightMetres": 1.5, "look": 1,
    "days": [ { "date": "2026-03-01", "skill": "overhand-pitch", "school": "tall",
      "clips": [ { "file": "one.mp4", "variant": "stretch", "view": "side", "captureRate": 60, "playbackRate": 30, "seed": 3, "faults": { "short_stride": 1 }, "marked": true },
        { "file": "two.mp4", "variant": "stretch", "view": "rear", "captureRate": 60, "seed": 3, "otherSide": true } ] } ] } ] })";

} // namespace

class DemoTest : public QObject {
    Q_OBJECT
private slots:
    void club_isWhatIsPromised();
    void small_makesALibraryThatCanBeJudged();
    void scenario_wrongField_isNamed_data();
    void scenario_wrongField_isNamed();
    void folderInUse_isLeftAlone();
    void cancelled_stops();
};

void DemoTest::club_isWhatIsPromised()
{
    const auto root = loadJson(shippedFolder("demo") + "/club.json");
    QVERIFY(root);
    const auto& athletes = (*root)["athletes"];
    QVERIFY(athletes.size() >= 4);
    int clips = 0, marked = 0;
    std::set<std::string> skills, hands, variants, faults, dates;
    for (const auto& a : athletes) {
        hands.insert(a["hand"].get<std::string>());
        for (const auto& d : a["days"]) {
            dates.insert(d["date"].get<std::string>());
            skills.insert(d["skill"].get<std::string>());
            QVERIFY2(findPack(d["skill"].get<std::string>()), d["skill"].get<std::string>().c_str());
            for (const auto& c : d["clips"]) {
                ++clips;
                marked += c.value("marked", false);
                variants.insert(c["variant"].get<std::string>());
                if (c.contains("faults"))
                    for (const auto& [f, amount] : c["faults"].items())
                        faults.insert(f);
            }
        }
    }
    QVERIFY(clips >= 6);
    QVERIFY(marked >= 2);
    QCOMPARE(hands.size(), std::size_t{2});
    QVERIFY(skills.size() >= 8);
    QVERIFY(variants.size() >= 8);
    QVERIFY(faults.size() >= 8);
    QVERIFY(dates.size() >= 2);
}

void DemoTest::small_makesALibraryThatCanBeJudged()
{
    QTemporaryDir folder;
    const std::string scenario = folder.filePath(QStringLiteral("s.json")).toStdString(),
                      place = folder.filePath(QStringLiteral("lib")).toStdString();
    writeFile(scenario, kSmall);
    int reported = 0;
    const auto made = demo::makeDemoLibrary(
        scenario, place, [&](const demo::Progress& p) { reported += p.file == "one.mp4" && p.films == 2 && p.film == 1; });
    QVERIFY2(made, made ? "" : made.error().text().c_str());
    QVERIFY(reported > 50);
    auto library = store::Library::open(place);
    const auto athlete = library->athletes().all()->front();
    const auto clip = library->clips().of(library->days().of(athlete.id)->front().id)->front();
    const auto clips = *library->clips().of(clip.day);
    QCOMPARE(clips.size(), std::size_t{2});
    QVERIFY(*library->repetitions().secondCamera(library->repetitions().of(clips[1].id)->front().id) ==
            library->repetitions().of(clip.id)->front().id);
    QCOMPARE(clip.file, std::string("films/one.mp4")); // the folder can be copied elsewhere
    QCOMPARE(clip.contentHash, *store::calcContentHash(library->filmPath(clip)));
    const Marking m = *library->marking(clip.id);
    QCOMPARE(m.events.size(), std::size_t{9});
    QVERIFY(std::all_of(m.marks.begin(), m.marks.end(), [](const Mark& x) { return x.source == Source::Coach && x.sigma > 0; }));
    const auto film = media::Film::open(library->filmPath(clip));
    QCOMPARE(film->info().frames(), m.film.frames);
    const Review r = reviewOf(m, "tall");
    QVERIFY(r.oneThing);
    QCOMPARE(r.oneThing->fault, std::string("short_stride")); // found from careful clicks, not from the truth
}

void DemoTest::scenario_wrongField_isNamed_data()
{
    QTest::addColumn<QString>("pointer");
    QTest::addColumn<QString>("value");
    QTest::addColumn<QString>("says");
    QTest::newRow("hand") << "/athletes/0/hand"
                          << "\"both\""
                          << "/athletes/0/hand";
    QTest::newRow("height") << "/athletes/0/heightMetres"
                            << "15"
                            << "/athletes/0/heightMetres";
    QTest::newRow("view") << "/athletes/0/days/0/clips/0/view"
                          << "3"
                          << "/athletes/0/days/0/clips/0/view";
    QTest::newRow("unknown fault") << "/athletes/0/days/0/clips/0/faults"
                                   << R"({"sneeze": 1})"
                                   << "sneeze";
    QTest::newRow("unknown skill") << "/athletes/0/days/0/skill"
                                   << "\"curling\""
                                   << "curling";
    QTest::newRow("format") << "/format"
                            << "\"x\""
                            << "jolly-kestrel/demo";
}

void DemoTest::scenario_wrongField_isNamed()
{
    QFETCH(QString, pointer);
    QFETCH(QString, value);
    QFETCH(QString, says);
    QTemporaryDir folder;
    auto root = nlohmann::json::parse(kSmall);
    root[nlohmann::json::json_pointer(pointer.toStdString())] = nlohmann::json::parse(value.toStdString());
    const std::string scenario = folder.filePath(QStringLiteral("s.json")).toStdString();
    writeFile(scenario, root.dump());
    const auto made = demo::makeDemoLibrary(scenario, folder.filePath(QStringLiteral("lib")).toStdString());
    QVERIFY(!made);
    QVERIFY2(QString::fromStdString(made.error().text()).contains(says), made.error().text().c_str());
}

void DemoTest::folderInUse_isLeftAlone()
{
    QTemporaryDir folder;
    const std::string scenario = folder.filePath(QStringLiteral("s.json")).toStdString();
    writeFile(scenario, kSmall);
    writeFile(folder.filePath(QStringLiteral("library.db")).toStdString(), "mine");
    const auto made = demo::makeDemoLibrary(scenario, folder.path().toStdString());
    QVERIFY(!made);
    QCOMPARE(made.error().code, ErrorCode::BadArgument);
    QCOMPARE(contentOf(folder.filePath(QStringLiteral("library.db")).toStdString()), std::string("mine"));
}

void DemoTest::cancelled_stops()
{
    QTemporaryDir folder;
    const std::string scenario = folder.filePath(QStringLiteral("s.json")).toStdString();
    writeFile(scenario, kSmall);
    std::stop_source stop;
    const auto made = demo::makeDemoLibrary(
        scenario, folder.filePath(QStringLiteral("lib")).toStdString(),
        [&](const demo::Progress& p) {
            if (p.picture == 2)
                stop.request_stop();
        },
        stop.get_token());
    QVERIFY(!made);
    QCOMPARE(made.error().code, ErrorCode::Cancelled);
}

KESTREL_TEST(DemoTest)
#include "demo_test.moc"
