#include "support/markings.h"
#include "support/runner.h"

#include "core/detect/detect.h"
#include "core/pack/pack_folder.h"
#include "core/read/sequence.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

/// Pelvis, trunk and a forearm, each turning fastest at its own frame, the upper arm half-way between trunk and forearm;
/// 100 pictures a second, sigma 1 pixel.
Marking swinging(int pelvis, int trunk, int forearm)
{
    Marking m = plainMarking();
    place(m, "a", 5);
    place(m, "b", 95);
    const auto swing = [](double peak, int f) {
        const double angle = std::atan((f - peak) / 8.0);
        return std::pair{60 * std::cos(angle), -60 * std::sin(angle)};
    };
    for (int f = 0; f < 100; ++f) {
        const auto [px, py] = swing(pelvis, f);
        mark(m, f, "hip.left", 100, 500, 1);
        mark(m, f, "hip.right", 100 + px, 500 + py, 1);
        const auto [tx, ty] = swing(trunk, f);
        mark(m, f, "shoulder.left", 300, 300, 1);
        mark(m, f, "shoulder.right", 300 + tx, 300 + ty, 1);
        const auto [ux, uy] = swing((trunk + forearm) / 2.0, f);
        mark(m, f, "elbow.right", 300 + tx + ux, 300 + ty + uy, 1);
        const auto [fx, fy] = swing(forearm, f);
        mark(m, f, "wrist.right", 300 + tx + ux + fx, 300 + ty + uy + fy, 1);
    }
    return m;
}

Pack packWithSequence()
{
    Pack p =
        packOfOne("tilt", {"hip.off", "hip.dom"}, Unit::Degree, false, View::Side, {0.0, 10.0, Evidence::Geometry, "", {}, {}});
    p.sequence = SequenceSpan{"a", "b"};
    return p;
}

} // namespace

/// The order of the segments, curves over time, and key positions found by their detectors.
class SequenceTest : public QObject {
    Q_OBJECT
private slots:
    void order_isTold();
    void order_wrong_namesTheSegment();
    void order_closerThanItsError_isTooCloseToCall();
    void nothingMarked_isNone();
    void curve_ofAnAngle_isReadOnEveryFrame();
    void curve_fromAnotherView_isEmpty();
    void detectors_onSimulatedMarks_data();
    void detectors_onSimulatedMarks();
    void detector_withoutItsPoint_saysWhatToMark();
};

void SequenceTest::order_isTold()
{
    const auto s = calcSequence(packWithSequence(), PreparedRepetition(swinging(25, 40, 70)));
    QVERIFY(s);
    QCOMPARE(s->peaks.size(), std::size_t{4}); // nothing is held
    QVERIFY2(s->order == Order::InOrder, s->sentence.c_str());
    QVERIFY2(std::abs(s->peaks[1].seconds - s->peaks[0].seconds - 0.15) < 0.02, s->sentence.c_str());
    QVERIFY2(s->sentence.find("side view") != std::string::npos && s->sentence.find("pelvis") != std::string::npos,
             s->sentence.c_str());
}

void SequenceTest::order_wrong_namesTheSegment()
{
    const auto s = calcSequence(packWithSequence(), PreparedRepetition(swinging(55, 30, 70)));
    QVERIFY(s);
    QVERIFY2(s->order == Order::OutOfOrder, s->sentence.c_str());
    QVERIFY2(s->sentence.find("trunk") != std::string::npos && s->sentence.find("before the pelvis") != std::string::npos,
             s->sentence.c_str());
}

void SequenceTest::order_closerThanItsError_isTooCloseToCall()
{
    const auto s = calcSequence(packWithSequence(), PreparedRepetition(swinging(40, 40, 70)));
    QVERIFY(s);
    QCOMPARE(s->order, Order::TooCloseToCall);
    QVERIFY2(s->sentence.find("too close to call") != std::string::npos, s->sentence.c_str());
}

void SequenceTest::nothingMarked_isNone()
{
    Marking m = plainMarking();
    QVERIFY(!calcSequence(packWithSequence(), PreparedRepetition(m)));
    place(m, "a", 10);
    place(m, "b", 5); // the wrong way round
    QVERIFY(!calcSequence(packWithSequence(), PreparedRepetition(m)));
}

void SequenceTest::curve_ofAnAngle_isReadOnEveryFrame()
{
    const Pack p = packWithSequence();
    const Curve c = calcCurve(p.measures.front(), PreparedRepetition(swinging(25, 40, 70)));
    QCOMPARE(c.seconds.size(), std::size_t{100});
    QVERIFY(std::abs(c.values[25]) < 1e-9);                                               // level at its peak
    QVERIFY(std::abs(c.values[33] - 45) < 1e-9 && std::abs(c.seconds[33] - 0.33) < 1e-9); // 8 frames later at 45 degrees
}

void SequenceTest::curve_fromAnotherView_isEmpty()
{
    Marking m = swinging(25, 40, 70);
    m.scene.view = View::Overhead;
    QVERIFY(calcCurve(packWithSequence().measures.front(), PreparedRepetition(m)).isEmpty());
}

void SequenceTest::detectors_onSimulatedMarks_data()
{
    QTest::addColumn<QString>("pack");
    for (const auto& file : packFiles(shippedFolder("packs")))
        QTest::newRow(QFileInfo(QString::fromStdString(file)).baseName().toUtf8().constData())
            << QFileInfo(QString::fromStdString(file)).baseName();
}

/// Every key position of every pack that names a detector is found within two pictures of 60 a second.
void SequenceTest::detectors_onSimulatedMarks()
{
    QFETCH(QString, pack);
    const auto loaded = findPack(pack.toStdString());
    QVERIFY(loaded);
    sim::SimulateOptions o;
    o.skill = pack.toStdString();
    o.frameRate = 120;
    const auto s = simulated(o);
    const auto found = detectKeyPositions(*loaded, PreparedRepetition(s.truth));
    QVERIFY(!found.empty());
    for (const auto& d : found) {
        QVERIFY2(d.frame, (d.keyPosition + ": " + d.why).c_str());
        const double away = (d.frame->value - findEvent(s.truth, d.keyPosition)->frame.value) / 120;
        QVERIFY2(std::abs(away) <= 2.0 / 60, (d.keyPosition + " is off by " + std::to_string(1000 * away) + " ms").c_str());
    }
}

void SequenceTest::detector_withoutItsPoint_saysWhatToMark()
{
    Pack p = packWithSequence();
    p.keyPositions.front().detector = Detector{DetectorKind::Highest, {*findPointRole("knee.lead")}, {}, {}, 0};
    const auto found = detectKeyPositions(p, PreparedRepetition(swinging(25, 40, 70)));
    QCOMPARE(found.size(), std::size_t{1});
    QVERIFY(!found.front().frame);
    QVERIFY2(found.front().why.find("lead knee highest") != std::string::npos, found.front().why.c_str());
}

KESTREL_TEST(SequenceTest)
#include "sequence_test.moc"
