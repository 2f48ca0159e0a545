// Flight against closed forms and against another integrator; the sums and what people say.

#include "support/runner.h"

#include "core/flight/flight.h"
#include "core/flight/sum.h"

#include <QtTest>

#include <cmath>
#include <numbers>

using namespace kestrel;

namespace {

constexpr double kDegrees = 180 / std::numbers::pi;

FlightModel withoutAir()
{
    FlightModel m;
    m.density = 0;
    return m;
}

/// The same equations by steps of fixed length (classical Runge and Kutta, order 4), written a second time.
FlightState marched(const FlightModel& m, FlightState s, double untilX, double step)
{
    struct V {
        double x, z, vx, vz;
    };
    const double area = std::numbers::pi * std::pow(m.diameter / 2, 2);
    const auto rate = [&](const V& y) {
        const double v = std::sqrt(y.vx * y.vx + y.vz * y.vz);
        const double q = 0.5 * m.density * v * v * area / m.mass; // pressure on the ball's area, a kilogram
        V d{y.vx, y.vz, -q * m.drag * y.vx / v, -q * m.drag * y.vz / v - 9.80665};
        const double spin = std::abs(m.backspin) * 2 * std::numbers::pi / 60; // radians a second
        if (spin > 0) {
            const double factor = spin * m.diameter / 2 / v, cl = 1 / (2.32 + 0.4 / factor), sign = m.backspin > 0 ? 1 : -1;
            d.vx += -sign * q * cl * y.vz / v;
            d.vz += sign * q * cl * y.vx / v;
        }
        return d;
    };
    const auto plus = [](const V& a, const V& b, double h) {
        return V{a.x + h * b.x, a.z + h * b.z, a.vx + h * b.vx, a.vz + h * b.vz};
    };
    V y{s.x, s.z, s.vx, s.vz};
    double t = 0;
    while (y.x < untilX) {
        const double h = std::min(step, std::max(1e-12, (untilX - y.x) / y.vx));
        const V k1 = rate(y), k2 = rate(plus(y, k1, h / 2)), k3 = rate(plus(y, k2, h / 2)), k4 = rate(plus(y, k3, h));
        y = plus(plus(plus(plus(y, k1, h / 6), k2, h / 3), k3, h / 3), k4, h / 6);
        t += h;
        if (untilX - y.x < 1e-11)
            break;
    }
    return {t, y.x, y.z, y.vx, y.vz};
}

SumAnswer answer(const char* card, std::map<std::string, double> values, bool hasAir = true)
{
    SumInput input;
    input.values = std::move(values);
    input.hasAir = hasAir;
    auto done = workOut(*findSumCard(card), input);
    if (!done)
        qFatal("%s", done.error().message.c_str());
    return *done;
}

double value(const SumAnswer& a, const char* name)
{
    return a.find(name)->value;
}

} // namespace

class FlightTest : public QObject {
    Q_OBJECT
private slots:
    void withoutAir_isTheClosedForm();
    void withAir_asAnotherIntegrator_data();
    void withAir_asAnotherIntegrator();
    void halvedTolerance_changesNothing();
    void energy_neverGrowsWithoutSpin();
    void flatAngle_isTheFlatOne();
    void leastSpeed_isTheLeast();
    void density_atSeaAndInTheHills();
    void balls_allRead();
    void pitchPlane_withoutAir_byHand();
    void jumpShot_withoutAir_byHand();
    void serveWindow_clearsAndLands();
    void mound_raisesTheRelease();
    void simpleSums_byHand();
    void spin_refusesBelowFourPictures();
    void everyCard_usualNumbers_hasRangeClaimAndPicture();
    void claims_followFromTheNumbers();
    void badInput_data();
    void badInput();
};

void FlightTest::withoutAir_isTheClosedForm()
{
    for (const double angle : {-20.0, 0.0, 30.0, 52.0, 75.0})
        for (const double speed : {5.0, 20.0, 45.0}) {
            const auto from = leaving(1.8, speed, angle);
            const double t = 0.6, x = from.vx * t;
            const auto there = flyToDistance(withoutAir(), from, x);
            QVERIFY(there.has_value());
            const double z = 1.8 + from.vz * t - kGravity * t * t / 2;
            QVERIFY(std::abs(there->z - z) < 1e-6 * std::max(1.0, std::abs(z)));
            QVERIFY(std::abs(there->t - t) < 1e-6 * t);
            QVERIFY(std::abs(there->vz - (from.vz - kGravity * t)) < 1e-6 * std::max(1.0, std::abs(from.vz)));
        }
}

void FlightTest::withAir_asAnotherIntegrator_data()
{
    QTest::addColumn<QString>("ball");
    QTest::addColumn<double>("speed");
    QTest::addColumn<double>("angle");
    QTest::addColumn<double>("spin");
    QTest::addColumn<double>("distance");
    QTest::newRow("baseball") << "baseball" << 38.0 << -1.0 << 2000.0 << 16.8;
    QTest::newRow("baseball, no spin") << "baseball" << 38.0 << -1.0 << 0.0 << 16.8;
    QTest::newRow("tennis, topspin") << "tennis" << 45.0 << -6.0 << -2000.0 << 18.0;
    QTest::newRow("table tennis") << "table-tennis" << 12.0 << 10.0 << -5000.0 << 2.7;
    QTest::newRow("basketball") << "basketball-7" << 8.2 << 52.0 << 120.0 << 4.6;
    QTest::newRow("puck") << "puck" << 25.0 << 8.0 << 0.0 << 10.0;
}

void FlightTest::withAir_asAnotherIntegrator()
{
    QFETCH(QString, ball);
    QFETCH(double, speed);
    QFETCH(double, angle);
    QFETCH(double, spin);
    QFETCH(double, distance);
    const FlightModel m = FlightModel::of(*findBall(ball.toStdString()), airDensity(20, 0), spin);
    const auto from = leaving(1.8, speed, angle);
    const auto a = flyToDistance(m, from, distance);
    const auto b = marched(m, from, distance, 1e-4);
    QVERIFY(a.has_value());
    QVERIFY2(std::abs(a->z - b.z) < 1e-5, qPrintable(QStringLiteral("%1 and %2").arg(a->z).arg(b.z)));
    QVERIFY(std::abs(a->t - b.t) < 1e-6);
    QVERIFY(std::abs(a->speed() - b.speed()) < 1e-5);
}

void FlightTest::halvedTolerance_changesNothing()
{
    const FlightModel m = FlightModel::of(*findBall("table-tennis"), airDensity(20, 0), -6000);
    const auto reached = [](const FlightState& s) { return s.x - 3; };
    const auto a = fly(m, leaving(1, 14, 15), reached),
               b = fly(m, leaving(1, 14, 15), reached, 20, -50, nullptr, kFlightTolerance / 2);
    QVERIFY(a && b && std::abs(a->z - b->z) < 1e-4);
}

void FlightTest::energy_neverGrowsWithoutSpin()
{
    const auto balls = *shippedBalls();
    for (const auto& ball : balls) {
        const FlightModel m = FlightModel::of(ball, airDensity(20, 0), 0);
        std::vector<FlightState> path;
        QVERIFY(flyDownTo(m, leaving(1.5, 15, 40), 0, &path).has_value());
        for (std::size_t i = 1; i < path.size(); ++i)
            QVERIFY2(m.energy(path[i]) <= m.energy(path[i - 1]) * (1 + 1e-9), ball.id.c_str());
    }
}

void FlightTest::flatAngle_isTheFlatOne()
{
    const FlightModel m = FlightModel::of(*findBall("baseball"), airDensity(20, 0), 1800);
    for (const double speed : {15.0, 25.0, 40.0}) {
        const auto angle = flatAngleTo(m, 1.8, speed, 16.8, 0.7);
        QVERIFY(angle.has_value());
        const auto there = flyToDistance(m, leaving(1.8, speed, *angle), 16.8);
        QVERIFY(std::abs(there->z - 0.7) < 1e-6);
        QVERIFY(*angle < 30); // the other one lobs
    }
    QVERIFY(!flatAngleTo(m, 1.8, 9, 16.8, 0.7));
    QVERIFY(!flatAngleTo(withoutAir(), 1.8, 9, 16.8, 0.7));
}

void FlightTest::leastSpeed_isTheLeast()
{
    const FlightModel m = FlightModel::of(*findBall("basketball-7"), airDensity(20, 0), 0);
    const auto least = leastSpeedTo(m, 2.1, 4.6, 3.05);
    QVERIFY(least.has_value());
    for (const double away : {-3.0, -1.0, 1.0, 3.0})
        QVERIFY(*speedAtAngle(m, 2.1, least->angle + away, 4.6, 3.05) > least->speed);
    const auto closed = leastSpeedTo(withoutAir(), 2.1, 4.6, 3.05);
    QVERIFY(least->speed > closed->speed); // air takes something
    const double dz = 0.95;
    QVERIFY(std::abs(closed->speed - std::sqrt(kGravity * (dz + std::hypot(dz, 4.6)))) < 1e-9);
}

void FlightTest::density_atSeaAndInTheHills()
{
    QVERIFY(std::abs(airDensity(15, 0) - 1.225) < 0.001); // the standard atmosphere
    QVERIFY(std::abs(airDensity(15 - 6.5, 1000) - 1.1117) < 0.002);
    QVERIFY(airDensity(35, 0) < airDensity(5, 0));
}

void FlightTest::balls_allRead()
{
    const auto balls = shippedBalls();
    QVERIFY2(balls.has_value(), balls ? "" : balls.error().text().c_str());
    QCOMPARE(balls->size(), std::size_t{11});
    QVERIFY(shippedPlaces()->size() > 8);
    QVERIFY(!findBall("balloon"));
}

void FlightTest::pitchPlane_withoutAir_byHand()
{
    // z = h + x tan a - g x^2 (1 + tan^2 a) / (2 v^2), the flatter root
    const double h = 1.8, v = 35, x = 16.8, target = 0.7, k = kGravity * x * x / (2 * v * v);
    const double tangent = (x - std::sqrt(x * x - 4 * k * (k + target - h))) / (2 * k);
    const auto a =
        answer("pitch_plane", {{"release-height", h}, {"speed", v}, {"distance", x}, {"target-height", target}}, false);
    QVERIFY(std::abs(value(a, "release_angle") - std::atan(tangent) * kDegrees) < 1e-6 * std::abs(value(a, "release_angle")));
    const double vx = v * std::cos(std::atan(tangent)), t = x / vx;
    QVERIFY(std::abs(value(a, "flight_time") - t) < 1e-6 * t);
    const double vz = v * std::sin(std::atan(tangent)) - kGravity * t;
    QVERIFY(std::abs(value(a, "approach_angle") - std::atan2(vz, vx) * kDegrees) < 1e-6 * 10);
    QVERIFY(std::abs(value(a, "speed_at_target") - std::hypot(vx, vz)) < 1e-5);
    // with air it is slower and steeper
    const auto air =
        answer("pitch_plane", {{"release-height", h}, {"speed", v}, {"distance", x}, {"target-height", target}, {"spin", 0}});
    QVERIFY(value(air, "speed_at_target") < value(a, "speed_at_target"));
    QVERIFY(value(air, "approach_angle") < value(a, "approach_angle"));
}

void FlightTest::jumpShot_withoutAir_byHand()
{
    const double h = 2.1, d = 4.6, ring = 3.05, rise = std::atan2(ring - h, d);
    const auto a = answer("jump_shot", {{"release-height", h}, {"distance", d}, {"ring-height", ring}}, false);
    QVERIFY(std::abs(value(a, "least_speed_angle") - (45 + rise * kDegrees / 2)) < 1e-6);
    QVERIFY(std::abs(value(a, "least_speed") - std::sqrt(kGravity * (ring - h + std::hypot(ring - h, d)))) < 1e-6);
    QVERIFY(std::abs(value(a, "entry_angle") - (45 - rise * kDegrees / 2)) < 1e-4); // it mirrors the release about the line
    QVERIFY(std::abs(value(a, "ring_opening") - 0.45 * std::sin((45 / kDegrees) - rise / 2)) < 1e-5);
    const auto at60 = answer("jump_shot", {{"release-height", h}, {"distance", d}, {"angle", 60}}, false);
    const double t60 = std::tan(60 / kDegrees), c60 = std::cos(60 / kDegrees);
    QVERIFY(std::abs(value(at60, "speed") - std::sqrt(kGravity * d * d / (2 * c60 * c60 * (d * t60 - (ring - h))))) < 1e-6);
    QVERIFY(value(at60, "entry_angle") > value(a, "entry_angle"));
}

void FlightTest::mound_raisesTheRelease()
{
    const std::map<std::string, double> flat{{"release-height", 1.9}, {"speed", 35}, {"distance", 16.8}, {"target-height", 0.75}};
    auto onMound = flat;
    onMound["release-height"] = 1.9 - 0.254;
    onMound["mound"] = 0.254;
    QCOMPARE(value(answer("pitch_plane", onMound), "approach_angle"), value(answer("pitch_plane", flat), "approach_angle"));
}

void FlightTest::serveWindow_clearsAndLands()
{
    const std::map<std::string, double> serve{{"contact-height", 2.7}, {"contact-ahead", 0.4}, {"speed", 40}, {"spin", 1500}};
    const auto a = answer("serve_window", serve);
    const FlightModel m = FlightModel::of(*findBall("tennis"), airDensity(20, 0), -1500);
    const double net = 11.885 - 0.4, r = 0.0669 / 2;
    const auto over = flyToDistance(m, leaving(2.7, 40, value(a, "lowest_angle")), net);
    QVERIFY(std::abs(over->z - 0.914 - r) < 1e-5);
    const auto down = flyDownTo(m, leaving(2.7, 40, value(a, "highest_angle")), r);
    QVERIFY(std::abs(down->x - net - 6.40) < 1e-5);
    QVERIFY(std::abs(value(a, "window") - (value(a, "highest_angle") - value(a, "lowest_angle"))) < 1e-9);
    auto higher = serve;
    higher["contact-height"] = 2.8;
    QVERIFY(value(answer("serve_window", higher), "window") > value(a, "window"));
    auto fast = serve;
    fast["speed"] = 70;
    fast["contact-height"] = 1.9;
    fast["spin"] = 0;
    QCOMPARE(value(answer("serve_window", fast), "window"), 0.0); // nothing is in
    // a young player's court: the same serve has to go down steeper, and in before a nearer line
    auto young = serve;
    young["speed"] = 20;
    const auto full = answer("serve_window", young);
    for (const auto& [name, metres] : {std::pair("net-distance", 9.0), std::pair("net-height", 0.8), std::pair("line", 4.85)})
        young[name] = metres;
    const auto small = answer("serve_window", young);
    const auto overSmall = flyToDistance(m, leaving(2.7, 20, value(small, "lowest_angle")), 9.0 - 0.4);
    const auto downSmall = flyDownTo(m, leaving(2.7, 20, value(small, "highest_angle")), r);
    QVERIFY(std::abs(overSmall->z - 0.8 - r) < 1e-5 && std::abs(downSmall->x - 8.6 - 4.85) < 1e-5);
    QVERIFY(value(small, "highest_angle") < value(full, "highest_angle"));
}

void FlightTest::simpleSums_byHand()
{
    QVERIFY(std::abs(value(answer("pull", {{"ratio", 2}}), "speed_ratio") - std::sqrt(2.0)) < 1e-9);
    QVERIFY(std::abs(value(answer("spin", {{"revolutions", 3}, {"frames", 24}, {"capture-rate", 240}}), "spin") - 1800) < 1e-9);
    QVERIFY(std::abs(value(answer("frames_needed", {{"action-ms", 10}, {"pictures", 4}}), "capture_rate") - 400) < 1e-9);
    const auto lean = answer("lean_back", {{"lean", 17.5}, {"trunk", 0.6}, {"speed", 35}});
    QVERIFY(std::abs(value(lean, "time_gained") - 1000 * 0.6 * std::sin(17.5 / kDegrees) / 35) < 1e-9);
    const auto ball =
        answer("ball_speed", {{"distance", 3}, {"frames", 20}, {"capture-rate", 240}, {"behind", 0.9}, {"camera-distance", 9}});
    QVERIFY(std::abs(value(ball, "speed") - 3.0 / 20 * 240 * 1.1) < 1e-9);
    // t(18) = 2.101: 2.101 * 4 * sqrt(2/10) = 3.76 <= 4, and nine are too few (t(16) = 2.120: 4.0 > 4 is just not met)
    QCOMPARE(value(answer("repetitions_needed", {{"spread", 4}, {"change", 3.9}}), "repetitions"), 10.0);
    const auto growth = answer("growth", {{"height-before", 1.5}, {"height-after", 1.65}, {"length-before", 1.2}});
    QVERIFY(std::abs(value(growth, "length_after") - 1.32) < 1e-9);
}

void FlightTest::spin_refusesBelowFourPictures()
{
    SumInput input;
    input.values = {{"revolutions", 10}, {"frames", 20}, {"capture-rate", 30}};
    const auto done = workOut(*findSumCard("spin"), input);
    QVERIFY(!done);
    QVERIFY2(done.error().message.find("60 pictures a second") != std::string::npos, done.error().message.c_str());
}

void FlightTest::everyCard_usualNumbers_hasRangeClaimAndPicture()
{
    QCOMPARE(sumCards().size(), std::size_t{14});
    for (const auto& card : sumCards()) {
        const auto a = workOut(card, {});
        QVERIFY2(a.has_value(), (card.id + (a ? "" : ": " + a.error().message)).c_str());
        QVERIFY2(!a->results.empty() && !a->sentence.empty() && !a->assumes.empty(), card.id.c_str());
        QVERIFY2(!a->claim.text.empty() && !a->claim.why.empty(), card.id.c_str());
        QVERIFY2(!a->picture.lines.empty(), card.id.c_str());
        for (const auto& r : a->results) {
            QVERIFY2(std::isfinite(r.value), (card.id + " " + r.name).c_str());
            QVERIFY2(r.low <= r.value && r.value <= r.high, (card.id + " " + r.name).c_str());
        }
        QCOMPARE(workOut(card, {})->results.front().high, a->results.front().high); // fixed samples
    }
}

void FlightTest::claims_followFromTheNumbers()
{
    // the same claim with other numbers has another verdict: none is written down
    QCOMPARE(static_cast<int>(answer("pull", {{"ratio", 2}}).claim.verdict), static_cast<int>(ClaimVerdict::DoesNotHold));
    QCOMPARE(static_cast<int>(answer("pull", {{"ratio", 1}}).claim.verdict), static_cast<int>(ClaimVerdict::Holds));
    QCOMPARE(static_cast<int>(answer("lean_back", {}).claim.verdict), static_cast<int>(ClaimVerdict::DoesNotHold));
    QCOMPARE(static_cast<int>(answer("lean_back", {{"speed", 8}, {"lean", 40}}).claim.verdict),
             static_cast<int>(ClaimVerdict::Holds));
    QCOMPARE(static_cast<int>(answer("pitch_plane", {}).claim.verdict), static_cast<int>(ClaimVerdict::Partly));
    QCOMPARE(static_cast<int>(answer("step_in", {}).claim.verdict), static_cast<int>(ClaimVerdict::DoesNotHold));
    QCOMPARE(static_cast<int>(answer("step_in", {{"speed", 45}, {"step", 2}, {"body-speed", 2}}).claim.verdict),
             static_cast<int>(ClaimVerdict::Holds));
    QCOMPARE(static_cast<int>(answer("spin", {{"capture-rate", 240}}).claim.verdict),
             static_cast<int>(ClaimVerdict::DoesNotHold));
    QCOMPARE(static_cast<int>(answer("jump_shot", {}).claim.verdict), static_cast<int>(ClaimVerdict::DoesNotHold));
}

void FlightTest::badInput_data()
{
    QTest::addColumn<QString>("card");
    QTest::addColumn<QString>("variable");
    QTest::addColumn<double>("value");
    QTest::addColumn<QString>("says");
    QTest::newRow("speed 0") << "pitch_plane"
                             << "speed" << 0.0 << "lies between";
    QTest::newRow("too slow") << "pitch_plane"
                              << "speed" << 8.0 << "at least";
    QTest::newRow("below the ground") << "pitch_plane"
                                      << "release-height" << -1.0 << "lies between";
    QTest::newRow("no number") << "pull"
                               << "ratio" << std::nan("") << "lies between";
    QTest::newRow("unknown") << "pull"
                             << "colour" << 1.0 << "has no number";
    QTest::newRow("behind the camera") << "ball_speed"
                                       << "behind" << -8.0 << "behind the camera";
    QTest::newRow("too flat") << "jump_shot"
                              << "angle" << 5.0 << "no speed";
}

void FlightTest::badInput()
{
    QFETCH(QString, card);
    QFETCH(QString, variable);
    QFETCH(double, value);
    QFETCH(QString, says);
    SumInput input;
    input.values[variable.toStdString()] = value;
    if (variable == QStringLiteral("behind"))
        input.values["camera-distance"] = 5;
    const auto done = workOut(*findSumCard(card.toStdString()), input);
    QVERIFY(!done);
    QVERIFY2(done.error().message.find(says.toStdString()) != std::string::npos, done.error().message.c_str());
}

KESTREL_TEST(FlightTest)
#include "flight_test.moc"
