#include "support/markings.h"
#include "support/runner.h"

#include "support/coded_film.h"

#include "core/base/error_sample.h"
#include "media/film.h"

#include <QTemporaryDir>
#include <QtTest>

#ifndef Q_MOC_RUN // moc cannot read it
#include <thread>
#endif

using namespace kestrel;
using namespace kestrel::test;

namespace {

/// Sixty ordinals of a film, the same on every run.
std::vector<int> sixtyRandomFrames(int frames, std::uint32_t seed)
{
    std::vector<int> list;
    const ErrorSample sample(seed);
    for (std::uint64_t i = 0; i < 60; ++i)
        list.push_back(std::min(frames - 1, static_cast<int>((sample.even(i) + 1) / 2 * frames)));
    return list;
}

std::vector<CodedFilm> everyFilm()
{
    std::vector<CodedFilm> films;
    const auto add = [&](const char* name, auto change) {
        CodedFilm f;
        f.name = name;
        change(f);
        films.push_back(f);
    };
    add("h264_b_frames.mp4", [](CodedFilm& f) {
        f.frames = 150;
        f.keyEvery = 60;
        f.bFrames = 3;
    });
    add("h264_one_long_group.mp4", [](CodedFilm& f) {
        f.frames = 130;
        f.keyEvery = 500;
    });
    add("variable_rate.mp4", [](CodedFilm& f) {
        f.variableRate = true;
        f.frames = 120;
    });
    add("rotated_90.mov", [](CodedFilm& f) { f.rotation = 90; });
    add("rotated_180.mp4", [](CodedFilm& f) { f.rotation = 180; });
    add("rotated_270.mp4", [](CodedFilm& f) { f.rotation = 270; });
    add("starts_late.mp4", [](CodedFilm& f) { f.start = MediaTime::fromSeconds(1.5); });
    add("high_rate.mp4", [](CodedFilm& f) {
        f.frameRate = 240;
        f.frames = 240;
    });
    add("ntsc.mov", [](CodedFilm& f) { f.frameRate = 30000.0 / 1001; });
    add("hevc.mp4", [](CodedFilm& f) {
        f.codec = "hevc";
        f.frames = 60;
    });
    add("vp8.webm", [](CodedFilm& f) {
        f.codec = "vp8";
        f.frames = 60;
    });
    add("vp9.webm", [](CodedFilm& f) {
        f.codec = "vp9";
        f.frames = 60;
    });
    add("mjpeg.avi", [](CodedFilm& f) {
        f.codec = "mjpeg";
        f.frames = 60;
    });
    return films;
}

} // namespace

class FilmTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void everyFormat_countSizeAndTimes_areTheWritersOwn_data() { films_data(); }
    void everyFormat_countSizeAndTimes_areTheWritersOwn();
    void everyFormat_randomFrames_areExact_data() { films_data(); }
    void everyFormat_randomFrames_areExact();
    void everyFormat_backwardWalk_isExact_data() { films_data(); }
    void everyFormat_backwardWalk_isExact();
    void frame_smallerThanAsked_keepsProportions();
    void frame_neverEnlarged();
    void frame_outside_saysTheRange();
    void frame_steppingInTheCache_decodesNothingTwice();
    void frame_tinyCache_isStillExact();
    void frame_fewKept_isStillExact_andDecodesOnlyWhatHasGone();
    void frame_heldWhileOthersAreRead_staysAsItWas();
    void frame_stopped_isCancelled();
    void open_stopped_isCancelled();
    void open_onAnotherThread_givesTheSame();
    void open_strangeNames_areFine_data();
    void open_strangeNames_areFine();
    void open_doesNotChangeTheFile();

private:
    void films_data();
    const CodedFilm& current() const;
    std::string fileOf(const CodedFilm& f) const { return m_folder.filePath(QString::fromStdString(f.name)).toStdString(); }

    QTemporaryDir m_folder;
    std::vector<CodedFilm> m_films;
};

void FilmTest::initTestCase()
{
    m_films = everyFilm();
    for (const auto& f : m_films)
        QVERIFY2(!f.write(m_folder.path().toStdString()).empty(), f.name.c_str());
}

void FilmTest::films_data()
{
    QTest::addColumn<int>("index");
    for (std::size_t i = 0; i < m_films.size(); ++i)
        QTest::newRow(m_films[i].name.c_str()) << static_cast<int>(i);
}

const CodedFilm& FilmTest::current() const
{
    for (const auto& f : m_films)
        if (f.name == QTest::currentDataTag())
            return f;
    qFatal("no such film");
}

void FilmTest::everyFormat_countSizeAndTimes_areTheWritersOwn()
{
    const CodedFilm& f = current();
    const auto film = media::Film::open(fileOf(f));
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    const auto& info = film->info();
    QCOMPARE(info.frames(), std::int64_t{f.frames});
    QCOMPARE(info.size.width, f.width);
    QCOMPARE(info.size.height, f.height);
    QCOMPARE(info.rotation, f.rotation);
    QCOMPARE(info.variableRate, f.variableRate);
    QVERIFY2(info.warnings.empty(), info.warnings.empty() ? "" : info.warnings.front().c_str());
    QVERIFY(info.codec.find(f.codec) != std::string::npos);
    QCOMPARE(info.shown.front().nanoseconds, std::int64_t{0}); // times count from the first picture, wherever the file starts
    for (int n = 0; n < f.frames; ++n)                         // WebM keeps whole milliseconds
        QVERIFY2(std::abs(info.shown[static_cast<std::size_t>(n)].seconds() - f.shownAt(n).seconds()) < 0.00101,
                 qPrintable(QString::number(n)));
    QVERIFY(info.duration.seconds() > info.shown.back().seconds());
}

void FilmTest::everyFormat_randomFrames_areExact()
{
    const CodedFilm& f = current();
    auto film = media::Film::open(fileOf(f));
    QVERIFY(film);
    for (const int n : sixtyRandomFrames(f.frames, 17)) {
        const auto picture = film->frame(FrameIndex(n));
        QVERIFY2(picture, picture ? "" : picture.error().text().c_str());
        QCOMPARE(picture->size.width, f.width);
        QCOMPARE(picture->size.height, f.height);
        const auto number = numberIn(*picture);
        QVERIFY2(number, qPrintable(QStringLiteral("frame %1 cannot be read").arg(n)));
        QCOMPARE(*number, n);
    }
}

void FilmTest::everyFormat_backwardWalk_isExact()
{
    const CodedFilm& f = current();
    auto film = media::Film::open(fileOf(f));
    QVERIFY(film);
    for (int n = f.frames - 1; n >= f.frames - 45; --n)
        QCOMPARE(numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1), n);
    for (int n = f.frames - 45; n < f.frames; ++n)
        QCOMPARE(numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1), n);
}

void FilmTest::frame_smallerThanAsked_keepsProportions()
{
    auto film = media::Film::open(fileOf(m_films.front()));
    const auto picture = film->frame(FrameIndex(7), {160, 160});
    QVERIFY(picture);
    QCOMPARE(picture->size.width, 160);
    QCOMPARE(picture->size.height, 120);
    QCOMPARE(numberIn(*picture).value_or(-1), 7);
}

void FilmTest::frame_neverEnlarged()
{
    auto film = media::Film::open(fileOf(m_films.front()));
    const auto picture = film->frame(FrameIndex(7), {4000, 4000});
    QVERIFY(picture);
    QCOMPARE(picture->size.width, m_films.front().width);
}

void FilmTest::frame_outside_saysTheRange()
{
    auto film = media::Film::open(fileOf(m_films.front()));
    for (const int n : {-1, 150, 1'000'000}) {
        const auto picture = film->frame(FrameIndex(n));
        QVERIFY(!picture);
        QCOMPARE(picture.error().code, ErrorCode::NoSuchFrame);
        QVERIFY2(picture.error().text().find("149") != std::string::npos, picture.error().text().c_str());
    }
}

void FilmTest::frame_steppingInTheCache_decodesNothingTwice()
{
    auto film = media::Film::open(fileOf(m_films.front()));
    for (int n = 0; n < 60; ++n)
        QVERIFY(film->frame(FrameIndex(n)));
    const auto decoded = film->decodedFrames();
    QVERIFY2(decoded <= 60 + 8, qPrintable(QString::number(decoded))); // the codec looks a few pictures ahead
    for (int n = 59; n >= 0; --n)
        QVERIFY(film->frame(FrameIndex(n)));
    QCOMPARE(film->decodedFrames(), decoded);
}

void FilmTest::frame_tinyCache_isStillExact()
{
    auto film = media::Film::open(fileOf(m_films[1])); // one long group: each step back decodes it anew
    film->cache().setCeiling(1);
    for (const int n : {100, 99, 3, 2, 129, 0})
        QCOMPARE(numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1), n);
}

void FilmTest::frame_fewKept_isStillExact_andDecodesOnlyWhatHasGone()
{
    auto film = media::Film::open(fileOf(m_films[1]), {.kept = 5});
    const auto isExact = [&](int n) { return numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1) == n; };
    for (int n = 0; n <= 100; ++n)
        QVERIFY2(isExact(n), qPrintable(QString::number(n)));
    const auto decoded = film->decodedFrames();
    for (const int n : {99, 98, 97, 96, 100})
        QVERIFY2(isExact(n), qPrintable(QString::number(n)));
    QCOMPARE(film->decodedFrames(), decoded);
    QVERIFY(film->cache().bytes() < 6 * film->cache().find(FrameIndex(100)).bytes);
    QVERIFY(film->cache().find(FrameIndex(95)).isEmpty());
    QVERIFY(isExact(20));
    QVERIFY(film->decodedFrames() > decoded);
    QVERIFY(isExact(19));
}

void FilmTest::frame_heldWhileOthersAreRead_staysAsItWas()
{
    auto film = media::Film::open(fileOf(m_films[1]));
    const auto held = film->frame(FrameIndex(7));
    QVERIFY(held);
    for (int n = 8; n < 12; ++n)
        QCOMPARE(numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1), n);
    QCOMPARE(numberIn(*held).value_or(-1), 7);
}

void FilmTest::frame_stopped_isCancelled()
{
    auto film = media::Film::open(fileOf(m_films[1]));
    std::stop_source stop;
    stop.request_stop();
    const auto picture = film->frame(FrameIndex(120), {}, stop.get_token());
    QVERIFY(!picture);
    QCOMPARE(picture.error().code, ErrorCode::Cancelled);
    QCOMPARE(numberIn(film->frame(FrameIndex(120)).value_or(media::Picture{})).value_or(-1), 120); // and works on afterwards
}

void FilmTest::open_stopped_isCancelled()
{
    std::stop_source stop;
    stop.request_stop();
    const auto film = media::Film::open(fileOf(m_films.front()), {.stop = stop.get_token()});
    QVERIFY(!film);
    QCOMPARE(film.error().code, ErrorCode::Cancelled);
}

void FilmTest::open_onAnotherThread_givesTheSame()
{
    int number = -1;
    std::jthread([&] {
        auto film = media::Film::open(fileOf(m_films.front()));
        number = numberIn(film->frame(FrameIndex(77)).value_or(media::Picture{})).value_or(-1);
    }).join();
    QCOMPARE(number, 77);
}

void FilmTest::open_strangeNames_areFine_data()
{
    QTest::addColumn<QString>("name");
    for (const auto* name : {"with space.mp4", "ünïcode ☂.mp4", "50%.mp4", "a:b.mp4", "-dash.mp4", "quote'\".mp4", "no_ending"})
        QTest::newRow(name) << QString::fromUtf8(name);
}

void FilmTest::open_strangeNames_areFine()
{
    QFETCH(QString, name);
    const QString file = m_folder.filePath(name);
    QFile::remove(file);
    QVERIFY(QFile::copy(QString::fromStdString(fileOf(m_films.front())), file));
    auto film = media::Film::open(file.toStdString());
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    QCOMPARE(numberIn(film->frame(FrameIndex(11)).value_or(media::Picture{})).value_or(-1), 11);
}

void FilmTest::open_doesNotChangeTheFile()
{
    const std::string file = fileOf(m_films.front());
    const std::string before = contentOf(file);
    QFile::setPermissions(QString::fromStdString(file), QFile::ReadOwner);
    {
        auto film = media::Film::open(file);
        QVERIFY(film && film->frame(FrameIndex(50)));
    }
    QVERIFY(contentOf(file) == before);
}

KESTREL_TEST(FilmTest)
#include "film_test.moc"
