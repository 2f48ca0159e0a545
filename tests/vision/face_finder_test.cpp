#include "support/runner.h"

#include "vision/face_finder.h"

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

FaceFinder::Shaft shaftOf(const Face& f)
{
    return {{100, 100}, f.along * (1 / f.along.length()), f.along.length() / kHalfWidth, 3 * f.along.length()};
}

} // namespace

class FaceFinderTest : public QObject {
    Q_OBJECT
private slots:
    void edges_areFound_data();
    void edges_areFound();
    void edges_keepTheirNames_whileTheFaceTurns();
    void shaftFoundTooShortAndAside_endsWhereTheFaceDoes();
    void nothingThere_isNone();
};

void FaceFinderTest::edges_areFound_data()
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

void FaceFinderTest::edges_areFound()
{
    QFETCH(double, lean);
    QFETCH(double, turned);
    QFETCH(bool, isFilled);
    const Face face = faceAt(lean, turned);
    FaceFinder finder(kHalfWidth, 3);
    for (std::size_t i = 0; i < 3; ++i)
        finder.look(i, shaftOf(face), [&](ImagePoint p) { return evidenceOf(face, p, isFilled); });
    const auto found = finder.find();
    QVERIFY(found[1]);
    const ImageVector own = (found[1]->a - found[1]->b) * 0.5;
    const double off = std::min((own - face.across).length(), (own + face.across).length());
    QVERIFY2(off < 0.25 * kHalfWidth,
             qPrintable(QStringLiteral("%1, %2 for %3, %4").arg(own.x).arg(own.y).arg(face.across.x).arg(face.across.y)));
}

void FaceFinderTest::edges_keepTheirNames_whileTheFaceTurns()
{
    constexpr std::size_t kPictures = 24;
    FaceFinder finder(kHalfWidth, kPictures);
    const auto faceOn = [](std::size_t i) { // the shaft turns by 12 degrees a picture, all but once round
        const double angle = 12 * std::numbers::pi / 180 * static_cast<double>(i);
        return Face{ImageVector{std::sin(angle), -std::cos(angle)} * kHalfWidth,
                    ImageVector{std::cos(angle), std::sin(angle)} * kHalfWidth};
    };
    for (std::size_t i = 0; i < kPictures; ++i)
        finder.look(i, shaftOf(faceOn(i)), [&](ImagePoint p) { return evidenceOf(faceOn(i), p, false); });
    const auto found = finder.find();
    const double first = dot(found[0]->a - found[0]->b, faceOn(0).across);
    for (std::size_t i = 0; i < kPictures; ++i) {
        QVERIFY2(found[i], qPrintable(QString::number(i)));
        QVERIFY2(dot(found[i]->a - found[i]->b, faceOn(i).across) * first > 0, qPrintable(QString::number(i)));
    }
}

void FaceFinderTest::shaftFoundTooShortAndAside_endsWhereTheFaceDoes()
{
    const Face face = faceAt(10, 20);
    const FaceFinder::Shaft whole = shaftOf(face);
    const ImagePoint hands = whole.tip + whole.along * -whole.length;
    const double aside = 4 * std::numbers::pi / 180;
    FaceFinder::Shaft seen = whole;
    seen.along = ImageVector{std::sin(aside), -std::cos(aside)};
    seen.length = whole.length - kHalfWidth;
    seen.tip = hands + seen.along * seen.length;
    FaceFinder finder(kHalfWidth, 2);
    for (std::size_t i = 0; i < 2; ++i)
        finder.look(i, seen, [&](ImagePoint p) { return evidenceOf(face, p, false); });
    const auto found = finder.find();
    QVERIFY(found[0]);
    const double off = (found[0]->tip - whole.tip).length();
    QVERIFY2(off < 0.2 * kHalfWidth, qPrintable(QString::number(off / kHalfWidth)));
    QVERIFY((seen.tip - whole.tip).length() > kHalfWidth);
}

void FaceFinderTest::nothingThere_isNone()
{
    FaceFinder finder(kHalfWidth, 4);
    for (std::size_t i = 0; i < 2; ++i) // and two pictures on which there is no shaft
        finder.look(i, shaftOf(faceAt(10, 0)), [](ImagePoint) { return 0.4; });
    for (const auto& f : finder.find())
        QVERIFY(!f);
    QVERIFY(FaceFinder(kHalfWidth, 0).find().empty());
}

KESTREL_TEST(FaceFinderTest)
#include "face_finder_test.moc"
