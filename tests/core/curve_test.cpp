#include "support/markings.h"
#include "support/runner.h"

#include "core/base/error_sample.h"
#include "core/scene/curve.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

/// The filter behind every speed and rate.
class CurveTest : public QObject {
    Q_OBJECT
private slots:
    void rate_ofAParabola_isExact_evenAtTheEnds();
    void rate_unevenTimes_isExact();
    void rate_acrossAGap_isLeftOut();
    void smoothed_keepsAParabola_andHalvesNoise();
    void smoothed_sparseSamples_areKept();
    void peak_betweenSamples_isFound();
    void peak_atTheEnd_isTheSample();
    void peak_ofNothing_isNone();
};

namespace {

template <class F> Curve sampled(int n, double rate, F value)
{
    Curve c;
    for (int i = 0; i < n; ++i)
        c.add(i / rate, value(i / rate));
    return c;
}

} // namespace

void CurveTest::rate_ofAParabola_isExact_evenAtTheEnds()
{
    const Curve rate = rateOf(sampled(50, 240, [](double t) { return 3 * t * t - 2 * t + 1; }));
    QCOMPARE(rate.seconds.size(), std::size_t{50});
    for (std::size_t i = 0; i < rate.values.size(); ++i)
        QVERIFY(std::abs(rate.values[i] - (6 * rate.seconds[i] - 2)) < 1e-8);
}

void CurveTest::rate_unevenTimes_isExact()
{
    Curve c;
    for (const double t : {0.0, 0.004, 0.009, 0.011, 0.018, 0.024, 0.029})
        c.add(t, 5 * t * t + t);
    const Curve rate = rateOf(c);
    for (std::size_t i = 0; i < rate.values.size(); ++i)
        QVERIFY(std::abs(rate.values[i] - (10 * rate.seconds[i] + 1)) < 1e-8);
}

void CurveTest::rate_acrossAGap_isLeftOut()
{
    Curve c = sampled(2, 240, [](double t) { return t; });
    c.add(1.0, 1.0);
    c.add(1.0 + 1 / 240.0, 1.0);
    QVERIFY(rateOf(c).isEmpty()); // never two neighbours and a third within reach
}

void CurveTest::smoothed_keepsAParabola_andHalvesNoise()
{
    const auto truth = [](double t) { return 40 * t * t - t; };
    const Curve same = smoothed(sampled(60, 240, truth));
    for (std::size_t i = 0; i < same.values.size(); ++i)
        QVERIFY(std::abs(same.values[i] - truth(same.seconds[i])) < 1e-9);

    const ErrorSample sample(3);
    std::uint64_t key = 0;
    const Curve noisy = sampled(400, 240, [&](double t) { return truth(t) + sample.normal(++key); });
    std::vector<double> left;
    const Curve calm = smoothed(noisy, kSmoothReach, &left);
    double squares = 0;
    for (std::size_t i = 20; i < 380; ++i)
        squares += std::pow(calm.values[i] - truth(calm.seconds[i]), 2) / 360;
    QVERIFY2(std::abs(std::sqrt(squares) - left[200]) < 0.08, qPrintable(QString::number(std::sqrt(squares))));
    QVERIFY(left[200] < 0.5 && left[0] > 0.7); // the middle gains much, the ends little
}

void CurveTest::smoothed_sparseSamples_areKept()
{
    const Curve sparse = sampled(5, 10, [](double t) { return t > 0.15 ? 1.0 : 0.0; });
    QVERIFY(smoothed(sparse) == sparse);
}

void CurveTest::peak_betweenSamples_isFound()
{
    const auto peak = peakOf(sampled(20, 100, [](double t) { return 4 - 300 * (t - 0.083) * (t - 0.083); }));
    QVERIFY(peak && std::abs(peak->seconds - 0.083) < 1e-9 && std::abs(peak->value - 4) < 1e-9);
}

void CurveTest::peak_atTheEnd_isTheSample()
{
    const auto peak = peakOf(sampled(10, 100, [](double t) { return t; }));
    QVERIFY(peak && peak->seconds == 0.09 && peak->value == 0.09);
}

void CurveTest::peak_ofNothing_isNone()
{
    QVERIFY(!peakOf({}));
    QVERIFY(rateOf({}).isEmpty());
}

KESTREL_TEST(CurveTest)
#include "curve_test.moc"
