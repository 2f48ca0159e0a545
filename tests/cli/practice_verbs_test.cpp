// Plan, workload, match and sum on the command line.

#include "support/markings.h"
#include "support/runner.h"

#include "cli/run.h"
#include "core/scene/marking_json.h"

#include <QTemporaryDir>
#include <QtTest>

#include <nlohmann/json.hpp>

#include <cmath>
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

class PracticeVerbsTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void plan_everyEnding_andAnew();
    void workload_asTheBookSays();
    void match_scoreTallyPage();
    void match_simulated_isFound();
    void sum_listAndEach();
    void sum_withoutAir_isTheClosedForm();
    void review_keepsTheLastTask();
    void badInput_exits2_data();
    void badInput_exits2();

private:
    std::string file(const std::string& name) const { return m_folder.filePath(QString::fromStdString(name)).toStdString(); }
    QTemporaryDir m_folder;
};

void PracticeVerbsTest::initTestCase()
{
    auto two = pitch(View::Side, {"head_drop"});
    two.motion.faults = {{"head_drop", 1.2}, {"stiff_front_leg", 1.0}};
    QVERIFY(saveMarking(simulated(two).truth, file("truth.json")));
    writeFile(file("review.json"),
              run({"review", "--pack", "overhand-pitch", "--marking", file("truth.json"), "--tasks", "2"}).out);
    writeFile(file("pain.json"),
              run({"review", "--pack", "overhand-pitch", "--marking", file("truth.json"), "--pain", "elbow"}).out);
    writeFile(file("book.json"), R"({"format":"jolly-kestrel/book","version":1,"birthDate":"2014-03-02","days":[
        {"date":"2026-11-20","counts":{"pitch":52,"serve":0},"catcher":false,"pain":[],"effort":6}]})");
    writeFile(file("match.json"),
              R"({"format":"jolly-kestrel/match","version":1,"sport":"table-tennis","bestOf":5,"players":["Ada","Bo"],
        "firstServer":"Ada","rallies":[{"won":"Bo","how":"error_net","serve":"backspin_short","strokes":["serve","push","backhand"],
        "attacking":false,"moved":true,"from":12.4,"to":17.9},{"won":"Ada"},{"won":"Ada"}]})");
    writeFile(file("unknown.json"),
              R"({"format":"jolly-kestrel/match","version":1,"sport":"curling","players":["A","B"],"rallies":[]})");
}

void PracticeVerbsTest::plan_everyEnding_andAnew()
{
    const std::vector<std::string> words{"plan",
                                         "--review",
                                         file("review.json"),
                                         "--pack",
                                         "overhand-pitch",
                                         "--start",
                                         "2026-11-21",
                                         "--days",
                                         "mon,wed,sat",
                                         "--weeks",
                                         "3",
                                         "--kit",
                                         "ball,towel",
                                         "--space",
                                         "garden",
                                         "--minutes",
                                         "15",
                                         "--book",
                                         file("book.json"),
                                         "--player",
                                         "Ada"};
    for (const char* name : {"p.json", "p.ics", "p.pdf", "p.html", "p.png"}) {
        auto all = words;
        all.insert(all.end(), {"--out", file(name)});
        const auto r = run(all);
        QVERIFY2(r.exitCode == 0, r.err.c_str());
        QVERIFY(contentOf(file(name)).size() > 500);
        const auto plan = r.json();
        QCOMPARE(plan["format"].get<std::string>(), std::string("jolly-kestrel/plan"));
        QCOMPARE(plan["sessions"].size(), std::size_t{9});
        QCOMPARE(plan["sessions"][0]["date"].get<std::string>(), std::string("2026-11-21")); // a Saturday
        for (const auto& s : plan["sessions"])
            QVERIFY(s["minutes"].get<double>() <= 15);
        QVERIFY(plan["refilm"]["date"].get<std::string>() >= "2026-12-12");
    }
    auto again = words;
    *std::find(again.begin(), again.end(), "mon,wed,sat") = "sat";
    again.insert(again.end(), {"--previous", file("p.json"), "--today", "2026-11-26", "--out", file("again.ics")});
    const auto r = run(again);
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    QCOMPARE(r.json()["sequence"].get<int>(), 1);
    QVERIFY(!r.json()["dropped"].empty());
    QVERIFY(contentOf(file("again.ics")).find("STATUS:CANCELLED") != std::string::npos);
}

void PracticeVerbsTest::workload_asTheBookSays()
{
    const auto on = [&](const char* date) { return run({"workload", "--book", file("book.json"), "--on", date}).json(); };
    auto w = on("2026-11-20");
    QCOMPARE(w["today"]["count"].get<int>(), 52);
    QCOMPARE(w["today"]["limit"].get<int>(), 85);
    QCOMPARE(w["today"]["left"].get<int>(), 33);
    QCOMPARE(w["restUntil"].get<std::string>(), std::string("2026-11-23"));
    QCOMPARE(w["nextAllowed"].get<std::string>(), std::string("2026-11-24"));
    QVERIFY(w["warnings"].empty());
    w = on("2026-11-22");
    QCOMPARE(w["warnings"][0]["kind"].get<std::string>(), std::string("rest"));
    w = on("2026-11-24");
    QVERIFY(w["restUntil"].is_null());
    const auto older = run({"workload", "--book", file("book.json"), "--on", "2026-11-20", "--age", "17"}).json();
    QCOMPARE(older["today"]["limit"].get<int>(), 105);
    QVERIFY(older["rule"].get<std::string>().find("decides") != std::string::npos);
}

void PracticeVerbsTest::match_scoreTallyPage()
{
    const auto score = run({"match", "score", "--log", file("match.json")}).json();
    QCOMPARE(score["current"]["Ada"].get<int>(), 2);
    QCOMPARE(score["current"]["Bo"].get<int>(), 1);
    QCOMPARE(score["server"].get<std::string>(), std::string("Bo"));
    QVERIFY(score["gamePoint"].is_null() && score["winner"].is_null() && !score["over"].get<bool>() && score["problems"].empty());
    const auto tally = run({"match", "tally", "--log", file("match.json"), "--other", file("match.json")}).json();
    QVERIFY(tally["serves"]["Ada"]["shares"]["backspin_short"] == 1.0);
    const auto backhand = std::find_if(tally["tallies"].begin(), tally["tallies"].end(),
                                       [](const auto& t) { return t["what"] == "stroke:backhand" && t["player"] == "Ada"; });
    QVERIFY(backhand != tally["tallies"].end() && (*backhand)["n"] == 1 && (*backhand)["won"] == 0);
    QVERIFY((*backhand)["change"]["difference"] == 0.0);
    QVERIFY(tally["next"].empty());
    const auto page = run({"match", "page", "--log", file("match.json"), "--out", file("match.html")});
    QCOMPARE(page.exitCode, 0);
    QVERIFY(contentOf(file("match.html")).find("Ada and Bo") != std::string::npos);
}

void PracticeVerbsTest::match_simulated_isFound()
{
    const auto made = run({"match", "simulate", "--rallies", "6", "--seed", "3", "--out", file("match.mp4")});
    QVERIFY2(made.exitCode == 0, made.err.c_str());
    const auto truth = made.json()["rallies"];
    QCOMPARE(truth.size(), std::size_t{6});
    const auto found = run({"match", "find", file("match.mp4")}).json()["rallies"];
    QCOMPARE(found.size(), truth.size());
    for (std::size_t n = 0; n < truth.size(); ++n) {
        QVERIFY(std::abs(found[n]["from"].get<double>() - truth[n]["from"].get<double>()) < 0.5);
        QVERIFY(std::abs(found[n]["to"].get<double>() - truth[n]["to"].get<double>()) < 0.5);
    }
}

void PracticeVerbsTest::sum_listAndEach()
{
    const auto list = run({"sum", "list"}).json();
    QCOMPARE(list.size(), std::size_t{14});
    for (const auto& card : list) {
        const auto r = run({"sum", card["name"].get<std::string>()});
        QVERIFY2(r.exitCode == 0, r.err.c_str());
        QVERIFY(!r.json()["results"].empty() && !r.json()["assumes"].empty());
        const auto verdict = r.json()["claim"]["verdict"].get<std::string>();
        QVERIFY(verdict == "holds" || verdict == "partly" || verdict == "does_not_hold");
    }
    const auto spin = run({"sum", "spin", "--revolutions", "3", "--frames", "24", "--capture-rate", "240"}).json();
    QCOMPARE(spin["results"][0]["value"].get<double>(), 1800.0);
}

void PracticeVerbsTest::sum_withoutAir_isTheClosedForm()
{
    const auto r = run({"sum", "jump_shot", "--release-height", "2.1", "--distance", "4.6", "--air", "none"}).json();
    for (const auto& result : r["results"])
        if (result["name"] == "least_speed")
            QVERIFY(std::abs(result["value"].get<double>() - std::sqrt(9.80665 * (0.95 + std::hypot(0.95, 4.6)))) < 1e-6);
    const auto heavy = run({"sum", "pitch_plane", "--ball", "softball", "--altitude", "2000"}).json();
    QVERIFY(heavy["assumes"][0].get<std::string>().find("softball") == 0);
}

void PracticeVerbsTest::review_keepsTheLastTask()
{
    const auto review = nlohmann::json::parse(contentOf(file("review.json")));
    QVERIFY(!review["alsoNow"].empty());
    auto last = review;
    last["oneThing"] = review["alsoNow"][0]; // the page was about the second one
    writeFile(file("last.json"), last.dump());
    const auto kept =
        run({"review", "--pack", "overhand-pitch", "--marking", file("truth.json"), "--last", file("last.json")}).json();
    QCOMPARE(kept["oneThing"]["fault"], review["alsoNow"][0]["fault"]);
}

void PracticeVerbsTest::badInput_exits2_data()
{
    QTest::addColumn<QStringList>("words");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* name, QStringList words, const char* says) {
        QTest::newRow(name) << std::move(words) << QString::fromLatin1(says);
    };
    const auto plan = [](QStringList more) {
        return QStringList{QStringLiteral("plan"), QStringLiteral("--pack"), QStringLiteral("overhand-pitch"),
                           QStringLiteral("--out"), QStringLiteral("@x.json")} +
               more;
    };
    const auto s = [](const char* words) { return QString::fromLatin1(words).split(QLatin1Char(' ')); };
    row("plan, no such day", plan(s("--review @review.json --start 2026-02-30 --days mon")), "a day such as");
    row("plan, no such weekday", plan(s("--review @review.json --start 2026-11-30 --days moon")), "--days is a list");
    row("plan, unknown kit", plan(s("--review @review.json --start 2026-11-30 --days mon --kit trampoline")),
        "no \"trampoline\"");
    row("plan, pain", plan(s("--review @pain.json --start 2026-11-30 --days mon")), "there is no plan");
    row("plan, not a review", plan(s("--review @book.json --start 2026-11-30 --days mon")), "book.json");
    row("workload, no book", s("workload --book @none.json --on 2026-11-20"), "none.json");
    row("workload, wrong date", s("workload --book @book.json --on yesterday"), "a day such as");
    row("match, unknown sport", s("match score --log @unknown.json"), "/sport");
    row("match, no log", s("match tally --log @none.json"), "none.json");
    row("sum, unknown", s("sum cricket"), "there are pitch_plane");
    row("sum, out of reach", s("sum pitch_plane --speed 8"), "at least");
    row("sum, speed 0", s("sum pitch_plane --speed 0"), "expected a number");
    row("sum, no number", s("sum pull --ratio nan"), "expected a number");
    row("sum, spin too fast", s("sum spin --revolutions 10 --frames 20 --capture-rate 30"), "60 pictures a second");
}

void PracticeVerbsTest::badInput_exits2()
{
    QFETCH(QStringList, words);
    QFETCH(QString, says);
    std::vector<std::string> all;
    for (const auto& w : words)
        all.push_back(w.startsWith(QLatin1Char('@')) ? file(w.mid(1).toStdString()) : w.toStdString());
    const auto r = run(all);
    QCOMPARE(r.exitCode, 2);
    QVERIFY2(QString::fromStdString(r.err).contains(says), r.err.c_str());
}

KESTREL_TEST(PracticeVerbsTest)
#include "practice_verbs_test.moc"
