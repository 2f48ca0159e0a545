#include "support/markings.h"
#include "support/runner.h"

#include "core/read/uncertain_mark.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

/// The order in which the programs' marks are worth a look.
class UncertainMarkTest : public QObject {
    Q_OBJECT
private slots:
    void leastSureFirst_coachsAndUnusedLeftOut();
};

void UncertainMarkTest::leastSureFirst_coachsAndUnusedLeftOut()
{
    const Pack pack =
        packOfOne("tilt", {"hip.lead", "hip.trail"}, Unit::Degree, false, View::Side, {0.0, 10.0, Evidence::Taught, "", {}, {}});
    Marking m = plainMarking();
    place(m, "a", 20.4);
    const auto add = [&](std::int64_t frame, const char* landmark, double sigma, Source source) {
        m.marks.push_back({FrameIndex(frame), *findLandmark(landmark), {10, 10}, sigma, source, true});
    };
    add(20, "hip.left", 2, Source::Network);
    add(20, "hip.right", 5, Source::Tracked);
    add(20, "knee.left", 9, Source::Network); // nothing is read from it
    add(21, "hip.left", 9, Source::Network);  // nor there
    const auto doubts = findUncertainMarks(pack, m);
    QCOMPARE(doubts.size(), std::size_t{2});
    QCOMPARE(nameOf(doubts[0].landmark), std::string("hip.right"));
    QCOMPARE(doubts[1], (UncertainMark{FrameIndex(20), *findLandmark("hip.left"), 2}));
    m.marks[1].source = Source::Coach;
    QCOMPARE(findUncertainMarks(pack, m).size(), std::size_t{1});
}

KESTREL_TEST(UncertainMarkTest)
#include "uncertain_mark_test.moc"
