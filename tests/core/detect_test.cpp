#include "support/markings.h"
#include "support/runner.h"

#include "core/detect.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::test;

namespace {

Detector by(DetectorKind kind, const std::vector<const char*>& points, const std::string& after = {},
            const std::string& before = {})
{
    Detector d;
    d.kind = kind;
    for (const auto* p : points)
        d.points.push_back(*findPointRole(p));
    d.after = after;
    d.before = before;
    return d;
}

Pack packOf(std::vector<KeyPosition> positions)
{
    Pack p;
    p.id = "test";
    p.keyPositions = std::move(positions);
    return p;
}

/// A wrist that rests at 3 m until frame 20, then rises with 8 m/s2 until frame 60 and comes down again: highest on frame 60,
/// fastest on frame 60 as well, seen from the side.
Marking lifting()
{
    Marking m = plainMarking();
    for (int f = 0; f < 100; ++f) {
        const double t = std::max(0, std::min(f, 120 - f) - 20) / 100.0;
        mark(m, f, "wrist.right", 300, 400 - 100 * 4 * t * t);
    }
    return m;
}

const Detection& only(const std::vector<Detection>& all)
{
    if (all.size() != 1)
        qFatal("one key position was looked for");
    return all.front();
}

} // namespace

/// How the detectors of a pack are asked: alternatives, bounds, views, and what is done about marks that tremble.
class DetectTest : public QObject {
    Q_OBJECT
private slots:
    void otherwise_standsInWhereNothingIsFound_withItsOwnDoubt();
    void otherwise_isNotAskedWhereTheFirstFinds();
    void alternativesThatWaitForEachOther_areSettled();
    void within_cutsTheSearchOff();
    void fromBehind_placesAlongTheTargetLine_areNotFound();
    void leaves_roughMarks_areTracedBack();
    void lands_roughMarks_areTracedOn();
};

void DetectTest::otherwise_standsInWhereNothingIsFound_withItsOwnDoubt()
{
    KeyPosition contact{"contact", "Contact", "", 0, by(DetectorKind::Closest, {"implement.tip", "ball"}), {}};
    contact.otherwise = by(DetectorKind::Highest, {"wrist.dom"});
    contact.otherwise->delayMs = 50;
    contact.otherwise->doubtMs = 80;
    const Detection d = only(detectKeyPositions(packOf({contact}), Repetition(lifting())));
    QVERIFY2(d.frame && std::abs(d.frame->value - 65) < 0.5, d.why.c_str()); // five pictures after the highest
    QCOMPARE(d.uncertaintyFrames, 8.0);
    QVERIFY2(d.why.find("wrist") != std::string::npos, d.why.c_str());
    contact.otherwise = by(DetectorKind::Highest, {"knee.lead"});
    const Detection none = only(detectKeyPositions(packOf({contact}), Repetition(lifting())));
    QVERIFY(!none.frame);
    QVERIFY2(none.why.find("ball") != std::string::npos, none.why.c_str()); // what the pack would rather go by
}

void DetectTest::otherwise_isNotAskedWhereTheFirstFinds()
{
    KeyPosition top{"top", "Top", "", 0, by(DetectorKind::Highest, {"wrist.dom"}), {}};
    top.otherwise = by(DetectorKind::Lowest, {"wrist.dom"});
    QVERIFY(std::abs(only(detectKeyPositions(packOf({top}), Repetition(lifting()))).frame->value - 60) < 0.5);
}

/// The first looks between others that wait for it; both have an alternative that waits for nothing.
void DetectTest::alternativesThatWaitForEachOther_areSettled()
{
    KeyPosition a{"a", "A", "", 0, by(DetectorKind::Closest, {"implement.tip", "ball"}), {}};
    a.otherwise = by(DetectorKind::Leaves, {"wrist.dom"}, "", "b");
    KeyPosition b{"b", "B", "", 0, by(DetectorKind::Highest, {"wrist.dom"}, "a"), {}};
    auto found = detectKeyPositions(packOf({a, b}), Repetition(lifting()));
    QVERIFY(!found[0].frame && !found[1].frame); // each waits for the other: said, not looped over
    QVERIFY2(found[1].why.find("was not found") != std::string::npos, found[1].why.c_str());
    b.otherwise = by(DetectorKind::Highest, {"wrist.dom"});
    found = detectKeyPositions(packOf({a, b}), Repetition(lifting()));
    QVERIFY2(found[1].frame && std::abs(found[1].frame->value - 60) < 0.5, found[1].why.c_str());
}

void DetectTest::within_cutsTheSearchOff()
{
    KeyPosition start{"start", "Start", "", 0, by(DetectorKind::Leaves, {"wrist.dom"}), {}};
    KeyPosition top{"top", "Top", "", 0, by(DetectorKind::Highest, {"wrist.dom"}, "start"), {}};
    top.detector->withinMs = 200;
    const auto found = detectKeyPositions(packOf({start, top}), Repetition(lifting()));
    QVERIFY(found[0].frame && found[1].frame);
    QVERIFY(std::abs(found[1].frame->value - (found[0].frame->value + 20)) < 1.1); // still on its way up
}

void DetectTest::fromBehind_placesAlongTheTargetLine_areNotFound()
{
    Marking m = lifting();
    m.scene.view = View::Rear;
    m.scene.target = TargetDirection::Away;
    for (const auto kind : {DetectorKind::Ahead, DetectorKind::Behind}) {
        const Detection d = only(detectKeyPositions(packOf({{"k", "K", "", 0, by(kind, {"wrist.dom"}), {}}}), Repetition(m)));
        QVERIFY(!d.frame);
        QVERIFY2(d.why.find("this view") != std::string::npos, d.why.c_str());
    }
    QVERIFY(
        only(detectKeyPositions(packOf({{"k", "K", "", 0, by(DetectorKind::Highest, {"wrist.dom"}), {}}}), Repetition(m))).frame);
}

/// 1.2 % of 1.60 m above rest is reached 6.9 pictures after the start (4 t^2 = 0.0192). A threshold that is two and a half times
/// as high is passed four pictures later; traced back it gives the same instant.
void DetectTest::leaves_roughMarks_areTracedBack()
{
    const Pack p = packOf({{"k", "K", "", 0, by(DetectorKind::Leaves, {"wrist.dom"}), {}}});
    const double careful = only(detectKeyPositions(p, Repetition(lifting()))).frame->value;
    const double rough = only(detectKeyPositions(p, Repetition(lifting()), 2.5)).frame->value;
    QVERIFY2(std::abs(careful - 26.9) < 0.6, qPrintable(QString::number(careful)));
    QVERIFY2(std::abs(rough - careful) < 0.8, qPrintable(QString::number(rough)));
}

/// A foot that comes down at 1 m/s and stays from frame 50 on is 2.4 cm above its place 2.4 pictures before.
void DetectTest::lands_roughMarks_areTracedOn()
{
    Marking m = plainMarking();
    for (int f = 0; f < 100; ++f)
        mark(m, f, "toe.left", 300, 500 - std::max(0, 50 - f));
    const Pack p = packOf({{"k", "K", "", 0, by(DetectorKind::Lands, {"toe.lead"}), {}}});
    const double careful = only(detectKeyPositions(p, Repetition(m))).frame->value;
    const double rough = only(detectKeyPositions(p, Repetition(m), 2.5)).frame->value;
    QVERIFY2(std::abs(careful - 47.6) < 0.1, qPrintable(QString::number(careful)));
    QVERIFY2(std::abs(rough - careful) < 0.5, qPrintable(QString::number(rough)));
}

KESTREL_TEST(DetectTest)
#include "detect_test.moc"
