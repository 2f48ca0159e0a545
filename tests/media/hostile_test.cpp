#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "support/coded_film.h"
#include "support/ffmpeg_films.h"
#include "support/markings.h"

#include "core/base/error_sample.h"
#include "media/film.h"

#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QtTest>

#include <filesystem>

#include <sys/stat.h>
#include <unistd.h>

#ifndef Q_MOC_RUN // moc cannot read it
#include <thread>
#endif

using namespace kestrel;
using namespace kestrel::test;

namespace {

constexpr int kPatienceMs = 20'000; // no film of this size may take longer, whatever is wrong with it

} // namespace

/// Files that mean harm, or have come to it. Each gives a film that can be used or one sentence; none hangs.
class HostileTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void truncated_atEveryTenth_isUsableOrRefused_data();
    void truncated_atEveryTenth_isUsableOrRefused();
    void wrongEnding_isTheFilmItIs();
    void soundOnly_saysSo();
    void onePixel_andEightK_open();
    void hundredThousandFrames_opensInTime();
    void deletedWhileOpen_goesOn();
    void growingWhileOpen_keepsWhatItHad();
    void noPermission_saysSo();
    void hangingPipe_isRefused();
    void cancelled_stopsAtOnce();
    void whatLeadsElsewhere_isNoFilm_data();
    void whatLeadsElsewhere_isNoFilm();

private:
    std::string path(const char* name) const { return m_folder.filePath(QString::fromLatin1(name)).toStdString(); }
    /// Opens and looks at a few pictures; what it found, or the error.
    Expected<int> use(const std::string& file);
    QTemporaryDir m_folder;
    std::string m_mp4;
};

void HostileTest::initTestCase()
{
    CodedFilm f;
    f.frames = 60;
    f.width = 160;
    f.height = 120;
    m_mp4 = f.write(m_folder.path().toStdString());
    QVERIFY(!m_mp4.empty());
}

Expected<int> HostileTest::use(const std::string& file)
{
    QElapsedTimer time;
    time.start();
    auto film = media::Film::open(file);
    if (!film)
        return tl::unexpected(film.error());
    int shown = 0;
    for (std::int64_t n = 0; n < film->info().frames(); n += std::max<std::int64_t>(1, film->info().frames() / 8))
        shown += film->frame(FrameIndex(n), {64, 64}).has_value();
    if (time.elapsed() > kPatienceMs)
        return fail(ErrorCode::BadArgument, "took too long");
    return shown;
}

void HostileTest::truncated_atEveryTenth_isUsableOrRefused_data()
{
    QTest::addColumn<QString>("options");
    QTest::addColumn<QString>("name");
    QTest::addColumn<bool>("isStreamable"); // half of the file is half of the film
    QTest::newRow("mp4, head last") << "-c copy"
                                    << "cut.mp4" << false;
    QTest::newRow("mp4, head first") << "-c copy -movflags +faststart"
                                     << "cut.mp4" << true;
    QTest::newRow("mp4, fragments") << "-c copy -movflags frag_keyframe+empty_moov"
                                    << "cut.mp4" << true;
    QTest::newRow("matroska") << "-c copy"
                              << "cut.mkv" << true;
    QTest::newRow("webm") << "-c:v libvpx -b:v 1M"
                          << "cut.webm" << true;
    QTest::newRow("avi") << "-c:v mjpeg"
                         << "cut.avi" << true;
    QTest::newRow("transport stream") << "-c copy"
                                      << "cut.ts" << true;
    QTest::newRow("raw") << "-c copy -f h264"
                         << "cut.h264" << true;
}

void HostileTest::truncated_atEveryTenth_isUsableOrRefused()
{
    QFETCH(QString, options);
    QFETCH(QString, name);
    QFETCH(bool, isStreamable);
    const std::string whole =
        contentOf(remade(m_mp4, m_folder.filePath(QStringLiteral("whole-") + name), options.split(QLatin1Char(' '))));
    QVERIFY(whole.size() > 1000);
    for (int tenth = 0; tenth < 10; ++tenth) {
        const std::string file = m_folder.filePath(name).toStdString();
        writeFile(file, whole.substr(0, whole.size() * static_cast<std::size_t>(tenth) / 10));
        const auto shown = use(file);
        if (!shown) {
            QVERIFY2(shown.error().code == ErrorCode::NotAFilm, shown.error().text().c_str());
            QVERIFY(shown.error().message.size() > 20 && shown.error().file == file);
        }
        if (isStreamable && tenth >= 6)
            QVERIFY2(shown && *shown >= 4, qPrintable(QStringLiteral("%1 tenths").arg(tenth)));
    }
}

void HostileTest::wrongEnding_isTheFilmItIs()
{
    writeFile(path("film.txt"), contentOf(m_mp4));
    QVERIFY(use(path("film.txt")).value_or(0) > 5);
    writeFile(path("letter.mp4"), std::string(5000, 'a'));
    QCOMPARE(use(path("letter.mp4")).error().code, ErrorCode::NotAFilm);
}

void HostileTest::soundOnly_saysSo()
{
    const std::string file =
        remade("sine=frequency=440:duration=1", m_folder.filePath(QStringLiteral("sound.mp4")),
               {QStringLiteral("-c:a"), QStringLiteral("aac")}, {QStringLiteral("-f"), QStringLiteral("lavfi")});
    const auto shown = use(file);
    QVERIFY(!shown);
    QCOMPARE(shown.error().code, ErrorCode::NotAFilm);
    QVERIFY(shown.error().message.find("sound") != std::string::npos);
}

void HostileTest::onePixel_andEightK_open()
{
    for (const char* size : {"16x16,format=bgr0,crop=1:1:exact=1", "7680x4320,format=bgr0"}) {
        const std::string file =
            remade("testsrc2=r=10:d=0.3:s=" + std::string(size), m_folder.filePath(QStringLiteral("size.mkv")),
                   {QStringLiteral("-c:v"), QStringLiteral("ffv1")}, {QStringLiteral("-f"), QStringLiteral("lavfi")});
        QVERIFY(!file.empty());
        const auto shown = use(file);
        QVERIFY2(shown && *shown == 3, size);
    }
}

void HostileTest::hundredThousandFrames_opensInTime()
{
    const std::string file = remade("color=c=red:s=16x16:r=240:d=417", m_folder.filePath(QStringLiteral("long.mp4")),
                                    {QStringLiteral("-c:v"), QStringLiteral("libx264"), QStringLiteral("-preset"),
                                     QStringLiteral("ultrafast"), QStringLiteral("-g"), QStringLiteral("240")},
                                    {QStringLiteral("-f"), QStringLiteral("lavfi")});
    auto film = media::Film::open(file);
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    QCOMPARE(film->info().frames(), std::int64_t{100'080});
    QElapsedTimer time;
    time.start();
    QVERIFY(film->frame(FrameIndex(99'999)) && film->frame(FrameIndex(50'000)) && film->frame(FrameIndex(3)));
    QVERIFY2(time.elapsed() < kPatienceMs, qPrintable(QString::number(time.elapsed())));
    QVERIFY(film->indexBytes().size() < 600'000);
}

void HostileTest::deletedWhileOpen_goesOn()
{
    writeFile(path("going.mp4"), contentOf(m_mp4));
    auto film = media::Film::open(path("going.mp4"));
    QVERIFY(film && film->frame(FrameIndex(2)));
    std::filesystem::remove(path("going.mp4"));
    QCOMPARE(numberIn(film->frame(FrameIndex(50)).value_or(media::Picture{})).value_or(-1), 50);
}

void HostileTest::growingWhileOpen_keepsWhatItHad()
{
    const std::string whole =
        contentOf(remade(m_mp4, m_folder.filePath(QStringLiteral("all.ts")), {QStringLiteral("-c"), QStringLiteral("copy")}));
    writeFile(path("growing.ts"), whole.substr(0, whole.size() / 2));
    auto film = media::Film::open(path("growing.ts"));
    QVERIFY(film);
    const auto frames = film->info().frames();
    writeFile(path("growing.ts"), whole);
    QCOMPARE(film->info().frames(), frames);
    QCOMPARE(numberIn(film->frame(FrameIndex(3)).value_or(media::Picture{})).value_or(-1), 3);
    QVERIFY(media::Film::open(path("growing.ts"))->info().frames() > frames);
}

void HostileTest::noPermission_saysSo()
{
    if (geteuid() == 0)
        QSKIP("root may read everything");
    writeFile(path("secret.mp4"), contentOf(m_mp4));
    std::filesystem::permissions(path("secret.mp4"), std::filesystem::perms::none);
    QCOMPARE(use(path("secret.mp4")).error().code, ErrorCode::CannotOpen);
}

void HostileTest::hangingPipe_isRefused()
{
    QCOMPARE(mkfifo(path("pipe.mp4").c_str(), 0600), 0);
    QCOMPARE(use(path("pipe.mp4")).error().code, ErrorCode::CannotOpen);
}

void HostileTest::whatLeadsElsewhere_isNoFilm_data()
{
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("content");
    const auto row = [this](const char* what, const char* name, const char* content) {
        QTest::newRow(what) << QString::fromLatin1(name)
                            << QString::fromLatin1(content).replace(QStringLiteral("FILM"), QString::fromStdString(m_mp4));
    };
    row("a playlist that goes on being live", "live.mp4",
        "#EXTM3U\n#EXT-X-TARGETDURATION:600\n#EXT-X-MEDIA-SEQUENCE:1\n#EXTINF:600,\nFILM\n");
    row("a playlist", "list.m3u8", "#EXTM3U\n#EXT-X-TARGETDURATION:2\n#EXTINF:2,\nFILM\n#EXT-X-ENDLIST\n");
    row("a script of other files", "script.mov", "ffconcat version 1.0\nfile 'FILM'\n");
    row("a description of a stream", "stream.mp4",
        "v=0\no=- 0 0 IN IP4 127.0.0.1\ns=x\nc=IN IP4 127.0.0.1\nt=0 0\nm=video 5004 RTP/AVP 96\na=rtpmap:96 H264/90000\n");
    row("a manifest", "manifest.mp4",
        "<?xml version=\"1.0\"?><MPD xmlns=\"urn:mpeg:dash:schema:mpd:2011\" type=\"static\" mediaPresentationDuration=\"PT2S\">"
        "<Period><AdaptationSet mimeType=\"video/mp4\"><Representation id=\"1\" bandwidth=\"1000\"><BaseURL>FILM</BaseURL>"
        "</Representation></AdaptationSet></Period></MPD>");
    row("a text", "notes.mp4", "Dear coach, here are my notes.\n");
}

void HostileTest::whatLeadsElsewhere_isNoFilm()
{
    QFETCH(QString, name);
    QFETCH(QString, content);
    const std::string file = path(name.toUtf8().constData());
    writeFile(file, content.toStdString());
    QElapsedTimer time;
    time.start();
    const auto film = media::Film::open(file);
    QVERIFY(!film);
    QCOMPARE(film.error().code, ErrorCode::NotAFilm);
    QVERIFY2(time.elapsed() < 5000, qPrintable(QString::number(time.elapsed())));
}

void HostileTest::cancelled_stopsAtOnce()
{
    const std::string file = path("long.mp4");
    std::stop_source stop;
    media::OpenOptions options;
    options.stop = stop.get_token();
    options.progress = [&](double) { stop.request_stop(); };
    const auto film = media::Film::open(file, options);
    QVERIFY(!film);
    QCOMPARE(film.error().code, ErrorCode::Cancelled);
}

KESTREL_TEST(HostileTest)
#include "hostile_test.moc"
