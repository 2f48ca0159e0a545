#include "support/runner.h"

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

} // namespace

class RegionTest : public QObject {
    Q_OBJECT
private slots:
    void sample_betweenPixels_isInterpolated_data();
    void sample_betweenPixels_isInterpolated();
    void sample_beyondThePicture_isItsBorder_orBlack();
    void sample_rangesFromLeastToMost();
};

void RegionTest::sample_betweenPixels_isInterpolated_data()
{
    QTest::addColumn<double>("size");
    QTest::addColumn<double>("angle");
    QTest::newRow("upright, larger") << 5.0 << 0.0;
    QTest::newRow("turned") << 17.0 << 0.4;
    QTest::newRow("several averaged") << 34.0 << -0.2;
}

void RegionTest::sample_betweenPixels_isInterpolated()
{
    QFETCH(double, size);
    QFETCH(double, angle);
    constexpr int kSide = 8;
    constexpr double kRounded = 1; // to whole colours, twice where several are averaged, and to a 32nd of a pixel
    const Region region{{30.3, 25.1}, size, angle};
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

KESTREL_TEST(RegionTest)
#include "region_test.moc"
