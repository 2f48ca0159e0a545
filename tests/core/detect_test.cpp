#include "support/markings.h"
#include "support/runner.h"

#include "core/detect/detect.h"

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
    void furtherSigns_theMiddleOneCounts_data();
    void furtherSigns_theMiddleOneCounts();
    void boundThatIsNotLookedFor_isSaid();
    void within_cutsTheSearchOff();
    void fromBehind_placesAlongTheTargetLine_areNotFound();
    void fromBehind_placesAcrossTheTargetLine_areFound_forEitherHand();
    void viewsOwnDetector_isAsked_insteadOfTheOthers_data();
    void viewsOwnDetector_isAsked_insteadOfTheOthers();
    void ahead_ofASecondPoint_isWhatTheFirstGainsOnIt();
    void leaves_isTracedBackToWhereItBegan();
    void still_isFollowedOnToWhereItEnds();
    void delayShare_isOfThisPersonsPace_data();
    void delayShare_isOfThisPersonsPace();
    void leaves_withoutAScale_goesByTheLeg();
    void leaves_marksThatJumpAtFirst_areNoMovement();
    void leaves_markedOnlyLater_mayHaveLeftBefore();
    void lands_roughMarks_areTracedOn();
    void comeApart_neverSeenTogether_isNotFound_data();
    void comeApart_neverSeenTogether_isNotFound();
};

void DetectTest::otherwise_standsInWhereNothingIsFound_withItsOwnDoubt()
{
    KeyPosition contact{"contact", "Contact", "", 0, by(DetectorKind::Closest, {"implement.tip", "ball"}), {}};
    contact.fallback = by(DetectorKind::Highest, {"wrist.dom"});
    contact.fallback->delayMs = 50;
    contact.fallback->toleranceMs = 80;
    const Detection d = only(detectKeyPositions(packOf({contact}), PreparedRepetition(lifting())));
    QVERIFY2(d.frame && std::abs(d.frame->value - 65) < 0.5, d.why.c_str()); // five pictures after the highest
    QCOMPARE(d.uncertaintyFrames, 8.0);
    QVERIFY2(d.why.find("wrist") != std::string::npos, d.why.c_str());
    contact.fallback = by(DetectorKind::Highest, {"knee.lead"});
    const Detection none = only(detectKeyPositions(packOf({contact}), PreparedRepetition(lifting())));
    QVERIFY(!none.frame);
    QVERIFY2(none.why.find("ball") != std::string::npos, none.why.c_str()); // what the pack would rather go by
}

void DetectTest::otherwise_isNotAskedWhereTheFirstFinds()
{
    KeyPosition top{"top", "Top", "", 0, by(DetectorKind::Highest, {"wrist.dom"}), {}};
    top.fallback = by(DetectorKind::Lowest, {"wrist.dom"});
    QVERIFY(std::abs(only(detectKeyPositions(packOf({top}), PreparedRepetition(lifting()))).frame->value - 60) < 0.5);
}

/// The first looks between others that wait for it; both have an alternative that waits for nothing.
void DetectTest::alternativesThatWaitForEachOther_areSettled()
{
    KeyPosition a{"a", "A", "", 0, by(DetectorKind::Closest, {"implement.tip", "ball"}), {}};
    a.fallback = by(DetectorKind::Leaves, {"wrist.dom"}, "", "b");
    KeyPosition b{"b", "B", "", 0, by(DetectorKind::Highest, {"wrist.dom"}, "a"), {}};
    auto found = detectKeyPositions(packOf({a, b}), PreparedRepetition(lifting()));
    QVERIFY(!found[0].frame && !found[1].frame); // each waits for the other: said, not looped over
    QVERIFY2(found[1].why.find("was not found") != std::string::npos, found[1].why.c_str());
    b.fallback = by(DetectorKind::Highest, {"wrist.dom"});
    found = detectKeyPositions(packOf({a, b}), PreparedRepetition(lifting()));
    QVERIFY2(found[1].frame && std::abs(found[1].frame->value - 60) < 0.5, found[1].why.c_str());
}

void DetectTest::furtherSigns_theMiddleOneCounts_data()
{
    QTest::addColumn<QList<double>>("delaysMs"); // each a sign at the highest wrist, frame 60, so much later
    QTest::addColumn<bool>("isBallMarked");      // else a sign more that is not found
    QTest::addColumn<double>("expected");
    QTest::addColumn<double>("doubt");
    QTest::newRow("one far off") << QList<double>{10, 400, 90} << true << 69.0 << 4.0;
    QTest::newRow("two") << QList<double>{20, 60} << true << 64.0 << 2.0;
    QTest::newRow("four") << QList<double>{0, 20, 60, 500} << true << 64.0 << 2.0;
    QTest::newRow("one of three is not found") << QList<double>{20, 60} << false << 64.0 << 2.0;
    QTest::newRow("only one is found") << QList<double>{20} << false << 62.0 << 1.0;
}

void DetectTest::furtherSigns_theMiddleOneCounts()
{
    QFETCH(QList<double>, delaysMs);
    QFETCH(bool, isBallMarked);
    QFETCH(double, expected);
    QFETCH(double, doubt);
    std::vector<DetectorRule> signs;
    if (!isBallMarked)
        signs.push_back(by(DetectorKind::Closest, {"implement.tip", "ball"}));
    for (const double delay : delaysMs) {
        signs.push_back(by(DetectorKind::Highest, {"wrist.dom"}));
        signs.back().delayMs = delay;
    }
    Detector all{signs.front()};
    all.votes.assign(signs.begin() + 1, signs.end());
    const Detection d =
        only(detectKeyPositions(packOf({KeyPosition{"top", "Top", "", 0, all, {}}}), PreparedRepetition(lifting())));
    QVERIFY2(d.frame && std::abs(d.frame->value - expected) < 0.3, qPrintable(QString::number(d.frame ? d.frame->value : -1)));
    QVERIFY2(std::abs(d.uncertaintyFrames - doubt) < 0.3, qPrintable(QString::number(d.uncertaintyFrames)));
    QVERIFY2(d.why.find("wrist") != std::string::npos, d.why.c_str());
}

void DetectTest::boundThatIsNotLookedFor_isSaid()
{
    const KeyPosition byHand{"hand", "By hand", "", 0, {}, {}};
    const KeyPosition top{"top", "Top", "", 0, by(DetectorKind::Highest, {"wrist.dom"}, "hand"), {}};
    const Detection d = only(detectKeyPositions(packOf({byHand, top}), PreparedRepetition(lifting())));
    QVERIFY(!d.frame);
    QVERIFY2(d.why.find("\"By hand\" was not found") != std::string::npos, d.why.c_str());
}

void DetectTest::within_cutsTheSearchOff()
{
    KeyPosition start{"start", "Start", "", 0, by(DetectorKind::Leaves, {"wrist.dom"}), {}};
    KeyPosition top{"top", "Top", "", 0, by(DetectorKind::Highest, {"wrist.dom"}, "start"), {}};
    top.detector->withinMs = 200;
    const auto found = detectKeyPositions(packOf({start, top}), PreparedRepetition(lifting()));
    QVERIFY(found[0].frame && found[1].frame);
    QVERIFY(std::abs(found[1].frame->value - (found[0].frame->value + 20)) < 1.1); // still on its way up
}

void DetectTest::fromBehind_placesAlongTheTargetLine_areNotFound()
{
    Marking m = lifting();
    m.scene.view = View::Rear;
    m.scene.target = TargetDirection::Away;
    for (const auto kind : {DetectorKind::Ahead, DetectorKind::Behind}) {
        const Detection d =
            only(detectKeyPositions(packOf({{"k", "K", "", 0, by(kind, {"wrist.dom"}), {}}}), PreparedRepetition(m)));
        QVERIFY(!d.frame);
        QVERIFY2(d.why.find("this view") != std::string::npos, d.why.c_str());
    }
    QVERIFY(
        only(detectKeyPositions(packOf({{"k", "K", "", 0, by(DetectorKind::Highest, {"wrist.dom"}), {}}}), PreparedRepetition(m)))
            .frame);
}

/// A wrist that goes out until frame 40 and back, five pixels a frame; the nose follows from frame 20 on, eight a frame.
void DetectTest::fromBehind_placesAcrossTheTargetLine_areFound_forEitherHand()
{
    for (const Hand hand : {Hand::Right, Hand::Left}) {
        Marking m = plainMarking();
        m.athlete.hand = hand;
        m.scene.view = View::Rear;
        m.scene.target = TargetDirection::Away;
        const char* wrist =
            hand == Hand::Right ? "wrist.right" : "wrist.left"; // seen from behind a right-hander's is on the right
        const double out = hand == Hand::Right ? 1 : -1;
        for (int f = 0; f < 80; ++f) {
            mark(m, f, wrist, 300 + out * 5 * (40 - std::abs(40 - f)), 300);
            mark(m, f, "nose", 300 + out * 8 * std::max(0, f - 20), 200);
        }
        const auto found = detectKeyPositions(packOf({{"out", "Out", "", 0, by(DetectorKind::Outward, {"wrist.dom"}), {}},
                                                      {"in", "In", "", 0, by(DetectorKind::Inward, {"wrist.dom"}, "out"), {}},
                                                      {"of", "Of", "", 0, by(DetectorKind::Outward, {"wrist.dom", "nose"}), {}}}),
                                              PreparedRepetition(m));
        QVERIFY2(found[0].frame && std::abs(found[0].frame->value - 40) < 0.6, found[0].why.c_str());
        QVERIFY2(found[1].frame && std::abs(found[1].frame->value - 79) < 0.6, found[1].why.c_str());
        QVERIFY2(found[2].frame && std::abs(found[2].frame->value - 20) < 0.6, found[2].why.c_str());
        QVERIFY2(found[2].why.find("furthest out from the nose") != std::string::npos, found[2].why.c_str());
        m.scene.view = View::Side;
        m.scene.target = TargetDirection::Right;
        const Detection none = only(
            detectKeyPositions(packOf({{"k", "K", "", 0, by(DetectorKind::Outward, {"wrist.dom"}), {}}}), PreparedRepetition(m)));
        QVERIFY(!none.frame);
        QVERIFY2(none.why.find("across the target line") != std::string::npos, none.why.c_str());
    }
}

void DetectTest::viewsOwnDetector_isAsked_insteadOfTheOthers_data()
{
    QTest::addColumn<int>("view");
    QTest::newRow("from the front") << static_cast<int>(View::Front);
    QTest::newRow("from above") << static_cast<int>(View::Overhead);
}

void DetectTest::viewsOwnDetector_isAsked_insteadOfTheOthers()
{
    QFETCH(int, view);
    KeyPosition top{"top", "Top", "", 0, by(DetectorKind::Lowest, {"wrist.dom"}), by(DetectorKind::Lowest, {"wrist.dom"})};
    auto& own = static_cast<View>(view) == View::Overhead ? top.fromAbove : top.fromEnd;
    own = by(DetectorKind::Highest, {"wrist.dom"});
    Marking m = lifting();
    QVERIFY(std::abs(only(detectKeyPositions(packOf({top}), PreparedRepetition(m))).frame->value - 60) > 10);
    m.scene.view = static_cast<View>(view);
    m.scene.target = TargetDirection::Toward;
    QVERIFY(std::abs(only(detectKeyPositions(packOf({top}), PreparedRepetition(m))).frame->value - 60) < 0.5);
    own = by(DetectorKind::Highest, {"knee.lead"}); // not marked: no other stands in for it
    QVERIFY(!only(detectKeyPositions(packOf({top}), PreparedRepetition(m))).frame);
}

/// The wrist goes toward the target all the time, from frame 50 on slower than the hips.
void DetectTest::ahead_ofASecondPoint_isWhatTheFirstGainsOnIt()
{
    Marking m = plainMarking();
    for (int f = 0; f < 80; ++f) {
        mark(m, f, "wrist.right", 300 + 4 * f, 300);
        for (const char* hip : {"hip.left", "hip.right"})
            mark(m, f, hip, 300 + 2 * f + 6 * std::max(0, f - 50), 400);
    }
    const auto at = [&](const std::vector<const char*>& points) {
        return only(detectKeyPositions(packOf({{"k", "K", "", 0, by(DetectorKind::Ahead, points), {}}}), PreparedRepetition(m)))
            .frame->value;
    };
    QVERIFY(std::abs(at({"wrist.dom"}) - 79) < 0.6);
    QVERIFY(std::abs(at({"wrist.dom", "midHip"}) - 50) < 0.6);
}

/// 1.2 % of 1.60 m above rest is passed 6.9 pictures after the start (4 t^2 = 0.0192), two and a half times as much four pictures
/// later. Traced back with a constant acceleration both began on frame 20.
void DetectTest::leaves_isTracedBackToWhereItBegan()
{
    const Pack p = packOf({{"k", "K", "", 0, by(DetectorKind::Leaves, {"wrist.dom"}), {}}});
    const double careful = only(detectKeyPositions(p, PreparedRepetition(lifting()))).frame->value;
    const double rough = only(detectKeyPositions(p, PreparedRepetition(lifting()), 2.5)).frame->value;
    QVERIFY2(std::abs(careful - 20) < 0.8, qPrintable(QString::number(careful)));
    QVERIFY2(std::abs(rough - careful) < 0.8, qPrintable(QString::number(rough)));
}

/// A wrist that slows down evenly until it stands on frame 60: at 6 % of its top speed it has 3.6 pictures to go.
void DetectTest::still_isFollowedOnToWhereItEnds()
{
    Marking m = plainMarking();
    for (int f = 0; f < 100; ++f) {
        const double left = std::max(0, 60 - f);
        mark(m, f, "wrist.right", 500 - 0.1 * left * left, 300);
    }
    const Pack p = packOf({{"k", "K", "", 0, by(DetectorKind::Still, {"wrist.dom"}), {}}});
    for (const double roughness : {1.0, 2.5}) {
        const double found = only(detectKeyPositions(p, PreparedRepetition(m), roughness)).frame->value;
        QVERIFY2(std::abs(found - 60) < 0.6, qPrintable(QString::number(found)));
    }
    Marking stands = m; // what has not moved does not come to rest
    stands.marks.erase(stands.marks.begin(), stands.marks.begin() + 61);
    QVERIFY(!only(detectKeyPositions(p, PreparedRepetition(stands))).frame);
}

void DetectTest::delayShare_isOfThisPersonsPace_data()
{
    QTest::addColumn<int>("top");
    QTest::newRow("quick") << 30;
    QTest::newRow("slow") << 60;
}

/// From the bottom on frame 10 to the top it takes so long; the position lies a quarter of that before the top.
void DetectTest::delayShare_isOfThisPersonsPace()
{
    QFETCH(int, top);
    Marking m = plainMarking();
    for (int f = 0; f < 100; ++f)
        mark(m, f, "wrist.right", 300, f <= 10 ? 300 + 5 * f : f <= top ? 350 - 150.0 * (f - 10) / (top - 10) : 200 + f - top);
    KeyPosition low{"low", "Low", "", 0, by(DetectorKind::Lowest, {"wrist.dom"}, "", "high"), {}};
    KeyPosition between{"between", "Between", "", 0, by(DetectorKind::Highest, {"wrist.dom"}), {}};
    KeyPosition high{"high", "High", "", 0, by(DetectorKind::Highest, {"wrist.dom"}), {}};
    between.detector->delayShare = -0.25;
    Pack p = packOf({low, between, high});
    p.pace = SequenceSpan{"low", "high"};
    const auto found = detectKeyPositions(p, PreparedRepetition(m));
    QVERIFY(found[0].frame && found[1].frame && found[2].frame);
    const double pace = found[2].frame->value - found[0].frame->value;
    QVERIFY(pace > 5);
    QVERIFY(std::abs(found[1].frame->value - (found[2].frame->value - 0.25 * pace)) < 0.1);

    p.keyPositions[1].detector->filmDelayShare = 0.5; // a network's marks say it at another instant, and less surely
    p.keyPositions[1].detector->filmToleranceMs = 70;
    QCOMPARE(detectKeyPositions(p, PreparedRepetition(m)), found);
    const auto onFilm = detectKeyPositions(p, PreparedRepetition(m), kNetworkRoughness);
    QVERIFY(std::abs(onFilm[1].frame->value - (onFilm[2].frame->value + 0.5 * pace)) < 0.1);
    QCOMPARE(onFilm[1].uncertaintyFrames, 7.0);
}

/// The same way of the wrist on a film of the same person twice as near.
void DetectTest::leaves_withoutAScale_goesByTheLeg()
{
    const auto foundAt = [](double nearness) {
        Marking m = plainMarking();
        m.scene.scale.reset();
        for (int f = 0; f < 100; ++f) {
            const double t = std::max(0, f - 20) / 100.0;
            mark(m, f, "wrist.right", 300 * nearness, (300 - 100 * t * t) * nearness);
            mark(m, f, "hip.right", 300 * nearness, 200 * nearness);
            mark(m, f, "ankle.right", 300 * nearness, 300 * nearness);
        }
        return only(
            detectKeyPositions(packOf({{"k", "K", "", 0, by(DetectorKind::Leaves, {"wrist.dom"}), {}}}), PreparedRepetition(m)));
    };
    QVERIFY(foundAt(1).frame);
    QVERIFY(std::abs(foundAt(1).frame->value - foundAt(2).frame->value) < 1e-6);
}

/// The first two marks, and those of three pictures while the wrist rests, lie a hand aside.
void DetectTest::leaves_marksThatJumpAtFirst_areNoMovement()
{
    const Pack p = packOf({{"k", "K", "", 0, by(DetectorKind::Leaves, {"wrist.dom"}), {}}});
    const double clean = only(detectKeyPositions(p, PreparedRepetition(lifting()))).frame->value;
    Marking m = lifting();
    for (const int f : {0, 1, 9, 10, 11})
        mark(m, f, "wrist.right", 310, 400);
    QCOMPARE(only(detectKeyPositions(p, PreparedRepetition(m))).frame->value, clean);
}

/// An implement that the body hides at first was nowhere on the film's first pictures: where it was cannot be left.
void DetectTest::leaves_markedOnlyLater_mayHaveLeftBefore()
{
    KeyPosition k{"k", "K", "", 0, by(DetectorKind::Leaves, {"implement.grip"}), {}};
    Marking m = lifting();
    for (int f = 40; f < 100; ++f)
        mark(m, f, "implement.grip", 300, 400 - 2 * f);
    QVERIFY(!only(detectKeyPositions(packOf({k}), PreparedRepetition(m))).frame);
    k.fallback = by(DetectorKind::Leaves, {"wrist.dom"});
    const Detection d = only(detectKeyPositions(packOf({k}), PreparedRepetition(m)));
    QVERIFY2(d.frame && std::abs(d.frame->value - 20) < 0.8, d.why.c_str());
}

/// A foot that comes down at 1 m/s and stays from frame 50 on is 2.4 cm above its place 2.4 pictures before.
void DetectTest::lands_roughMarks_areTracedOn()
{
    Marking m = plainMarking();
    for (int f = 0; f < 100; ++f)
        mark(m, f, "toe.left", 300, 500 - std::max(0, 50 - f));
    const Pack p = packOf({{"k", "K", "", 0, by(DetectorKind::Lands, {"toe.lead"}), {}}});
    const double careful = only(detectKeyPositions(p, PreparedRepetition(m))).frame->value;
    const double rough = only(detectKeyPositions(p, PreparedRepetition(m), 2.5)).frame->value;
    QVERIFY2(std::abs(careful - 47.6) < 0.1, qPrintable(QString::number(careful)));
    QVERIFY2(std::abs(rough - careful) < 0.5, qPrintable(QString::number(rough)));
}

void DetectTest::comeApart_neverSeenTogether_isNotFound_data()
{
    QTest::addColumn<int>("firstSeen");
    QTest::addColumn<bool>("isFound");
    QTest::newRow("from the hand on") << 40 << true;
    QTest::newRow("a little later") << 44 << true;    // 0.24 m away, of 1.60 m
    QTest::newRow("in the air alone") << 60 << false; // 1.2 m away
}

/// A ball that leaves the hand on frame 40 with 6 m/s, marked from a frame on.
void DetectTest::comeApart_neverSeenTogether_isNotFound()
{
    QFETCH(int, firstSeen);
    QFETCH(bool, isFound);
    Marking m = plainMarking();
    for (int f = 0; f < 100; ++f) {
        mark(m, f, "hand.left", 400, 400);
        if (f >= firstSeen)
            mark(m, f, "ball", 400, 400 - 6 * std::max(0, f - 40));
    }
    const KeyPosition toss{"toss", "Toss", "", 0, by(DetectorKind::ComeApart, {"hand.off", "ball"}), {}};
    const Detection d = only(detectKeyPositions(packOf({toss}), PreparedRepetition(m)));
    QCOMPARE(d.frame.has_value(), isFound);
}

KESTREL_TEST(DetectTest)
#include "detect_test.moc"
