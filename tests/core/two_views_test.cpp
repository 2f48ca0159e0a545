#include "support/markings.h"
#include "support/runner.h"

#include "core/judge/review.h"
#include "core/pack/pack_folder.h"
#include "core/read/reading.h"

#include <QtTest>

#include <cmath>
#include <numbers>

using namespace kestrel;
using namespace kestrel::test;

namespace {

constexpr double kDegree = std::numbers::pi / 180;

/// Hips and shoulders of a right-hander, turned by so many degrees toward the target, as one view shows them at "a"; at "b" the
/// hips have turned by 30 more. A pelvis of 20 cm, shoulders of 40.
Marking turnedBody(View view, double hips, double shoulders)
{
    Marking m = plainMarking();
    m.scene.view = view;
    m.scene.target = usualTargetDirection(view, Hand::Right);
    const auto line = [&](int frame, const char* part, double width, double degrees) {
        // from the right, which trails, to the left, which leads: ahead by the cosine, off to the left by the sine
        const double ahead = width * std::cos(degrees * kDegree), aside = -width * std::sin(degrees * kDegree);
        const double across = view == View::Front ? -aside : aside; // a camera in front sees the right on its left
        const double gap = view == View::Side ? ahead : across;
        mark(m, frame, std::string(part) + ".right", 500, 300);
        mark(m, frame, std::string(part) + ".left", 500 + gap, 300);
    };
    place(m, "a", 10);
    place(m, "b", 20);
    line(10, "hip", 20, hips);
    line(10, "shoulder", 40, shoulders);
    line(20, "hip", 20, hips + 30);
    line(20, "shoulder", 40, shoulders);
    return m;
}

Pack packOf(const char* kind, const std::vector<const char*>& points, View view, bool isSpan = false)
{
    return packOfOne(kind, points, Unit::Degree, isSpan, view, {-180.0, 180.0, Evidence::Geometry, "", {}, {}});
}

Pack separationPack()
{
    return packOf("turn_gap", {"hip.off", "hip.dom", "shoulder.off", "shoulder.dom"}, View::Rear);
}

Reading read(const Pack& pack, const Marking& here, const Marking& there)
{
    const PreparedRepetition other(there);
    return calcReadings(pack, PreparedRepetition(here), {}, &other).front();
}

} // namespace

/// What turns about the plumb line has its true value where one repetition is seen from a side and from an end.
class TwoViewsTest : public QObject {
    Q_OBJECT
private slots:
    void separation_handComputed_data();
    void separation_handComputed();
    void facingAndTurned_needNoCameraAbove();
    void twoSides_orNoScale_leaveTheReadingOfOne();
    void errors_ofTheTwoCameras_areTheirOwn();
    void simulated_agreeWithTheViewFromAbove_data();
    void simulated_agreeWithTheViewFromAbove();
};

void TwoViewsTest::separation_handComputed_data()
{
    QTest::addColumn<int>("end");
    QTest::addColumn<double>("hips");
    QTest::addColumn<double>("shoulders");
    QTest::newRow("from behind, 40 ahead") << int(View::Rear) << 60.0 << 20.0;
    QTest::newRow("from in front, 40 ahead") << int(View::Front) << 60.0 << 20.0;
    QTest::newRow("shoulders ahead") << int(View::Rear) << 10.0 << 35.0;
    QTest::newRow("past square, where one width says nothing") << int(View::Rear) << 120.0 << 80.0;
    QTest::newRow("turned away") << int(View::Front) << -20.0 << -65.0;
}

void TwoViewsTest::separation_handComputed()
{
    QFETCH(int, end);
    QFETCH(double, hips);
    QFETCH(double, shoulders);
    const Marking side = turnedBody(View::Side, hips, shoulders), other = turnedBody(View(end), hips, shoulders);
    const Pack pack = separationPack();
    const Reading fromSide = read(pack, side, other), fromEnd = read(pack, other, side);
    QVERIFY2(fromSide.value, fromSide.why.c_str());
    QVERIFY(fromSide.isFromTwoViews);
    QVERIFY2(std::abs(*fromSide.value - (hips - shoulders)) < 1e-6, fromSide.why.c_str());
    QVERIFY(std::abs(*fromEnd.value - *fromSide.value) < 1e-6);
    QVERIFY2(fromSide.why.find("two films") != std::string::npos, fromSide.why.c_str());
    QVERIFY(!fromSide.figure.isEmpty());
}

void TwoViewsTest::facingAndTurned_needNoCameraAbove()
{
    const Marking side = turnedBody(View::Side, 35, 20), rear = turnedBody(View::Rear, 35, 20);
    const Pack facing = packOf("facing", {"hip.trail", "hip.lead"}, View::Overhead);
    const Reading seen = read(facing, side, rear);
    QVERIFY2(seen.value && std::abs(*seen.value - 35) < 1e-6, seen.why.c_str());
    const Reading turned = read(packOf("turned", {"hip.trail", "hip.lead"}, View::Overhead, true), side, rear);
    QVERIFY2(turned.value && std::abs(*turned.value - 30) < 1e-6, turned.why.c_str());
    const Reading alone = calcReadings(facing, PreparedRepetition(side), {}).front();
    QCOMPARE(alone.verdict, Verdict::NotFromThisView);
    QVERIFY2(alone.why.find("from the side and from behind at once") != std::string::npos, alone.why.c_str());
}

void TwoViewsTest::twoSides_orNoScale_leaveTheReadingOfOne()
{
    const Marking side = turnedBody(View::Side, 60, 20), rear = turnedBody(View::Rear, 60, 20);
    const Pack pack = separationPack();
    QVERIFY(!read(pack, side, side).value);
    Marking unscaled = side;
    unscaled.scene.scale.reset();
    const Reading estimate = read(pack, rear, unscaled), alone = calcReadings(pack, PreparedRepetition(rear), {}).front();
    QVERIFY(!estimate.isFromTwoViews);
    QCOMPARE(estimate.value, alone.value);
    Marking unplaced = side;
    unplaced.events.clear();
    QVERIFY(read(pack, rear, unplaced) == alone);
}

/// A scale that is off by as much in both films would leave every turn as it is. Two cameras have two scales: short lines of
/// known length make the turn less sure than long ones.
void TwoViewsTest::errors_ofTheTwoCameras_areTheirOwn()
{
    const auto uncertainty = [](double lineOf) {
        Marking side = turnedBody(View::Side, 45, 0), rear = turnedBody(View::Rear, 45, 0);
        for (Marking* m : {&side, &rear})
            m->scene.scale = Scale{{100, 600}, {100 + lineOf, 600}, lineOf / 100};
        return *read(packOf("facing", {"hip.trail", "hip.lead"}, View::Overhead), side, rear).uncertainty;
    };
    // 15 pixels to be set by eye: some 14 % each, a fifth together, of a turn at which a hundredth is 0.3 degrees
    QVERIFY2(uncertainty(15) > uncertainty(300) + 2, qPrintable(QString::number(uncertainty(15))));
    const Reading both = read(separationPack(), turnedBody(View::Side, 60, 20), turnedBody(View::Rear, 60, 20));
    const Reading alone = calcReadings(separationPack(), PreparedRepetition(turnedBody(View::Rear, 60, 20)), {}).front();
    QVERIFY2(*both.uncertainty < *alone.uncertainty, alone.why.c_str());
}

void TwoViewsTest::simulated_agreeWithTheViewFromAbove_data()
{
    QTest::addColumn<QString>("skill");
    QTest::addColumn<bool>("isLeft");
    for (const auto* skill : {"overhand-pitch", "bat-swing", "overhead-serve", "two-handed-backhand", "squash-backhand-volley",
                              "windmill-pitch", "snap-shot", "slice-volley"})
        for (const bool left : {false, true})
            QTest::addRow("%s, %s", skill, left ? "left" : "right") << QString::fromLatin1(skill) << left;
}

/// From far away and without noise, against what a camera above sees (for separations: of hips and shoulders each).
void TwoViewsTest::simulated_agreeWithTheViewFromAbove()
{
    QFETCH(QString, skill);
    QFETCH(bool, isLeft);
    const Pack pack = *findPack(skill.toStdString());
    const auto seen = [&](View view) {
        sim::SimulateOptions o;
        o.skill = pack.id;
        o.camera.view = view;
        o.camera.distance = 200;
        o.hand = isLeft ? Hand::Left : Hand::Right;
        return simulated(o).truth;
    };
    const Marking above = seen(View::Overhead);
    const PreparedRepetition rear(seen(View::Rear)), side(seen(View::Side)), overhead(above);
    int compared = 0;
    for (const auto& two : calcReadings(pack, side, {}, &rear)) {
        if (!two.isFromTwoViews)
            continue;
        const Measure& m = *pack.findMeasure(two.measure);
        double truth = 0;
        if (m.kind->id == "turn_gap") {
            const auto facing = [&](std::size_t off, std::size_t dom) {
                Pack one = pack;
                Measure line = m;
                line.kind = findMeasureKind("facing");
                line.points = {m.points[pack.leadIsDom() ? off : dom], m.points[pack.leadIsDom() ? dom : off]};
                line.views = {View::Overhead};
                one.measures = {line};
                return *calcReadings(one, overhead, {}).front().value;
            };
            truth = facing(0, 1) - facing(2, 3);
        } else {
            const auto readings = calcReadings(pack, overhead, {});
            const auto found =
                std::find_if(readings.begin(), readings.end(), [&](const Reading& r) { return r.measure == m.id; });
            QVERIFY2(found->value, found->why.c_str());
            truth = *found->value;
        }
        QVERIFY2(
            std::abs(wrappedDegrees(*two.value - truth)) < 3,
            qPrintable(QString::fromStdString(two.measure) + QStringLiteral(" %1, from above %2").arg(*two.value).arg(truth)));
        ++compared;
    }
    QVERIFY(compared > 0);
}

KESTREL_TEST(TwoViewsTest)
#include "two_views_test.moc"
