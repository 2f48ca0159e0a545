#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "cli/run.h"
#include "support/ffmpeg_films.h"
#include "support/markings.h"

#include <QFile>
#include <QTemporaryDir>
#include <QtTest>
#include <nlohmann/json.hpp>

#include <sstream>

using namespace kestrel;
using namespace kestrel::test;

class FilmCheckVerbTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void check_knownFilm_saysWhatItSupports();
    void check_slowMotion_asks_untilToldTheRate();
    void check_badInput_exitsTwoWithASentence_data();
    void check_badInput_exitsTwoWithASentence();
    void guide_writesAPage();
    void radar_speaks();

private:
    struct Said {
        int exitCode;
        std::string out, err;
    };
    Said run(const std::vector<std::string>& words)
    {
        std::ostringstream out, err;
        const int code = cli::run(words, out, err);
        return {code, out.str(), err.str()};
    }
    QTemporaryDir m_folder;
    std::string m_pitch, m_slow;
};

void FilmCheckVerbTest::initTestCase()
{
    auto o = pitch(View::Side);
    o.frameRate = 60;
    o.size = {320, 180};
    m_pitch = m_folder.filePath(QStringLiteral("pitch.mp4")).toStdString();
    QVERIFY(sim::saveClip(simulated(o), m_pitch));
    m_slow = remade(m_pitch, m_folder.filePath(QStringLiteral("slow.mp4")),
                    {QStringLiteral("-vf"), QStringLiteral("setpts=8*PTS"), QStringLiteral("-r"), QStringLiteral("7.5"),
                     QStringLiteral("-c:v"), QStringLiteral("libx264")});
    QVERIFY(!m_slow.empty());
}

void FilmCheckVerbTest::check_knownFilm_saysWhatItSupports()
{
    const auto said = run({"film", "check", m_pitch, "--pack", "overhand-pitch"});
    QCOMPARE(said.exitCode, 0);
    const auto json = nlohmann::json::parse(said.out);
    QVERIFY(!json["asksForCaptureRate"].get<bool>());
    QVERIFY(std::abs(json["captureRate"].get<double>() - 60) < 0.1);
    for (const auto& k : json["support"]["keyPositions"]) {
        if (k["keyPosition"] == "release")
            QVERIFY(!k["shown"].get<bool>() && k["neededRate"].get<double>() == 125);
        if (k["keyPosition"] == "set")
            QVERIFY(k["shown"].get<bool>());
    }
    QCOMPARE(json["support"]["measures"].size(), pitchPack().measures.size());
}

void FilmCheckVerbTest::check_slowMotion_asks_untilToldTheRate()
{
    const auto asked = nlohmann::json::parse(run({"film", "check", m_slow}).out);
    QVERIFY(asked["asksForCaptureRate"].get<bool>());
    QVERIFY(asked["findings"].front().get<std::string>().find("--capture-rate") != std::string::npos);
    const auto told = nlohmann::json::parse(run({"film", "check", m_slow, "--capture-rate", "60"}).out);
    QVERIFY(!told["asksForCaptureRate"].get<bool>());
    QCOMPARE(told["captureRate"].get<double>(), 60.0);
}

void FilmCheckVerbTest::check_badInput_exitsTwoWithASentence_data()
{
    QTest::addColumn<QStringList>("words");
    QTest::newRow("no file") << QStringList{QStringLiteral("film"), QStringLiteral("check")};
    QTest::newRow("missing file") << QStringList{QStringLiteral("film"), QStringLiteral("check"), QStringLiteral("gone.mp4")};
    QTest::newRow("unknown pack") << QStringList{QStringLiteral("film"), QStringLiteral("check"), QStringLiteral("PITCH"),
                                                 QStringLiteral("--pack"), QStringLiteral("juggling")};
    QTest::newRow("unknown view") << QStringList{QStringLiteral("film"), QStringLiteral("check"), QStringLiteral("PITCH"),
                                                 QStringLiteral("--view"), QStringLiteral("below")};
    QTest::newRow("impossible rate") << QStringList{QStringLiteral("film"), QStringLiteral("check"), QStringLiteral("PITCH"),
                                                    QStringLiteral("--capture-rate"), QStringLiteral("-3")};
    QTest::newRow("guide from above") << QStringList{
        QStringLiteral("film"),   QStringLiteral("guide"),    QStringLiteral("--pack"), QStringLiteral("overhand-pitch"),
        QStringLiteral("--view"), QStringLiteral("overhead"), QStringLiteral("--out"),  QStringLiteral("x.html")};
}

void FilmCheckVerbTest::check_badInput_exitsTwoWithASentence()
{
    QFETCH(QStringList, words);
    std::vector<std::string> all;
    for (const auto& w : words)
        all.push_back(w == QStringLiteral("PITCH") ? m_pitch : w.toStdString());
    const auto said = run(all);
    QCOMPARE(said.exitCode, 2);
    QVERIFY(said.out.empty() && said.err.size() > 15);
}

void FilmCheckVerbTest::guide_writesAPage()
{
    const std::string file = m_folder.filePath(QStringLiteral("guide.html")).toStdString();
    QCOMPARE(run({"film", "guide", "--pack", "overhand-pitch", "--view", "rear", "--out", file}).exitCode, 0);
    const std::string page = contentOf(file);
    QVERIFY(page.find("rear view") != std::string::npos && page.find("125 pictures") != std::string::npos);
    QVERIFY(page.find("guardian") != std::string::npos && page.find("data:image/png") != std::string::npos);
}

void FilmCheckVerbTest::radar_speaks()
{
    const auto said = run({"radar", "--count", "2", "--every", "0.01", "--speed", "30"});
    QCOMPARE(said.exitCode, 0);
    QVERIFY(said.err.find("localhost:") != std::string::npos);
    QCOMPARE(std::count(said.out.begin(), said.out.end(), '\n'), std::ptrdiff_t{2});
    QVERIFY(said.out.rfind("SPEED ", 0) == 0);
}

KESTREL_TEST(FilmCheckVerbTest)
#include "film_check_test.moc"
