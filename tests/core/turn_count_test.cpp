#include "support/runner.h"

#include "core/flight/turn_count.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;

class TurnCountTest : public QObject {
    Q_OBJECT
private slots:
    void wholeTurns_areCounted_anEarlierPictureBeginsAnew();
    void angles_addThePartThatIsLeft_eitherWayRound_data();
    void angles_addThePartThatIsLeft_eitherWayRound();
    void anglesAlone_areAddedUp_data();
    void anglesAlone_areAddedUp();
    void anglesTooFarApart_sayNothing();
};

void TurnCountTest::wholeTurns_areCounted_anEarlierPictureBeginsAnew()
{
    TurnCount count;
    QVERIFY(!count.counted());
    count.addTurn(FrameIndex(10));
    QVERIFY(!count.counted());
    for (const int frame : {18, 26, 34})
        count.addTurn(FrameIndex(frame));
    QCOMPARE(count.counted()->turns, 3.0);
    QCOMPARE(count.counted()->pictures(), 24);
    count.setAngle(FrameIndex(36), 90);
    QVERIFY(count.lacksFirstAngle());
    QCOMPARE(count.counted()->turns, 3.0);
    count.setAngle(FrameIndex(10), 0);
    QVERIFY(!count.lacksFirstAngle());
    count.addTurn(FrameIndex(12));
    QVERIFY(!count.counted());
    count.addTurn(FrameIndex(20));
    QCOMPARE(count.counted()->turns, 1.0);
}

void TurnCountTest::angles_addThePartThatIsLeft_eitherWayRound_data()
{
    QTest::addColumn<double>("perPicture"); // degrees
    QTest::newRow("clockwise") << 31.0;
    QTest::newRow("the other way") << -31.0;
    QTest::newRow("slow") << 17.5;
    QTest::newRow("four pictures a turn") << -90.0;
}

/// Two turns are counted; the seam is drawn on the first picture and some pictures after the second turn.
void TurnCountTest::angles_addThePartThatIsLeft_eitherWayRound()
{
    QFETCH(double, perPicture);
    const double turn = 360 / std::abs(perPicture);
    for (const int more : {1, 3, 6, 14}) {
        TurnCount count;
        count.addTurn(FrameIndex(5));
        count.setAngle(FrameIndex(5), 40);
        count.addTurn(FrameIndex(5 + std::lround(turn)));
        count.addTurn(FrameIndex(5 + std::lround(2 * turn)));
        const FrameIndex end(5 + std::lround(2 * turn) + more);
        count.setAngle(end, 40 + perPicture * static_cast<double>(end.value - 5));
        const double expected = std::abs(perPicture) / 360 * static_cast<double>(end.value - 5);
        QVERIFY2(std::abs(count.counted()->turns - expected) < 0.03,
                 qPrintable(QStringLiteral("%1, not %2").arg(count.counted()->turns).arg(expected)));
        QCOMPARE(count.counted()->to, end);
        QVERIFY(count.counted()->sigma < 0.04);
    }
}

void TurnCountTest::anglesAlone_areAddedUp_data()
{
    QTest::addColumn<double>("perPicture");
    QTest::newRow("clockwise") << 25.0;
    QTest::newRow("the other way, quick") << -140.0;
}

void TurnCountTest::anglesAlone_areAddedUp()
{
    QFETCH(double, perPicture);
    TurnCount count;
    for (int n = 0; n <= 20; ++n)
        count.setAngle(FrameIndex(n), std::remainder(170 + n * perPicture, 360)); // as an arc tangent gives it
    QVERIFY(std::abs(count.counted()->turns - 20 * std::abs(perPicture) / 360) < 1e-9);
    QCOMPARE(count.counted()->pictures(), 20);
}

void TurnCountTest::anglesTooFarApart_sayNothing()
{
    TurnCount count;
    count.setAngle(FrameIndex(0), 0);
    count.setAngle(FrameIndex(1), 175);
    QVERIFY(!count.counted());
    TurnCount still;
    still.setAngle(FrameIndex(0), 10);
    still.setAngle(FrameIndex(8), 10);
    QVERIFY(!still.counted());
}

KESTREL_TEST(TurnCountTest)
#include "turn_count_test.moc"
