#include "support/runner.h"

#include "core/base/play_run.h"
#include "core/base/radar_line.h"
#include "core/pack/film_support.h"
#include "support/markings.h"

#include <QRegularExpression>
#include <QtTest>

using namespace kestrel;

class PlayRunTest : public QObject {
    Q_OBJECT
private slots:
    void at_trueSpeed_followsTheClock();
    void at_variableRate_holdsEachPictureForItsTime();
    void at_backward_mirrorsForward();
    void at_loop_neverDriftsAndCountsEveryRound();
    void at_end_isOverOnceTheLastHasHadItsTime();
    void parseRadarLine_cases_data();
    void parseRadarLine_cases();
    void radarLine_roundTrips();
    void filmSupport_slowFilm_losesShortPositionsAndTheirReadings();
    void filmSupport_fastFilm_showsAll();
    void filmSupport_smallAthlete_saysHowWrongTheForearmIs();
};

namespace {

FrameClock thirty(int frames)
{
    return evenClock(frames, 30);
}

} // namespace

void PlayRunTest::at_trueSpeed_followsTheClock()
{
    const FrameClock clock = thirty(90);
    const PlayRun run(clock, FrameIndex(10), {FrameIndex(0), FrameIndex(89)}, 1, false);
    QCOMPARE(run.at(0).frame.value, std::int64_t{10});
    QCOMPARE(run.at(0.99 / 30).frame.value, std::int64_t{10});
    QCOMPARE(run.at(1.0 / 30).frame.value, std::int64_t{11});
    QCOMPARE(run.at(1).frame.value, std::int64_t{40});
    QCOMPARE(run.at(1).passed, std::int64_t{30});
    const PlayRun slow(clock, FrameIndex(10), {FrameIndex(0), FrameIndex(89)}, 0.125, false);
    QCOMPARE(slow.at(1).frame.value, std::int64_t{13}); // 3.75 pictures on
}

void PlayRunTest::at_variableRate_holdsEachPictureForItsTime()
{
    const FrameClock clock({MediaTime::fromSeconds(0), MediaTime::fromSeconds(0.1), MediaTime::fromSeconds(0.5)}, 1);
    const PlayRun run(clock, FrameIndex(0), {FrameIndex(0), FrameIndex(2)}, 1, false);
    QCOMPARE(run.at(0.05).frame.value, std::int64_t{0});
    QCOMPARE(run.at(0.4).frame.value, std::int64_t{1});
    QCOMPARE(run.at(0.51).frame.value, std::int64_t{2});
}

void PlayRunTest::at_backward_mirrorsForward()
{
    const FrameClock clock = thirty(90);
    const PlayRun run(clock, FrameIndex(60), {FrameIndex(0), FrameIndex(89)}, -1, false);
    QCOMPARE(run.at(0).frame.value, std::int64_t{60});
    QCOMPARE(run.at(1.0 / 30 + 1e-6).frame.value, std::int64_t{59});
    QCOMPARE(run.at(1.0001).frame.value, std::int64_t{30});
    QCOMPARE(run.at(1.0001).passed, std::int64_t{30});
    QVERIFY(!run.at(2.0).isOver);
    QVERIFY(run.at(2.04).isOver);
    QCOMPARE(run.at(5).frame.value, std::int64_t{0});
}

void PlayRunTest::at_loop_neverDriftsAndCountsEveryRound()
{
    const FrameClock clock = thirty(90);
    for (const double speed : {1.0, -1.0}) {
        const PlayRun run(clock, FrameIndex(20), {FrameIndex(20), FrameIndex(28)}, speed, true); // nine pictures, 0.3 s
        const auto start = run.at(0).frame;
        for (const int rounds : {1, 10, 1000}) {
            const auto place = run.at(0.3 * rounds + (speed > 0 ? 1e-6 : 1e-6));
            QVERIFY(!place.isOver);
            QVERIFY2(std::abs(place.passed - 9 * rounds) <= 1, qPrintable(QString::number(place.passed)));
            QVERIFY(std::abs(place.frame.value - start.value) <= 1 || std::abs(place.frame.value - start.value) >= 7);
        }
    }
}

void PlayRunTest::at_end_isOverOnceTheLastHasHadItsTime()
{
    const FrameClock clock = thirty(30);
    const PlayRun run(clock, FrameIndex(0), {FrameIndex(0), FrameIndex(29)}, 1, false);
    QVERIFY(!run.at(29.5 / 30).isOver);
    QVERIFY(run.at(30.1 / 30).isOver);
    QCOMPARE(run.at(99).frame.value, std::int64_t{29});
}

void PlayRunTest::parseRadarLine_cases_data()
{
    QTest::addColumn<QString>("line");
    QTest::addColumn<double>("metresPerSecond"); // 0: refused
    QTest::newRow("metres") << "SPEED 31.4 m/s" << 31.4;
    QTest::newRow("carriage return") << "SPEED 31.4 m/s\r" << 31.4;
    QTest::newRow("kilometres") << "SPEED 108 km/h" << 30.0;
    QTest::newRow("miles") << "SPEED 60 mph" << 26.8224;
    QTest::newRow("blanks") << "  SPEED\t20   m/s " << 20.0;
    QTest::newRow("other line") << "BATTERY 80 %" << 0.0;
    QTest::newRow("no unit") << "SPEED 31" << 0.0;
    QTest::newRow("unknown unit") << "SPEED 31 knots" << 0.0;
    QTest::newRow("not a number") << "SPEED fast m/s" << 0.0;
    QTest::newRow("nan") << "SPEED nan m/s" << 0.0;
    QTest::newRow("infinite") << "SPEED 1e999 m/s" << 0.0;
    QTest::newRow("impossible") << "SPEED 500 m/s" << 0.0;
    QTest::newRow("negative") << "SPEED -20 m/s" << 0.0;
    QTest::newRow("more words") << "SPEED 20 m/s really" << 0.0;
    QTest::newRow("empty") << "" << 0.0;
}

void PlayRunTest::parseRadarLine_cases()
{
    QFETCH(QString, line);
    QFETCH(double, metresPerSecond);
    const auto speed = parseRadarLine(line.toStdString());
    QCOMPARE(speed.has_value(), metresPerSecond > 0);
    if (speed)
        QVERIFY(std::abs(*speed - metresPerSecond) < 1e-9);
}

void PlayRunTest::radarLine_roundTrips()
{
    QVERIFY(std::abs(*parseRadarLine(radarLine(26.34)) - 26.3) < 1e-9); // a gun gives tenths
}

void PlayRunTest::filmSupport_slowFilm_losesShortPositionsAndTheirReadings()
{
    const Pack pack = test::pitchPack();
    const auto support = calcFilmSupport(pack, {30, 400, View::Side});
    for (const auto& k : support.keyPositions) // strike lasts 25 ms, release 8: 40 and 125 pictures a second
        QCOMPARE(k.isShown, k.neededRate <= 30 / 0.98);
    QVERIFY(!std::all_of(support.keyPositions.begin(), support.keyPositions.end(), [](const auto& k) { return k.isShown; }));
    for (const auto& m : support.measures) {
        const Measure* measure = pack.findMeasure(m.measure);
        if (measure->at == "release" && std::count(measure->views.begin(), measure->views.end(), View::Side))
            QVERIFY2(!m.isReadable && (measure->minRate > 0 || m.why.find("125") != std::string::npos), m.why.c_str());
        if (measure->at == "set" && std::count(measure->views.begin(), measure->views.end(), View::Side))
            QVERIFY2(m.isReadable, m.measure.c_str());
    }
    QVERIFY(support.consequences.front().find("125") != std::string::npos);
    // every reading is shown, or it is said what would show it
    const auto numbers =
        QRegularExpression(QStringLiteral("can show (\\d+) of (\\d+) readings; more pictures a second would show "
                                          "(\\d+) more; another view would show (\\d+)\\."))
            .match(QString::fromStdString(support.consequences.at(1)));
    QVERIFY2(numbers.hasMatch(), support.consequences.at(1).c_str());
    QCOMPARE(numbers.captured(1).toInt() + numbers.captured(3).toInt() + numbers.captured(4).toInt(),
             numbers.captured(2).toInt());
    QCOMPARE(numbers.captured(2).toInt(), static_cast<int>(pack.measures.size()));
}

void PlayRunTest::filmSupport_fastFilm_showsAll()
{
    const Pack pack = test::pitchPack();
    const auto support = calcFilmSupport(pack, {239.8, 400, View::Side});
    for (const auto& k : support.keyPositions)
        QVERIFY2(k.isShown, k.keyPosition.c_str());
    for (const auto& m : support.measures)
        QCOMPARE(m.isReadable, [&] {
            const auto& views = pack.findMeasure(m.measure)->views;
            return std::count(views.begin(), views.end(), View::Side) > 0;
        }());
}

void PlayRunTest::filmSupport_smallAthlete_saysHowWrongTheForearmIs()
{
    // 100 pixels high: a forearm of 14.6 pixels turned by atan(2.12 / 14.6) = 8.3 degrees
    QVERIFY(std::abs(*forearmError(100) - 8.27) < 0.02);
    QVERIFY(!forearmError(0));
    const auto support = calcFilmSupport(test::pitchPack(), {240, 100, View::Side});
    QVERIFY(support.consequences.back().find("8 degrees") != std::string::npos);
}

KESTREL_TEST(PlayRunTest)
#include "play_run_test.moc"
