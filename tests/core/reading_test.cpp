#include "support/markings.h"
#include "support/runner.h"

#include "core/measure/kind.h"
#include "core/read/reading.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

Pack packWith(const char* kind, const std::vector<const char*>& points, Unit unit, Band band, double margin, bool isSpan = false)
{
    return packOfOne(kind, points, unit, isSpan, View::Side, band, margin);
}

Pack stridePack(Band band, double margin = 5)
{
    return packWith("offset_along", {"ankle.lead", "ankle.trail"}, Unit::Centimetre, band, margin);
}

/// A stride of so many centimetres about the middle of the picture, with marks of that many pixels of error.
Marking strideOf(double centimetres, double sigma)
{
    Marking m = plainMarking();
    place(m, "a", 10);
    mark(m, 10, "ankle.left", 500 + centimetres / 2, 400, sigma);
    mark(m, 10, "ankle.right", 500 - centimetres / 2, 400, sigma);
    return m;
}

Reading only(const Pack& pack, const Marking& m, const ReadOptions& o = {})
{
    return calcReadings(pack, PreparedRepetition(m), o).front();
}

} // namespace

class ReadingTest : public QObject {
    Q_OBJECT
private slots:
    void verdict_againstABand_data();
    void verdict_againstABand();
    void verdict_goesByTheWhisker_data();
    void verdict_goesByTheWhisker();
    void verdict_wrongView_saysWhichViewWouldDo();
    void verdict_withoutScale_anglesStillRead();
    void verdict_withoutHeight_saysWhatToEnter();
    void verdict_keyPositionMissing_namesIt();
    void verdict_filmTooSlow_saysTheRateNeeded();
    void uncertainty_markErrors_matchTheFormula();
    void uncertainty_halfAFrame_matchesTheFormula();
    void uncertainty_sameMarking_sameAnswer();
    void uncertainty_withoutAClock_isThatOfEvenPictures();
    void uncertainty_moreMarkError_isLarger();
    void uncertainty_isNeverNotANumber();
    void instant_markedOnEveryPicture_isReadFromTheMarksAround_data();
    void instant_markedOnEveryPicture_isReadFromTheMarksAround();
    void options_schoolAndAge_chooseTheBand();
    void typical_medianAndSpread();
    void typical_outlier_doesNotDecide();
    void typical_oneRepetition_isItself();
};

void ReadingTest::verdict_againstABand_data()
{
    QTest::addColumn<double>("value");
    QTest::addColumn<double>("sigma");
    QTest::addColumn<bool>("openBelow");
    QTest::addColumn<int>("verdict");
    const auto row = [](const char* name, double value, double sigma, bool open, Verdict v) {
        QTest::newRow(name) << value << sigma << open << static_cast<int>(v);
    };
    // band 100 to 140 cm, margin 12 cm; scale and depth are worth about 4 cm, so that a whisker reaches some 5
    row("in the middle", 120, 0.1, false, Verdict::OnTarget);
    row("clearly above", 160, 0.1, false, Verdict::Off);
    row("clearly below", 80, 0.1, false, Verdict::Off);
    row("below an open band's only edge", 80, 0.1, true, Verdict::OnTarget);
    row("above by less than the margin", 149, 0.1, false, Verdict::Near);
    row("at the edge", 139.5, 0.1, false, Verdict::TooCloseToCall);
    row("just outside, not surely", 141, 0.1, false, Verdict::TooCloseToCall);
    row("far outside, but the marks are poor", 160, 20, false, Verdict::TooCloseToCall);
    row("in the middle, but the marks are poor", 120, 20, false, Verdict::TooCloseToCall);
}

void ReadingTest::verdict_againstABand()
{
    QFETCH(double, value);
    QFETCH(double, sigma);
    QFETCH(bool, openBelow);
    QFETCH(int, verdict);
    const Band band{openBelow ? std::nullopt : std::optional(100.0), 140.0, Evidence::Taught, "", {}, {}};
    const Reading r = only(stridePack(band, 12), strideOf(value, sigma));
    QVERIFY2(r.verdict == static_cast<Verdict>(verdict), r.why.c_str());
    QVERIFY(!r.why.empty() && r.why.back() == '.');
    QVERIFY2(r.why.find("140") != std::string::npos, r.why.c_str()); // the band is named
}

void ReadingTest::verdict_goesByTheWhisker_data()
{
    QTest::addColumn<double>("value");
    QTest::addColumn<double>("uncertainty");
    QTest::addColumn<int>("verdict");
    const auto row = [](const char* name, double value, double uncertainty, Verdict v) {
        QTest::newRow(name) << value << uncertainty << static_cast<int>(v);
    };
    // the band ends at 40 degrees, its margin at 46; nine tenths of a normal error of 5 lie below 6.41
    row("inside, surely", 33.5, 5, Verdict::OnTarget);
    row("inside, not surely", 33.7, 5, Verdict::TooCloseToCall);
    row("outside, not surely", 46.3, 5, Verdict::TooCloseToCall);
    row("outside, surely", 46.5, 5, Verdict::Off);
    // beyond a right angle to either side the whisker goes round
    row("inside, a wide whisker", -96, 60, Verdict::OnTarget);
    row("inside, any direction", -96, 80, Verdict::TooCloseToCall);
    row("outside, a wide whisker", 150, 60, Verdict::Off);
    row("outside, any direction", 150, 80, Verdict::TooCloseToCall);
}

void ReadingTest::verdict_goesByTheWhisker()
{
    QFETCH(double, value);
    QFETCH(double, uncertainty);
    QFETCH(int, verdict);
    Reading r;
    r.value = value;
    r.uncertainty = uncertainty;
    r.high = 40;
    judgeAgainstBand(r, 6);
    QVERIFY2(r.verdict == static_cast<Verdict>(verdict), r.why.c_str());
}

void ReadingTest::verdict_wrongView_saysWhichViewWouldDo()
{
    Marking m = strideOf(120, 0);
    m.scene.view = View::Front;
    m.scene.target = TargetDirection::Toward;
    const Reading r = only(stridePack({100.0, 140.0, Evidence::Taught, "", {}, {}}), m);
    QCOMPARE(r.verdict, Verdict::NotFromThisView);
    QVERIFY(!r.value && !r.uncertainty && r.figure.isEmpty());
    QVERIFY2(r.why.find("side") != std::string::npos, r.why.c_str());
}

void ReadingTest::verdict_withoutScale_anglesStillRead()
{
    Marking m = strideOf(120, 0);
    m.scene.scale.reset();
    const Reading length = only(stridePack({100.0, 140.0, Evidence::Taught, "", {}, {}}), m);
    QCOMPARE(length.verdict, Verdict::NotMarked);
    QVERIFY2(length.why.find("scale") != std::string::npos, length.why.c_str());
    const Reading angle =
        only(packWith("tilt", {"ankle.trail", "ankle.lead"}, Unit::Degree, {-5.0, 5.0, Evidence::Geometry, "", {}, {}}, 1), m);
    QCOMPARE(angle.verdict, Verdict::OnTarget);
}

void ReadingTest::verdict_withoutHeight_saysWhatToEnter()
{
    Marking m = strideOf(120, 0);
    m.athlete.heightMetres.reset();
    const Reading r = only(packWith("offset_along", {"ankle.lead", "ankle.trail"}, Unit::PercentHeight,
                                    {70.0, 95.0, Evidence::Papers, "", {}, {}}, 5),
                           m);
    QCOMPARE(r.verdict, Verdict::NotMarked);
    QVERIFY2(r.why.find("height") != std::string::npos, r.why.c_str());
}

void ReadingTest::verdict_keyPositionMissing_namesIt()
{
    Marking m = strideOf(120, 0);
    m.events.clear();
    const Reading r = only(stridePack({100.0, 140.0, Evidence::Taught, "", {}, {}}), m);
    QCOMPARE(r.verdict, Verdict::NotMarked);
    QVERIFY2(r.why.find("The A") != std::string::npos, r.why.c_str());
}

void ReadingTest::verdict_filmTooSlow_saysTheRateNeeded()
{
    const Pack pack = packWith("interval", {}, Unit::Millisecond, {0.0, 40.0, Evidence::Papers, "", {}, {}}, 5, true);
    Marking m = plainMarking();
    m.clock = {30, 30};
    place(m, "a", 10);
    place(m, "b", 11);
    const Reading r = only(pack, m);
    QCOMPARE(r.verdict, Verdict::TooFewFrames);
    QVERIFY2(r.why.find("50 or more") != std::string::npos, r.why.c_str()); // a frame of at most 20 ms
    m.clock = {240, 240};
    QVERIFY(only(pack, m).value);
}

void ReadingTest::uncertainty_markErrors_matchTheFormula()
{
    // Two ends of sigma 3 px at 100 px a metre: sqrt(2) * 3 cm; the scale adds 1 % of 120 cm and its line's ends,
    // 1.5 * sqrt(2) / 1000 of it. Each ankle lies off the plane by hip, knee and ankle of depth_model.cpp, shares of
    // 160 cm: a yaw of 5 degrees shifts it by the sine, and seen from five heights away, 60 cm off the middle, it looks
    // nearer or farther from the middle.
    const double marks = 3 * std::sqrt(2.0), scale = 120 * std::hypot(0.01, 1.5 * std::sqrt(2.0) / 1000);
    const double depth = 160 * std::hypot(0.06, 0.12, 0.07), yaw = 5 * std::numbers::pi / 180;
    const double expected = std::hypot(marks, scale, std::sqrt(2.0) * depth * std::hypot(yaw, 60.0 / (5 * 160)));
    const Reading r = only(stridePack({0.0, 300.0, Evidence::Taught, "", {}, {}}), strideOf(120, 3));
    QVERIFY2(std::abs(*r.uncertainty / expected - 1) < 0.25,
             qPrintable(QString::number(*r.uncertainty / expected))); // 96 draws know it to 7 %, three of those
}

void ReadingTest::uncertainty_halfAFrame_matchesTheFormula()
{
    const Pack pack = packWith("interval", {}, Unit::Millisecond, {0.0, 500.0, Evidence::Papers, "", {}, {}}, 5, true);
    Marking m = plainMarking();
    place(m, "a", 10, 0.5);
    place(m, "b", 20, 0.5);
    // evenly within half a frame of 10 ms at each end: 10 / sqrt(12), twice
    const double expected = 10 / std::sqrt(12.0) * std::sqrt(2.0);
    const Reading r = only(pack, m);
    QVERIFY2(std::abs(*r.uncertainty / expected - 1) < 0.25, qPrintable(QString::number(*r.uncertainty)));
}

void ReadingTest::uncertainty_sameMarking_sameAnswer()
{
    const Marking m = simulated(pitch()).truth;
    const auto once = calcReadings(pitchPack(), PreparedRepetition(m), {});
    const auto again = calcReadings(pitchPack(), PreparedRepetition(m), {});
    QVERIFY(once == again); // to the last digit
    Marking shuffled = m;
    std::reverse(shuffled.marks.begin(), shuffled.marks.end());
    QVERIFY(calcReadings(pitchPack(), PreparedRepetition(shuffled), {}) == once);
}

void ReadingTest::uncertainty_withoutAClock_isThatOfEvenPictures()
{
    const Marking m = simulated(pitch()).truth;
    const PreparedRepetition given(m, evenClock(m.film.frames, m.clock.capture));
    QVERIFY(calcReadings(pitchPack(), PreparedRepetition(m), {}) == calcReadings(pitchPack(), given, {}));
}

void ReadingTest::uncertainty_moreMarkError_isLarger()
{
    const Pack pack = stridePack({0.0, 300.0, Evidence::Taught, "", {}, {}});
    double last = 0;
    for (const double sigma : {0.0, 2.0, 6.0, 18.0}) {
        const double u = *only(pack, strideOf(120, sigma)).uncertainty;
        QVERIFY(u > last);
        last = u;
    }
}

void ReadingTest::uncertainty_isNeverNotANumber()
{
    Marking m = simulated(pitch()).truth;
    for (auto& mk : m.marks)
        mk.sigma = 1e4; // absurd, but a file may say so
    for (const auto& r : calcReadings(pitchPack(), PreparedRepetition(m), {})) {
        QCOMPARE(r.value.has_value(), r.uncertainty.has_value());
        if (r.value)
            QVERIFY(std::isfinite(*r.value) && std::isfinite(*r.uncertainty));
    }
}

void ReadingTest::instant_markedOnEveryPicture_isReadFromTheMarksAround_data()
{
    QTest::addColumn<double>("rate");
    QTest::addColumn<QString>("landmark");
    QTest::addColumn<bool>("isSmoothed");
    QTest::newRow("240 a second") << 240.0 << "wrist.right" << true;
    QTest::newRow("80 a second, just enough") << 80.0 << "wrist.right" << true;
    QTest::newRow("60 a second, too few") << 60.0 << "wrist.right" << false;
    QTest::newRow("the ball, which turns when struck") << 240.0 << "ball" << false;
}

/// Marks that jump up and down by two pixels: alone one is wrong by two, with those around by less.
void ReadingTest::instant_markedOnEveryPicture_isReadFromTheMarksAround()
{
    QFETCH(double, rate);
    QFETCH(QString, landmark);
    QFETCH(bool, isSmoothed);
    Marking m = plainMarking();
    m.clock = {rate, rate};
    place(m, "a", 20);
    for (int f = 0; f <= 40; ++f) {
        mark(m, f, landmark.toStdString(), 400 + 3 * f + (f % 2 == 0 ? 2 : -2), 300, 2);
        mark(m, f, "ankle.right", 400, 400, 0);
    }
    const QByteArray role = landmark == QLatin1String("ball") ? "ball" : "wrist.dom";
    const Pack pack = packWith("offset_along", {role.constData(), "ankle.dom"}, Unit::Centimetre, {}, 5);
    const PreparedRepetition repetition(m);
    PointPath path(repetition, pack.measures.front().points.front());
    path.smoothAround(FramePosition(20));
    const double truth = repetition.scene().toBody({400 + 3 * 20, 300}).x;
    const double error = std::abs(path.at(FramePosition(20), ErrorSample())->x - truth) /
                         std::abs(repetition.scene().toBody({401, 300}).x - repetition.scene().toBody({400, 300}).x);
    QVERIFY2(isSmoothed ? error < 1.2 : std::abs(error - 2) < 1e-6, qPrintable(QString::number(error)));
}

void ReadingTest::options_schoolAndAge_chooseTheBand()
{
    Pack pack = stridePack({100.0, 140.0, Evidence::Taught, "", {}, {}});
    pack.measures[0].bands.push_back({60.0, 90.0, Evidence::Taught, "two", {}, {}});
    pack.measures[0].bands.push_back({50.0, 65.0, Evidence::Taught, "two", 5.0, 9.0});
    const Marking m = strideOf(80, 0.1);
    QCOMPARE(only(pack, m).verdict, Verdict::Off);
    QCOMPARE(only(pack, m, {"two", {}}).verdict, Verdict::OnTarget);
    QCOMPARE(only(pack, m, {"two", 8.0}).verdict, Verdict::Off);
    QCOMPARE(*only(pack, m, {"two", 8.0}).high, 65.0);
    QCOMPARE(*only(pack, m, {"one", 8.0}).high, 140.0);
}

void ReadingTest::typical_medianAndSpread()
{
    const Pack pack = stridePack({0.0, 300.0, Evidence::Taught, "", {}, {}});
    std::vector<std::vector<Reading>> all;
    for (const double cm : {110.0, 130.0, 114.0})
        all.push_back({only(pack, strideOf(cm, 0))});
    const Reading typical = calcTypical(pack, all).front();
    QVERIFY(std::abs(*typical.value - 114) < 1e-9);
    QCOMPARE(typical.repetitions, 3);
    // between repetitions: SD of 110, 130, 114 is 10.583, over the root of three; the camera's and the scale's error, which is
    // all there is without noise on the marks, is the same in each and stays
    double own = 0;
    for (const auto& one : all)
        own += *one.front().uncertainty / 3;
    QVERIFY2(std::abs(*typical.uncertainty / std::hypot(10.583 / std::sqrt(3.0), own) - 1) < 0.02,
             qPrintable(QString::number(*typical.uncertainty)));
    // their mean is 118; 1.96 sqrt(2) SD / sqrt(3) = 16.94
    std::vector<const Reading*> three;
    for (const auto& one : all)
        three.push_back(&one.front());
    const auto spread = calcSpread(pack.measures.front(), three);
    QVERIFY(spread && spread->repetitions == 3);
    QVERIFY(std::abs(spread->mean - 118) < 1e-9 && std::abs(spread->sd - 10.583) < 1e-3);
    QVERIFY(std::abs(spread->smallestRealChange - 16.936) < 1e-2);
    QVERIFY(!calcSpread(pack.measures.front(), {three.front()}));
}

void ReadingTest::typical_outlier_doesNotDecide()
{
    const Pack pack = stridePack({100.0, 140.0, Evidence::Taught, "", {}, {}});
    std::vector<std::vector<Reading>> all;
    for (const double cm : {120.0, 121.0, 122.0, 121.5, 10.0})
        all.push_back({only(pack, strideOf(cm, 0))});
    const Reading typical = calcTypical(pack, all).front();
    QVERIFY(std::abs(*typical.value - 121) < 1e-9);
    QVERIFY(typical.verdict != Verdict::Off);
}

void ReadingTest::typical_oneRepetition_isItself()
{
    const Pack pack = stridePack({100.0, 140.0, Evidence::Taught, "", {}, {}});
    const std::vector<Reading> one{only(pack, strideOf(120, 1))};
    QVERIFY(calcTypical(pack, {one}) == one);
}

KESTREL_TEST(ReadingTest)
#include "reading_test.moc"
