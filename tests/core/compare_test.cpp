#include "support/markings.h"
#include "support/runner.h"

#include "core/compare/change.h"
#include "core/compare/differences.h"
#include "core/compare/follow_up.h"
#include "core/compare/student.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::test;

namespace {

/// A pack of one angle, on target from 80 to 100 degrees, near up to 5 beyond.
Pack onePack()
{
    return packOfOne("joint_angle", {"shoulder.dom", "elbow.dom", "wrist.dom"}, Unit::Degree, false, View::Side,
                     {80, 100, Evidence::Taught, {}, {}, {}}, 5);
}

/// Repetitions with those values, each measured without an error of its own; \p camera is what all of them have alike.
std::vector<std::vector<Reading>> day(std::initializer_list<double> values, float camera = 0)
{
    std::vector<std::vector<Reading>> all;
    for (const double v : values) {
        Reading r;
        r.measure = "m";
        r.value = v;
        r.uncertainty = camera;
        r.low = 80;
        r.high = 100;
        r.verdict = Verdict::OnTarget;
        r.errors = {camera, -camera, camera, -camera};
        all.push_back({r});
    }
    return all;
}

const MeasureChange& only(const DayChange& c)
{
    return c.measures.front();
}

} // namespace

class CompareTest : public QObject {
    Q_OBJECT
private slots:
    void student_asInTheTables_data();
    void student_asInTheTables();
    void change_largerThanNoise_isBetter_byHand();
    void change_smallerThanNoise_isNone();
    void change_awayFromTheBand_isWorse();
    void change_withinTheBand_isNeither();
    void change_camera_doesNotAverageOut();
    void change_oneRepetition_isToldNotCalled();
    void change_noisy_saysHowManyMore();
    void change_onOneDayOnly_saysSo();
    void change_oneThing_comesFirst();
    void followUp_byWhatWasRead_data();
    void followUp_byWhatWasRead();
    void followUp_unknownFault_isNone();
    void unfair_saysWhat();
    void differences_sameCamera_itsErrorFallsOut();
    void tempo_andLineUp_byHand();
    void lineUp_nothingCommon_isByTheBeginning();
};

void CompareTest::student_asInTheTables_data()
{
    QTest::addColumn<double>("freedom");
    QTest::addColumn<double>("probability");
    QTest::addColumn<double>("t");
    QTest::newRow("1, 5 %") << 1.0 << 0.05 << 12.706;
    QTest::newRow("4, 5 %") << 4.0 << 0.05 << 2.776;
    QTest::newRow("4, 1 %") << 4.0 << 0.01 << 4.604;
    QTest::newRow("10, 10 %") << 10.0 << 0.10 << 1.812;
    QTest::newRow("30, 5 %") << 30.0 << 0.05 << 2.042;
    QTest::newRow("many") << 1e6 << 0.05 << 1.960;
}

void CompareTest::student_asInTheTables()
{
    QFETCH(double, freedom);
    QFETCH(double, probability);
    QFETCH(double, t);
    QVERIFY(std::abs(studentQuantile(probability, freedom) - t) < 0.0006);
    QVERIFY(std::abs(studentTwoSided(t, freedom) - probability) < 1e-4);
    QCOMPARE(studentTwoSided(0, freedom), 1.0);
}

void CompareTest::change_largerThanNoise_isBetter_byHand()
{
    // means 60 and 72, each spread 2: pooled sd 2, standard error 2 sqrt(2/3) = 1.633, t(4) = 2.776
    const auto c = calcChange(onePack(), day({58, 60, 62}), day({70, 72, 74}), "m");
    const auto& m = only(c);
    QVERIFY(std::abs(m.change - 12) < 1e-9);
    QVERIFY(std::abs(m.uncertainty - 1.63299) < 1e-4);
    QVERIFY(std::abs(m.freedom - 4) < 1e-9);
    QVERIFY(std::abs(m.smallestReal - 4.5339) < 1e-3);
    QVERIFY(std::abs(m.low - 7.466) < 1e-2 && std::abs(m.high - 16.534) < 1e-2);
    QCOMPARE(static_cast<int>(m.verdict), static_cast<int>(ChangeVerdict::Better));
    QVERIFY(!m.needed);
    QVERIFY(c.answer.find("better for real") != std::string::npos);
}

void CompareTest::change_smallerThanNoise_isNone()
{
    const auto& c = calcChange(onePack(), day({78, 80, 82}), day({79, 81, 83}), "m"); // out by nothing, margin 5
    QCOMPARE(static_cast<int>(only(c).verdict), static_cast<int>(ChangeVerdict::NoChange));
    QVERIFY(!only(c).needed);
}

void CompareTest::change_awayFromTheBand_isWorse()
{
    const auto c = calcChange(onePack(), day({89, 90, 91}), day({109, 110, 111}), "m");
    QCOMPARE(static_cast<int>(only(c).verdict), static_cast<int>(ChangeVerdict::Worse));
}

void CompareTest::change_withinTheBand_isNeither()
{
    const auto c = calcChange(onePack(), day({84, 85, 86}), day({94, 95, 96}), "m");
    QCOMPARE(static_cast<int>(only(c).verdict), static_cast<int>(ChangeVerdict::Changed));
}

void CompareTest::change_camera_doesNotAverageOut()
{
    // each camera is off by 3: sqrt(2) 3 = 4.24 whatever the number of repetitions
    const auto few = calcChange(onePack(), day({60, 60.1, 60.2}, 3), day({64, 64.1, 64.2}, 3), "m");
    const auto many = calcChange(onePack(), day({60, 60.1, 60.2, 60, 60.1, 60.2, 60, 60.1, 60.2}, 3),
                                 day({64, 64.1, 64.2, 64, 64.1, 64.2, 64, 64.1, 64.2}, 3), "m");
    QVERIFY(std::abs(only(few).uncertainty - 4.2434) < 0.01);
    QVERIFY(std::abs(only(many).uncertainty - 4.2427) < 0.01);
    QVERIFY(only(few).verdict != ChangeVerdict::Better && only(many).verdict != ChangeVerdict::Better);
}

void CompareTest::change_oneRepetition_isToldNotCalled()
{
    const auto c = calcChange(onePack(), day({50}, 1), day({90, 91, 92}, 1), "m");
    QVERIFY(std::abs(only(c).change - 41) < 1e-9);
    QCOMPARE(static_cast<int>(only(c).verdict), static_cast<int>(ChangeVerdict::NeedMore));
    QVERIFY(only(c).needed && *only(c).needed >= 2);
    QVERIFY(only(c).why.find("One repetition on a day") != std::string::npos);
}

void CompareTest::change_noisy_saysHowManyMore()
{
    const auto c = calcChange(onePack(), day({50, 60, 70}), day({56, 66, 76}), "m"); // 20 below the band, spread 10
    QCOMPARE(static_cast<int>(only(c).verdict), static_cast<int>(ChangeVerdict::NeedMore));
    // 20 within t(2n-2) 10 sqrt(2/n): n = 4 gives 17.3, n = 3 gives 22.7
    QCOMPARE(*only(c).needed, 4);
}

void CompareTest::change_onOneDayOnly_saysSo()
{
    const auto c = calcChange(onePack(), day({60, 61}), {{}, {}}, "m");
    QCOMPARE(static_cast<int>(only(c).verdict), static_cast<int>(ChangeVerdict::NotComparable));
    QVERIFY(only(c).why.find("later day") != std::string::npos);
}

void CompareTest::change_oneThing_comesFirst()
{
    const auto& pack = pitchPack();
    auto o = pitch(View::Side, {"head_drop"});
    std::vector<std::vector<Reading>> before, after;
    for (const std::uint32_t seed : {1u, 2u, 3u}) {
        o.motion.seed = seed;
        o.motion.faults = {{"head_drop", 1.0}};
        before.push_back(calcReadings(pack, PreparedRepetition(simulated(o).truth), {}));
        o.motion.faults = {{"head_drop", 0.2}};
        after.push_back(calcReadings(pack, PreparedRepetition(simulated(o).truth), {}));
    }
    const auto c = calcChange(pack, before, after, "head_dip");
    QCOMPARE(c.measures.front().measure, std::string("head_dip"));
    QCOMPARE(static_cast<int>(c.measures.front().verdict), static_cast<int>(ChangeVerdict::Better));
    QVERIFY(c.answer.find("What was practised, Head drop: better for real") == 0);
}

void CompareTest::followUp_byWhatWasRead_data()
{
    using Values = std::vector<double>;
    QTest::addColumn<Values>("before");
    QTest::addColumn<Values>("after");
    QTest::addColumn<int>("days");
    QTest::addColumn<QString>("step");
    QTest::addColumn<QString>("says");
    // the band is 80 to 100, near up to 5 beyond
    QTest::newRow("better, not there") << Values{58, 60, 62} << Values{70, 71, 72} << 14 << "keep"
                                       << "It is coming";
    QTest::newRow("held three times") << Values{58, 60, 62} << Values{88, 90, 92} << 14 << "go_on"
                                      << "It held";
    QTest::newRow("right, but only twice") << Values{58, 60, 62} << Values{88, 90} << 14 << "make_harder"
                                           << "three would show";
    QTest::newRow("right most times") << Values{58, 60, 62} << Values{88, 90, 92, 60} << 14 << "make_harder"
                                      << "3 of 4";
    QTest::newRow("worse, after two weeks") << Values{70, 71, 72} << Values{58, 60, 62} << 14 << "keep"
                                            << "is normal";
    QTest::newRow("worse, after two months") << Values{70, 71, 72} << Values{58, 60, 62} << 60 << "keep"
                                             << "other drill";
    QTest::newRow("not read") << Values{58, 60, 62} << Values{} << 14 << "keep"
                              << "could not be read";
    QTest::newRow("near only") << Values{58, 60, 62} << Values{77, 78, 79} << 14 << "keep"
                               << "It is coming";
}

void CompareTest::followUp_byWhatWasRead()
{
    QFETCH(std::vector<double>, before);
    QFETCH(std::vector<double>, after);
    QFETCH(int, days);
    QFETCH(QString, step);
    QFETCH(QString, says);
    Pack pack = onePack();
    Fault fault;
    fault.id = "f";
    pack.faults = {fault};
    const auto judged = [&](const std::vector<double>& values) {
        std::vector<std::vector<Reading>> all;
        for (const double v : values) {
            auto one = day({v});
            judgeAgainstBand(one.front().front(), 5);
            all.push_back(one.front());
        }
        return all;
    };
    const auto a = judged(before), b = judged(after);
    const auto next = calcFollowUp(pack, "f", "m", calcChange(pack, a, b, "m"), b, days);
    QVERIFY(next.has_value());
    QCOMPARE(QString::fromStdString(std::string(wordOf(next->step))), step);
    QVERIFY2(QString::fromStdString(next->reason).contains(says), next->reason.c_str());
}

void CompareTest::followUp_unknownFault_isNone()
{
    QVERIFY(!calcFollowUp(onePack(), "gone", "m", {}, {}, 10));
}

void CompareTest::unfair_saysWhat()
{
    Marking a = plainMarking(), b = plainMarking();
    QVERIFY(unfairness(a, b).empty());
    b.scene.view = View::Rear;
    b.athlete.hand = Hand::Left;
    b.athlete.heightMetres = 1.7;
    b.clock.capture = 240;
    b.isLive = false;
    a.variant = "windup";
    b.variant = "stretch";
    QCOMPARE(unfairness(a, b).size(), std::size_t{6});
}

void CompareTest::differences_sameCamera_itsErrorFallsOut()
{
    const auto a = day({60}, 3).front(), b = day({63}, 3).front();
    const auto apart = calcDifferences(onePack(), a, b, false);
    QVERIFY(std::abs(apart.front().uncertainty - 4.2426) < 1e-3);
    QVERIFY(apart.front().isReal == false);
    auto moved = b;
    moved.front().errors = {3.5F, -3.5F, 3.5F, -3.5F}; // half a degree of its own
    const auto together = calcDifferences(onePack(), a, moved, true);
    QVERIFY(std::abs(together.front().uncertainty - 0.5) < 1e-6);
    QVERIFY(together.front().isReal == true);
}

void CompareTest::tempo_andLineUp_byHand()
{
    Marking a = plainMarking(), b = plainMarking();
    const auto& pack = pitchPack();
    const std::string first = pack.keyPositions[0].id, second = pack.keyPositions[1].id, third = pack.keyPositions[2].id;
    place(a, first, 10);
    place(a, second, 30);
    place(a, third, 40);
    place(b, first, 20);
    place(b, second, 30);
    place(b, third, 60);
    const FrameClock clock = evenClock(100, 100);
    const auto tempo = calcTempo(pack, a, clock, b, clock);
    QCOMPARE(tempo.size(), std::size_t{2});
    QVERIFY(std::abs(tempo[0].a - 0.2) < 1e-9 && std::abs(tempo[0].b - 0.1) < 1e-9);
    QVERIFY(std::abs(tempo[0].shareA - 2.0 / 3) < 1e-9 && std::abs(tempo[0].shareB - 0.25) < 1e-9);
    const LineUp phase(a, clock, b, clock, pack, second, LineUp::By::Phase);
    QVERIFY(std::abs(phase.ofB(FramePosition(20)).value - 25) < 1e-6); // halfway
    QVERIFY(std::abs(phase.ofB(FramePosition(35)).value - 45) < 1e-6);
    QVERIFY(std::abs(phase.ofB(FramePosition(50)).value - 70) < 1e-6); // real time goes on
    const LineUp real(a, clock, b, clock, pack, second, LineUp::By::RealTime);
    QVERIFY(std::abs(real.ofB(FramePosition(20)).value - 20) < 1e-6);
    QVERIFY(std::abs(real.ofB(FramePosition(20), 3).value - 23) < 1e-6);
    // rates of 100 and 50: real time, not pictures
    const FrameClock slow = evenClock(50, 50);
    Marking c = plainMarking();
    place(c, second, 15);
    const LineUp mixed(a, clock, c, slow, pack, second, LineUp::By::RealTime);
    QVERIFY(std::abs(mixed.ofB(FramePosition(40)).value - 20) < 1e-6);
}

void CompareTest::lineUp_nothingCommon_isByTheBeginning()
{
    const Marking a = plainMarking(), b = plainMarking();
    const FrameClock clock = evenClock(100, 100);
    const LineUp line(a, clock, b, clock, pitchPack(), "strike", LineUp::By::Phase);
    QVERIFY(!line.hasCommon());
    QVERIFY(std::abs(line.ofB(FramePosition(33)).value - 33) < 1e-6);
    QVERIFY(std::abs(line.ofB(FramePosition(99), 40).value - 99) < 1e-6); // not beyond the film
}

KESTREL_TEST(CompareTest)
#include "compare_test.moc"
