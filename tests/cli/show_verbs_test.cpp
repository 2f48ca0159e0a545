// Sheet, checklist, walk, compare and change on the command line.

#include "support/markings.h"
#include "support/runner.h"

#include "cli/run.h"
#include "core/scene/marking_json.h"
#include "sim/film_maker.h"

#include <QDir>
#include <QFile>
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

class ShowVerbsTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void sheet_showsThePositions_everyEnding();
    void sheet_whatIsDrawnToBeHidden_isHidden();
    void checklist_leaves();
    void walk_proposed_isWrittenWithItsWords();
    void walk_ownScript();
    void compare_sameFilm_nothingIsReal();
    void change_headDropMended_isBetter();
    void badInput_exits2_data();
    void badInput_exits2();

private:
    std::string file(const char* name) const { return m_folder.filePath(QLatin1String(name)).toStdString(); }

    QTemporaryDir m_folder;
};

void ShowVerbsTest::initTestCase()
{
    auto o = pitch(View::Side, {"head_drop"});
    o.frameRate = 60;
    o.size = {640, 360};
    const auto s = simulated(o);
    QVERIFY(sim::saveClip(s, file("clip.mp4")));
    QVERIFY(saveMarking(s.truth, file("truth.json")));
    const auto reviewed = run({"review", "--pack", "overhand-pitch", "--marking", file("truth.json")});
    QCOMPARE(reviewed.exitCode, 0);
    writeFile(file("review.json"), reviewed.out);
    for (const std::uint32_t seed : {1u, 2u, 3u}) {
        o.motion.seed = seed;
        o.motion.faults = {{"head_drop", 1.0}};
        QVERIFY(saveMarking(simulated(o).truth, file(("a" + std::to_string(seed) + ".json").c_str())));
        o.motion.faults = {{"head_drop", 0.2}};
        QVERIFY(saveMarking(simulated(o).truth, file(("b" + std::to_string(seed) + ".json").c_str())));
    }
}

void ShowVerbsTest::sheet_showsThePositions_everyEnding()
{
    for (const char* name : {"sheet.png", "sheet.pdf", "sheet.html"}) {
        const auto r = run({"sheet", "--pack", "overhand-pitch", "--film", file("clip.mp4"), "--marking", file("truth.json"),
                            "--readings", "--out", file(name)});
        QVERIFY2(r.exitCode == 0, r.err.c_str());
        QVERIFY(contentOf(file(name)).size() > 5000);
    }
    QVERIFY(contentOf(file("sheet.html")).find("Layback") != std::string::npos);
}

void ShowVerbsTest::sheet_whatIsDrawnToBeHidden_isHidden()
{
    auto m = *loadMarking(file("truth.json"));
    Drawing box;
    box.kind = DrawingKind::Box;
    box.at = {{{0, 0}, {}}, {{640, 360}, {}}}; // all of it
    box.lives.on = Lives::On::Repetition;
    box.hides = true;
    m.drawings = {box};
    QVERIFY(saveMarking(m, file("hidden.json")));
    const auto coloursIn = [&](const char* marking, const char* name) {
        const auto r = run(
            {"sheet", "--pack", "overhand-pitch", "--film", file("clip.mp4"), "--marking", file(marking), "--out", file(name)});
        if (r.exitCode != 0)
            return std::size_t{0};
        const QImage sheet(QString::fromStdString(file(name)));
        std::set<QRgb> colours;
        for (int y = 250; y < 500; ++y)
            for (int x = 100; x < 400; ++x)
                colours.insert(sheet.pixel(x, y));
        return colours.size();
    };
    const auto seen = coloursIn("truth.json", "seen.png"), hidden = coloursIn("hidden.json", "hidden.png");
    QVERIFY2(hidden > 0 && hidden < seen / 4, qPrintable(QStringLiteral("%1 of %2").arg(hidden).arg(seen)));
}

void ShowVerbsTest::checklist_leaves()
{
    const auto r = run({"checklist", "--pack", "overhand-pitch", "--review", file("review.json"), "--film", file("clip.mp4"),
                        "--out", file("list.html")});
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    QVERIFY(contentOf(file("list.html")).find("work on it") != std::string::npos);
}

void ShowVerbsTest::walk_proposed_isWrittenWithItsWords()
{
    const auto r =
        run({"walk", "--pack", "overhand-pitch", "--film", file("clip.mp4"), "--marking", file("truth.json"), "--review",
             file("review.json"), "--captions", "track", "--out", file("walk.mp4"), "--srt", file("walk.srt")});
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    const auto stops = r.json()["stops"];
    QVERIFY(stops.size() >= 3 && stops.size() <= 8);
    double now = 0;
    for (const auto& s : stops) {
        QVERIFY(std::abs(s["from"].get<double>() - now) < 1e-6);
        now += s["seconds"].get<double>();
        QVERIFY(contentOf(file("walk.srt")).find(s["text"].get<std::string>()) != std::string::npos);
    }
    QVERIFY(std::abs(r.json()["seconds"].get<double>() - now) < 1e-6);
}

void ShowVerbsTest::walk_ownScript()
{
    writeFile(file("script.json"), R"({"format": "jolly-kestrel/walk", "version": 1,
        "stops": [{"from": 10, "to": 20, "speed": 0.5, "text": "watch"}, {"from": 30, "text": "here"}]})");
    const auto r = run({"walk", "--pack", "overhand-pitch", "--film", file("clip.mp4"), "--marking", file("truth.json"),
                        "--review", file("review.json"), "--script", file("script.json"), "--out", file("own.webm")});
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    QCOMPARE(r.json()["stops"].size(), std::size_t{2});
    QCOMPARE(r.json()["stops"][1]["frame"].get<int>(), 30);
}

void ShowVerbsTest::compare_sameFilm_nothingIsReal()
{
    const auto r = run({"compare", "--pack", "overhand-pitch", "--marking", file("truth.json"), "--other", file("truth.json")});
    QCOMPARE(r.exitCode, 0);
    QCOMPARE(r.json()["lined"]["at"].get<std::string>(), pitchPack().zero);
    QVERIFY(r.json()["unfair"].empty() && r.json()["differences"].size() > 10);
    for (const auto& d : r.json()["differences"])
        QVERIFY(d["difference"].get<double>() == 0 && d["real"] != true);
}

void ShowVerbsTest::change_headDropMended_isBetter()
{
    const auto r = run({"change", "--pack", "overhand-pitch", "--before", file("a1.json"), file("a2.json"), file("a3.json"),
                        "--after", file("b1.json"), file("b2.json"), file("b3.json"), "--one-thing", "head_dip"});
    QVERIFY2(r.exitCode == 0, r.err.c_str());
    const auto first = r.json()["measures"][0];
    QCOMPARE(first["measure"].get<std::string>(), std::string("head_dip"));
    QCOMPARE(first["verdict"].get<std::string>(), std::string("better"));
    QVERIFY((first["n"] == nlohmann::json{3, 3}));
    QVERIFY(first["needed"].is_null() && first["change"].get<double>() < -first["smallestReal"].get<double>());
}

void ShowVerbsTest::badInput_exits2_data()
{
    QTest::addColumn<QStringList>("words");
    QTest::addColumn<QString>("says");
    const auto row = [](const char* name, const QStringList& words, const char* says) {
        QTest::newRow(name) << words << QString::fromLatin1(says);
    };
    const QStringList film{QStringLiteral("--film"), QStringLiteral("@clip.mp4"), QStringLiteral("--marking"),
                           QStringLiteral("@truth.json")};
    const auto with = [](const char* verb, const char* pack, QStringList more) {
        return QStringList{QLatin1String(verb), QStringLiteral("--pack"), QLatin1String(pack)} + more;
    };
    row("sheet, another ending",
        with("sheet", "overhand-pitch", film + QStringList{QStringLiteral("--out"), QStringLiteral("@s.doc")}),
        ".pdf, .png or .html");
    row("sheet, no such film",
        with("sheet", "overhand-pitch",
             {QStringLiteral("--film"), QStringLiteral("@no.mp4"), QStringLiteral("--marking"), QStringLiteral("@truth.json"),
              QStringLiteral("--out"), QStringLiteral("@s.png")}),
        "no.mp4");
    row("checklist, another skill",
        with("checklist", "bat-swing",
             {QStringLiteral("--review"), QStringLiteral("@review.json"), QStringLiteral("--out"), QStringLiteral("@c.pdf")}),
        "overhand-pitch");
    row("walk, another ending",
        with("walk", "overhand-pitch",
             film + QStringList{QStringLiteral("--review"), QStringLiteral("@review.json"), QStringLiteral("--out"),
                                QStringLiteral("@w.avi")}),
        ".mp4 or .webm");
    row("walk, captions sung",
        with("walk", "overhand-pitch",
             film + QStringList{QStringLiteral("--review"), QStringLiteral("@review.json"), QStringLiteral("--captions"),
                                QStringLiteral("sung"), QStringLiteral("--out"), QStringLiteral("@w.mp4")}),
        "burnt, track or none");
    row("compare, another skill",
        with("compare", "bat-swing",
             {QStringLiteral("--marking"), QStringLiteral("@truth.json"), QStringLiteral("--other"), QStringLiteral("@a1.json")}),
        "one skill");
    row("compare, no such position",
        with("compare", "overhand-pitch",
             {QStringLiteral("--marking"), QStringLiteral("@truth.json"), QStringLiteral("--other"), QStringLiteral("@a1.json"),
              QStringLiteral("--at"), QStringLiteral("lunch")}),
        "lunch");
    row("change, nothing after", with("change", "overhand-pitch", {QStringLiteral("--before"), QStringLiteral("@a1.json")}),
        "--after");
}

void ShowVerbsTest::badInput_exits2()
{
    QFETCH(QStringList, words);
    QFETCH(QString, says);
    const QStringList before = QDir(m_folder.path()).entryList(QDir::Files);
    std::vector<std::string> all;
    for (const auto& w : words) // @ stands for the folder
        all.push_back(w.startsWith(QLatin1Char('@')) ? file(w.mid(1).toLatin1().constData()) : w.toStdString());
    const auto r = run(all);
    QCOMPARE(r.exitCode, 2);
    QVERIFY2(QString::fromStdString(r.err).contains(says), r.err.c_str());
    QVERIFY(r.out.empty());
    QCOMPARE(QDir(m_folder.path()).entryList(QDir::Files), before); // nothing half-written
}

KESTREL_TEST(ShowVerbsTest)
#include "show_verbs_test.moc"
