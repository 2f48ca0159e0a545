#include "support/runner.h"

#include "core/scene/ground_plane.h"
#include "core/scene/marking_json.h"

#include <QtTest>

#include <cmath>
#include <nlohmann/json.hpp>

using namespace kestrel;

/// The ground's plane from places on it, against a camera computed by hand.
class GroundPlaneTest : public QObject {
    Q_OBJECT
private slots:
    void placesAndDistances_areThoseOfTheCamera();
    void clickErrors_areHonest();
    void wrongMark_isTheOneThatMisses();
    void pointInTheAir_comesOutTooFar();
    void refused_data();
    void refused();
    void horizonAndAbove_isNoPlace();
    void scene_keepsItsGround();
};

namespace {

/// A level camera 2 m up that looks along y, 1000 pixels of focal length, its middle at (640, 360):
/// x' = 640 + 1000 x / y, y' = 360 + 1000 (2 - height) / y.
ImagePoint seen(double x, double y, double height = 0)
{
    return {640 + 1000 * x / y, 360 + 1000 * (2 - height) / y};
}

std::vector<GroundMark> marks(std::initializer_list<std::array<double, 2>> places)
{
    std::vector<GroundMark> all;
    for (const auto& [x, y] : places)
        all.push_back({seen(x, y), x, y});
    return all;
}

const auto kCourt = marks({{-3, 6}, {3, 6}, {3, 12}, {-3, 12}, {0, 9}, {0, 12}});

} // namespace

void GroundPlaneTest::placesAndDistances_areThoseOfTheCamera()
{
    for (const auto& court : {kCourt, marks({{-3, 6}, {3, 6}, {3, 12}, {-3, 12}})}) {
        const auto plane = GroundPlane::fit(court);
        QVERIFY2(plane, plane ? "" : plane.error().text().c_str());
        const auto place = plane->at(seen(1.5, 8), 1);
        QVERIFY(place);
        QVERIFY(std::abs(place->x - 1.5) < 1e-6 && std::abs(place->y - 8) < 1e-6);
        const auto distance = plane->distance(seen(0, 7), seen(3, 11), 1); // 3 and 4: 5
        QVERIFY(distance);
        QVERIFY(std::abs(distance->metres - 5) < 1e-6);
        const auto back = plane->imageOf(1.5, 8);
        QVERIFY(back && (*back - seen(1.5, 8)).length() < 1e-6);
        for (const double miss : plane->misses())
            QVERIFY(miss < 1e-6);
        QCOMPARE(plane->markSigma(), 1.5); // what a careful click has
    }
}

void GroundPlaneTest::clickErrors_areHonest()
{
    // marks and points off by 1.5 pixels, as far as the plane says at least: the true distance lies within two of the
    // stated deviations in 90 to 99 of 100
    constexpr int kTries = 400;
    std::uint32_t state = 7;
    const auto uniform = [&] { return static_cast<double>((state = state * 1664525 + 1013904223) >> 8) / (1 << 24); };
    const auto normal = [&] { return std::sqrt(-2 * std::log(uniform() + 1e-9)) * std::cos(6.283185307 * uniform()); };
    const auto off = [&](ImagePoint p) { return p + ImageVector{1.5 * normal(), 1.5 * normal()}; };
    int within = 0;
    for (int i = 0; i < kTries; ++i) {
        auto court = kCourt;
        for (auto& m : court)
            m.at = off(m.at);
        const auto plane = GroundPlane::fit(court);
        QVERIFY(plane);
        const auto distance = plane->distance(off(seen(0, 7)), off(seen(1.5, 9)), 1.5); // 1.5 and 2: 2.5
        QVERIFY(distance && distance->sigma > 0.01 && distance->sigma < 0.3);
        within += std::abs(distance->metres - 2.5) <= 2 * distance->sigma;
    }
    QVERIFY2(within >= 0.90 * kTries && within <= 0.99 * kTries, qPrintable(QString::number(within)));
}

void GroundPlaneTest::wrongMark_isTheOneThatMisses()
{
    auto court = kCourt;
    court[4].x = 1; // a metre off
    const auto plane = GroundPlane::fit(court);
    QVERIFY(plane);
    QVERIFY(plane->markSigma() > 10);
    const auto& misses = plane->misses();
    QCOMPARE(std::max_element(misses.begin(), misses.end()) - misses.begin(), 4);
}

void GroundPlaneTest::pointInTheAir_comesOutTooFar()
{
    const auto plane = GroundPlane::fit(kCourt);
    QVERIFY(plane);
    // half a metre up at 6 m before a camera 2 m up: 6 * 2 / (2 - 0.5) = 8
    const auto place = plane->at(seen(0, 6, 0.5), 1);
    QVERIFY(place && std::abs(place->y - 8) < 1e-6);
}

void GroundPlaneTest::refused_data()
{
    QTest::addColumn<std::vector<GroundMark>>("court");
    QTest::addColumn<QString>("says");
    QTest::newRow("none") << std::vector<GroundMark>{} << "0 are marked";
    QTest::newRow("three") << marks({{-3, 6}, {3, 6}, {3, 12}}) << "3 are marked";
    QTest::newRow("far too many") << std::vector<GroundMark>(51) << "50 places at most";
    QTest::newRow("three on a line") << marks({{-3, 6}, {0, 6}, {3, 6}, {3, 12}}) << "no three lie on one line";
    auto same = marks({{-3, 6}, {3, 6}, {3, 12}, {-3, 12}});
    for (auto& m : same)
        m.x = m.y = 0;
    QTest::newRow("one place") << same << "no three lie on one line";
    auto crossed = marks({{-3, 6}, {3, 6}, {3, 12}, {-3, 12}});
    std::swap(crossed[0].at, crossed[1].at);
    QTest::newRow("two taken for each other") << crossed << "cannot lie like that";
}

void GroundPlaneTest::refused()
{
    QFETCH(std::vector<GroundMark>, court);
    QFETCH(QString, says);
    const auto plane = GroundPlane::fit(court);
    QVERIFY(!plane);
    QCOMPARE(plane.error().code, ErrorCode::BadArgument);
    QVERIFY2(QString::fromStdString(plane.error().text()).contains(says), plane.error().text().c_str());
}

void GroundPlaneTest::horizonAndAbove_isNoPlace()
{
    const auto plane = GroundPlane::fit(kCourt);
    QVERIFY(plane);
    QVERIFY(!plane->at({640, 359}, 1));
    QVERIFY(!plane->at({100, 10}, 1));
    QVERIFY(!plane->distance({640, 700}, {640, 300}, 1));
}

void GroundPlaneTest::scene_keepsItsGround()
{
    Scene scene;
    QVERIFY(!toJson(scene).contains("ground"));
    scene.ground = kCourt;
    const auto back = parseScene(toJson(scene), "scene.json");
    QVERIFY2(back, back ? "" : back.error().text().c_str());
    QVERIFY(*back == scene);
    auto broken = toJson(scene);
    broken["ground"][2]["x"] = "three";
    const auto refused = parseScene(broken, "scene.json");
    QVERIFY(!refused);
    QVERIFY(QString::fromStdString(refused.error().text()).contains(QStringLiteral("/ground/2/x")));
}

KESTREL_TEST(GroundPlaneTest)
#include "ground_plane_test.moc"
