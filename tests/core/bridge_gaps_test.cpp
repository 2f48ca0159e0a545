#include "support/runner.h"

#include "core/scene/bridge_gaps.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;

namespace {

constexpr std::int64_t kFrames = 40;

/// On those frames of a film, 100 pictures a second: as many pixels along as the frame, up by its square.
std::vector<Mark> thrown(const std::vector<int>& frames, Source source = Source::Network, const char* landmark = "wrist.left")
{
    std::vector<Mark> marks;
    for (const int f : frames)
        marks.push_back(
            {FrameIndex(f), *findLandmark(landmark), {static_cast<double>(f), static_cast<double>(f * f)}, 3, source, true});
    return marks;
}

std::vector<Mark> bridged(std::vector<Mark> marks, double rate = 100)
{
    bridgeGaps(marks, evenClock(kFrames, rate));
    return marks;
}

} // namespace

class BridgeGapsTest : public QObject {
    Q_OBJECT
private slots:
    void aShortGap_isCrossedOnTheWayOfTheMarksBesideIt();
    void whatItBends_isUncertainByHalf();
    void otherGaps_stay_data();
    void otherGaps_stay();
};

void BridgeGapsTest::aShortGap_isCrossedOnTheWayOfTheMarksBesideIt()
{
    const auto marks = bridged(thrown({8, 9, 13, 14}));
    QCOMPARE(marks.size(), std::size_t(7));
    for (std::size_t i = 0; i < marks.size(); ++i) {
        const auto f = static_cast<std::int64_t>(8 + i);
        QCOMPARE(marks[i].frame.value, f); // in order
        QVERIFY(std::abs(marks[i].at.x - static_cast<double>(f)) < 1e-6);
        QVERIFY(std::abs(marks[i].at.y - static_cast<double>(f * f)) < 1e-6);
        QVERIFY(marks[i].source == Source::Network);
    }
}

void BridgeGapsTest::whatItBends_isUncertainByHalf()
{
    const auto marks = bridged(thrown({8, 9, 13, 14}));
    QCOMPARE(marks[1].sigma, 3.0);
    // frame 11: 121 against (81 + 169) / 2, off by 4
    QVERIFY2(std::abs(marks[3].sigma - std::hypot(3, 2)) < 1e-6, qPrintable(QString::number(marks[3].sigma)));
}

void BridgeGapsTest::otherGaps_stay_data()
{
    QTest::addColumn<std::vector<Mark>>("marks");
    QTest::addColumn<double>("rate");
    QTest::newRow("longer than 50 ms") << thrown({8, 9, 15, 16}) << 100.0;
    QTest::newRow("at 30 a second: 67 ms") << thrown({8, 9, 11, 12}) << 30.0;
    QTest::newRow("one mark alone before it") << thrown({9, 13, 14}) << 100.0;
    QTest::newRow("one mark alone behind it") << thrown({8, 9, 13}) << 100.0;
    QTest::newRow("the next one far behind") << thrown({8, 9, 13, 20}) << 100.0;
    QTest::newRow("clicked by a coach") << thrown({8, 9, 13, 14}, Source::Coach) << 100.0;
    QTest::newRow("a ball's") << thrown({8, 9, 13, 14}, Source::Network, "ball") << 100.0;
    QTest::newRow("none") << thrown({8, 9, 10, 11}) << 100.0;
    QTest::newRow("no marks") << thrown({}) << 100.0;
}

void BridgeGapsTest::otherGaps_stay()
{
    QFETCH(std::vector<Mark>, marks);
    QFETCH(double, rate);
    QCOMPARE(bridged(marks, rate).size(), marks.size());
}

KESTREL_TEST(BridgeGapsTest)
#include "bridge_gaps_test.moc"
