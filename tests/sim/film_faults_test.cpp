#include "support/markings.h"
#include "support/runner.h"

#include "media/film.h"
#include "media/film_check.h"
#include "sim/contact_sheet.h"
#include "sim/film_maker.h"

#include <QTemporaryDir>
#include <QtTest>

#include <Eigen/Dense>

using namespace kestrel;
using namespace kestrel::test;

/// Every camera and everything that can be wrong with a film, on demand.
class FilmFaultsTest : public QObject {
    Q_OBJECT
private slots:
    void views_showTheTargetWhereItShouldBe_data();
    void views_showTheTargetWhereItShouldBe();
    void roll_turnsThePlumbLine();
    void yawError_shortensTheStride();
    void twoCameras_findThePointInSpace();
    void repeats_areFoundByTheFilmCheck();
    void shake_isFoundByTheFilmCheck();
    void exposure_smearsWhatMoves();
    void dim_isDark();
    void noise_isGrain();
    void uneven_isAVariableRate_andKeepsTheTruth();
    void rotation_isUndoneByThePlayer();
    void readout_delaysTheLowerRows();
    void quality_makesSmallerFiles();
    void sameSeed_sameFilm();
    void sheet_hasOnePictureForEachKeyPosition();
    void backhand_isMirroredForTheRightHander();

private:
    static sim::SimulateOptions small()
    {
        auto o = pitch();
        o.frameRate = 30;
        o.size = {320, 180};
        return o;
    }
    std::string save(const sim::SimulateOptions& o, const char* name = "clip.mp4")
    {
        const std::string file = m_folder.filePath(QLatin1String(name)).toStdString();
        const auto saved = sim::saveClip(simulated(o), file);
        if (!saved)
            qFatal("%s", saved.error().text().c_str());
        return file;
    }
    media::FilmCheck check(const sim::SimulateOptions& o)
    {
        auto film = media::Film::open(save(o));
        return *media::checkFilm(*film);
    }
    QTemporaryDir m_folder;
};

void FilmFaultsTest::views_showTheTargetWhereItShouldBe_data()
{
    QTest::addColumn<int>("view");
    QTest::addColumn<int>("hand");
    for (const auto view : {View::Side, View::SideBack, View::Front, View::Rear, View::Overhead, View::Diagonal})
        for (const auto hand : {Hand::Right, Hand::Left})
            QTest::addRow("%s %s", std::string(wordOf(view)).c_str(), std::string(wordOf(hand)).c_str())
                << static_cast<int>(view) << static_cast<int>(hand);
}

void FilmFaultsTest::views_showTheTargetWhereItShouldBe()
{
    QFETCH(int, view);
    QFETCH(int, hand);
    auto o = small();
    o.camera.view = static_cast<View>(view);
    o.hand = static_cast<Hand>(hand);
    const auto s = simulated(o);
    QCOMPARE(s.truth.scene.target, usualTargetDirection(o.camera.view, o.hand));
    // a drawn scale measures a metre, and the whole body is in the picture at release
    const auto& scale = *s.truth.scene.scale;
    const double pixels = (scale.to - scale.from).length() / scale.metres;
    // the metre lies along the target line, or across it where that is seen end on
    const auto right = s.camera.right();
    const double turned = std::abs(right.x()) >= 0.5 ? std::abs(right.x()) : std::abs(right.z());
    const double expected = turned * s.camera.focal() / s.camera.depthOf({0, 0, 0});
    QVERIFY2(std::abs(pixels / expected - 1) < 0.03, qPrintable(QString::number(pixels / expected)));
    const double release = findEvent(s.truth, "release")->frame.value;
    for (const auto& m : s.truth.marks)
        if (m.frame.value == static_cast<std::int64_t>(release) && m.landmark.part != Part::Ball)
            QVERIFY2(m.at.x > 0 && m.at.y > 0 && m.at.x < 320 && m.at.y < 180, nameOf(m.landmark).c_str());
}

void FilmFaultsTest::roll_turnsThePlumbLine()
{
    auto o = small();
    const auto level = simulated(o);
    o.camera.roll = 8;
    const auto rolled = simulated(o);
    const auto angle = [](ImageVector up) { return std::atan2(up.x, -up.y) * 180 / std::numbers::pi; };
    QVERIFY(std::abs(angle(level.truth.scene.up)) < 0.5);
    QVERIFY2(std::abs(std::abs(angle(rolled.truth.scene.up)) - 8) < 0.5,
             qPrintable(QString::number(angle(rolled.truth.scene.up))));
    // told the plumb line, the readings stay what they were
    const Review a = reviewOf(level.truth), b = reviewOf(rolled.truth);
    for (const char* id : {"trunk_lean_release", "stride_length", "lead_knee_strike"})
        QVERIFY2(std::abs(*a.findReading(id)->value - *b.findReading(id)->value) < 1.5, id);
}

void FilmFaultsTest::yawError_shortensTheStride()
{
    auto o = small();
    o.camera.yawError = 30;
    const auto s = simulated(o);
    const auto stride = [&](const sim::Simulated& x) {
        const FrameIndex strike(std::llround(findEvent(x.truth, "strike")->frame.value));
        return std::abs(findMark(x.truth, strike, *findLandmark("ankle.left"))->at.x -
                        findMark(x.truth, strike, *findLandmark("ankle.right"))->at.x);
    };
    o.camera.yawError = 0;
    QVERIFY2(std::abs(stride(s) / stride(simulated(o)) - std::cos(30 * std::numbers::pi / 180)) < 0.06,
             qPrintable(QString::number(stride(s) / stride(simulated(o)))));
}

void FilmFaultsTest::twoCameras_findThePointInSpace()
{
    auto o = small();
    o.size = {1280, 720};
    const auto a = simulated(o);
    o.camera.view = View::Front;
    const auto b = simulated(o);
    QCOMPARE(a.frames(), b.frames());
    const Landmark wrist = *findLandmark("wrist.right");
    for (const std::size_t f : {std::size_t{5}, a.frames() / 2, a.frames() - 20}) {
        // the point nearest to both lines of sight
        Eigen::Matrix3d sum = Eigen::Matrix3d::Zero();
        sim::Vec3 right = sim::Vec3::Zero();
        for (const auto* s : {&a, &b}) {
            const ImagePoint p = findMark(s->truth, FrameIndex(static_cast<std::int64_t>(f)), wrist)->at;
            const auto& c = s->camera;
            const sim::Vec3 sight = (c.forward() * c.focal() + c.right() * (p.x - 640) - c.up() * (p.y - 360)).normalized();
            const Eigen::Matrix3d across = Eigen::Matrix3d::Identity() - sight * sight.transpose();
            sum += across;
            right += across * c.eye();
        }
        const sim::Vec3 found = sum.ldlt().solve(right);
        QVERIFY((found - a.body(f).points.at(wrist)).norm() < 1e-6);
    }
}

void FilmFaultsTest::repeats_areFoundByTheFilmCheck()
{
    auto o = small();
    QCOMPARE(check(o).duplicates, std::int64_t{0});
    o.film.repeatEvery = 5;
    QVERIFY(check(o).duplicates >= 5);
    const auto s = simulated(o);
    QCOMPARE(s.instants[10], s.instants[9]);
}

void FilmFaultsTest::shake_isFoundByTheFilmCheck()
{
    auto o = small();
    o.size = {640, 360};
    const double still = check(o).shakePixels;
    o.camera.shake = 6;
    const double shaken = check(o).shakePixels;
    QVERIFY2(still < 0.5 && shaken > 1.0, qPrintable(QStringLiteral("%1 %2").arg(still).arg(shaken)));
}

void FilmFaultsTest::exposure_smearsWhatMoves()
{
    auto o = small();
    o.size = {640, 360};
    const auto s = simulated(o);
    o.film.exposure = 1.0 / 30;
    const auto smeared = simulated(o);
    const auto edges = [](const sim::Simulated& x) { // how sharp it is round the throwing hand just before release
        const std::size_t f = static_cast<std::size_t>(findEvent(x.truth, "release")->frame.value);
        sim::FilmMaker maker(x);
        const QImage image = maker.picture(f);
        const ImagePoint hand = findMark(x.truth, FrameIndex(static_cast<std::int64_t>(f)), *findLandmark("hand.right"))->at;
        int most = 0;
        for (int y = static_cast<int>(hand.y) - 12; y < hand.y + 12; ++y)
            for (int px = static_cast<int>(hand.x) - 12; px < hand.x + 12; ++px)
                most = std::max(most, std::abs(qGray(image.pixel(px, y)) - qGray(image.pixel(px + 1, y))));
        return most;
    };
    QVERIFY2(edges(smeared) < 0.85 * edges(s), qPrintable(QStringLiteral("%1 %2").arg(edges(s)).arg(edges(smeared))));
    QVERIFY(smeared.truth.marks == s.truth.marks); // the truth is that of the middle of the exposure
}

void FilmFaultsTest::dim_isDark()
{
    auto o = small();
    const double light = check(o).stretches.front().brightness;
    o.film.dim = 0.3;
    const double dark = check(o).stretches.front().brightness;
    QVERIFY2(dark < 0.45 * light, qPrintable(QStringLiteral("%1 %2").arg(light).arg(dark)));
}

void FilmFaultsTest::noise_isGrain()
{
    auto o = small();
    const auto clean = simulated(o);
    o.film.noise = 8;
    const auto grainy = simulated(o);
    sim::FilmMaker a(clean), b(grainy);
    const QImage one = a.picture(3), other = b.picture(3);
    double sum = 0, squares = 0;
    for (int y = 0; y < one.height(); ++y)
        for (int x = 0; x < one.width(); ++x) {
            const double d = qGreen(other.pixel(x, y)) - qGreen(one.pixel(x, y));
            sum += d;
            squares += d * d;
        }
    const double n = one.width() * one.height();
    QVERIFY2(std::abs(std::sqrt(squares / n) - 8) < 1, qPrintable(QString::number(std::sqrt(squares / n))));
    QVERIFY(std::abs(sum / n) < 1);
}

void FilmFaultsTest::uneven_isAVariableRate_andKeepsTheTruth()
{
    auto o = small();
    o.film.uneven = 1;
    const auto s = simulated(o);
    const auto film = media::Film::open(save(o));
    QVERIFY(film->info().variableRate);
    QCOMPARE(film->info().frames(), static_cast<std::int64_t>(s.frames()));
    // a key position lies where its time says
    const FrameClock clock(film->info().shown, 1);
    const double seconds = clock.timeOf(findEvent(s.truth, "strike")->frame)->seconds;
    QVERIFY2(std::abs(seconds - (s.motion.secondsOf("strike") - (s.motion.begin() - 0.30))) < 0.002,
             qPrintable(QString::number(seconds)));
}

void FilmFaultsTest::rotation_isUndoneByThePlayer()
{
    auto o = small();
    o.size = {180, 320};
    auto upright = media::Film::open(save(o, "upright.mp4"));
    o.film.rotation = 90;
    auto turned = media::Film::open(save(o, "turned.mp4"));
    QCOMPARE(turned->info().rotation, 90);
    QCOMPARE(turned->info().size.height, 320);
    const auto a = upright->frame(FrameIndex(40)), b = turned->frame(FrameIndex(40));
    double difference = 0;
    for (int y = 0; y < 320; ++y)
        for (int x = 0; x < 180; ++x)
            difference += std::abs(a->row(y)[4 * x + 1] - b->row(y)[4 * x + 1]);
    QVERIFY2(difference / (180 * 320) < 4, qPrintable(QString::number(difference / (180 * 320))));
}

void FilmFaultsTest::readout_delaysTheLowerRows()
{
    auto o = small();
    o.size = {640, 360};
    const auto global = simulated(o);
    o.film.readout = 1.0 / 30;
    const auto rolling = simulated(o);
    // at release the hand is in the picture's upper half: it is seen earlier than the middle of the frame
    const FrameIndex f(static_cast<std::int64_t>(findEvent(global.truth, "release")->frame.value));
    const Landmark hand = *findLandmark("hand.right");
    const auto at = [&](const sim::Simulated& s) { return findMark(s.truth, f, hand)->at; };
    QVERIFY(at(global).y < 180);
    QVERIFY2(at(rolling).x < at(global).x - 1, qPrintable(QStringLiteral("%1 %2").arg(at(global).x).arg(at(rolling).x)));
    sim::FilmMaker maker(rolling);
    QVERIFY(!maker.picture(static_cast<std::size_t>(f.value)).isNull());
}

void FilmFaultsTest::quality_makesSmallerFiles()
{
    auto o = small();
    const auto good = QFileInfo(QString::fromStdString(save(o, "good.mp4"))).size();
    o.film.quality = 42;
    const auto poor = QFileInfo(QString::fromStdString(save(o, "poor.mp4"))).size();
    QVERIFY2(poor * 2 < good, qPrintable(QStringLiteral("%1 %2").arg(good).arg(poor)));
}

void FilmFaultsTest::sameSeed_sameFilm()
{
    auto o = small();
    o.film.noise = 4;
    o.camera.shake = 2;
    const auto one = simulated(o), again = simulated(o);
    o.motion.seed = 9;
    const auto other = simulated(o);
    QVERIFY(one.truth == again.truth);
    sim::FilmMaker a(one), b(again), c(other);
    for (std::size_t f = 0; f < std::min(one.frames(), other.frames()); f += 7) {
        const QImage picture = a.picture(f);
        QVERIFY(picture == b.picture(f));
        QVERIFY(picture != c.picture(f));
    }
}

void FilmFaultsTest::sheet_hasOnePictureForEachKeyPosition()
{
    auto o = small();
    const auto s = simulated(o);
    const QImage sheet = sim::contactSheet(s, {{"set", "Set"}}, 5);
    QCOMPARE(sheet.width(), 5 * 324 - 4);
    QCOMPARE(sheet.height(), 2 * 184 - 4); // nine key positions
    QVERIFY(sheet.copy(0, 0, 320, 180) != sheet.copy(324, 0, 320, 180));
}

void FilmFaultsTest::backhand_isMirroredForTheRightHander()
{
    auto o = small();
    o.skill = "two-handed-backhand";
    o.motion = {};
    const auto s = simulated(o);
    QCOMPARE(s.truth.scene.target, TargetDirection::Left); // the chest is seen, the dominant side is in front
    const auto contact = static_cast<std::size_t>(findEvent(s.truth, "contact")->frame.value);
    const auto body = s.body(contact);
    QVERIFY(body.at(Part::Toe, BodySide::Right).x() > body.at(Part::Toe, BodySide::Left).x() + 0.2);
}

KESTREL_TEST(FilmFaultsTest)
#include "film_faults_test.moc"
