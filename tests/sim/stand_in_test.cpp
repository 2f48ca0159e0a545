#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "core/base/radar_line.h"
#include "sim/radar_gun.h"
#include "sim/stand_in_camera.h"

#include <QElapsedTimer>
#include <QFile>
#include <QTemporaryDir>
#include <QtTest>

#ifndef Q_MOC_RUN // moc cannot read it
#include <atomic>
#include <mutex>
#include <thread>
#endif

using namespace kestrel;

class StandInTest : public QObject {
    Q_OBJECT
private slots:
    void camera_showsRisingTimesAtItsRate_againAndAgain();
    void camera_unknownSkill_saysSo();
    void camera_stoppedWhilePainting_leavesNothingBehind();
    void radarGun_speaksOnItsTerminal();
};

namespace {

sim::SimulateOptions small()
{
    auto o = sim::StandInCamera::usualOptions();
    o.frameRate = 30;
    o.size = {320, 180};
    return o;
}

} // namespace

void StandInTest::camera_showsRisingTimesAtItsRate_againAndAgain()
{
    QTemporaryDir folder;
    sim::StandInCamera camera;
    std::mutex mutex;
    std::vector<std::int64_t> times;
    std::string error;
    double prepared = 0;
    camera.start(
        small(), folder.path().toStdString(),
        [&](const media::Picture& p, MediaTime t) {
            const std::lock_guard lock(mutex);
            times.push_back(p.size.width == 320 ? t.nanoseconds : -1);
        },
        [&](const Error& e) { error = e.text(); }, [&](double share) { prepared = share; });
    // the film lasts some three seconds: four seconds of pictures go round once
    QVERIFY(QTest::qWaitFor(
        [&] {
            const std::lock_guard lock(mutex);
            return !times.empty() && times.back() > 4'000'000'000;
        },
        60'000));
    camera.stop();
    QVERIFY2(error.empty(), error.c_str());
    QVERIFY(prepared > 0.9);
    QVERIFY(times.front() >= 0);
    QVERIFY(std::adjacent_find(times.begin(), times.end(), std::greater_equal<>()) == times.end());
    // what is missing at 30 pictures a second was left out, and counted
    const auto expected = times.back() / (1'000'000'000 / 30);
    QVERIFY2(std::abs(static_cast<std::int64_t>(times.size()) + camera.leftOut() - expected) <= 3,
             qPrintable(QStringLiteral("%1 + %2 of %3").arg(times.size()).arg(camera.leftOut()).arg(expected)));
}

void StandInTest::camera_unknownSkill_saysSo()
{
    QTemporaryDir folder;
    auto o = small();
    o.skill = "juggling";
    sim::StandInCamera camera;
    std::atomic<bool> failed = false;
    camera.start(
        o, folder.path().toStdString(), [](const media::Picture&, MediaTime) {}, [&](const Error&) { failed = true; });
    QVERIFY(QTest::qWaitFor([&] { return failed.load(); }, 10'000));
}

void StandInTest::camera_stoppedWhilePainting_leavesNothingBehind()
{
    QTemporaryDir folder;
    auto o = small();
    o.size = {1280, 720};
    std::atomic<bool> begun = false;
    {
        sim::StandInCamera camera;
        camera.start(
            o, folder.path().toStdString(), [](const media::Picture&, MediaTime) {}, [](const Error&) {},
            [&](double) { begun = true; });
        QVERIFY(QTest::qWaitFor([&] { return begun.load(); }, 20'000));
    }
    QVERIFY(QDir(folder.path()).isEmpty(QDir::Files | QDir::Hidden));
}

void StandInTest::radarGun_speaksOnItsTerminal()
{
    auto gun = sim::RadarGun::open();
    QVERIFY2(gun, gun ? "" : gun.error().text().c_str());
    QVERIFY(gun->port() > 0);
    QFile terminal(QString::fromStdString(gun->device()));
    QVERIFY(terminal.open(QIODevice::ReadOnly | QIODevice::Unbuffered));
    gun->announce(31.25);
    const QByteArray line = terminal.readLine(100);
    QVERIFY2(parseRadarLine(line.toStdString()), line.constData());
    auto taken = sim::RadarGun::open(gun->port()); // SO_REUSEADDR does not allow two listeners
    QVERIFY(!taken);
    QCOMPARE(taken.error().code, ErrorCode::CannotOpen);
}

KESTREL_TEST(StandInTest)
#include "stand_in_test.moc"
