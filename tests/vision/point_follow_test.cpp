#include "support/runner.h"

#include "core/base/error_sample.h"
#include "media/film_writer.h"
#include "sim/simulate.h"
#include "vision/point_follow.h"

#include <QImage>
#include <QPainter>
#include <QTemporaryDir>
#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::vision;

namespace {

constexpr int kFrames = 60, kWidth = 320, kHeight = 240;
constexpr int kHiddenFrom = 24, kHiddenTo = 26; // behind a post

/// Where the patch's middle is: it swings, and leaves the picture at the end.
ImagePoint truth(int frame)
{
    return {20.5 + 6 * frame, 120 + 60 * std::sin(frame / 9.0)};
}

/// Grey grains that keep their places, the same each time.
QImage grains(int size, std::uint32_t seed)
{
    QImage image(size, size, QImage::Format_RGB32);
    const ErrorSample sample(seed);
    for (int y = 0; y < size; ++y)
        for (int x = 0; x < size; ++x) {
            const int grey = 128 + static_cast<int>(90 * sample.even(static_cast<std::uint64_t>((y / 3) * 1000 + x / 3)));
            image.setPixel(x, y, qRgb(grey, grey, grey));
        }
    return image;
}

} // namespace

/// A grainy patch on grainy ground.
class PointFollowTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void oneSeed_isFollowedBothWays_pastWhatHidesIt();
    void leftThePicture_isLost_andStaysLost();
    void correction_pullsTheWayBetweenToIt();
    void emptyGround_isLostNotMadeUp();
    void turnedAway_isLost_ratherThanSomethingElseFollowed_data();
    void turnedAway_isLost_ratherThanSomethingElseFollowed();
    void stretch_isKeptTo();
    void stop_givesBackWhatIsDone();
    void seedBeyondTheFilm_isRefused();
    void missingFilm_isSaid();

private:
    FollowOptions all() const { return {FrameIndex(0), FrameIndex(kFrames - 1), {}, {}, {}}; }
    std::vector<Followed> follow(std::vector<Seed> seeds, const FollowOptions& options)
    {
        auto found = followPoint(m_film, std::move(seeds), options);
        if (!found)
            qWarning("%s", found.error().text().c_str());
        return found ? std::move(*found) : std::vector<Followed>{};
    }
    QTemporaryDir m_folder;
    std::string m_film;
};

void PointFollowTest::initTestCase()
{
    m_film = m_folder.filePath(QStringLiteral("patch.mp4")).toStdString();
    media::FilmWriterSettings settings;
    settings.size = {kWidth, kHeight};
    settings.frameRate = 60;
    auto writer = media::FilmWriter::open(m_film, settings);
    QVERIFY(writer);
    const QImage ground = grains(kWidth, 1), patch = grains(41, 2);
    for (int n = 0; n < kFrames; ++n) {
        QImage picture(kWidth, kHeight, QImage::Format_RGB32);
        QPainter painter(&picture);
        painter.drawImage(0, 0, ground);
        painter.fillRect(QRect(kWidth - 60, 0, 60, 90), Qt::gray); // nothing to hold on to
        painter.setRenderHint(QPainter::SmoothPixmapTransform);
        painter.drawImage(QPointF(truth(n).x - 20.5, truth(n).y - 20.5), patch);
        if (n >= kHiddenFrom && n <= kHiddenTo)
            painter.fillRect(QRectF(truth(n).x - 30, 0, 60, kHeight), Qt::darkGray);
        painter.end();
        QVERIFY(writer->write(picture.constBits(), static_cast<int>(picture.bytesPerLine()), MediaTime::fromSeconds(n / 60.0)));
    }
    QVERIFY(writer->finish());
}

void PointFollowTest::oneSeed_isFollowedBothWays_pastWhatHidesIt()
{
    const int seed = 12;
    const auto found = follow({{FrameIndex(seed), truth(seed)}}, all());
    std::vector<bool> isThere(kFrames, false);
    for (const auto& p : found) {
        const int n = static_cast<int>(p.frame.value);
        QVERIFY(n != seed);
        isThere[static_cast<std::size_t>(n)] = true;
        const double off = (p.at - truth(n)).length();
        QVERIFY2(off < 1.5, qPrintable(QStringLiteral("picture %1 is off by %2").arg(n).arg(off)));
        QVERIFY(off < 4 * p.sigma);
    }
    for (int n = 1; n < 47; ++n)
        QVERIFY2(isThere[static_cast<std::size_t>(n)] == (n != seed && (n < kHiddenFrom || n > kHiddenTo)),
                 qPrintable(QString::number(n)));
}

void PointFollowTest::leftThePicture_isLost_andStaysLost()
{
    const auto found = follow({{FrameIndex(12), truth(12)}}, all());
    for (const auto& p : found)
        QVERIFY2(truth(static_cast<int>(p.frame.value)).x < kWidth, qPrintable(QString::number(p.frame.value)));
}

void PointFollowTest::correction_pullsTheWayBetweenToIt()
{
    // a second mark four pixels higher: the way between leads from the one to the other
    const ImagePoint lifted{truth(20).x, truth(20).y - 4};
    const auto found = follow({{FrameIndex(5), truth(5)}, {FrameIndex(20), lifted}}, all());
    double before = 0;
    for (const auto& p : found)
        if (p.frame.value > 5 && p.frame.value < 20) {
            const double up = truth(static_cast<int>(p.frame.value)).y - p.at.y;
            QVERIFY2(up > before - 0.7 && up < 4.7, qPrintable(QString::number(up)));
            before = up;
        }
    const auto at12 = std::find_if(found.begin(), found.end(), [](const Followed& p) { return p.frame.value == 12; });
    QVERIFY(at12 != found.end() && at12->sigma > 1.5); // the two ways disagree there, and it says so
}

void PointFollowTest::emptyGround_isLostNotMadeUp()
{
    const auto found = follow({{FrameIndex(10), {kWidth - 30.0, 45}}}, all());
    QVERIFY2(found.size() < 5, qPrintable(QString::number(found.size())));
}

void PointFollowTest::turnedAway_isLost_ratherThanSomethingElseFollowed_data()
{
    QTest::addColumn<QString>("skill");
    QTest::addColumn<View>("view");
    QTest::addColumn<int>("least"); // pictures on which it has to be followed
    QTest::newRow("serve, side") << "overhead-serve" << View::Side << 60;
    QTest::newRow("backhand, rear") << "two-handed-backhand" << View::Rear << 0;
    QTest::newRow("pitch, rear") << "overhand-pitch" << View::Rear << 0;
}

/// A wrist turns away while a swing goes on: what is followed from there would be the sleeve or the ground.
void PointFollowTest::turnedAway_isLost_ratherThanSomethingElseFollowed()
{
    QFETCH(QString, skill);
    QFETCH(View, view);
    QFETCH(int, least);
    sim::SimulateOptions o;
    o.skill = skill.toStdString();
    o.camera.view = view;
    o.frameRate = 60;
    const auto s = sim::simulate(o);
    const std::string file = m_folder.filePath(QStringLiteral("swing.mp4")).toStdString();
    QVERIFY(s && sim::saveClip(*s, file));
    const Landmark wrist{Part::Wrist, BodySide::Right, {}};
    std::vector<const Mark*> seen;
    for (const auto& m : s->truth.marks)
        if (m.landmark == wrist && m.visible)
            seen.push_back(&m);
    QVERIFY(seen.size() > 40);
    const Mark& click = *seen[seen.size() / 2];
    const auto trajectory =
        followPoint(file, {{click.frame, click.at}}, {FrameIndex(0), FrameIndex(s->truth.film.frames - 1), {}, {}, {}});
    QVERIFY(trajectory);
    std::size_t right = 0;
    for (const auto& p : *trajectory) {
        const Mark* real = findMark(s->truth, p.frame, wrist);
        right += real && (p.at - real->at).length() < 20; // pixels, of an athlete of some 430
    }
    QEXPECT_FAIL("backhand, rear", "known: where the wrist goes behind the trunk the shirt is followed on", Continue);
    QVERIFY2(right >= static_cast<std::size_t>(least) && right + 2 >= 0.9 * static_cast<double>(trajectory->size()),
             qPrintable(QStringLiteral("%1 of %2").arg(right).arg(trajectory->size())));
}

void PointFollowTest::stretch_isKeptTo()
{
    FollowOptions options = all();
    options.first = FrameIndex(8);
    options.last = FrameIndex(18);
    std::int64_t done = 0, of = 0;
    options.progress = [&](std::int64_t d, std::int64_t o) { done = d, of = o; };
    const auto found = follow({{FrameIndex(12), truth(12)}}, options);
    QCOMPARE(found.size(), std::size_t{10});
    QCOMPARE(found.front().frame.value, std::int64_t{8});
    QCOMPARE(done, std::int64_t{10});
    QCOMPARE(of, std::int64_t{10});
}

void PointFollowTest::stop_givesBackWhatIsDone()
{
    FollowOptions options = all();
    std::stop_source stop;
    options.stop = stop.get_token();
    options.progress = [&](std::int64_t done, std::int64_t) {
        if (done == 5)
            stop.request_stop();
    };
    const auto found = follow({{FrameIndex(12), truth(12)}}, options);
    QVERIFY(!found.empty() && found.size() < 10);
}

void PointFollowTest::seedBeyondTheFilm_isRefused()
{
    const auto found = followPoint(m_film, {{FrameIndex(kFrames), {10, 10}}}, all());
    QVERIFY(!found);
    QCOMPARE(found.error().code, ErrorCode::NoSuchFrame);
}

void PointFollowTest::missingFilm_isSaid()
{
    const auto found = followPoint(m_folder.filePath(QStringLiteral("none.mp4")).toStdString(), {}, all());
    QVERIFY(!found);
    QCOMPARE(found.error().code, ErrorCode::CannotOpen);
}

KESTREL_TEST(PointFollowTest)
#include "point_follow_test.moc"
