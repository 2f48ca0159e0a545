#include "support/runner.h"

#include "vision/racket_face_finder.h"

#include <QtTest>

#include <cmath>
#include <numbers>

using namespace kestrel;
using namespace kestrel::vision;

namespace {

constexpr double kHalfWidth = 16; // cells

/// A face whose shaft points up, its tip at 100, 100: as long as wide, turned about the shaft and leaning toward the camera.
struct Face {
    ImageVector along, across; ///< half diameters as they are seen
};

Face faceAt(double lean, double turned)
{
    const double l = lean * std::numbers::pi / 180, t = turned * std::numbers::pi / 180;
    // the shaft (0, -cos l, sin l), the width (cos t, sin t sin l, sin t cos l): square to it
    return {ImageVector{0, -std::cos(l)} * kHalfWidth, ImageVector{std::cos(t), std::sin(t) * std::sin(l)} * kHalfWidth};
}

/// A rim as wide as two cells, or the whole blade.
double evidenceOf(const Face& f, ImagePoint p, bool isFilled)
{
    const ImagePoint middle{100 - f.along.x, 100 - f.along.y};
    const ImageVector d = p - middle;
    const double det = f.along.x * f.across.y - f.along.y * f.across.x;
    const double u = (d.x * f.across.y - d.y * f.across.x) / det, v = (f.along.x * d.y - f.along.y * d.x) / det;
    const double r = std::hypot(u, v);
    return isFilled ? r < 1.05 : std::abs(r - 1) < 0.08;
}

/// The same for each place of a picture.
Evidence pictureOf(const Face& f, bool isFilled)
{
    Evidence picture{200, 200, {}};
    for (int y = 0; y < picture.height; ++y)
        for (int x = 0; x < picture.width; ++x)
            picture.values.push_back(static_cast<float>(evidenceOf(f, {x + 0.5, y + 0.5}, isFilled)));
    return picture;
}

SeenShaft shaftOf(const Face& f)
{
    return {{100, 100}, f.along * (1 / f.along.length()), f.along.length() / kHalfWidth, 3 * f.along.length()};
}

/// As if it had been found so far aside, radians, and so much too short.
SeenShaft misplaced(const SeenShaft& whole, double aside, double tooShort)
{
    SeenShaft seen = whole;
    const ImageVector square{-whole.along.y, whole.along.x};
    seen.along = whole.along * std::cos(aside) + square * std::sin(aside);
    seen.length = whole.length - tooShort;
    seen.share = whole.share * seen.length / whole.length;
    seen.tip = whole.tip + whole.along * -whole.length + seen.along * seen.length;
    return seen;
}

} // namespace

class RacketFaceFinderTest : public QObject {
    Q_OBJECT
private slots:
    void edges_areFound_data();
    void edges_areFound();
    void edges_keepTheirNames_whileTheFaceTurns();
    void shaftFoundTooShortAndAside_endsWhereTheFaceDoes_data();
    void shaftFoundTooShortAndAside_endsWhereTheFaceDoes();
    void nothingThere_isNone();
    void stopped_findsNone();
};

void RacketFaceFinderTest::edges_areFound_data()
{
    QTest::addColumn<double>("lean");
    QTest::addColumn<double>("turned");
    QTest::addColumn<bool>("isFilled");
    for (const bool isFilled : {false, true})
        for (const double lean : {10.0, 45.0, 65.0})
            for (const double turned : {0.0, 30.0, 60.0})
                QTest::addRow("%s, leaning %.0f, turned %.0f", isFilled ? "blade" : "strings", lean, turned)
                    << lean << turned << isFilled;
}

void RacketFaceFinderTest::edges_areFound()
{
    QFETCH(double, lean);
    QFETCH(double, turned);
    QFETCH(bool, isFilled);
    const Face face = faceAt(lean, turned);
    const auto found = findFaces({3, shaftOf(face)}, kHalfWidth, [&](std::size_t) { return pictureOf(face, isFilled); });
    QVERIFY(found[1]);
    const ImageVector own = (found[1]->a - found[1]->b) * 0.5;
    const double off = std::min((own - face.across).length(), (own + face.across).length());
    QVERIFY2(off < 0.25 * kHalfWidth,
             qPrintable(QStringLiteral("%1, %2 for %3, %4").arg(own.x).arg(own.y).arg(face.across.x).arg(face.across.y)));
}

void RacketFaceFinderTest::edges_keepTheirNames_whileTheFaceTurns()
{
    constexpr std::size_t kPictures = 24;
    const auto faceOn = [](std::size_t i) { // the shaft turns by 12 degrees a picture, all but once round
        const double angle = 12 * std::numbers::pi / 180 * static_cast<double>(i);
        return Face{ImageVector{std::sin(angle), -std::cos(angle)} * kHalfWidth,
                    ImageVector{std::cos(angle), std::sin(angle)} * kHalfWidth};
    };
    std::vector<std::optional<SeenShaft>> shafts;
    for (std::size_t i = 0; i < kPictures; ++i)
        shafts.emplace_back(shaftOf(faceOn(i)));
    const auto found = findFaces(shafts, kHalfWidth, [&](std::size_t i) { return pictureOf(faceOn(i), false); });
    const double first = dot(found[0]->a - found[0]->b, faceOn(0).across);
    for (std::size_t i = 0; i < kPictures; ++i) {
        QVERIFY2(found[i], qPrintable(QString::number(i)));
        QVERIFY2(dot(found[i]->a - found[i]->b, faceOn(i).across) * first > 0, qPrintable(QString::number(i)));
    }
}

void RacketFaceFinderTest::shaftFoundTooShortAndAside_endsWhereTheFaceDoes_data()
{
    QTest::addColumn<double>("lean");
    QTest::addColumn<double>("aside");
    QTest::addColumn<double>("tooShort");
    QTest::addRow("nearly whole") << 10.0 << 4.0 << 1.0;
    QTest::addRow("between the steps of the search") << 10.0 << 2.0 << 0.37;
    QTest::addRow("too long") << 20.0 << -3.0 << -0.6;
    QTest::addRow("pointing at the camera, far aside") << 60.0 << 14.0 << -0.3;
}

void RacketFaceFinderTest::shaftFoundTooShortAndAside_endsWhereTheFaceDoes()
{
    QFETCH(double, lean);
    QFETCH(double, aside);
    QFETCH(double, tooShort);
    const Face face = faceAt(lean, 20);
    const SeenShaft whole = shaftOf(face);
    const SeenShaft seen = misplaced(whole, aside * std::numbers::pi / 180, tooShort * kHalfWidth);
    const auto found = findFaces({2, seen}, kHalfWidth, [&](std::size_t) { return pictureOf(face, false); });
    QVERIFY(found[0]);
    const double off = (found[0]->tip - whole.tip).length();
    QVERIFY2(off < 0.15 * kHalfWidth, qPrintable(QString::number(off / kHalfWidth)));
    QVERIFY((seen.tip - whole.tip).length() > 0.35 * kHalfWidth);
}

void RacketFaceFinderTest::nothingThere_isNone()
{
    const Evidence plain{200, 200, std::vector<float>(200 * 200, 0.4F)};
    std::vector<std::optional<SeenShaft>> shafts(4); // on two of the pictures there is no shaft
    shafts[0] = shafts[1] = shaftOf(faceAt(10, 0));
    for (const auto& f : findFaces(shafts, kHalfWidth, [&](std::size_t) { return plain; }))
        QVERIFY(!f);
    QVERIFY(findFaces({}, kHalfWidth, [&](std::size_t) { return plain; }).empty());
}

void RacketFaceFinderTest::stopped_findsNone()
{
    std::stop_source stop;
    const Face face = faceAt(10, 0);
    const auto found = findFaces(
        {40, shaftOf(face)}, kHalfWidth,
        [&](std::size_t) {
            stop.request_stop();
            return pictureOf(face, false);
        },
        stop.get_token());
    QCOMPARE(found.size(), 40U);
    for (const auto& f : found)
        QVERIFY(!f);
}

KESTREL_TEST(RacketFaceFinderTest)
#include "racket_face_finder_test.moc"
