#include "support/markings.h"
#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "vision/propose.h"

#include <QtTest>

#include <algorithm>
#include <cmath>
#include <initializer_list>

using namespace kestrel;
using namespace kestrel::test;
using vision::proposeKeyPositions;

namespace {

Detector by(DetectorKind kind, const char* point)
{
    Detector d;
    d.kind = kind;
    d.points.push_back(*findPointRole(point));
    return d;
}

/// A wrist that goes out and up and comes back, highest and farthest out on frame 50 of 100.
Marking raised(View view)
{
    Marking m = plainMarking();
    m.scene.view = view;
    for (int f = 0; f < 100; ++f) {
        const double up = 150 - 0.06 * (f - 50) * (f - 50);
        mark(m, f, "wrist.right", 300 + up, 400 - up);
    }
    return m;
}

std::vector<Detection> proposed(const std::vector<KeyPosition>& positions, View view)
{
    Pack p;
    p.id = "test";
    p.keyPositions = positions;
    const Marking m = raised(view);
    return proposeKeyPositions(p, m, evenClock(100, 100));
}

bool isAtFifty(const Detection& d)
{
    return d.frame && std::abs(d.frame->value - 50) < 1;
}

} // namespace

/// What the program proposes by itself depends on what a view shows.
class ProposeTest : public QObject {
    Q_OBJECT
private slots:
    void heights_areSeenFromAnywhereButAbove();
    void speeds_areProposedFromASideAlone();
    void detectorForTheEnds_isAskedThere();
    void detectorForAbove_isAskedThereAlone();
    void firstMoves_areProposedFromAnywhere_byTheAlternativeToo_lessSurely();
    void fromASide_oneSign_isDoubtedLessThanSeveral();
    void packs_standInsForOneSign_sayHowFarOffTheyAre();
    void furtherSigns_thatAView_doesNotShow_areLeftOutThere();
    void packs_nameForAViewOnlyWhatIsSeenThere();
    void packs_detectors_doNotWaitForEachOther();
};

void ProposeTest::heights_areSeenFromAnywhereButAbove()
{
    const std::vector<KeyPosition> top{{"top", "Top", "", 0, by(DetectorKind::Highest, "wrist.dom"), {}}};
    for (const View view : {View::Side, View::SideBack, View::Front, View::Rear, View::Diagonal})
        QVERIFY(isAtFifty(proposed(top, view).front()));
    const Detection none = proposed(top, View::Overhead).front();
    QVERIFY(!none.frame);
    QVERIFY2(none.why.find("by hand") != std::string::npos, none.why.c_str());
}

void ProposeTest::speeds_areProposedFromASideAlone()
{
    const std::vector<KeyPosition> fast{{"fast", "Fast", "", 0, by(DetectorKind::Fastest, "wrist.dom"), {}}};
    QVERIFY(proposed(fast, View::Side).front().frame);
    for (const View view : {View::Front, View::Rear, View::Overhead, View::Diagonal})
        QVERIFY(!proposed(fast, view).front().frame);
}

void ProposeTest::detectorForTheEnds_isAskedThere()
{
    KeyPosition k{"k", "K", "", 0, by(DetectorKind::Fastest, "wrist.dom"), {}};
    k.fromEnd = by(DetectorKind::Outward, "wrist.dom");
    QVERIFY(isAtFifty(proposed({k}, View::Rear).front()));
    QVERIFY(!isAtFifty(proposed({k}, View::Side).front()));
    QVERIFY(!proposed({k}, View::Diagonal).front().frame);
}

void ProposeTest::detectorForAbove_isAskedThereAlone()
{
    KeyPosition k{"k", "K", "", 0, by(DetectorKind::Fastest, "wrist.dom"), {}};
    k.fromAbove = by(DetectorKind::Highest, "wrist.dom");
    const Detection above = proposed({k}, View::Overhead).front();
    QVERIFY(isAtFifty(above));
    QVERIFY(above.uncertaintyFrames >= 3 * proposed({k}, View::Side).front().uncertaintyFrames);
    QVERIFY(!isAtFifty(proposed({k}, View::Side).front()));
    for (const View view : {View::Rear, View::Diagonal})
        QVERIFY(!proposed({k}, view).front().frame);
}

void ProposeTest::firstMoves_areProposedFromAnywhere_byTheAlternativeToo_lessSurely()
{
    KeyPosition k{"k", "K", "", 0, by(DetectorKind::Leaves, "implement.grip"), {}}; // which is not marked
    k.fallback = by(DetectorKind::Leaves, "wrist.dom");
    const Detection side = proposed({k}, View::Side).front();
    QVERIFY2(side.frame, side.why.c_str());
    for (const View view : {View::Front, View::Rear, View::Overhead}) {
        const Detection d = proposed({k}, view).front();
        QVERIFY2(d.frame && *d.frame == *side.frame, d.why.c_str());
        QVERIFY(d.uncertaintyFrames > 2 * side.uncertaintyFrames);
    }
}

void ProposeTest::fromASide_oneSign_isDoubtedLessThanSeveral()
{
    const KeyPosition one{"k", "K", "", 0, by(DetectorKind::Highest, "wrist.dom"), {}};
    KeyPosition several = one;
    several.detector->votes = {by(DetectorKind::Highest, "wrist.dom"), by(DetectorKind::Highest, "wrist.dom")};
    const double interval = 0.01;
    QCOMPARE(proposed({one}, View::Side).front().uncertaintyFrames * interval, 0.012);
    QCOMPARE(proposed({several}, View::Side).front().uncertaintyFrames * interval, 0.02);
    QCOMPARE(proposed({one}, View::Rear).front().uncertaintyFrames * interval, 0.025);
}

void ProposeTest::packs_standInsForOneSign_sayHowFarOffTheyAre()
{
    for (const auto& file : packFiles(shippedFolder("packs"))) {
        const auto pack = loadPack(file);
        QVERIFY2(pack, file.c_str());
        for (const auto& k : pack->keyPositions)
            if (k.fallback && k.detector->votes.empty())
                QVERIFY2(k.fallback->toleranceMs >= 20, (pack->id + " " + k.id).c_str());
    }
}

void ProposeTest::furtherSigns_thatAView_doesNotShow_areLeftOutThere()
{
    Detector highest = by(DetectorKind::Highest, "wrist.dom");
    const DetectorRule fast = by(DetectorKind::Fastest, "wrist.dom"); // at the beginning
    highest.votes = {fast, fast};
    const KeyPosition k{"k", "K", "", 0, highest, {}};
    const auto fromRear = proposed({k}, View::Rear).front(), fromSide = proposed({k}, View::Side).front();
    QVERIFY(fromSide.frame && isAtFifty(fromRear));
    QVERIFY2(fromSide.frame->value < 10, qPrintable(QString::number(fromSide.frame->value)));
}

/// Neither ways along the target line from its ends, nor heights and ways across it from above.
void ProposeTest::packs_nameForAViewOnlyWhatIsSeenThere()
{
    using enum DetectorKind;
    for (const auto& file : packFiles(shippedFolder("packs"))) {
        const auto pack = findPack(file);
        QVERIFY2(pack, file.c_str());
        const auto isOneOf = [](const std::optional<Detector>& d, std::initializer_list<DetectorKind> kinds) {
            const auto isThat = [&](const DetectorRule& s) {
                return std::find(kinds.begin(), kinds.end(), s.kind) != kinds.end();
            };
            return d && (isThat(*d) || std::any_of(d->votes.begin(), d->votes.end(), isThat));
        };
        for (const auto& k : pack->keyPositions)
            QVERIFY2(!isOneOf(k.fromEnd, {Ahead, Behind, Crosses}) &&
                         !isOneOf(k.fromAbove, {Highest, Lowest, Lands, Outward, Inward}),
                     qPrintable(QString::fromStdString(pack->id + " " + k.id)));
    }
}

/// Each sign may be looked for after or before another position, whose own signs may in turn name others, in every view.
void ProposeTest::packs_detectors_doNotWaitForEachOther()
{
    for (const auto& file : packFiles(shippedFolder("packs")))
        for (const View view : {View::Side, View::Rear, View::Overhead, View::Diagonal}) {
            const auto pack = findPack(file);
            QVERIFY2(pack, file.c_str());
            for (const auto& d : proposeKeyPositions(*pack, raised(view), evenClock(100, 100)))
                QVERIFY2(d.why.find("wait for each other") == std::string::npos, (pack->id + " " + d.keyPosition).c_str());
        }
}

KESTREL_TEST(ProposeTest)
#include "propose_test.moc"
