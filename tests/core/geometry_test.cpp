#include "support/runner.h"

#include "core/base/geometry.h"
#include "core/base/segment.h"
#include "core/base/time.h"
#include "core/scene/marking.h"
#include "core/scene/scene_frame.h"

#include <QtTest>

using namespace kestrel;

class GeometryTest : public QObject {
    Q_OBJECT
private slots:
    void angleAt_handComputed_data();
    void angleAt_handComputed();
    void angleAt_pointsCoincide_isEmpty();
    void distanceToSegment_byHand();
    void wrappedDegrees_anyTurn_isTheSameDirection_data();
    void wrappedDegrees_anyTurn_isTheSameDirection();
    void sceneFrame_viewsAndHands_aheadMeansTheSame_data();
    void sceneFrame_viewsAndHands_aheadMeansTheSame();
    void sceneFrame_tiltedCamera_upIsUp();
    void sceneFrame_toImage_undoesToBody();
    void sceneFrame_withoutScale_saysSo();
    void frameClock_slowMotion_givesRealTime();
    void frameClock_variableRate_followsTheFile();
    void frameClock_betweenPictures_interpolates();
    void frameClock_outside_isEmptyOrExtended();
    void frameClock_frameAt_isThePictureOnScreen_data();
    void frameClock_frameAt_isThePictureOnScreen();
};

void GeometryTest::angleAt_handComputed_data()
{
    QTest::addColumn<double>("ax");
    QTest::addColumn<double>("ay");
    QTest::addColumn<double>("bx");
    QTest::addColumn<double>("by");
    QTest::addColumn<double>("degrees");
    QTest::newRow("right angle") << 1.0 << 0.0 << 0.0 << 1.0 << 90.0;
    QTest::newRow("straight") << 1.0 << 0.0 << -3.0 << 0.0 << 180.0;
    QTest::newRow("folded") << 2.0 << 2.0 << 1.0 << 1.0 << 0.0;
    QTest::newRow("60 degrees") << 1.0 << 0.0 << 0.5 << 0.86602540378 << 60.0;
    QTest::newRow("the other way round is the same") << 0.5 << 0.86602540378 << 1.0 << 0.0 << 60.0;
    QTest::newRow("obtuse below") << 1.0 << 0.0 << -1.0 << -1.0 << 135.0;
}

void GeometryTest::angleAt_handComputed()
{
    QFETCH(double, ax);
    QFETCH(double, ay);
    QFETCH(double, bx);
    QFETCH(double, by);
    QFETCH(double, degrees);
    const BodyPoint vertex{4, -7}; // anywhere: only differences count
    const auto angle = angleAt(BodyPoint{ax + 4, ay - 7}, vertex, BodyPoint{bx + 4, by - 7});
    QVERIFY(angle);
    QVERIFY(std::abs(angle->asDegrees() - degrees) < 1e-6); // rounding of the table only
}

void GeometryTest::angleAt_pointsCoincide_isEmpty()
{
    QVERIFY(!angleAt(BodyPoint{1, 1}, BodyPoint{1, 1}, BodyPoint{2, 0}));
    QVERIFY(!angleAt(BodyPoint{2, 0}, BodyPoint{1, 1}, BodyPoint{1, 1}));
    QVERIFY(!directionOf({3, 3}, {3, 3}));
}

void GeometryTest::distanceToSegment_byHand()
{
    const ImagePoint a{10, 10}, b{50, 10};
    QCOMPARE(distanceToSegment(ImagePoint{30, 14}, a, b), 4.0);
    QCOMPARE(distanceToSegment(ImagePoint{53, 14}, a, b), 5.0); // past the end
    QCOMPARE(distanceToSegment(ImagePoint{7, 6}, a, b), 5.0);   // before the beginning
    QCOMPARE(distanceToSegment(ImagePoint{13, 14}, a, a), 5.0);
}

void GeometryTest::wrappedDegrees_anyTurn_isTheSameDirection_data()
{
    QTest::addColumn<double>("in");
    QTest::addColumn<double>("out");
    for (const auto& [in, out] :
         {std::pair{0.0, 0.0}, {180.0, 180.0}, {-180.0, 180.0}, {190.0, -170.0}, {-190.0, 170.0}, {720.0, 0.0}, {359.0, -1.0}})
        QTest::addRow("%g", in) << in << out;
}

void GeometryTest::wrappedDegrees_anyTurn_isTheSameDirection()
{
    QFETCH(double, in);
    QFETCH(double, out);
    QCOMPARE(wrappedDegrees(in), out);
}

void GeometryTest::sceneFrame_viewsAndHands_aheadMeansTheSame_data()
{
    QTest::addColumn<int>("target");
    QTest::addColumn<int>("hand");
    QTest::addColumn<double>("pictureRight"); // body x of one pixel to the right
    const auto row = [](const char* name, TargetDirection t, Hand h, double x) {
        QTest::newRow(name) << static_cast<int>(t) << static_cast<int>(h) << x;
    };
    row("side, target right", TargetDirection::Right, Hand::Right, 1);
    row("side, target left", TargetDirection::Left, Hand::Left, -1);
    row("a left-hander filmed toward the right", TargetDirection::Right, Hand::Left, 1);
    row("from behind, right hand is at the right", TargetDirection::Away, Hand::Right, 1);
    row("from behind, left hand is at the left", TargetDirection::Away, Hand::Left, -1);
    row("from the target, right hand is at the left", TargetDirection::Toward, Hand::Right, -1);
    row("from the target, left hand is at the right", TargetDirection::Toward, Hand::Left, 1);
}

void GeometryTest::sceneFrame_viewsAndHands_aheadMeansTheSame()
{
    QFETCH(int, target);
    QFETCH(int, hand);
    QFETCH(double, pictureRight);
    Scene scene;
    scene.target = static_cast<TargetDirection>(target);
    scene.scale = Scale{{0, 0}, {50, 0}, 1.0};
    const SceneFrame frame(scene, static_cast<Hand>(hand));
    const BodyVector step = frame.toBody({101, 60}) - frame.toBody({100, 60});
    QVERIFY(std::abs(step.x - pictureRight / 50) < 1e-12);
    QVERIFY(std::abs(step.y) < 1e-12);
}

void GeometryTest::sceneFrame_tiltedCamera_upIsUp()
{
    // the camera leans by 30 degrees: gravity points to the lower left
    Scene scene;
    scene.up = {0.5, -0.86602540378443865};
    scene.scale = Scale{{0, 0}, {0, 100}, 1.0};
    const SceneFrame frame(scene, Hand::Right);
    const BodyVector up = frame.toBody({50, -86.602540378443865}) - frame.toBody({0, 0});
    QVERIFY(std::abs(up.x) < 1e-12);
    QVERIFY(std::abs(up.y - 1) < 1e-12);
}

void GeometryTest::sceneFrame_toImage_undoesToBody()
{
    Scene scene;
    scene.target = TargetDirection::Left;
    scene.up = {0.1, -0.9};
    scene.scale = Scale{{10, 20}, {200, 35}, 0.61};
    const SceneFrame frame(scene, Hand::Left);
    for (const ImagePoint p : {ImagePoint{0, 0}, {640.5, 12}, {-30, 2000}}) {
        const ImagePoint back = frame.toImage(frame.toBody(p));
        QVERIFY(std::hypot(back.x - p.x, back.y - p.y) < 1e-9);
    }
}

void GeometryTest::sceneFrame_withoutScale_saysSo()
{
    QVERIFY(!SceneFrame(Scene{}, Hand::Right).hasScale());
    Scene noLength;
    noLength.scale = Scale{{5, 5}, {5, 5}, 1.0};
    QVERIFY(!SceneFrame(noLength, Hand::Right).hasScale());
}

void GeometryTest::frameClock_slowMotion_givesRealTime()
{
    std::vector<MediaTime> shown;
    for (int i = 0; i < 61; ++i)
        shown.push_back(MediaTime::fromSeconds(i / 30.0));
    const FrameClock clock(shown, 8.0); // 240 shown at 30
    QVERIFY(std::abs(clock.timeOf(FrameIndex(60))->seconds - 0.25) < 1e-9);
    QVERIFY(std::abs(clock.meanInterval() - 1.0 / 240) < 1e-9);
}

void GeometryTest::frameClock_variableRate_followsTheFile()
{
    const FrameClock clock({{0}, {33'000'000}, {100'000'000}, {133'000'000}}, 1.0);
    QCOMPARE(clock.timeOf(FrameIndex(2))->seconds, 0.1);
    QCOMPARE(*clock.timeOf(FrameIndex(3)) - *clock.timeOf(FrameIndex(2)), 0.133 - 0.1);
}

void GeometryTest::frameClock_betweenPictures_interpolates()
{
    const FrameClock clock({{0}, {100'000'000}, {300'000'000}}, 1.0);
    QVERIFY(std::abs(clock.timeOf(FramePosition(1.25))->seconds - 0.15) < 1e-12);
    QVERIFY(std::abs(clock.timeOf(FramePosition(0.5))->seconds - 0.05) < 1e-12);
}

void GeometryTest::frameClock_outside_isEmptyOrExtended()
{
    const FrameClock clock({{0}, {100'000'000}}, 1.0);
    QVERIFY(!clock.timeOf(FrameIndex(-1)));
    QVERIFY(!clock.timeOf(FrameIndex(2)));
    QVERIFY(std::abs(clock.timeOf(FramePosition(1.5))->seconds - 0.15) < 1e-12);
    QVERIFY(!FrameClock().timeOf(FramePosition(0.0)));
}

void GeometryTest::frameClock_frameAt_isThePictureOnScreen_data()
{
    QTest::addColumn<double>("seconds");
    QTest::addColumn<int>("frame");
    QTest::newRow("before the film") << -1.0 << 0;
    QTest::newRow("at the start") << 0.0 << 0;
    QTest::newRow("just before the second") << 0.0999 << 0;
    QTest::newRow("exactly at the second") << 0.1 << 1;
    QTest::newRow("long after the end") << 99.0 << 2;
}

void GeometryTest::frameClock_frameAt_isThePictureOnScreen()
{
    QFETCH(double, seconds);
    QFETCH(int, frame);
    const FrameClock clock({{0}, {100'000'000}, {300'000'000}}, 1.0);
    QCOMPARE(clock.frameAt({seconds}).value, std::int64_t{frame});
}

KESTREL_TEST(GeometryTest)
#include "geometry_test.moc"
