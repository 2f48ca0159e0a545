#include "support/markings.h"
#include "support/runner.h"

#include "core/scene/prepared_repetition.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::test;

namespace {

constexpr double kSigma = 10; // pixels, which are centimetres
constexpr int kFrames = 4000; // of 10 ms
constexpr int kFirst = 60;
constexpr int kApart = 400;   // four seconds apart, errors have nothing to do with each other
constexpr double kNear = 0.1; // 860 draws know a deviation to 2.4 %
const char* const kMarked[] = {"knee.left", "ankle.left", "ankle.right", "wrist.left"};

/// Points about the middle of the picture, where neither roll nor scale moves them, for forty seconds: at rest, or going to and
/// fro with so many pixels a frame, for half a second each.
PreparedRepetition filmed(Source source, double speed = 0)
{
    Marking m = plainMarking();
    m.film.frames = kFrames;
    for (const auto* name : kMarked)
        for (int f = 0; f < kFrames; ++f)
            m.marks.push_back(
                {FrameIndex(f), *findLandmark(name), {500 + speed * (std::abs(f % 100 - 50) - 25), 400}, kSigma, source, true});
    return PreparedRepetition(m);
}

/// One deviation over draws and instants, upward, centimetres, of what \p height gives.
template <class Height> double deviation(Height height)
{
    double squares = 0;
    int count = 0;
    for (int f = kFirst; f + kApart < kFrames; f += kApart)
        for (std::uint32_t n = 1; n <= kErrorSamples; ++n, ++count) {
            const double centimetres = 100 * height(FramePosition(f), ErrorSample(n));
            squares += centimetres * centimetres;
        }
    return std::sqrt(squares / count);
}

double between(const PreparedRepetition& r, const char* one, const char* other)
{
    const PointPath a(r, *findPointRole(one)), b(r, *findPointRole(other));
    return deviation([&](FramePosition f, ErrorSample d) { return a.at(f, d)->y - b.at(f, d)->y; });
}

double overTime(const PreparedRepetition& r, int frames)
{
    const char* const apart[] = {"wrist.off", "knee.off", "ankle.dom"}; // of three limbs
    double squares = 0;
    for (const auto* name : apart) {
        const PointPath p(r, *findPointRole(name));
        squares += std::pow(deviation([&](FramePosition f, ErrorSample d) {
                                return p.at(FramePosition(f.value + frames), d)->y - p.at(f, d)->y;
                            }),
                            2);
    }
    return std::sqrt(squares / std::size(apart));
}

void compare(double found, double expected)
{
    QVERIFY2(std::abs(found / expected - 1) < kNear, qPrintable(QStringLiteral("%1, not %2").arg(found).arg(expected)));
}

} // namespace

/// What marks of a program and of a coach are taken to be off by.
class CorrelatedErrorTest : public QObject {
    Q_OBJECT
private slots:
    void atAnInstant_itIsAsLargeAsTheSigma_data();
    void atAnInstant_itIsAsLargeAsTheSigma();
    void programs_atRest_isNearlyTheSameOnTheNextPicture();
    void programs_atRest_isAnotherAfterSeconds();
    void programs_goesByHowFarThePointHasMoved();
    void coachs_isAnotherOnEveryPicture();
    void programs_isPartlyThatOfTheLimb();
    void programs_isNotSmoothedAway();
};

void CorrelatedErrorTest::atAnInstant_itIsAsLargeAsTheSigma_data()
{
    QTest::addColumn<int>("source");
    QTest::newRow("clicked") << static_cast<int>(Source::Coach);
    QTest::newRow("seen by a network") << static_cast<int>(Source::Network);
    QTest::newRow("followed") << static_cast<int>(Source::Tracked);
}

void CorrelatedErrorTest::atAnInstant_itIsAsLargeAsTheSigma()
{
    QFETCH(int, source);
    const PreparedRepetition r = filmed(static_cast<Source>(source));
    for (const char* name : {"wrist.off", "knee.off"}) {
        const PointPath p(r, *findPointRole(name));
        compare(deviation([&](FramePosition f, ErrorSample d) { return p.at(f, d)->y - p.at(f, ErrorSample())->y; }), kSigma);
    }
}

void CorrelatedErrorTest::programs_atRest_isNearlyTheSameOnTheNextPicture()
{
    // what is new of it twice, and of the rest what 10 of 2000 ms turn it by
    const double expected = kSigma * std::sqrt(2 * 0.03 + 0.97 * 2 * (1 - std::cos(0.005 * std::numbers::pi / 2)));
    compare(overTime(filmed(Source::Network), 1), expected);
}

void CorrelatedErrorTest::programs_atRest_isAnotherAfterSeconds()
{
    compare(overTime(filmed(Source::Network), kApart), std::sqrt(2.0) * kSigma);
}

/// In a fifth of a second: 48 cm are twice 15 % of the 1.60 m that the athlete stands.
void CorrelatedErrorTest::programs_goesByHowFarThePointHasMoved()
{
    QVERIFY(overTime(filmed(Source::Network), 20) < 0.7 * kSigma);
    compare(overTime(filmed(Source::Network, 2.4), 20), std::sqrt(2.0) * kSigma);
    QVERIFY(overTime(filmed(Source::Network, 0.3), 20) < kSigma);
}

void CorrelatedErrorTest::coachs_isAnotherOnEveryPicture()
{
    compare(overTime(filmed(Source::Coach), 1), std::sqrt(2.0) * kSigma);
}

void CorrelatedErrorTest::programs_isPartlyThatOfTheLimb()
{
    const double apart = std::sqrt(2.0) * kSigma, together = apart * std::sqrt(1 - 0.94 * 0.4);
    compare(between(filmed(Source::Network), "knee.off", "ankle.off"), together);
    compare(between(filmed(Source::Network), "knee.off", "ankle.dom"), apart);
    compare(between(filmed(Source::Network), "knee.off", "wrist.off"), apart);
    compare(between(filmed(Source::Coach), "knee.off", "ankle.off"), apart);
}

/// At 240 pictures a second a click is read from those around it, which halves its error; a program's stays.
void CorrelatedErrorTest::programs_isNotSmoothedAway()
{
    const auto smoothed = [](Source source) {
        Marking m = filmed(source).marking();
        m.clock = {240, 240};
        const PreparedRepetition r(m);
        return deviation([&](FramePosition f, ErrorSample d) {
            PointPath p(r, *findPointRole("wrist.off"));
            p.smoothAround(f);
            return p.at(f, d)->y - p.at(f, ErrorSample())->y;
        });
    };
    QVERIFY2(smoothed(Source::Coach) < 0.7 * kSigma, qPrintable(QString::number(smoothed(Source::Coach))));
    compare(smoothed(Source::Network), kSigma); // but for half of the little that is new of it
}

KESTREL_TEST(CorrelatedErrorTest)
#include "correlated_error_test.moc"
