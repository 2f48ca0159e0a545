#include "support/markings.h"
#include "support/runner.h"

#include "core/scene/camera_place.h"
#include "sim/likeness.h"

#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::sim;
using namespace kestrel::test;

/// The player's body and camera, got back from what a film shows of them.
class LikenessTest : public QObject {
    Q_OBJECT
private slots:
    void cameraPlace_isWhereTheCameraStood_data();
    void cameraPlace_isWhereTheCameraStood();
    void cameraPlace_lookingStraightDown_isEmpty();
    void personOf_hasTheLimbsOfTheFilm_data();
    void personOf_hasTheLimbsOfTheFilm();
    void personOf_withoutScaleOrMarks_isUsual();
    void personOf_unbelievable_isUsual();
    void optionsLike_standsWhereTheCameraStood();
};

namespace {

/// Eight places of a court five metres wide about the action, as a camera sees them.
std::vector<GroundMark> courtOn(const Camera& camera)
{
    std::vector<GroundMark> marks;
    for (const double x : {-2.5, -1.0, 1.0, 2.5})
        for (const double z : {-2.0, 1.5})
            marks.push_back({camera.project({x, 0, z}), x, z});
    return marks;
}

} // namespace

void LikenessTest::cameraPlace_isWhereTheCameraStood_data()
{
    QTest::addColumn<double>("x");
    QTest::addColumn<double>("height");
    QTest::addColumn<double>("z");
    QTest::addColumn<double>("focal");
    QTest::newRow("behind, high") << 1.0 << 3.0 << 9.0 << 1200.0;
    QTest::newRow("aside") << -6.0 << 1.4 << 7.0 << 1500.0;
    QTest::newRow("far, long lens") << 3.0 << 2.0 << 20.0 << 3000.0;
    QTest::newRow("the other side") << 2.0 << 1.8 << -8.0 << 900.0;
    QTest::newRow("along the court's line") << 0.3 << 1.8 << 9.0 << 1200.0;
}

void LikenessTest::cameraPlace_isWhereTheCameraStood()
{
    QFETCH(double, x);
    QFETCH(double, height);
    QFETCH(double, z);
    QFETCH(double, focal);
    const Vec3 eye(x, height, z);
    const Camera camera(eye, Vec3(0.3, 0.8, 0) - eye, {0, 1, 0}, focal, {1280, 720});
    const auto ground = GroundPlane::fit(courtOn(camera));
    QVERIFY(ground);
    const auto place = cameraPlace(*ground, 1280, 720);
    QVERIFY(place);
    QVERIFY2(std::abs(place->x - x) < 0.01 && std::abs(place->y - z) < 0.01, qPrintable(QString::number(place->x)));
    QVERIFY2(std::abs(place->height - height) < 0.01, qPrintable(QString::number(place->height)));
    QVERIFY2(std::abs(place->focal / focal - 1) < 0.001, qPrintable(QString::number(place->focal)));
}

/// A longer lens from farther up shows the same.
void LikenessTest::cameraPlace_lookingStraightDown_isEmpty()
{
    const Camera camera({0.3, 9, 0.2}, {0, -1, 0}, {0, 0, -1}, 1200, {1280, 720});
    const auto ground = GroundPlane::fit(courtOn(camera));
    QVERIFY(ground.has_value());
    QVERIFY(!cameraPlace(*ground, 1280, 720));
}

void LikenessTest::personOf_hasTheLimbsOfTheFilm_data()
{
    QTest::addColumn<double>("arms");
    QTest::addColumn<double>("thighs");
    QTest::newRow("usual") << 1.0 << 1.0;
    QTest::newRow("long arms") << 1.10 << 1.0;
    QTest::newRow("short arms, long thighs") << 0.92 << 1.06;
}

void LikenessTest::personOf_hasTheLimbsOfTheFilm()
{
    QFETCH(double, arms);
    QFETCH(double, thighs);
    SimulateOptions o;
    o.skill = "overhand-pitch";
    o.frameRate = 60;
    o.person.arms = arms;
    o.person.thighs = thighs;
    const Person person = personOf(simulated(o).truth);
    QVERIFY2(std::abs(person.arms - arms) < 0.04, qPrintable(QString::number(person.arms)));
    QVERIFY2(std::abs(person.thighs - thighs) < 0.03, qPrintable(QString::number(person.thighs)));
    QCOMPARE(person.heightMetres, o.person.heightMetres);
    QCOMPARE(person.breadth, 1.0); // from the side it is not seen
}

void LikenessTest::personOf_withoutScaleOrMarks_isUsual()
{
    SimulateOptions o;
    o.skill = "overhand-pitch";
    o.frameRate = 60;
    o.person.arms = 1.1;
    Marking unscaled = simulated(o).truth;
    Marking unmarked = unscaled;
    unscaled.scene.scale.reset();
    unmarked.marks.clear();
    QCOMPARE(personOf(unscaled).arms, 1.0);
    QCOMPARE(personOf(unmarked).arms, 1.0);
}

void LikenessTest::personOf_unbelievable_isUsual()
{
    SimulateOptions o;
    o.skill = "overhand-pitch";
    o.frameRate = 60;
    Marking marking = simulated(o).truth;
    marking.athlete.heightMetres = 1.1; // a wrong height would give her arms of a giant
    QCOMPARE(personOf(marking).arms, 1.0);
}

void LikenessTest::optionsLike_standsWhereTheCameraStood()
{
    SimulateOptions o;
    o.skill = "overhand-pitch";
    o.frameRate = 60;
    o.hand = Hand::Left;
    o.camera.distance = 14;
    o.camera.height = 2.4;
    const auto s = simulated(o);
    Marking marking = s.truth;
    const SimulateOptions blind = optionsLike(marking, o.skill, "");
    QVERIFY(!blind.camera.distance && !blind.camera.height);
    marking.scene.ground = courtOn(s.camera);
    const SimulateOptions like = optionsLike(marking, o.skill, "");
    QCOMPARE(like.hand, Hand::Left);
    QVERIFY(like.camera.distance && like.camera.height);
    QVERIFY2(std::abs(*like.camera.height - 2.4) < 0.05, qPrintable(QString::number(*like.camera.height)));
    QVERIFY2(std::abs(*like.camera.distance - 14) < 1, qPrintable(QString::number(*like.camera.distance)));
}

KESTREL_TEST(LikenessTest)
#include "likeness_test.moc"
