#include "support/runner.h"

#include "core/base/error_sample.h"
#include "media/plane_shrinker.h"

#include <QtTest>

using namespace kestrel;
using media::PixelSize;
using media::PlaneShrinker;

namespace {

constexpr std::uint8_t kUntouched = 0xA5;
constexpr int kGuard = 24; // bytes after each row and rows after the last

std::vector<std::uint8_t> noise(PixelSize size)
{
    const ErrorSample sample(5);
    std::vector<std::uint8_t> plane(static_cast<std::size_t>(size.width) * size.height);
    for (std::size_t i = 0; i < plane.size(); ++i)
        plane[i] = static_cast<std::uint8_t>(127.5 + 127.4 * sample.even(i));
    return plane;
}

std::vector<std::uint8_t> shrunken(const std::vector<std::uint8_t>& from, PixelSize size, PixelSize to)
{
    std::vector<std::uint8_t> plane(static_cast<std::size_t>(to.width + kGuard) * (to.height + 1), kUntouched);
    PlaneShrinker(size, to).shrink(from.data(), size.width, plane.data(), to.width + kGuard);
    return plane;
}

/// Bilinear between the middles of pixels.
double expected(const std::vector<std::uint8_t>& from, PixelSize size, PixelSize to, int x, int y)
{
    const auto place = [](int i, int whole, int shrunk) {
        return std::clamp((i + 0.5) * whole / shrunk - 0.5, 0.0, whole - 1.0);
    };
    const double u = place(x, size.width, to.width), v = place(y, size.height, to.height);
    const int left = std::min(static_cast<int>(u), size.width - 2), top = std::min(static_cast<int>(v), size.height - 2);
    const auto at = [&](int i, int j) { return static_cast<double>(from[static_cast<std::size_t>(j) * size.width + i]); };
    const auto row = [&](int j) { return at(left, j) + (u - left) * (at(left + 1, j) - at(left, j)); };
    return row(top) + (v - top) * (row(top + 1) - row(top));
}

} // namespace

class PlaneShrinkerTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase()
    {
        if (!PlaneShrinker::canShrink({64, 64}, {64, 64}))
            QSKIP("This processor has not the instructions; libyuv does the work there.");
    }
    void shrinks_bilinearly_data()
    {
        QTest::addColumn<QSize>("from");
        QTest::addColumn<QSize>("to");
        QTest::newRow("full HD to a window") << QSize(1920, 1080) << QSize(1000, 562);
        QTest::newRow("its colour") << QSize(960, 540) << QSize(500, 281);
        QTest::newRow("just over half") << QSize(1999, 35) << QSize(1000, 18);
        QTest::newRow("a pixel less") << QSize(640, 48) << QSize(639, 47);
        QTest::newRow("the same size") << QSize(64, 48) << QSize(64, 48);
        QTest::newRow("one direction only") << QSize(720, 36) << QSize(411, 36);
        QTest::newRow("the smallest") << QSize(15, 15) << QSize(8, 8);
        QTest::newRow("odd") << QSize(101, 33) << QSize(67, 19);
    }
    void shrinks_bilinearly()
    {
        QFETCH(QSize, from);
        QFETCH(QSize, to);
        const PixelSize size{from.width(), from.height()}, small{to.width(), to.height()};
        QVERIFY(PlaneShrinker::canShrink(size, small));
        const auto plane = noise(size);
        const auto result = shrunken(plane, size, small);
        double worst = 0;
        for (int y = 0; y < small.height; ++y)
            for (int x = 0; x < small.width; ++x)
                worst = std::max(worst, std::abs(result[static_cast<std::size_t>(y) * (small.width + kGuard) + x] -
                                                 expected(plane, size, small, x, y)));
        QVERIFY2(worst < 4, qPrintable(QString::number(worst))); // a share in 64ths of two levels 255 apart, rounded twice
        for (int y = 0; y <= small.height; ++y)
            for (int x = y < small.height ? small.width : 0; x < small.width + kGuard; ++x)
                QCOMPARE(result[static_cast<std::size_t>(y) * (small.width + kGuard) + x], kUntouched);
    }
    void flatStaysFlat()
    {
        for (const int level : {0, 1, 16, 128, 235, 255}) {
            const PixelSize size{333, 77}, to{200, 41};
            const std::vector<std::uint8_t> plane(static_cast<std::size_t>(size.width) * size.height,
                                                  static_cast<std::uint8_t>(level));
            const auto result = shrunken(plane, size, to);
            for (int y = 0; y < to.height; ++y)
                for (int x = 0; x < to.width; ++x)
                    QCOMPARE(int(result[static_cast<std::size_t>(y) * (to.width + kGuard) + x]), level);
        }
    }
    void saysWhatItCannotDo()
    {
        QVERIFY(!PlaneShrinker::canShrink({1920, 1080}, {960, 540}));   // half
        QVERIFY(!PlaneShrinker::canShrink({1920, 1080}, {1921, 1080})); // larger
        QVERIFY(!PlaneShrinker::canShrink({12, 12}, {7, 7}));           // tiny
        QVERIFY(!PlaneShrinker::canShrink({1920, 1080}, {1000, 500}));  // less than half one way
    }
};

KESTREL_TEST(PlaneShrinkerTest)
#include "plane_shrinker_test.moc"
