#include "support/runner.h"

#include "vision/pose_reader.h"
#include "vision/region.h"

#include <QtTest>

#include <cmath>
#include <vector>

using namespace kestrel;
using namespace kestrel::vision;

namespace {

/// Colours that rise evenly, so that any mean of them is the colour in its middle: 2 to the right in blue, 3 down in green, and
/// 1 each way in red.
media::Picture ramps()
{
    constexpr int kWidth = 60, kHeight = 50;
    std::shared_ptr<std::uint8_t[]> pixels(new std::uint8_t[4 * kWidth * kHeight]);
    for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
            std::uint8_t* p = pixels.get() + 4 * (y * kWidth + x);
            p[0] = static_cast<std::uint8_t>(2 * x);
            p[1] = static_cast<std::uint8_t>(3 * y);
            p[2] = static_cast<std::uint8_t>(x + y);
            p[3] = 255;
        }
    return {{kWidth, kHeight}, 4 * kWidth, std::move(pixels)};
}

std::vector<float> sampled(const Region& region, int side, Beyond beyond, float least = 0, float most = 255)
{
    std::vector<float> rgb(static_cast<std::size_t>(side) * side * 3, -7);
    sample(ramps(), region, side, beyond, least, most, rgb);
    return rgb;
}

/// A body of which one point lies there, all others in its middle; its network would look at 400 pixels.
Pose bodyReaching(ImagePoint to, double angle)
{
    Pose pose;
    pose.next = {{500, 300}, 400, angle};
    pose.points.fill({pose.next.centre, 1});
    pose.points.back().at = to;
    return pose;
}

} // namespace

class RegionTest : public QObject {
    Q_OBJECT
private slots:
    void sample_betweenPixels_isInterpolated_data();
    void sample_betweenPixels_isInterpolated();
    void sample_ofAMirroredRegion_hasItsColumnsExchanged();
    void sample_beyondThePicture_isItsBorder_orBlack();
    void sample_rangesFromLeastToMost();
    void sideTo_isOfTheSquareWithThePointOnItsEdge();
    void after_aBody_theSquareHoldsItAndWhereItGoes_data();
    void after_aBody_theSquareHoldsItAndWhereItGoes();
};

void RegionTest::sample_betweenPixels_isInterpolated_data()
{
    QTest::addColumn<double>("size");
    QTest::addColumn<double>("angle");
    QTest::addColumn<bool>("isMirrored");
    QTest::newRow("upright, larger") << 5.0 << 0.0 << false;
    QTest::newRow("turned") << 17.0 << 0.4 << false;
    QTest::newRow("several averaged") << 34.0 << -0.2 << false;
    QTest::newRow("mirrored") << 5.0 << 0.0 << true;
    QTest::newRow("turned and mirrored") << 17.0 << 0.4 << true;
}

void RegionTest::sample_betweenPixels_isInterpolated()
{
    QFETCH(double, size);
    QFETCH(double, angle);
    QFETCH(bool, isMirrored);
    constexpr int kSide = 8;
    constexpr double kRounded = 1; // to whole colours, twice where several are averaged, and to a 32nd of a pixel
    const Region region{{30.3, 25.1}, size, angle, isMirrored};
    const auto rgb = sampled(region, kSide, Beyond::Border);
    for (int v = 0; v < kSide; ++v)
        for (int u = 0; u < kSide; ++u) {
            const ImagePoint p = region.at((u + 0.5) / kSide, (v + 0.5) / kSide);
            const double x = p.x - 0.5, y = p.y - 0.5; // the centre of the first pixel is (0.5, 0.5)
            const float* at = rgb.data() + 3 * (v * kSide + u);
            QVERIFY2(std::abs(at[0] - (x + y)) < kRounded && std::abs(at[1] - 3 * y) < kRounded &&
                         std::abs(at[2] - 2 * x) < kRounded,
                     qPrintable(QStringLiteral("%1 %2: %3 %4 %5").arg(u).arg(v).arg(at[0]).arg(at[1]).arg(at[2])));
        }
}

void RegionTest::sample_ofAMirroredRegion_hasItsColumnsExchanged()
{
    const Region region{{30, 25}, 8, 0}, mirrored{{30, 25}, 8, 0, true};
    const auto plain = sampled(region, 2, Beyond::Border), other = sampled(mirrored, 2, Beyond::Border);
    for (std::size_t row : {0, 6})
        for (std::size_t colour : {0, 1, 2}) {
            QCOMPARE(other[row + colour], plain[row + 3 + colour]);
            QCOMPARE(other[row + 3 + colour], plain[row + colour]);
        }
    QVERIFY(plain[0] != plain[3]);
}

void RegionTest::sample_beyondThePicture_isItsBorder_orBlack()
{
    const Region left{{-20, 25.5}, 4, 0}; // level with row 25, where green is 75 and red 25
    const auto border = sampled(left, 1, Beyond::Border), black = sampled(left, 1, Beyond::Black);
    QCOMPARE(border, (std::vector<float>{25, 75, 0}));
    QCOMPARE(black, (std::vector<float>{0, 0, 0}));
    const Region below{{40.5, 300}, 4, 0};
    QCOMPARE(sampled(below, 1, Beyond::Border), (std::vector<float>{40 + 49, 3 * 49, 2 * 40}));
}

void RegionTest::sample_rangesFromLeastToMost()
{
    const auto black = sampled({{-20, -20}, 4, 0}, 1, Beyond::Black, -1, 1);
    QCOMPARE(black, (std::vector<float>{-1, -1, -1}));
    const auto grey = sampled({{25.5, 25.5}, 1, 0}, 1, Beyond::Border, -1, 1);
    QVERIFY(std::abs(grey[0] - (50 * 2 / 255.0 - 1)) < 1e-5 && std::abs(grey[1] - (75 * 2 / 255.0 - 1)) < 1e-5);
}

void RegionTest::sideTo_isOfTheSquareWithThePointOnItsEdge()
{
    const Region region{{30, 20}, 10, 0.3};
    for (const double along : {0.0, 0.4, 1.0}) {
        QVERIFY(std::abs(region.sideTo(region.at(1, along)) - 10) < 1e-9);
        QVERIFY(std::abs(region.sideTo(region.at(along, 0)) - 10) < 1e-9);
    }
    QVERIFY(std::abs(region.sideTo(region.at(-0.5, 0.5)) - 20) < 1e-9);
}

void RegionTest::after_aBody_theSquareHoldsItAndWhereItGoes_data()
{
    QTest::addColumn<double>("was"); // pixels from the middle, to the right along the square
    QTest::addColumn<double>("is");
    QTest::addColumn<double>("side"); // 1.2 * 2 * the farthest, or what the network says where that is less
    QTest::newRow("at rest") << 100.0 << 100.0 << 240.0;
    QTest::newRow("reaching out: 120 two pictures later") << 90.0 << 100.0 << 288.0;
    QTest::newRow("drawing in") << 110.0 << 100.0 << 240.0;
    QTest::newRow("through the middle to the other side") << 60.0 << -40.0 << 2.4 * 240;
    QTest::newRow("as far as the network thinks") << 180.0 << 180.0 << 400.0;
}

void RegionTest::after_aBody_theSquareHoldsItAndWhereItGoes()
{
    QFETCH(double, was);
    QFETCH(double, is);
    QFETCH(double, side);
    for (const double angle : {0.0, 0.5}) {
        const Region square{{500, 300}, 1, angle};
        const auto body = [&](double across) { return bodyReaching(square.at(0.5 + across, 0.5), angle); };
        const Region next = regionAfter(body(is), body(was), 2);
        QVERIFY2(std::abs(next.side - std::min(side, 400.0)) < 1e-6, qPrintable(QString::number(next.side)));
        QCOMPARE(next.centre.x, 500.0);
        QCOMPARE(next.angle, angle);
    }
    QVERIFY(std::abs(regionAfter(bodyReaching({600, 300}, 0), std::nullopt, 2).side - 240) < 1e-6); // no picture before
}

KESTREL_TEST(RegionTest)
#include "region_test.moc"
