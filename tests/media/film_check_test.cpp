#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "support/coded_film.h"
#include "support/ffmpeg_films.h"
#include "support/markings.h"

#include "media/film_check.h"
#include "media/ring_recorder.h"

#include <QTemporaryDir>
#include <QtTest>

#ifndef Q_MOC_RUN // moc cannot read it
#include <thread>
#endif

using namespace kestrel;
using namespace kestrel::test;

class FilmCheckTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void simulatedPitch_trueSpeed_findsTheAthleteAndNothingWrong();
    void slowMotion_isAskedAbout();
    void everyFault_isNamed_data();
    void everyFault_isNamed();
    void nothingMoves_saysSo();
    void stopped_isCancelled();
    void recorder_keepsTheLastSeconds_savesThemExactly();
    void recorder_whileRecording_savesFromAnotherThread();
    void recorder_withNothing_saysSo();

private:
    Expected<media::FilmCheck> check(const std::string& file)
    {
        auto film = media::Film::open(file);
        if (!film)
            return tl::unexpected(film.error());
        return media::checkFilm(*film);
    }
    QTemporaryDir m_folder;
    std::string m_pitch;
};

void FilmCheckTest::initTestCase()
{
    auto o = pitch(View::Side);
    o.frameRate = 60;
    o.size = {640, 360};
    m_pitch = m_folder.filePath(QStringLiteral("pitch.mp4")).toStdString();
    const auto saved = sim::saveClip(simulated(o), m_pitch);
    QVERIFY2(saved, saved ? "" : saved.error().text().c_str());
}

void FilmCheckTest::simulatedPitch_trueSpeed_findsTheAthleteAndNothingWrong()
{
    const auto c = check(m_pitch);
    QVERIFY2(c, c ? "" : c.error().text().c_str());
    QVERIFY(!c->looksSlow);
    QCOMPARE(c->duplicates, std::int64_t{0});
    QVERIFY(c->shakePixels < 2);
    // the simulator's athlete stands 214 of 360 pixels high; raised hands and a bent knee change what moves
    QVERIFY2(c->athletePixels > 180 && c->athletePixels < 250, qPrintable(QString::number(c->athletePixels)));
    QVERIFY(c->stretches.size() == 10 && c->stretches.front().first.value == 0);
    for (const auto& s : c->stretches)
        QVERIFY(s.brightness > 0.2 && s.brightness < 0.8 && s.sharpness > 0 && s.sharpness <= 1);
}

void FilmCheckTest::slowMotion_isAskedAbout()
{
    const std::string slow = remade(m_pitch, m_folder.filePath(QStringLiteral("slow.mp4")),
                                    {QStringLiteral("-vf"), QStringLiteral("setpts=8*PTS"), QStringLiteral("-r"),
                                     QStringLiteral("7.5"), QStringLiteral("-c:v"), QStringLiteral("libx264")});
    const auto c = check(slow);
    QVERIFY(c && c->looksSlow);
}

void FilmCheckTest::everyFault_isNamed_data()
{
    QTest::addColumn<QString>("filter");
    QTest::addColumn<QString>("word");
    QTest::newRow("dark") << "eq=brightness=-0.6"
                          << "dark";
    QTest::newRow("blown out") << "eq=brightness=0.6"
                               << "blown out";
    QTest::newRow("shaky") << "scale=700:-2,crop=640:360:x='20+8*sin(n*1.7)':y='16+8*cos(n*2.3)'"
                           << "camera moves";
    QTest::newRow("doubled pictures") << "fps=30,fps=60"
                                      << "repeat";
}

void FilmCheckTest::everyFault_isNamed()
{
    QFETCH(QString, filter);
    QFETCH(QString, word);
    const std::string file = remade(m_pitch, m_folder.filePath(QStringLiteral("fault.mp4")),
                                    {QStringLiteral("-vf"), filter, QStringLiteral("-c:v"), QStringLiteral("libx264")});
    const auto c = check(file);
    QVERIFY(c);
    const bool isNamed = std::any_of(c->findings.begin(), c->findings.end(),
                                     [&](const std::string& f) { return QString::fromStdString(f).contains(word); });
    QVERIFY(isNamed);
}

void FilmCheckTest::nothingMoves_saysSo()
{
    const std::string file =
        remade("color=c=gray:s=320x240:d=1", m_folder.filePath(QStringLiteral("still.mp4")),
               {QStringLiteral("-c:v"), QStringLiteral("libx264")}, {QStringLiteral("-f"), QStringLiteral("lavfi")});
    const auto c = check(file);
    QVERIFY(c);
    QCOMPARE(c->athletePixels, 0.0);
    QVERIFY(!c->looksSlow);
    QVERIFY(c->findings.front().find("Nothing moves") != std::string::npos);
}

void FilmCheckTest::stopped_isCancelled()
{
    auto film = media::Film::open(m_pitch);
    std::stop_source stop;
    const auto c = media::checkFilm(
        *film, [&](double share) { share > 0.3 ? (void)stop.request_stop() : void(); }, stop.get_token());
    QVERIFY(!c);
    QCOMPARE(c.error().code, ErrorCode::Cancelled);
}

void FilmCheckTest::recorder_keepsTheLastSeconds_savesThemExactly()
{
    media::RingRecorder recorder;
    QVERIFY(recorder.start({320, 240}, 60, 2));
    for (int n = 0; n < 300; ++n) {
        const QImage picture = codedPicture(n, 320, 240);
        QVERIFY(recorder.push(picture.constBits(), static_cast<int>(picture.bytesPerLine()), MediaTime::fromSeconds(n / 60.0)));
    }
    QVERIFY2(recorder.secondsHeld() >= 1.9 && recorder.secondsHeld() <= 2.6, qPrintable(QString::number(recorder.secondsHeld())));
    QVERIFY(recorder.bytesHeld() < 4'000'000);
    const std::string file = m_folder.filePath(QStringLiteral("kept.mp4")).toStdString();
    const auto saved = recorder.save(file, 1);
    QVERIFY2(saved, saved ? "" : saved.error().text().c_str());
    auto film = media::Film::open(file);
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    QVERIFY2(film->info().frames() >= 60 && film->info().frames() <= 76, qPrintable(QString::number(film->info().frames())));
    QVERIFY(std::abs(film->info().frameRate - 60) < 0.01);
    const int first = 300 - static_cast<int>(film->info().frames());
    for (std::int64_t n = 0; n < film->info().frames(); ++n)
        QCOMPARE(numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1), first + static_cast<int>(n));
}

void FilmCheckTest::recorder_whileRecording_savesFromAnotherThread()
{
    media::RingRecorder recorder;
    QVERIFY(recorder.start({160, 120}, 60, 1));
    std::atomic<bool> isDone = false;
    std::jthread camera([&] {
        const QImage picture = codedPicture(5, 160, 120);
        for (int n = 0; n < 400; ++n)
            (void)recorder.push(picture.constBits(), static_cast<int>(picture.bytesPerLine()), MediaTime::fromSeconds(n / 60.0));
        isDone = true;
    });
    int saved = 0;
    for (int n = 0; n < 20; ++n)
        saved += recorder.save(m_folder.filePath(QStringLiteral("while%1.mp4").arg(n)).toStdString(), 0.5).has_value();
    camera.join();
    QVERIFY(isDone && recorder.save(m_folder.filePath(QStringLiteral("last.mp4")).toStdString(), 0.5));
    for (int n = 0; n < 20; ++n) { // what was saved in between is whole, however short
        const QString file = m_folder.filePath(QStringLiteral("while%1.mp4").arg(n));
        if (QFile::exists(file)) {
            --saved;
            const auto film = media::Film::open(file.toStdString());
            QVERIFY2(film && film->info().warnings.empty(), qPrintable(file));
        }
    }
    QCOMPARE(saved, 0);
}

void FilmCheckTest::recorder_withNothing_saysSo()
{
    media::RingRecorder recorder;
    QVERIFY(recorder.start({160, 120}, 60, 1));
    const auto saved = recorder.save(m_folder.filePath(QStringLiteral("none.mp4")).toStdString(), 1);
    QVERIFY(!saved);
    QCOMPARE(saved.error().code, ErrorCode::NotFound);
    QVERIFY(!media::RingRecorder().start({161, 120}, 60, 1)); // odd
}

KESTREL_TEST(FilmCheckTest)
#include "film_check_test.moc"
