#include "support/markings.h"
#include "support/runner.h"

#include "support/coded_film.h"

#include "cli/run.h"
#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"

#include <QImage>
#include <QTemporaryDir>
#include <QtTest>
#include <nlohmann/json.hpp>

#include <sstream>

using namespace kestrel;
using namespace kestrel::test;

namespace {

struct Ran {
    int exitCode = 0;
    std::string out, err;
    nlohmann::json json() const { return nlohmann::json::parse(out, nullptr, false); }
};

Ran run(const std::vector<std::string>& words)
{
    std::ostringstream out, err;
    Ran r;
    r.exitCode = cli::run(words, out, err);
    r.out = out.str();
    r.err = err.str();
    return r;
}

} // namespace

class RunTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void badInput_exits2_withOneClearSentence_data();
    void badInput_exits2_withOneClearSentence();
    void help_namesEveryVerb();
    void filmInfo_isTheDocumentedJson();
    void filmFrame_isExactlyThatPicture();
    void filmTimes_isCsvOfEveryFrame();
    void simulateList_isTheDocumentedJson();
    void simulate_truthOnly_paintsNoFilm();
    void simulate_withFilm_theFilmFitsTheTruth();
    void read_isTheDocumentedJson();
    void read_filmedAtOnceFromTwoSides_turnsAreTrue();
    void read_schoolAndAge_changeTheBand();
    void review_severalMarkings_judgesTheTypicalOne();
    void showExample_headDrop_isNamedOrItsCause();
    void packsList_countsWhatIsThere();
    void positions_areFound_theCoachsStay();
    void mark_ofAPaintedFilm_canBeReviewed();
    void ground_twoPoints_byPlacesOfTheCourt();
    void follow_onePoint_fromWhereItWasMarkedByHand();
    void review_ofTwoMarkings_countsThem();
    void review_withPain_stopsAdvice();
    void read_positionOutOfOrder_saysWhy();
    void report_ofSeveralFilms_takesEachFromItsOwn();
    void packsDescribe_saysEverythingInWords();
    void packsCheck_goodAndBroken();
    void report_pdfAndHtml_fromAReview();
    void report_filmThatDoesNotFit_isDoneInPart();
    void output_neverHoldsNotANumber();
    void fullDisk_onStandardOutput_isSaid();

private:
    std::string path(const char* name) const { return m_folder.filePath(QString::fromLatin1(name)).toStdString(); }
    QTemporaryDir m_folder;
    std::string m_film, m_truth;
};

void RunTest::initTestCase()
{
    CodedFilm f;
    f.variableRate = true;
    m_film = f.write(m_folder.path().toStdString());
    QCOMPARE(run({"simulate", "--skill", "overhand-pitch", "--fault", "head_drop=1", "--view", "side", "--truth-only", "--out",
                  path("sim")})
                 .exitCode,
             0);
    m_truth = path("sim/truth.json");
    writeFile(path("text.mp4"), "not a film");
    writeFile(path("deep.json"), std::string(100'000, '['));
    writeFile(path("empty.json"), "");
    auto wrong = nlohmann::json::parse(contentOf(m_truth));
    wrong["marks"][5]["x"] = "left";
    writeFile(path("wrong.json"), wrong.dump());
    wrong = nlohmann::json::parse(contentOf(m_truth));
    wrong["skill"] = "curling";
    writeFile(path("other_skill.json"), wrong.dump());
}

void RunTest::badInput_exits2_withOneClearSentence_data()
{
    QTest::addColumn<QString>("words"); // "~" stands for the test's folder
    QTest::addColumn<QString>("says");
    const auto row = [](const char* words, const char* says) {
        QTest::newRow(words) << QString::fromLatin1(words) << QString::fromLatin1(says);
    };
    row("sing", "no verb \"sing\"");
    row("film", "no verb");
    row("film info", "missing");
    row("film info ~/gone.mp4", "gone.mp4");
    row("film info ~/text.mp4", "text.mp4");
    row("film info ~", "folder");
    row("film info ~/clip.mp4 more", "too many");
    row("film info ~/clip.mp4 --colour red", "--colour");
    row("film frame ~/clip.mp4 --out ~/f.png", "--index");
    row("film frame ~/clip.mp4 --index 3", "--out");
    row("film frame ~/clip.mp4 --index 90 --out ~/f.png", "89");
    row("film frame ~/clip.mp4 --index -1 --out ~/f.png", "--index");
    row("film frame ~/clip.mp4 --index 1.5 --out ~/f.png", "whole");
    row("film frame ~/clip.mp4 --index many --out ~/f.png", "many");
    row("film frame ~/clip.mp4 --index 3 --out /proc/none/f.png", "f.png");
    row("film frame ~/clip.mp4 --index 3 --out ~/f.nonsense", "f.nonsense");
    row("film times ~/gone.mp4", "gone.mp4");
    row("simulate --out ~/x", "--skill");
    row("simulate --skill overhand-pitch", "--out");
    row("simulate --skill juggling --out ~/x", "overhand-pitch");
    row("simulate --skill overhand-pitch --fault sneeze --out ~/x", "head_drop");
    row("simulate --skill overhand-pitch --fault head_drop=much --out ~/x", "head_drop=1");
    row("simulate --skill overhand-pitch --fault head_drop=9 --out ~/x", "1.5");
    row("simulate --skill overhand-pitch --view above --out ~/x", "diagonal or overhead");
    row("simulate --skill overhand-pitch --sex x --out ~/x", "girl or boy");
    row("simulate --skill overhand-pitch --exposure 0.5 --out ~/x", "exposure");
    row("simulate --skill overhand-pitch --size big --out ~/x", "1280x720");
    row("simulate --skill overhand-pitch --size 641x480 --out ~/x", "even");
    row("simulate --skill overhand-pitch --fps nan --out ~/x", "--fps");
    row("simulate --skill overhand-pitch --hand both --out ~/x", "right or left");
    row("simulate --skill overhand-pitch --height 17 --out ~/x", "--height");
    row("simulate --skill overhand-pitch --truth-only --out /proc/none/x", "/proc/none/x");
    row("read --marking ~/sim/truth.json", "--pack");
    row("read --pack overhand-pitch", "--marking");
    row("read --pack curling --marking ~/sim/truth.json", "overhand-pitch");
    row("read --pack overhand-pitch --marking ~/gone.json", "gone.json");
    row("read --pack overhand-pitch --marking ~/empty.json", "empty");
    row("read --pack overhand-pitch --marking ~/deep.json", "deep.json");
    row("read --pack overhand-pitch --marking ~/wrong.json", "/marks/5/x");
    row("read --pack overhand-pitch --marking ~/other_skill.json", "curling");
    row("read --pack overhand-pitch --marking ~/sim/truth.json --school old", "tall, low-drive");
    row("read --pack overhand-pitch --marking ~/sim/truth.json --age none", "--age");
    row("read --pack overhand-pitch --marking ~/sim/truth.json --marking ~/sim/truth.json", "one --marking");
    row("review --pack ~/wrong.json --marking ~/sim/truth.json", "jolly-kestrel/pack");
    row("review --pack overhand-pitch --marking ~/sim/truth.json --not-yet juggling", "no fault \"juggling\"");
    row("positions --pack overhand-pitch", "--marking");
    row("ground --marking ~/sim/truth.json --from 1,2 --to 3,4", "0 are marked");
    row("follow ~/gone.mp4 --marking ~/sim/truth.json --landmark tail --out ~/m.json", "ankle.left");
    row("follow ~/gone.mp4 --marking ~/sim/truth.json --landmark ball --out ~/m.json", "by hand");
    row("mark", "film file");
    row("mark ~/gone.mp4 --skill overhand-pitch --view side --out ~/m.json", "gone.mp4");
    row("mark ~/gone.mp4 --skill overhand-pitch --view above --out ~/m.json", "--view");
    row("mark ~/gone.mp4 --skill overhand-pitch --view side --player 1,2,3 --out ~/m.json", "--player");
    row("positions --pack overhand-pitch --marking ~/gone.json", "gone.json");
    row("packs check", "missing");
    row("packs check ~/gone.json", "gone.json");
    row("packs check ~/deep.json", "deep.json");
    row("report --out ~/p.pdf", "--review");
    row("report --review ~/sim/truth.json --out ~/p.pdf", "jolly-kestrel/review");
    row("report --review ~/gone.json --out ~/p.pdf", "gone.json");
    row("demo", "--out");
    row("demo --scenario ~/sim/truth.json --out ~/d", "jolly-kestrel/demo");
}

void RunTest::badInput_exits2_withOneClearSentence()
{
    QFETCH(QString, words);
    QFETCH(QString, says);
    std::vector<std::string> list;
    for (auto w : words.split(QLatin1Char(' ')))
        list.push_back(w.replace(QLatin1Char('~'), m_folder.path()).toStdString());
    const Ran r = run(list);
    QCOMPARE(r.exitCode, 2);
    QVERIFY2(r.out.empty(), r.out.c_str());
    QVERIFY2(QString::fromStdString(r.err).contains(says), r.err.c_str());
    QVERIFY(r.err.size() > 15 && r.err.back() == '\n');
}

void RunTest::help_namesEveryVerb()
{
    const Ran r = run({"help"});
    QCOMPARE(r.exitCode, 0);
    for (const auto* verb :
         {"film info", "film frame", "film times", "simulate", "read", "review", "packs list", "packs check", "report"})
        QVERIFY2(r.out.find(verb) != std::string::npos, verb);
    QCOMPARE(run({}).exitCode, 2);
    QCOMPARE(run({"--version"}).exitCode, 0);
}

void RunTest::filmInfo_isTheDocumentedJson()
{
    const Ran r = run({"film", "info", m_film});
    QCOMPARE(r.exitCode, 0);
    const auto j = r.json();
    QCOMPARE(j["frames"].get<int>(), 90);
    QCOMPARE(j["width"].get<int>(), 320);
    QCOMPARE(j["height"].get<int>(), 240);
    QCOMPARE(j["rotation"].get<int>(), 0);
    QCOMPARE(j["variableRate"].get<bool>(), true);
    QCOMPARE(j["codec"].get<std::string>(), std::string("h264"));
    QVERIFY(j["durationSeconds"].get<double>() > 3 && j["frameRate"].get<double>() > 15);
    QVERIFY(j["warnings"].is_array());
}

void RunTest::filmFrame_isExactlyThatPicture()
{
    for (const int n : {0, 41, 89}) {
        const std::string out = path("frame.png");
        QCOMPARE(run({"film", "frame", m_film, "--index", std::to_string(n), "--out", out}).exitCode, 0);
        const QImage image = QImage(QString::fromStdString(out)).convertToFormat(QImage::Format_RGB32);
        media::Picture p;
        p.size = {image.width(), image.height()};
        p.stride = static_cast<int>(image.bytesPerLine());
        std::shared_ptr<std::uint8_t[]> pixels(new std::uint8_t[static_cast<std::size_t>(image.sizeInBytes())]);
        std::copy(image.constBits(), image.constBits() + image.sizeInBytes(), pixels.get());
        p.pixels = pixels;
        QCOMPARE(numberIn(p).value_or(-1), n);
    }
}

void RunTest::filmTimes_isCsvOfEveryFrame()
{
    const Ran r = run({"film", "times", m_film});
    QCOMPARE(r.exitCode, 0);
    const auto lines = QString::fromStdString(r.out).trimmed().split(QLatin1Char('\n'));
    QCOMPARE(lines.size(), 91);
    QCOMPARE(lines[0], QStringLiteral("index,seconds"));
    QCOMPARE(lines[1], QStringLiteral("0,0.000000"));
    CodedFilm f;
    f.variableRate = true;
    for (int n = 0; n < 90; ++n)
        QVERIFY(std::abs(lines[n + 1].section(QLatin1Char(','), 1).toDouble() - f.shownAt(n).seconds()) < 1e-4);
}

void RunTest::simulateList_isTheDocumentedJson()
{
    const Ran r = run({"simulate", "--list"});
    QCOMPARE(r.exitCode, 0);
    const auto skills = r.json();
    QCOMPARE(skills["skills"].size(), std::size_t{11});
    for (const auto& skill : skills["skills"]) {
        const auto pack = findPack(skill["id"].get<std::string>());
        QVERIFY2(pack, skill["id"].get<std::string>().c_str());
        QCOMPARE(skill["views"].size(), std::size_t{6});
        QVERIFY(skill["faults"].size() >= 6);
        for (const auto& f : skill["faults"])
            for (const auto& m : f["disturbs"])
                QVERIFY2(pack->findMeasure(m.get<std::string>()), m.get<std::string>().c_str());
    }
}

void RunTest::simulate_truthOnly_paintsNoFilm()
{
    QVERIFY(QFile::exists(QString::fromStdString(m_truth)));
    QVERIFY(!QFile::exists(QString::fromStdString(path("sim/clip.mp4"))));
    QVERIFY(loadMarking(m_truth));
}

void RunTest::simulate_withFilm_theFilmFitsTheTruth()
{
    const Ran r = run({"simulate", "--skill", "overhand-pitch", "--view", "rear", "--hand", "left", "--variant", "windup",
                       "--fps", "30", "--size", "320x180", "--out", path("film")});
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    const auto truth = loadMarking(path("film/truth.json"));
    const auto info = run({"film", "info", path("film/clip.mp4")}).json();
    QCOMPARE(info["frames"].get<std::int64_t>(), truth->film.frames);
    QCOMPARE(info["width"].get<int>(), truth->film.width);
    QCOMPARE(truth->athlete.hand, Hand::Left);
    QCOMPARE(truth->variant, std::string("windup"));
}

void RunTest::read_isTheDocumentedJson()
{
    const Ran r = run({"read", "--pack", "overhand-pitch", "--marking", m_truth});
    QCOMPARE(r.exitCode, 0);
    const auto list = r.json()["readings"];
    QCOMPARE(list.size(), pitchPack().measures.size());
    for (const auto& x : list) {
        QVERIFY(pitchPack().findMeasure(x["measure"].get<std::string>()));
        QVERIFY(findVerdict(x["verdict"].get<std::string>()));
        QCOMPARE(x["band"].size(), std::size_t{2});
        QCOMPARE(x["value"].is_null(), x["uncertainty"].is_null());
        QVERIFY(!x["why"].get<std::string>().empty());
    }
    QVERIFY(run({"read", "--pack", pitchPack().file, "--marking", m_truth}).out == r.out); // a pack by file is the same pack
}

void RunTest::read_filmedAtOnceFromTwoSides_turnsAreTrue()
{
    QCOMPARE(run({"simulate", "--skill", "overhand-pitch", "--view", "rear", "--truth-only", "--out", path("behind")}).exitCode,
             0);
    QCOMPARE(run({"simulate", "--skill", "overhand-pitch", "--view", "side", "--truth-only", "--out", path("beside")}).exitCode,
             0);
    const std::vector<std::string> words{"read",        "--pack", "overhand-pitch", "--marking", path("beside/truth.json"),
                                         "--other-side"};
    auto two = words, same = words;
    two.push_back(path("behind/truth.json"));
    same.push_back(path("beside/truth.json"));
    int fromTwo = 0;
    const auto readings = run(two).json()["readings"];
    for (const auto& r : readings)
        fromTwo += r.value("fromTwoViews", false) && !r["value"].is_null();
    QVERIFY(fromTwo >= 4); // the separation, and what else is seen only from above
    const Ran refused = run(same);
    QCOMPARE(refused.exitCode, 2);
    QVERIFY2(refused.err.find("adds nothing") != std::string::npos, refused.err.c_str());
    two.insert(two.end(), {"--other-side", path("behind/truth.json")});
    QCOMPARE(run(two).exitCode, 2); // more other sides than markings
}

void RunTest::read_schoolAndAge_changeTheBand()
{
    const auto bandOf = [&](const std::vector<std::string>& more) {
        std::vector<std::string> words{"read", "--pack", "overhand-pitch", "--marking", m_truth};
        words.insert(words.end(), more.begin(), more.end());
        std::map<std::string, nlohmann::json> bands;
        const auto root = run(words).json();
        for (const auto& x : root["readings"])
            bands[x["measure"].get<std::string>()] = x["band"];
        return bands;
    };
    QCOMPARE(bandOf({})["head_dip"][1].get<double>(), 8.0);
    QCOMPARE(bandOf({"--school", "low-drive"})["head_dip"][1].get<double>(), 14.0);
    QCOMPARE(bandOf({"--age", "8"})["stride_length"][0].get<double>(), 62.0);
    QVERIFY(bandOf({})["forearm_up_strike"][1].is_null());
}

void RunTest::review_severalMarkings_judgesTheTypicalOne()
{
    std::vector<std::string> words{"review", "--pack", "overhand-pitch"};
    for (const int seed : {1, 2, 3}) { // two good ones and one with a fault
        const std::string folder = path("rep") + std::to_string(seed);
        std::vector<std::string> make{"simulate",           "--skill",      "overhand-pitch", "--seed",
                                      std::to_string(seed), "--truth-only", "--out",          folder};
        if (seed == 3)
            make.insert(make.end(), {"--fault", "short_stride"});
        QCOMPARE(run(make).exitCode, 0);
        words.insert(words.end(), {"--marking", folder + "/truth.json"});
    }
    const Ran r = run(words);
    QCOMPARE(r.exitCode, 0);
    const auto json = r.json();
    QVERIFY(json["oneThing"].is_null());
    for (const auto& x : json["readings"])
        if (x["measure"] == "stride_length")
            QVERIFY(x["value"].get<double>() > 68); // the outlier does not decide
}

void RunTest::showExample_headDrop_isNamedOrItsCause()
{
    const Ran r = run({"review", "--pack", "overhand-pitch", "--marking", m_truth});
    QCOMPARE(r.exitCode, 0);
    const auto thing = r.json()["oneThing"];
    QVERIFY(thing["fault"] == "head_drop" || thing["fault"] == "trail_leg_collapse");
    QVERIFY(thing["cue"]["teen"].get<std::string>().size() > 5);
    QVERIFY(pitchPack().findDrill(thing["drills"][0].get<std::string>()));
    QCOMPARE(run({"simulate", "--skill", "overhand-pitch", "--view", "side", "--truth-only", "--out", path("calm")}).exitCode, 0);
    const auto calm = run({"review", "--pack", "overhand-pitch", "--marking", path("calm/truth.json")}).json();
    QVERIFY(calm["oneThing"].is_null());
    for (const auto& f : calm["faults"])
        QVERIFY(f["verdict"] != "off");
}

void RunTest::packsList_countsWhatIsThere()
{
    const Ran r = run({"packs", "list"});
    QCOMPARE(r.exitCode, 0);
    const auto root = r.json();
    QCOMPARE(root["packs"].size(), std::size_t{11});
    const auto found =
        std::find_if(root["packs"].begin(), root["packs"].end(), [](const auto& e) { return e["id"] == "overhand-pitch"; });
    QVERIFY(found != root["packs"].end());
    const auto& p = *found;
    QCOMPARE(p["measures"].get<std::size_t>(), pitchPack().measures.size());
    QCOMPARE(p["keyPositions"].get<int>(), 9);
}

/// Found on the truth's marks, they lie where the truth has them; a coach's own key position stays where it is.
void RunTest::mark_ofAPaintedFilm_canBeReviewed()
{
    const Ran painted = run(
        {"simulate", "--skill", "overhand-pitch", "--view", "side", "--fps", "30", "--size", "640x360", "--out", path("auto")});
    QCOMPARE(painted.exitCode, 0);
    const Ran r = run({"mark", path("auto/clip.mp4"), "--skill", "overhand-pitch", "--view", "side", "--hand", "right",
                       "--height", "1.6", "--quick", "--out", path("auto/marked.json")});
    QVERIFY2(r.exitCode == 0 || r.exitCode == 3, r.err.c_str());
    const auto json = nlohmann::json::parse(r.out);
    QVERIFY(json["seen"] == json["frames"] && json["marks"].get<int>() > 20 * json["frames"].get<int>() - 40);
    const auto marking = loadMarking(path("auto/marked.json"));
    QVERIFY2(marking, marking ? "" : marking.error().text().c_str());
    QVERIFY(marking->scene.scale && marking->skill == "overhand-pitch");
    // the athlete is as tall as said: hip to ankle on the film is 0.491 of it
    QVERIFY(std::abs(marking->scene.scale->metres - 0.491 * 1.6) < 1e-6);
    const Ran review = run({"review", "--pack", "overhand-pitch", "--marking", path("auto/marked.json")});
    QCOMPARE(review.exitCode, 0);
    int read = 0;
    const auto judged = nlohmann::json::parse(review.out);
    for (const auto& reading : judged["readings"])
        read += !reading["value"].is_null();
    QVERIFY2(read > 5, qPrintable(QString::number(read)));
    // looked for again on the same marks, key positions are where they were proposed
    const Ran again = run({"positions", "--pack", "overhand-pitch", "--marking", path("auto/marked.json")});
    const auto placed = nlohmann::json::parse(again.out)["positions"];
    QCOMPARE(placed.size(), json["positions"].size());
    for (std::size_t i = 0; i < placed.size(); ++i) {
        QCOMPARE(placed[i]["keyPosition"], json["positions"][i]["keyPosition"]);
        QCOMPARE(placed[i]["frame"].is_null(), json["positions"][i]["frame"].is_null());
        if (!placed[i]["frame"].is_null())
            QVERIFY(std::abs(placed[i]["frame"].get<double>() - json["positions"][i]["frame"].get<double>()) < 0.1);
    }
}

void RunTest::ground_twoPoints_byPlacesOfTheCourt()
{
    auto marking = loadMarking(path("sim/truth.json"));
    QVERIFY(marking);
    // as a level camera 2 m up sees the court that looks along it, 1000 pixels of focal length
    const auto seen = [](double x, double y) { return ImagePoint{640 + 1000 * x / y, 360 + 1000 * 2 / y}; };
    for (const auto& [x, y] : {std::pair{-3.0, 6.0}, {3.0, 6.0}, {3.0, 12.0}, {-3.0, 12.0}})
        marking->scene.ground.push_back({seen(x, y), x, y});
    const Landmark ankle{Part::Ankle, BodySide::Left, {}};
    setMark(*marking, {FrameIndex(3), ankle, seen(0, 7), 2, Source::Coach, true});
    QVERIFY(saveMarking(*marking, path("court.json")));
    const Ran r =
        run({"ground", "--marking", path("court.json"), "--from", "ankle.left@3", "--to", "912.7273,541.8182"}); // (3, 11)
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    const auto said = nlohmann::json::parse(r.out);
    QVERIFY(std::abs(said["metres"].get<double>() - 5) < 0.01); // 3 and 4 m
    QVERIFY(said["sigma"].get<double>() > 0.01 && said["sigma"].get<double>() < 0.5);
    QVERIFY(said["caution"].get<std::string>().find("in the air") != std::string::npos);
    QVERIFY(run({"ground", "--marking", path("court.json"), "--from", "ankle.left@4000", "--to", "1,700"})
                .err.find("Nobody marked") != std::string::npos);
    QVERIFY(run({"ground", "--marking", path("court.json"), "--from", "640;700", "--to", "1,700"}).err.find("is neither") !=
            std::string::npos);
    QVERIFY(run({"ground", "--marking", path("court.json"), "--from", "640,10", "--to", "1,700"}).err.find("horizon") !=
            std::string::npos);
}

void RunTest::follow_onePoint_fromWhereItWasMarkedByHand()
{
    const Ran painted = run(
        {"simulate", "--skill", "overhand-pitch", "--view", "side", "--fps", "30", "--size", "640x360", "--out", path("way")});
    QCOMPARE(painted.exitCode, 0);
    const Marking truth = *loadMarking(path("way/truth.json"));
    const Landmark ankle = *findLandmark("ankle.right");
    Marking mine = truth;
    Mark own = *findMark(truth, FrameIndex(10), ankle);
    own.source = Source::Coach;
    mine.marks = {own};
    QVERIFY(saveMarking(mine, path("mine.json")));
    const Ran r = run({"follow", path("way/clip.mp4"), "--marking", path("mine.json"), "--landmark", "ankle.right", "--out",
                       path("followed.json")});
    QVERIFY2(r.exitCode == 0 || r.exitCode == 3, r.err.c_str());
    const Marking followed = *loadMarking(path("followed.json"));
    QCOMPARE(static_cast<int>(followed.marks.size()), nlohmann::json::parse(r.out)["followed"].get<int>() + 1);
    QCOMPARE(findMark(followed, FrameIndex(10), ankle)->source, Source::Coach);
    for (int f = 5; f < 20; ++f) { // the foot stands
        const Mark* m = findMark(followed, FrameIndex(f), ankle);
        QVERIFY(m && (m->at - findMark(truth, FrameIndex(f), ankle)->at).length() < 3);
    }
}

void RunTest::positions_areFound_theCoachsStay()
{
    auto marking = *loadMarking(path("sim/truth.json"));
    const double strike = findEvent(marking, "strike")->frame.value;
    marking.events = {{"lift", FramePosition(3.0), 0.5, Source::Coach}};
    QVERIFY(saveMarking(marking, path("bare.json")));
    const Ran r = run({"positions", "--pack", "overhand-pitch", "--marking", path("bare.json"), "--out", path("placed.json")});
    QCOMPARE(r.exitCode, 0);
    QCOMPARE(nlohmann::json::parse(r.out)["positions"].size(), std::size_t{9});
    const auto placed = loadMarking(path("placed.json"));
    QVERIFY(placed);
    QVERIFY(std::abs(findEvent(*placed, "strike")->frame.value - strike) < 4);
    QCOMPARE(findEvent(*placed, "lift")->frame.value, 3.0);
}

void RunTest::review_ofTwoMarkings_countsThem()
{
    const Ran r = run({"review", "--pack", "overhand-pitch", "--marking", path("sim/truth.json"), "--marking",
                       path("sim/truth.json"), "--tasks", "2"});
    QCOMPARE(r.exitCode, 0);
    const auto review = nlohmann::json::parse(r.out);
    QCOMPARE(review["repetitions"].get<int>(), 2);
    QVERIFY(review["sequence"]["sentence"].get<std::string>().find("side view") != std::string::npos);
    QVERIFY(review["remarks"].dump().find("2 of 2 repetitions") != std::string::npos);
}

void RunTest::review_withPain_stopsAdvice()
{
    const Ran r =
        run({"review", "--pack", "overhand-pitch", "--marking", m_truth, "--pain", "elbow", "--pain", "back", "--tasks", "3"});
    QCOMPARE(r.exitCode, 0);
    const auto json = r.json();
    QVERIFY(json["oneThing"].is_null() && json["alsoNow"].empty() && json["later"].empty());
    QVERIFY((json["pain"] == nlohmann::json{"elbow", "back"}));
    QVERIFY(json["stop"].get<std::string>().find("licensed clinician") != std::string::npos);
    QVERIFY(json["readings"].size() > 10); // what was seen stays
    writeFile(path("pain.json"), r.out);
    QCOMPARE(run({"report", "--review", path("pain.json"), "--out", path("pain.html")}).exitCode, 0);
    const std::string page = contentOf(path("pain.html"));
    QVERIFY(page.find("licensed clinician") != std::string::npos && page.find("The one thing") == std::string::npos);
    QVERIFY(page.find("garden") == std::string::npos); // no drill
    const Ran wrong = run({"review", "--pack", "overhand-pitch", "--marking", m_truth, "--pain", "feelings"});
    QCOMPARE(wrong.exitCode, 2);
    QVERIFY2(wrong.err.find("--pain is one of") != std::string::npos, wrong.err.c_str());
}

void RunTest::read_positionOutOfOrder_saysWhy()
{
    auto json = nlohmann::json::parse(contentOf(m_truth));
    for (auto& e : json["events"])
        if (e["keyPosition"] == "strike")
            e["frame"] = 0;
    writeFile(path("slip.json"), json.dump());
    const auto readings = run({"read", "--pack", "overhand-pitch", "--marking", path("slip.json")}).json()["readings"];
    int said = 0;
    for (const auto& r : readings)
        if (r["keyPosition"] == "strike" && r["verdict"] != "not_from_this_view") {
            QCOMPARE(r["verdict"].get<std::string>(), std::string("not_marked"));
            said += r["why"].get<std::string>().find("out of the movement's order") != std::string::npos;
        }
    QVERIFY(said > 2);
}

/// Two films of one name in two folders: each picture of the page comes from the film it was read on.
void RunTest::report_ofSeveralFilms_takesEachFromItsOwn()
{
    std::vector<std::string> review{"review", "--pack", "overhand-pitch"}, report{"report", "--out", path("both.html")};
    for (const char* seed : {"1", "2"}) {
        const std::string folder = path("film") + seed;
        QCOMPARE(run({"simulate", "--skill", "overhand-pitch", "--fault", "head_drop=1", "--fps", "60", "--size", "320x180",
                      "--seed", seed, "--out", folder})
                     .exitCode,
                 0);
        review.insert(review.end(), {"--marking", folder + "/truth.json"});
        report.insert(report.end(), {"--film", folder + "/clip.mp4"});
    }
    const Ran r = run(review);
    QCOMPARE(r.exitCode, 0);
    QCOMPARE(r.json()["films"].size(), std::size_t{2});
    QVERIFY(r.json()["films"][0] != r.json()["films"][1]);
    writeFile(path("both.json"), r.out);
    report.insert(report.end(), {"--review", path("both.json")});
    const Ran page = run(report);
    QVERIFY2(page.exitCode == 0, page.err.c_str());
    QVERIFY(contentOf(path("both.html")).find("2 repetitions on 2 clips") != std::string::npos);
}

void RunTest::packsDescribe_saysEverythingInWords()
{
    const Ran r = run({"packs", "describe", "overhead-serve"});
    QCOMPARE(r.exitCode, 0);
    const auto pack = findPack("overhead-serve");
    for (const auto& k : pack->keyPositions)
        QVERIFY2(r.out.find("**" + k.name + "**") != std::string::npos, k.id.c_str());
    for (const auto& m : pack->measures)
        QVERIFY2(r.out.find("| " + m.name) != std::string::npos, m.id.c_str());
    for (const auto& f : pack->faults)
        QVERIFY2(r.out.find(f.cue.teen) != std::string::npos, f.id.c_str());
    for (const auto& d : pack->drills)
        QVERIFY2(r.out.find("### " + d.name) != std::string::npos, d.id.c_str());
    QVERIFY(r.out.find("45 to 85°") != std::string::npos); // with its unit, once
    for (const auto* words : {"12:20 to 1:10 on the clock", "(age under 10)", "(age from 19)", "reported, no band", "(pinpoint)",
                              "Does the front foot touch the line"})
        QVERIFY2(r.out.find(words) != std::string::npos, words);
    QVERIFY(r.out.find("Found by") == std::string::npos); // how the program finds a position is no coach's business
    QCOMPARE(run({"packs", "describe", "juggling"}).exitCode, 2);
}

void RunTest::packsCheck_goodAndBroken()
{
    const Ran good = run({"packs", "check", pitchPack().file});
    QCOMPARE(good.exitCode, 0);
    QVERIFY(good.json()["mistakes"].empty());
    auto broken = nlohmann::json::parse(contentOf(pitchPack().file));
    broken["measures"][0]["kind"] = "wobble";
    broken["faults"][0]["drills"][0] = "sleep";
    writeFile(path("broken.json"), broken.dump());
    const Ran bad = run({"packs", "check", path("broken.json")});
    QCOMPARE(bad.exitCode, 2);
    QCOMPARE(bad.json()["mistakes"].size(), std::size_t{2});
    QVERIFY(bad.err.find("/measures/0/kind") != std::string::npos && bad.err.find("/faults/0/drills/0") != std::string::npos);
}

void RunTest::report_pdfAndHtml_fromAReview()
{
    writeFile(path("review.json"), run({"review", "--pack", "overhand-pitch", "--marking", m_truth}).out);
    for (const auto* name : {"page.pdf", "page.html"}) {
        const Ran r = run({"report", "--review", path("review.json"), "--out", path(name)});
        QVERIFY2(r.exitCode == 0, r.err.c_str());
        QVERIFY(contentOf(path(name)).size() > 10'000);
    }
    QVERIFY(contentOf(path("page.pdf")).rfind("%PDF", 0) == 0);
    QVERIFY(contentOf(path("page.html")).find("The one thing") != std::string::npos);
    QCOMPARE(run({"report", "--review", path("review.json"), "--out", path("page.doc")}).exitCode, 2);
    QCOMPARE(run({"report", "--review", path("review.json"), "--film", path("text.mp4"), "--out", path("p.pdf")}).exitCode, 2);
}

void RunTest::report_filmThatDoesNotFit_isDoneInPart()
{
    writeFile(path("review.json"), run({"review", "--pack", "overhand-pitch", "--marking", m_truth}).out);
    const Ran r = run({"report", "--review", path("review.json"), "--film", m_film, "--out",
                       path("part.html")}); // 90 frames, the strike is at 417
    QCOMPARE(r.exitCode, 3);
    QVERIFY2(r.err.find("line drawing") != std::string::npos, r.err.c_str());
    QVERIFY(QFile::exists(QString::fromStdString(path("part.html"))));
}

void RunTest::output_neverHoldsNotANumber()
{
    auto truth = nlohmann::json::parse(contentOf(m_truth));
    truth["athlete"].erase("heightMetres");
    truth["scene"].erase("scale");
    truth["marks"] = nlohmann::json::array();
    writeFile(path("bare.json"), truth.dump());
    for (const auto* verb : {"read", "review"}) {
        const Ran r = run({verb, "--pack", "overhand-pitch", "--marking", path("bare.json")});
        QCOMPARE(r.exitCode, 0);
        QVERIFY(!r.json().is_discarded());
        for (const auto* word : {"nan", "inf", "NaN", "Infinity"})
            QVERIFY(r.out.find(std::string(": ") + word) == std::string::npos);
    }
}

void RunTest::fullDisk_onStandardOutput_isSaid()
{
    std::ostringstream out, err;
    out.setstate(std::ios::badbit); // what a full disk or a closed pipe leaves behind
    QCOMPARE(cli::run({"packs", "list"}, out, err), 2);
    QVERIFY(err.str().find("standard output") != std::string::npos);
}

KESTREL_TEST(RunTest)
#include "run_test.moc"
