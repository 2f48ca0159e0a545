#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/pack/pack.h"
#include "core/pack/pack_folder.h"

#include <QTemporaryDir>
#include <QtTest>

#include <map>
#include <set>

using namespace kestrel;
using namespace kestrel::test;

namespace {

nlohmann::json packJson()
{
    static const auto root = selfContainedPack(pitchPack().file);
    return *root;
}

} // namespace

class PackTest : public QObject {
    Q_OBJECT
private slots:
    void shipped_holdsWhatIsPromised();
    void shipped_everyFault_canBeToldAndTrained();
    void shipped_everyDrill_isUsed();
    void shipped_everyView_readsSomething();
    void shipped_noWord_speaksOfTheSimulator();
    void load_mistake_isNamedWithItsPlace_data();
    void load_mistake_isNamedWithItsPlace();
    void check_manyMistakes_areAllListed();
    void load_causeLinksInACircle_areRefused();
    void load_causeAfterItsEffect_isRefused();
    void load_missingFile_saysSo();
    void findPack_unknown_listsWhatThereIs();
    void bandFor_theMostParticularWins();
    void landmarksAt_followViewHandAndVariant();
    void packFiles_areTheElevenPacks();
    void leadSide_dominantSide_turnsLeadAndTrailRound();
    void drills_areSharedByName();
    void drills_ofEveryFault_areTwoOrMore_oneWithoutKit();
    void drill_readsKitDaysMinutesAges_andRefusesOthers_data();
    void drill_readsKitDaysMinutesAges_andRefusesOthers();
    void drillsFor_leavesOutThoseForOtherAges();
    void detectors_areShared_andTravelWithAPackOfOnesOwn();
};

void PackTest::shipped_holdsWhatIsPromised()
{
    const Pack& p = pitchPack();
    std::vector<std::string> order;
    for (const auto& k : p.keyPositions)
        order.push_back(k.id);
    QCOMPARE(order,
             (std::vector<std::string>{"set", "lift", "break", "drive", "strike", "layback", "release", "through", "finish"}));
    QVERIFY(p.measures.size() >= 20);
    QVERIFY(p.faults.size() >= 10);
    QVERIFY(p.drills.size() >= 12);
    QVERIFY(p.findSchool("tall") && p.findSchool("low-drive"));
    QCOMPARE(p.variants, (std::vector<std::string>{"stretch", "windup", "stretch-breaking", "windup-breaking"}));
    QVERIFY(p.caution.find("licensed clinician") != std::string::npos);
    QVERIFY(std::count_if(p.faults.begin(), p.faults.end(), [](const Fault& f) { return !f.explains.empty(); }) >= 8);
}

void PackTest::shipped_everyFault_canBeToldAndTrained()
{
    for (const auto& f : pitchPack().faults) {
        for (const auto* cue : {&f.cue.child, &f.cue.teen, &f.cue.adult})
            QVERIFY2(1 + std::count(cue->begin(), cue->end(), ' ') <= 12 && cue->back() == '.', cue->c_str());
        for (const auto& d : f.drills)
            QVERIFY(pitchPack().findDrill(d));
        if (f.risk >= 1.2 && f.stage == RepairStage::Arm)
            QVERIFY2(f.caution.find("clinician") != std::string::npos, f.id.c_str()); // whatever loads the arm says so
        for (const auto* word : {"safe", "injury", "injure", "diagnos"})
            QVERIFY2((f.why + f.caution).find(word) == std::string::npos, f.id.c_str());
    }
}

void PackTest::shipped_everyDrill_isUsed()
{
    std::set<std::string> used;
    for (const auto& f : pitchPack().faults)
        used.insert(f.drills.begin(), f.drills.end());
    for (const auto& d : pitchPack().drills)
        QVERIFY2(used.count(d.id), d.id.c_str());
}

void PackTest::shipped_everyView_readsSomething()
{
    const auto readable = [](View v) {
        return std::count_if(pitchPack().measures.begin(), pitchPack().measures.end(),
                             [v](const Measure& m) { return std::find(m.views.begin(), m.views.end(), v) != m.views.end(); });
    };
    QVERIFY(readable(View::Side) >= 18);
    QVERIFY(readable(View::Rear) >= 5);
    QVERIFY(readable(View::Front) >= 4);
    for (const auto& m :
         pitchPack().measures) // every band says what it rests on, and every measure is in a fault or only reported
        QVERIFY2(m.bands.empty() == m.isReported && !m.technical.empty(), m.id.c_str());
}

/// A coach knows no simulated athlete: what is asked of a player rests on what is taught and reported.
void PackTest::shipped_noWord_speaksOfTheSimulator()
{
    for (const auto& file : packFiles(shippedFolder("packs"))) {
        const auto pack = selfContainedPack(file); // with its shared drills
        QVERIFY2(pack, pack ? "" : pack.error().text().c_str());
        QVERIFY2(pack->dump().find("simulat") == std::string::npos, file.c_str());
    }
}

void PackTest::load_mistake_isNamedWithItsPlace_data()
{
    QTest::addColumn<QString>("pointer");
    QTest::addColumn<QString>("value");   // JSON; empty: removed
    QTest::addColumn<QString>("message"); // part of it
    QTest::newRow("an id that would name another folder") << "/id"
                                                          << "\"../mine\""
                                                          << "small letters";
    QTest::newRow("a detector without its second point") << "/keyPositions/2/detector"
                                                         << R"({"kind": "closest", "points": ["hand.dom"]})"
                                                         << "needs 2";
    QTest::newRow("a detector with a third point") << "/keyPositions/2/detector"
                                                   << R"({"kind": "ahead", "points": ["hand.dom", "head", "midHip"]})"
                                                   << "needs 1 or 2";
    QTest::newRow("from behind instead of nothing") << "/keyPositions/1"
                                                    << R"({"id": "lift", "name": "L", "recognise": "R", "fromEnd":
                                                          {"kind": "highest", "points": ["knee.lead"]}})"
                                                    << "no detector";
    QTest::newRow("from above instead of nothing") << "/keyPositions/1"
                                                   << R"({"id": "lift", "name": "L", "recognise": "R", "fromAbove":
                                                          {"kind": "closest", "points": ["knee.lead", "head"]}})"
                                                   << "no detector";
    QTest::newRow("a detector after nothing") << "/keyPositions/2/detector/after"
                                              << "\"leap\""
                                              << "leap";
    QTest::newRow("a bound after nothing") << "/keyPositions/1/detector/withinMs"
                                           << "200"
                                           << "none is named";
    QTest::newRow("a further sign with further signs") << "/keyPositions/2/detector"
                                                       << R"({"kind": "highest", "points": ["hand.dom"], "also": [
                                                            {"kind": "highest", "points": ["wrist.dom"], "also": []}]})"
                                                       << "none of its own";
    QTest::newRow("a further sign without its second point") << "/keyPositions/2/detector"
                                                             << R"({"kind": "highest", "points": ["hand.dom"], "also": [
                                                                  {"kind": "closest", "points": ["wrist.dom"]}]})"
                                                             << "needs 2";
    QTest::newRow("a stand-in for nothing") << "/keyPositions/1"
                                            << R"({"id": "lift", "name": "L", "recognise": "R", "otherwise":
                                                 {"kind": "highest", "points": ["knee.lead"]}})"
                                            << "no detector";
    QTest::newRow("a question with one answer") << "/observations/0/choices"
                                                << R"([{"id": "a", "text": "A", "verdict": "off"}])"
                                                << "at least two";
    QTest::newRow("a question for a variant that is not there") << "/observations/0/variants"
                                                                << R"(["sideways"])"
                                                                << "there is no variant \"sideways\"";
    QTest::newRow("an observation that is a measure") << "/observations/0/id"
                                                      << "\"stance_width\""
                                                      << "already that of a measure";
    QTest::newRow("the sequence's end") << "/sequence/to"
                                        << "\"leap\""
                                        << "leap";
    QTest::newRow("what a fault costs") << "/faults/0/costs/0"
                                        << "\"money\""
                                        << "money";
    QTest::newRow("bands of what is only reported") << "/measures/0/report"
                                                    << "true"
                                                    << "has no bands";
    QTest::newRow("kind") << "/measures/3/kind"
                          << "\"wobble\""
                          << "wobble";
    QTest::newRow("point") << "/measures/0/points/1"
                           << "\"tail.lead\""
                           << "tail.lead";
    QTest::newRow("too few points") << "/measures/0/points"
                                    << "[\"ankle.lead\"]"
                                    << "needs 4";
    QTest::newRow("key position") << "/measures/2/at"
                                  << "\"leap\""
                                  << "leap";
    QTest::newRow("a span without its start") << "/measures/3/from"
                                              << ""
                                              << "";
    QTest::newRow("a start where none belongs") << "/measures/2/from"
                                                << "\"set\""
                                                << "one key position";
    QTest::newRow("unit of another quantity") << "/measures/2/unit"
                                              << "\"cm\""
                                              << "not measured in";
    QTest::newRow("unknown unit") << "/measures/2/unit"
                                  << "\"furlong\""
                                  << "furlong";
    QTest::newRow("a view that cannot show it") << "/measures/1/views/0"
                                                << "\"front\""
                                                << "cannot be read";
    QTest::newRow("variant") << "/measures/0/variants"
                             << "[\"leap\"]"
                             << "leap";
    QTest::newRow("an empty band") << "/measures/0/bands/0"
                                   << R"({"low": 3, "high": 3, "evidence": "T"})"
                                   << "empty";
    QTest::newRow("a band without ends") << "/measures/0/bands/0"
                                         << R"({"evidence": "T"})"
                                         << "neither";
    QTest::newRow("evidence") << "/measures/0/bands/0/evidence"
                              << "\"Z\""
                              << "G, P or T";
    QTest::newRow("a band's school") << "/measures/0/bands/0/school"
                                     << "\"new\""
                                     << "new";
    QTest::newRow("a band's ages") << "/measures/0/bands/0/ages"
                                   << "[9, 5]"
                                   << "above";
    QTest::newRow("the same band twice") << "/measures/4/bands/1"
                                         << R"({"high": 7, "evidence": "T"})"
                                         << "already";
    QTest::newRow("the same id twice") << "/measures/1/id"
                                       << "\"stance_width\""
                                       << "twice";
    QTest::newRow("a fault's measure") << "/faults/0/conditions/0/measure"
                                       << "\"wink\""
                                       << "wink";
    QTest::newRow("a fault's effect") << "/faults/0/explains/0"
                                      << "\"wink\""
                                      << "wink";
    QTest::newRow("a fault's drill") << "/faults/0/drills/0"
                                     << "\"wink\""
                                     << "wink";
    QTest::newRow("a cue too long to be remembered") << "/faults/0/cue/child"
                                                     << "\"a b c d e f g h i j k l m\""
                                                     << "13 words";
    QTest::newRow("a band that leads nowhere") << "/measures/0"
                                               << R"({"id": "stray", "name": "Stray", "technical": "t", "kind": "tilt",
                                                      "points": ["head", "midHip"], "at": "lift", "unit": "deg", "views": ["side"],
                                                      "margin": 1, "bands": [{"low": 0, "high": 1, "evidence": "T"}]})"
                                               << "leads nowhere";
    QTest::newRow("an observation that leads nowhere") << "/observations/1"
                                                       << R"({"id": "stray", "question": "What?", "at": "lift", "choices":
                                                              [{"id": "a", "text": "a", "verdict": "on_target"},
                                                               {"id": "b", "text": "b", "verdict": "near"}]})"
                                                       << "leads nowhere";
    QTest::newRow("a throw without a caution")
        << "/drills/0"
        << R"({"id": "d", "name": "D", "purpose": "p", "space": "s", "kit": "k", "setup": "u",
                                                      "steps": ["Then throw it."], "dose": "3", "feel": "f", "mistakes": "m",
                                                      "easier": "e", "harder": "h"})"
        << "no caution";
    QTest::newRow("words for a variant that is not there")
        << "/faults/0/cueByVariant"
        << R"([{"variants": ["wink"], "cue": {"child": "a", "teen": "b", "adult": "c"}}])"
        << "wink";
    QTest::newRow("margin is NaN's stand-in") << "/measures/0/margin"
                                              << "null"
                                              << "";
    QTest::newRow("no drills") << "/drills"
                               << "[]"
                               << "at least one";
    QTest::newRow("drills as text") << "/drills"
                                    << "\"many\""
                                    << "expected";
}

void PackTest::load_mistake_isNamedWithItsPlace()
{
    QFETCH(QString, pointer);
    QFETCH(QString, value);
    QFETCH(QString, message);
    auto root = packJson();
    const nlohmann::json::json_pointer at(pointer.toStdString());
    if (value.isEmpty())
        root[at.parent_pointer()].erase(at.back());
    else if (root[at.parent_pointer()].is_array() && std::stoul(at.back()) == root[at.parent_pointer()].size())
        root[at.parent_pointer()].push_back(nlohmann::json::parse(value.toStdString()));
    else
        root[at] = nlohmann::json::parse(value.toStdString());
    const auto pack = parsePack(root, "mine.json");
    QVERIFY(!pack);
    QCOMPARE(pack.error().file, std::string("mine.json"));
    QVERIFY2(QString::fromStdString(pack.error().place).startsWith(pointer), pack.error().text().c_str());
    QVERIFY2(pack.error().message.find(message.toStdString()) != std::string::npos, pack.error().text().c_str());
}

void PackTest::check_manyMistakes_areAllListed()
{
    auto root = packJson();
    root["measures"][0]["kind"] = "wobble";
    root["faults"][1]["risk"] = 9;
    root["drills"][2].erase("dose");
    const auto mistakes = checkPack(root, "mine.json");
    QCOMPARE(mistakes.size(), std::size_t{3});
    QVERIFY(checkPack(packJson(), "mine.json").empty());
}

void PackTest::load_causeLinksInACircle_areRefused()
{
    auto root = packJson();
    for (auto& f : root["faults"])
        if (f["id"] == "head_drop")
            f["explains"] = {"trail_leg_collapse"};
    const auto pack = parsePack(root, "mine.json");
    QVERIFY(!pack);
    QVERIFY2(pack.error().message.find("circle") != std::string::npos, pack.error().text().c_str());
}

void PackTest::load_causeAfterItsEffect_isRefused()
{
    auto root = packJson();
    std::size_t place = 0;
    for (std::size_t i = 0; i < root["faults"].size(); ++i)
        if (root["faults"][i]["id"] == "stops_short") { // seen at the finish
            root["faults"][i]["explains"] = {"front_foot_weight"};
            place = i;
        }
    const auto pack = parsePack(root, "mine.json");
    QVERIFY(!pack);
    QCOMPARE(pack.error().place, "/faults/" + std::to_string(place) + "/explains/0");
    QVERIFY2(pack.error().message.find("a cause comes first") != std::string::npos, pack.error().text().c_str());
}

void PackTest::load_missingFile_saysSo()
{
    const auto pack = loadPack("no/such/pack.json");
    QVERIFY(!pack);
    QCOMPARE(pack.error().code, ErrorCode::CannotOpen);
}

void PackTest::findPack_unknown_listsWhatThereIs()
{
    const auto pack = findPack("curling");
    QVERIFY(!pack);
    QCOMPARE(pack.error().code, ErrorCode::NotFound);
    QVERIFY(pack.error().message.find("overhand-pitch") != std::string::npos);
}

void PackTest::bandFor_theMostParticularWins()
{
    Measure m;
    m.bands = {{1.0, 2.0, Evidence::Taught, "", {}, {}},
               {3.0, 4.0, Evidence::Taught, "", 5.0, 9.0},
               {5.0, 6.0, Evidence::Taught, "tall", {}, {}},
               {7.0, 8.0, Evidence::Taught, "tall", 5.0, 9.0}};
    QCOMPARE(*bandFor(m, "", {}, {})->low, 1.0);
    QCOMPARE(*bandFor(m, "", 7.0, {})->low, 3.0);
    QCOMPARE(*bandFor(m, "tall", 15.0, {})->low, 5.0);
    QCOMPARE(*bandFor(m, "tall", 9.0, {})->low, 7.0);
    QCOMPARE(*bandFor(m, "other", 15.0, {})->low, 1.0);
    m.bands = {{5.0, 6.0, Evidence::Taught, "tall", {}, {}}};
    QVERIFY(!bandFor(m, "other", {}, {}));
    m.bands = {{1.0, 2.0, Evidence::Taught, "", {}, {}}, {3.0, 4.0, Evidence::Taught, "", {}, {}, {"breaking"}}};
    QCOMPARE(*bandFor(m, "", {}, "breaking")->low, 3.0);
    QCOMPARE(*bandFor(m, "", {}, "straight")->low, 1.0);
    QCOMPARE(*bandFor(m, "", {}, {})->low, 1.0); // a variant that is not known has the band of all
}

void PackTest::landmarksAt_followViewHandAndVariant()
{
    const auto has = [](const std::vector<Landmark>& list, const char* name) {
        return std::find(list.begin(), list.end(), *findLandmark(name)) != list.end();
    };
    const auto stretch = landmarksAt(pitchPack(), "set", View::Side, Hand::Right, "stretch");
    QVERIFY(has(stretch, "ankle.left") && has(stretch, "ankle.right") && has(stretch, "shoulder.left"));
    QVERIFY(!has(landmarksAt(pitchPack(), "set", View::Side, Hand::Right, "windup"), "ankle.left"));
    QVERIFY(has(landmarksAt(pitchPack(), "drive", View::Side, Hand::Right, ""), "knee.right"));
    QVERIFY(has(landmarksAt(pitchPack(), "drive", View::Side, Hand::Left, ""), "knee.left"));
    QVERIFY(landmarksAt(pitchPack(), "drive", View::Overhead, Hand::Left, "").empty());
    const auto whole = landmarksAt(pitchPack(), "layback", View::Side, Hand::Right, "stretch", MarkExtent::WholeBody);
    QVERIFY(whole.size() >= 15);
    QVERIFY(std::is_sorted(whole.begin(), whole.end()));
    QVERIFY(std::adjacent_find(whole.begin(), whole.end()) == whole.end());
}

void PackTest::packFiles_areTheElevenPacks()
{
    const auto files = packFiles(shippedFolder("packs"));
    QCOMPARE(files.size(), std::size_t{11});
    for (const auto& file : files) {
        const auto pack = loadPack(file);
        QVERIFY2(pack, pack ? "" : pack.error().text().c_str());
    }
    QVERIFY(packFiles("no/such/folder").empty());
}

void PackTest::leadSide_dominantSide_turnsLeadAndTrailRound()
{
    const auto serve = findPack("overhead-serve"), backhand = findPack("two-handed-backhand");
    QVERIFY(serve && backhand);
    QVERIFY(!serve->leadIsDom());
    QVERIFY(backhand->leadIsDom());
    // the front knee of a right-hander: left in a serve, right in a backhand
    QCOMPARE(resolve(serve->findMeasure("knee_flexion_load")->points[1], Hand::Right).side, BodySide::Left);
    QCOMPARE(resolve(backhand->findMeasure("knees_step")->points[1], Hand::Right).side, BodySide::Right);
    QCOMPARE(resolve(backhand->findMeasure("knees_step")->points[1], Hand::Left).side, BodySide::Left);
    QCOMPARE(usualTargetDirection(View::Side, Hand::Right, true), TargetDirection::Left);
}

void PackTest::drills_ofEveryFault_areTwoOrMore_oneWithoutKit()
{
    std::set<std::string> all;
    std::map<std::string, std::string> idByName; // on a plan two drills of one name cannot be told apart
    for (const auto& file : packFiles(shippedFolder("packs"))) {
        const auto pack = loadPack(file);
        QVERIFY2(pack, pack ? "" : pack.error().text().c_str());
        for (const auto& f : pack->faults) {
            const std::string place = pack->id + " " + f.id;
            QVERIFY2(f.drills.size() >= 2, place.c_str());
            QVERIFY2(
                std::any_of(f.drills.begin(), f.drills.end(), [&](const auto& id) { return pack->findDrill(id)->kit.empty(); }),
                place.c_str());
        }
        for (const auto& d : pack->drills) {
            QVERIFY2(d.daysAWeek <= 6, d.id.c_str()); // a day without is left
            QVERIFY2(d.minAge >= 5 && d.maxAge <= 99 && d.minutes <= 10, d.id.c_str());
            all.insert(d.id);
            QVERIFY2(idByName.emplace(d.name, d.id).first->second == d.id, d.name.c_str());
        }
        for (const auto& m : pack->measures)
            for (const auto& b : m.bands)
                QVERIFY2(b.evidence != Evidence::Papers || !b.of.empty(), (pack->id + " " + m.id).c_str());
    }
    QVERIFY2(all.size() >= 120, std::to_string(all.size()).c_str());
}

void PackTest::drill_readsKitDaysMinutesAges_andRefusesOthers_data()
{
    QTest::addColumn<QString>("change");
    QTest::addColumn<QString>("place");
    QTest::newRow("a kit that is not on the list") << R"({"kit": ["towel", "flying carpet"]})"
                                                   << "kit/1";
    QTest::newRow("eight days a week") << R"({"daysAWeek": 8})"
                                       << "daysAWeek";
    QTest::newRow("no time") << R"({"minutes": 0})"
                             << "minutes";
    QTest::newRow("ages upside down") << R"({"ages": [12, 9]})"
                                      << "ages";
    QTest::newRow("one age") << R"({"ages": [12]})"
                             << "ages";
}

void PackTest::drill_readsKitDaysMinutesAges_andRefusesOthers()
{
    QFETCH(QString, change);
    QFETCH(QString, place);
    auto root = *selfContainedPack(shippedFolder("packs") + "/bat-swing.json");
    auto& drill = root["drills"][0];
    drill.update(nlohmann::json::parse(R"({"kit": ["towel", "chair"], "daysAWeek": 4, "minutes": 6, "ages": [8, 12]})"));
    const auto pack = parsePack(root, "mine.json");
    QVERIFY2(pack, pack ? "" : pack.error().text().c_str());
    const Drill& d = pack->drills.front();
    QCOMPARE(d.kitWords(), std::string("towel and chair"));
    QCOMPARE(d.doseWords(), d.dose + "; 4 days a week, about 6 minutes");
    QVERIFY(d.isForAge(8.0) && d.isForAge(12.9) && !d.isForAge(13.0) && d.isForAge({}));
    drill["kit"] = "an old bat"; // as packs said it before
    QCOMPARE(parsePack(root, "mine.json")->drills.front().kitWords(), std::string("an old bat"));
    drill.update(nlohmann::json::parse(change.toStdString()));
    const auto broken = parsePack(root, "mine.json");
    QVERIFY(!broken);
    QCOMPARE(broken.error().place, "/drills/0/" + place.toStdString());
}

void PackTest::drillsFor_leavesOutThoseForOtherAges()
{
    const auto pack = findPack("two-handed-backhand");
    QVERIFY(pack);
    const Fault& fault = *pack->findFault("no_separation");
    const auto has = [&](double age) {
        const auto list = drillsFor(*pack, fault, age);
        return std::find(list.begin(), list.end(), "band_turn_long") != list.end();
    };
    QVERIFY(has(14) && !has(9));                        // a band is for ten and older
    QCOMPARE(drillsFor(*pack, fault, 2), fault.drills); // better any than none
}

void PackTest::detectors_areShared_andTravelWithAPackOfOnesOwn()
{
    const auto shipped = findPack("bat-swing");
    QVERIFY(shipped && shipped->pace);
    const auto whole = selfContainedPack(shipped->file);
    QVERIFY(whole && (*whole)["keyPositions"][0].contains("detector"));
    QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("bat-swing.json")).toStdString();
    writeFile(file, whole->dump());
    const auto own = loadPack(file);
    QVERIFY2(own, own ? "" : own.error().text().c_str());
    QCOMPARE(own->keyPositions, shipped->keyPositions);
    QVERIFY(own->pace == shipped->pace);
    for (const auto& f : packFiles(shippedFolder("packs"))) {
        const auto pack = loadPack(f);
        for (const auto& k : pack->keyPositions) {
            QVERIFY2(k.detector, (f + " " + k.id).c_str());
            for (const auto* d : {&k.detector, &k.fallback, &k.fromEnd, &k.fromAbove})
                QVERIFY2(!*d || ((*d)->votes.size() <= 1 && (*d)->delayMs == 0), (f + " " + k.id).c_str());
        }
    }
}

void PackTest::drills_areSharedByName()
{
    QTemporaryDir folder;
    const auto file = [&](const char* name) { return folder.filePath(QLatin1String(name)).toStdString(); };
    auto pack = nlohmann::json::parse(contentOf(findPack("bat-swing")->file));
    writeFile(file("own.json"), pack.dump());
    QVERIFY(loadPack(file("own.json"))); // those shipped with the program
    writeFile(file("drills.json"), R"({"format": "jolly-kestrel/drills", "version": 1, "drills": []})");
    const auto missing = loadPack(file("own.json"));
    QVERIFY(!missing);
    QVERIFY2(missing.error().text().find("drills.json") != std::string::npos, missing.error().text().c_str());
    QVERIFY(QFile::remove(folder.filePath(QStringLiteral("drills.json"))));
    QVERIFY(QFile::copy(QStringLiteral(KESTREL_SOURCE_DIR "/packs/drills.json"), folder.filePath(QStringLiteral("drills.json"))));
    const auto withDrills = loadPack(file("own.json"));
    QVERIFY2(withDrills, withDrills ? "" : withDrills.error().text().c_str());
    QVERIFY(!withDrills->drills.front().steps.empty());
    writeFile(file("drills.json"), "{ \"format\": \"jolly-kestrel/drills\", \"version\": 9 }");
    QVERIFY(!loadPack(file("own.json")));
}

KESTREL_TEST(PackTest)
#include "pack_test.moc"
