#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "media/film.h"
#include "sim/simulate.h"
#include "vision/body_marks.h"
#include "vision/film_marks.h"
#include "vision/pose_reader.h"

#include <QDir>
#include <QImage>
#include <QPainter>
#include <QTemporaryDir>
#include <QtTest>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <filesystem>

using namespace kestrel;
using namespace kestrel::vision;

/// From a painted film to marks.
class PoseTrackTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void body_isFollowed_nearTheTruth();
    void fromAbove_itSaysHowBadlyItSees();
    void stretch_ofAFilm_isLookedAtAlone();
    void box_isFollowedBothWays();
    void click_choosesAmongTwo_data();
    void click_choosesAmongTwo();
    void click_onNobody_isSaid();
    void leaving_thePicture_isAGap();
    void someoneElsePasses_thePlayerIsKept();
    void someoneLargerComes_thePlayerIsKept();
    void playerGoes_someoneStaysLonger_whatWasSeenOfThePlayerIsKept();
    void treeAtFirst_isNotThePlayer();
    void stop_givesBackWhatIsDone();
    void mirrored_sidesAreTheBodysOwn();
    void twice_theSame();
    void emptyPictures_nobodySeen_isSaid();
    void models_missingOrOthers_areSaid();
    void model_withAWrongByte_isSaid();

private:
    /// The film's pictures, upright.
    std::vector<QImage> pictures() const
    {
        std::vector<QImage> all;
        auto film = media::Film::open(m_film);
        for (FrameIndex f(0); f.value < film->info().frames(); f = FrameIndex(f.value + 1)) {
            const auto p = film->frame(f);
            all.push_back(QImage(p->row(0), p->size.width, p->size.height, p->stride, QImage::Format_RGB32).copy());
        }
        return all;
    }
    /// As a folder of numbered pictures.
    std::string filmOf(const char* name, const std::vector<QImage>& all) const
    {
        const QString folder = m_folder.filePath(QLatin1String(name));
        QDir().mkpath(folder);
        for (std::size_t n = 0; n < all.size(); ++n)
            if (!all[n].save(folder + QStringLiteral("/%1.png").arg(n, 3, 10, QLatin1Char('0'))))
                qFatal("cannot write a picture");
        return folder.toStdString();
    }
    /// Two people side by side: the one on the right is the left one's mirror image.
    std::string filmOfTwo() const
    {
        std::vector<QImage> both;
        for (const auto& one : pictures()) {
            QImage wide(2 * one.width(), one.height(), QImage::Format_RGB32);
            QPainter painter(&wide);
            painter.drawImage(0, 0, one);
            painter.drawImage(one.width(), 0, one.mirrored(true, false));
            painter.end();
            both.push_back(wide);
            if (both.size() == 12)
                break;
        }
        return filmOf("two", both);
    }
    /// Middle of the hips on a picture.
    static ImagePoint middleOf(const Pose& p)
    {
        const auto a = p[PosePoint::LeftHip].at, b = p[PosePoint::RightHip].at;
        return {(a.x + b.x) / 2, (a.y + b.y) / 2};
    }
    static ImagePoint middleOf(const Marking& truth, FrameIndex f)
    {
        const auto a = findMark(truth, f, {Part::Hip, BodySide::Left, {}})->at,
                   b = findMark(truth, f, {Part::Hip, BodySide::Right, {}})->at;
        return {(a.x + b.x) / 2, (a.y + b.y) / 2};
    }
    ImagePoint trueMiddle(FrameIndex f) const { return middleOf(m_sim->truth, f); }

    TrackOptions options() const
    {
        TrackOptions o;
        o.models = shippedFolder("models");
        o.body = BodyNetwork::Quick;
        return o;
    }
    QTemporaryDir m_folder;
    std::string m_film;
    std::optional<sim::Simulated> m_sim;
};

void PoseTrackTest::initTestCase()
{
    sim::SimulateOptions o;
    o.skill = "squash-backhand-volley";
    o.frameRate = 30;
    o.size = {640, 360};
    auto s = sim::simulate(o);
    QVERIFY2(s, s ? "" : s.error().text().c_str());
    m_sim = std::move(*s);
    m_film = m_folder.filePath(QStringLiteral("clip.mp4")).toStdString();
    QVERIFY(sim::saveClip(*m_sim, m_film));
}

void PoseTrackTest::body_isFollowed_nearTheTruth()
{
    const auto track = trackPose(m_film, options());
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    QCOMPARE(track->seen(), m_sim->truth.film.frames);
    const auto marks = bodyMarks(*track, evenClock(m_sim->truth.film.frames, 30), m_sim->truth.scene.view);
    std::vector<double> off; // as shares of the trunk's length
    double trunk = 0;
    for (const auto& m : m_sim->truth.marks)
        if (m.landmark == Landmark{Part::Shoulder, BodySide::Left, {}})
            if (const Mark* hip = findMark(m_sim->truth, m.frame, {Part::Hip, BodySide::Left, {}}))
                trunk = std::max(trunk, (m.at - hip->at).length());
    for (const auto& m : marks)
        if (m.landmark.part == Part::Hip || m.landmark.part == Part::Knee || m.landmark.part == Part::Shoulder)
            if (const Mark* real = findMark(m_sim->truth, m.frame, m.landmark); real && real->visible)
                off.push_back((m.at - real->at).length() / trunk);
    QVERIFY(off.size() > 200);
    double mean = 0;
    for (const double d : off)
        mean += d / static_cast<double>(off.size());
    // the smaller network on a small picture: its own error is a thirtieth; taking the wrong body or side gives far more
    QVERIFY2(mean < 0.05, qPrintable(QString::number(mean)));
}

void PoseTrackTest::fromAbove_itSaysHowBadlyItSees()
{
    sim::SimulateOptions o;
    o.skill = "squash-backhand-volley";
    o.frameRate = 30;
    o.size = {640, 360};
    o.camera.view = View::Overhead;
    const auto s = sim::simulate(o);
    QVERIFY(s);
    const std::string film = m_folder.filePath(QStringLiteral("above.mp4")).toStdString();
    QVERIFY(sim::saveClip(*s, film));
    const auto track = trackPose(film, options());
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    const std::int64_t frames = s->truth.film.frames;
    const auto honest = [&](View view) {
        int coordinates = 0, within = 0;
        for (const auto& m : filmMarks(film, *track, *findPack("squash-backhand-volley"), Hand::Right, view,
                                       evenClock(frames, 30), {FrameIndex(0), FrameIndex(frames - 1), {}, {}, {}})) {
            if (view == View::Overhead && m.landmark.part == Part::Ball)
                return -1.0;
            if (const Mark* real = findMark(s->truth, m.frame, m.landmark); real && real->visible)
                for (const double off : {m.at.x - real->at.x, m.at.y - real->at.y}) {
                    ++coordinates;
                    within += std::abs(off) <= 2 * m.sigma;
                }
        }
        return coordinates > 500 ? static_cast<double>(within) / coordinates : -1;
    };
    const double said = honest(View::Overhead), fromSide = honest(View::Side); // what it would have said
    QVERIFY2(said > 0.88 && fromSide < 0.7, qPrintable(QStringLiteral("%1, %2").arg(said).arg(fromSide)));
}

void PoseTrackTest::stretch_ofAFilm_isLookedAtAlone()
{
    TrackOptions o = options();
    o.first = FrameIndex(10);
    o.last = FrameIndex(14);
    std::atomic<std::int64_t> told = 0;
    o.progress = [&](std::int64_t, std::int64_t of) { told = of; };
    const auto track = trackPose(m_film, o);
    QVERIFY(track);
    QCOMPARE(track->first, FrameIndex(10));
    QCOMPARE(track->poses.size(), std::size_t(5));
    QCOMPARE(told.load(), std::int64_t(5));
    const auto marks = bodyMarks(*track, evenClock(m_sim->truth.film.frames, 30), m_sim->truth.scene.view);
    const auto [first, last] =
        std::minmax_element(marks.begin(), marks.end(), [](const Mark& a, const Mark& b) { return a.frame < b.frame; });
    QCOMPARE(first->frame, FrameIndex(10));
    QCOMPARE(last->frame, FrameIndex(14));
}

void PoseTrackTest::box_isFollowedBothWays()
{
    double left = 1e9, right = 0, top = 1e9, bottom = 0;
    for (const auto& m : m_sim->truth.marks)
        if (m.frame == FrameIndex(12) && m.landmark.part < Part::ImplementGrip) {
            left = std::min(left, m.at.x), right = std::max(right, m.at.x);
            top = std::min(top, m.at.y), bottom = std::max(bottom, m.at.y);
        }
    TrackOptions o = options();
    o.first = FrameIndex(8);
    o.last = FrameIndex(16);
    o.player = PlayerBox{FrameIndex(12), {left, top}, right - left, bottom - top};
    const auto track = trackPose(m_film, o);
    QVERIFY(track);
    QCOMPARE(track->seen(), std::int64_t(9));
    const ImagePoint nose = (*track->poses[4])[PosePoint::Nose].at;
    QVERIFY(nose.x > left && nose.x < right && nose.y > top - 20 && nose.y < bottom);
}

void PoseTrackTest::click_choosesAmongTwo_data()
{
    QTest::addColumn<bool>("isRight");
    QTest::newRow("the left one") << false;
    QTest::newRow("the right one") << true;
}

void PoseTrackTest::click_choosesAmongTwo()
{
    QFETCH(bool, isRight);
    const double width = 640;
    const ImagePoint left = trueMiddle(FrameIndex(4));
    const ImagePoint chosen{isRight ? 2 * width - left.x : left.x, left.y};
    TrackOptions o = options();
    o.player = PlayerBox{FrameIndex(4), chosen};
    const auto track = trackPose(filmOfTwo(), o);
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    QCOMPARE(track->seen(), std::int64_t(12));
    for (const auto& pose : track->poses)
        QVERIFY2((middleOf(*pose).x > width) == isRight, qPrintable(QString::number(middleOf(*pose).x)));
}

void PoseTrackTest::click_onNobody_isSaid()
{
    TrackOptions o = options();
    o.player = PlayerBox{FrameIndex(0), {3, 3}};
    const auto track = trackPose(m_film, o);
    QVERIFY(!track);
    QCOMPARE(track.error().code, ErrorCode::NotFound);
    QVERIFY2(track.error().message.find("where you clicked") != std::string::npos, track.error().message.c_str());
}

/// The camera lets the player out of the picture: what was seen stays, nothing is made up after.
void PoseTrackTest::leaving_thePicture_isAGap()
{
    std::vector<QImage> pans;
    for (const auto& one : pictures()) {
        QImage panned(one.size(), QImage::Format_RGB32);
        panned.fill(QColor(120, 130, 125));
        QPainter painter(&panned);
        painter.drawImage(60 * static_cast<int>(pans.size()), 0, one);
        painter.end();
        pans.push_back(panned);
        if (pans.size() == 16)
            break;
    }
    const auto track = trackPose(filmOf("leaving", pans), options());
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    QVERIFY(track->poses[0] && track->poses[1]);
    for (std::size_t f = 13; f < 16; ++f)
        QVERIFY2(!track->poses[f], qPrintable(QString::number(f)));
    for (const auto& m : bodyMarks(*track, evenClock(16, 30), View::Side))
        QVERIFY2(m.frame.value < 13, nameOf(m.landmark).c_str());
}

/// Another body is carried across the picture before the player, who is followed on the far side of it.
void PoseTrackTest::someoneElsePasses_thePlayerIsKept()
{
    const auto film = pictures();
    const ImagePoint player = trueMiddle(FrameIndex(0));
    const int width = 110; // of the other one's strip
    std::vector<QImage> passing;
    for (std::size_t n = 0; n < 26 && n < film.size(); ++n) {
        QImage one = film[n].copy();
        const QImage other = film[n].mirrored(true, false);
        const int from = static_cast<int>(640 - player.x) - width / 2, to = 560 - 28 * static_cast<int>(n);
        QPainter painter(&one);
        painter.drawImage(to, 0, other, from, 0, width, 360);
        painter.end();
        passing.push_back(one);
    }
    TrackOptions o = options();
    o.player = PlayerBox{FrameIndex(0), player};
    const auto track = trackPose(filmOf("passing", passing), o);
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    const auto& last = track->poses.back();
    const auto f = FrameIndex(static_cast<std::int64_t>(passing.size()) - 1);
    QVERIFY(last);
    QVERIFY2((middleOf(*last) - trueMiddle(f)).length() < 30, qPrintable(QString::number(middleOf(*last).x)));
}

/// The player is alone at first; then somebody larger stands beside the player to the end.
void PoseTrackTest::someoneLargerComes_thePlayerIsKept()
{
    const auto film = pictures();
    const ImagePoint player = trueMiddle(FrameIndex(0));
    const int border = static_cast<int>(player.x) + 70;
    QVERIFY2(film.size() > 60, qPrintable(QString::number(film.size())));
    std::vector<QImage> coming;
    for (const auto& one : film) {
        QImage both = one.copy();
        QPainter painter(&both);
        if (coming.size() >= 20)
            painter.drawImage(QRect(border, 20, 165, 330), one,
                              QRect(static_cast<int>(player.x) - 55, static_cast<int>(player.y) - 100, 110, 220));
        painter.end();
        coming.push_back(both);
    }
    const auto track = trackPose(filmOf("coming", coming), options());
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    QCOMPARE(track->seen(), static_cast<std::int64_t>(coming.size()));
    for (const auto& pose : track->poses)
        QVERIFY2(middleOf(*pose).x < border, qPrintable(QString::number(middleOf(*pose).x)));
}

/// Somebody else comes on the fifth picture; the player is gone from the eleventh on.
void PoseTrackTest::playerGoes_someoneStaysLonger_whatWasSeenOfThePlayerIsKept()
{
    constexpr std::size_t kComes = 4, kGone = 10, kAll = 26;
    const auto film = pictures();
    std::vector<QImage> wide;
    for (std::size_t n = 0; n < kAll && n < film.size(); ++n) {
        QImage both(1280, 360, QImage::Format_RGB32);
        both.fill(Qt::darkGreen);
        QPainter painter(&both);
        if (n < kGone)
            painter.drawImage(0, 0, film[n]);
        if (n >= kComes)
            painter.drawImage(640, 0, film[n].mirrored(true, false));
        painter.end();
        wide.push_back(both);
    }
    const auto track = trackPose(filmOf("goes", wide), options());
    QVERIFY2(track, track ? "" : track.error().text().c_str());
    QVERIFY(track->poses.back() && middleOf(*track->poses.back()).x > 640); // the other one was found
    for (std::size_t n = 0; n < kGone; ++n)
        QVERIFY2(track->poses[n] && middleOf(*track->poses[n]).x < 640, qPrintable(QString::number(n)));
}

/// From behind, dark hair before dark trees: until the 17th picture a tree was followed.
void PoseTrackTest::treeAtFirst_isNotThePlayer()
{
    const auto pack = findPack("overhand-pitch");
    sim::SimulateOptions o;
    o.skill = "overhand-pitch";
    o.motion.variant = "windup-breaking";
    o.motion.school = "low-drive";
    o.camera.view = View::SideBack;
    o.hand = Hand::Left;
    o.motion.style = sim::fitStyle(o, *pack, 8);
    o.motion.seed = 8;
    o.motion.faults = {{"late_hands", 0.7}};
    o.look = 8;
    o.frameRate = 30;
    const auto s = sim::simulate(o);
    const std::string file = m_folder.filePath(QStringLiteral("tree.mp4")).toStdString();
    QVERIFY(s && sim::saveClip(*s, file));
    TrackOptions usual = options();
    usual.body = BodyNetwork::Usual;
    std::int64_t looked = 0;
    usual.progress = [&](std::int64_t done, std::int64_t all) {
        QVERIFY(done <= all);
        looked = done;
    };
    const auto track = trackPose(file, usual);
    QVERIFY(track);
    QCOMPARE(looked, s->truth.film.frames);
    for (std::int64_t f = 0; f < s->truth.film.frames; ++f) {
        const auto& pose = track->poses[static_cast<std::size_t>(f)];
        QVERIFY2(pose && (middleOf(*pose) - middleOf(s->truth, FrameIndex(f))).length() < 60, qPrintable(QString::number(f)));
    }
}

void PoseTrackTest::stop_givesBackWhatIsDone()
{
    std::stop_source stop;
    TrackOptions o = options();
    o.stop = stop.get_token();
    o.progress = [&](std::int64_t done, std::int64_t) {
        if (done == 6)
            stop.request_stop();
    };
    const auto track = trackPose(m_film, o);
    QVERIFY(track);
    QVERIFY2(track->looked >= 6 && track->looked < m_sim->truth.film.frames, qPrintable(QString::number(track->looked)));
    for (std::size_t n = 0; n < track->poses.size(); ++n) // the beginning, without gaps
        QCOMPARE(track->poses[n].has_value(), static_cast<std::int64_t>(n) < track->looked);
}

void PoseTrackTest::mirrored_sidesAreTheBodysOwn()
{
    auto reader = PoseReader::load((std::filesystem::path(options().models) / fileOf(BodyNetwork::Quick)).string());
    auto film = media::Film::open(m_film);
    TrackOptions o = options();
    o.last = FrameIndex(0);
    const auto track = trackPose(m_film, o);
    QVERIFY(reader && film && track && track->poses.front());
    const auto picture = film->frame(FrameIndex(0));
    QVERIFY(picture);
    Region region = track->poses.front()->next;
    const auto plain = reader->read(*picture, region);
    region.isMirrored = true;
    const auto mirrored = reader->read(*picture, region);
    QVERIFY(plain && mirrored && !mirrored->next.isMirrored);
    for (const PosePoint p : {PosePoint::LeftShoulder, PosePoint::RightShoulder, PosePoint::LeftHip, PosePoint::RightHip,
                              PosePoint::LeftAnkle, PosePoint::RightAnkle}) {
        const double off = ((*plain)[p].at - (*mirrored)[p].at).length();
        QVERIFY2(off < 0.04 * region.side, qPrintable(QStringLiteral("%1: %2").arg(int(p)).arg(off / region.side)));
    }
    QVERIFY(((*plain)[PosePoint::LeftShoulder].at - (*plain)[PosePoint::RightShoulder].at).length() > 0.05 * region.side);
}

void PoseTrackTest::twice_theSame()
{
    TrackOptions o = options();
    o.last = FrameIndex(5);
    const auto a = trackPose(m_film, o), b = trackPose(m_film, o);
    QVERIFY(a && b);
    QVERIFY(bodyMarks(*a, evenClock(6, 30), View::Side) == bodyMarks(*b, evenClock(6, 30), View::Side));
}

void PoseTrackTest::emptyPictures_nobodySeen_isSaid()
{
    QDir(m_folder.path()).mkdir(QStringLiteral("black"));
    for (int n = 0; n < 3; ++n) {
        QImage black(n == 2 ? 1 : 320, n == 2 ? 1 : 180, QImage::Format_RGB32);
        black.fill(n == 1 ? Qt::white : Qt::black);
        const QString file = m_folder.filePath(QStringLiteral("black/%1.png").arg(n));
        QVERIFY(black.save(file));
        const auto track = trackPose(file.toStdString(), options());
        QVERIFY(!track);
        QCOMPARE(track.error().code, ErrorCode::NotFound);
        QVERIFY(track.error().message.find("by hand") != std::string::npos);
    }
}

void PoseTrackTest::models_missingOrOthers_areSaid()
{
    TrackOptions o = options();
    o.models = m_folder.path().toStdString();
    const auto missing = trackPose(m_film, o);
    QVERIFY(!missing && missing.error().code == ErrorCode::CannotOpen);
    const QString detector = QString::fromStdString(options().models + "/pose_detection.tflite");
    QVERIFY(QFile::copy(detector, m_folder.filePath(QStringLiteral("pose_detection.tflite"))));
    QVERIFY(QFile::copy(detector, m_folder.filePath(QStringLiteral("pose_landmark_lite.tflite"))));
    const auto other = trackPose(m_film, o);
    QVERIFY(!other && other.error().code == ErrorCode::BadArgument);
    o.body = BodyNetwork::Thorough;
    const auto notFetched = trackPose(m_film, o);
    QVERIFY(!notFetched && notFetched.error().code == ErrorCode::CannotOpen);
    QVERIFY2(notFetched.error().message.find("fetch_heavy.sh") != std::string::npos, notFetched.error().message.c_str());
    QVERIFY(other.error().file.find("lite") != std::string::npos);
    QVERIFY(!trackPose("gone.mp4", options()));
}

/// It would still load, and mark a little beside the body.
void PoseTrackTest::model_withAWrongByte_isSaid()
{
    const QString copy = m_folder.filePath(QStringLiteral("damaged"));
    QVERIFY(QDir().mkpath(copy));
    for (const auto* name : {"pose_detection.tflite", "pose_landmark_lite.tflite", "SHA256SUMS"})
        QVERIFY(QFile::copy(QString::fromStdString(options().models) + QLatin1Char('/') + QLatin1String(name),
                            copy + QLatin1Char('/') + QLatin1String(name)));
    TrackOptions o = options();
    o.models = copy.toStdString();
    o.last = FrameIndex(1);
    QVERIFY(trackPose(m_film, o));
    QFile network(copy + QStringLiteral("/pose_landmark_lite.tflite"));
    QVERIFY(network.setPermissions(network.permissions() | QFile::WriteOwner) && network.open(QIODevice::ReadWrite));
    QVERIFY(network.seek(network.size() / 2));
    const char was = network.peek(1).at(0);
    QVERIFY(network.putChar(static_cast<char>(was ^ 1)));
    network.close();
    const auto damaged = trackPose(m_film, o);
    QVERIFY(!damaged);
    QVERIFY2(damaged.error().message.find("damaged") != std::string::npos, damaged.error().message.c_str());
    QVERIFY(damaged.error().file.find("lite") != std::string::npos);
}

KESTREL_TEST(PoseTrackTest)
#include "pose_track_test.moc"
