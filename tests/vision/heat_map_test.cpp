#include "support/runner.h"

#include "vision/heat_map.h"

#include <QtTest>

#include <cmath>
#include <vector>

using namespace kestrel;
using namespace kestrel::vision;

namespace {

constexpr int kSide = 32;
constexpr std::size_t kPoints = 2, kOther = 0, kOwn = 1;

/// A round spot on a map, as high in its middle as that.
struct Spot {
    ImagePoint middle;
    double high;
};

/// Maps of two points: the first shows a spot in the corner only.
std::vector<float> mapsOf(const std::vector<Spot>& spots)
{
    constexpr double kWide = 1.5; // cells
    const auto shown = [&](const std::vector<Spot>& all, int column, int row) {
        double most = 1e-6;
        for (const Spot& s : all) {
            const double away = std::hypot(column - s.middle.x, row - s.middle.y) / kWide;
            most = std::max(most, s.high * std::exp(-away * away / 2));
        }
        return static_cast<float>(std::log(most / (1 - most)));
    };
    std::vector<float> logits;
    for (int row = 0; row < kSide; ++row)
        for (int column = 0; column < kSide; ++column) {
            logits.push_back(shown({{{1, 1}, 0.9}}, column, row));
            logits.push_back(shown(spots, column, row));
        }
    return logits;
}

ImagePoint topOf(const std::vector<Spot>& spots, ImagePoint from, std::size_t point = kOwn)
{
    const auto logits = mapsOf(spots);
    return topNear(from, {logits, kSide, kPoints}, point);
}

void verifyAt(ImagePoint found, ImagePoint expected)
{
    QVERIFY2((found - expected).length() < 0.1, qPrintable(QStringLiteral("%1, %2").arg(found.x).arg(found.y)));
}

} // namespace

class HeatMapTest : public QObject {
    Q_OBJECT
private slots:
    void spot_isFound_betweenCells();
    void weakSpotBeside_doesNotDrawThePointAside();
    void higherSpot_isChosen();
    void spotOutOfReach_isNotLookedFor();
    void emptyMap_leavesThePoint();
    void edge_cutsTheLookAround();
    void outsideOfTheMap_isLeft_data();
    void outsideOfTheMap_isLeft();
    void mapOfThePoint_isRead();
};

void HeatMapTest::spot_isFound_betweenCells()
{
    verifyAt(topOf({{{16.3, 12.6}, 0.8}}, {14, 14}), {16.3, 12.6});
}

void HeatMapTest::weakSpotBeside_doesNotDrawThePointAside()
{
    verifyAt(topOf({{{16, 12}, 0.8}, {{19, 15}, 0.4}}, {16, 12}), {16, 12});
}

void HeatMapTest::higherSpot_isChosen()
{
    verifyAt(topOf({{{12, 16}, 0.9}, {{17, 16}, 0.3}}, {16, 16}), {12, 16});
}

void HeatMapTest::spotOutOfReach_isNotLookedFor()
{
    verifyAt(topOf({{{28, 28}, 0.9}}, {10, 10}), {10, 10});
}

void HeatMapTest::emptyMap_leavesThePoint()
{
    verifyAt(topOf({{{16, 12}, 0.15}}, {14.2, 13.9}), {14.2, 13.9});
}

void HeatMapTest::edge_cutsTheLookAround()
{
    verifyAt(topOf({{{28, 29}, 0.9}}, {31.5, 31.5}), {28, 29});
}

void HeatMapTest::outsideOfTheMap_isLeft_data()
{
    QTest::addColumn<double>("x");
    QTest::addColumn<double>("y");
    QTest::newRow("left") << -0.5 << 3.0;
    QTest::newRow("above") << 3.0 << -0.5;
    QTest::newRow("right") << 32.0 << 3.0;
    QTest::newRow("below") << 3.0 << 40.0;
    QTest::newRow("farther than a cell can be counted") << 3.0 << 1e20;
}

void HeatMapTest::outsideOfTheMap_isLeft()
{
    QFETCH(double, x);
    QFETCH(double, y);
    const ImagePoint from{x, y};
    QCOMPARE(topOf({{{1, 3}, 0.9}, {{30, 3}, 0.9}, {{3, 1}, 0.9}, {{3, 30}, 0.9}}, from), from);
}

void HeatMapTest::mapOfThePoint_isRead()
{
    verifyAt(topOf({{{4, 4}, 0.9}}, {2, 2}, kOther), {1, 1});
    verifyAt(topOf({{{4, 4}, 0.9}}, {2, 2}, kOwn), {4, 4});
}

KESTREL_TEST(HeatMapTest)
#include "heat_map_test.moc"
