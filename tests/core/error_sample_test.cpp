#include "support/runner.h"

#include "core/base/error_sample.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;

namespace {

constexpr int kMany = 200'000; // which know a mean to 0.002, a deviation to 0.0016 and a share of 5 % to 0.05

} // namespace

class ErrorSampleTest : public QObject {
    Q_OBJECT
private slots:
    void bestEstimate_isUndisturbed();
    void normalPair_isNormal_data();
    void normalPair_isNormal();
    void normalPair_twoNumbers_knowNothingOfEachOther();
};

void ErrorSampleTest::bestEstimate_isUndisturbed()
{
    QCOMPARE(ErrorSample().normal(5), 0.0);
    QVERIFY((ErrorSample().normalPair(5) == std::array{0.0, 0.0}));
}

void ErrorSampleTest::normalPair_isNormal_data()
{
    QTest::addColumn<int>("which");
    QTest::newRow("first") << 0;
    QTest::newRow("second") << 1;
}

void ErrorSampleTest::normalPair_isNormal()
{
    QFETCH(int, which);
    double sum = 0, squares = 0, fourths = 0;
    int outside = 0;
    for (std::uint64_t n = 0; n < kMany; ++n) {
        const double v = ErrorSample(1 + n % kErrorSamples).normalPair(n)[static_cast<std::size_t>(which)];
        sum += v;
        squares += v * v;
        fourths += v * v * v * v;
        outside += std::abs(v) > 1.96;
    }
    QVERIFY2(std::abs(sum / kMany) < 0.01, qPrintable(QString::number(sum / kMany)));
    QVERIFY2(std::abs(squares / kMany - 1) < 0.015, qPrintable(QString::number(squares / kMany)));
    QVERIFY2(std::abs(fourths / kMany - 3) < 0.1, qPrintable(QString::number(fourths / kMany)));
    QVERIFY2(std::abs(100.0 * outside / kMany - 5) < 0.25, qPrintable(QString::number(100.0 * outside / kMany)));
}

void ErrorSampleTest::normalPair_twoNumbers_knowNothingOfEachOther()
{
    double together = 0, next = 0, last = 0;
    for (std::uint64_t n = 0; n < kMany; ++n) {
        const auto [a, b] = ErrorSample(1 + n % kErrorSamples).normalPair(n / kErrorSamples);
        together += a * b;
        next += a * last; // of the draw before
        last = a;
    }
    QVERIFY2(std::abs(together / kMany) < 0.01, qPrintable(QString::number(together / kMany)));
    QVERIFY2(std::abs(next / kMany) < 0.01, qPrintable(QString::number(next / kMany)));
}

KESTREL_TEST(ErrorSampleTest)
#include "error_sample_test.moc"
