#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "support/coded_film.h"
#include "support/markings.h"

#include "core/base/error_sample.h"
#include "media/film_service.h"
#include "media/picture_converter.h"

#include <QTemporaryDir>
#include <QtTest>

#include <condition_variable>
#include <cstring>
#include <mutex>

using namespace kestrel;
using namespace kestrel::test;
using media::Travel;

namespace {

constexpr std::size_t kMiB = std::size_t{1} << 20;

/// Collects a service's answers.
struct Listener {
    std::mutex mutex;
    std::condition_variable changed;
    std::optional<media::FilmInfo> info;
    std::optional<Error> error;
    std::optional<media::Delivery> last;
    std::vector<std::int64_t> delivered;
    int firstPictures = 0;

    media::FilmService::Handlers handlers()
    {
        media::FilmService::Handlers h;
        h.firstPicture = [this](const media::Picture&) { note([this] { ++firstPictures; }); };
        h.opened = [this](const media::FilmInfo& i, const std::string&) { note([&] { info = i; }); };
        h.delivered = [this](const media::Delivery& d) {
            note([&] {
                last = d;
                delivered.push_back(d.frame.value);
            });
        };
        h.failed = [this](const Error& e, std::optional<FrameIndex>) { note([&] { error = e; }); };
        return h;
    }
    template <class Do> void note(Do what)
    {
        const std::lock_guard lock(mutex);
        what();
        changed.notify_all();
    }
    template <class Is> bool wait(Is is)
    {
        std::unique_lock lock(mutex);
        return changed.wait_for(lock, std::chrono::seconds(20), is);
    }
    bool waitExact(int frame)
    {
        return wait([&] { return last && last->frame.value == frame && last->isExact; });
    }
};

} // namespace

class FilmServiceTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void open_givesTheFirstPictureThenTheFilm();
    void want_anyFrame_isExact();
    void want_manyAtOnce_newestWins();
    void want_afterAnotherFilm_oldAnswersAreGone();
    void wait_fillsAheadAndBehind_thenStepsDecodeNothing();
    void backward_insideTheGroup_decodesEachPictureAboutOnce();
    void backward_groupTooLongForMemory_isBegunWhileTheOneBeforeIsWalked();
    void littleMemory_staysBelowTheCeiling_andGlimpsesAreTrue();
    void open_impossible_saysWhy();
    void close_inTheMiddle_isQuick();
    void cache_evicts_farthestFirst_keepsHalves();
    void cache_readingOn_keepsFewAtFullSize_andTheRestAsShown();

private:
    QTemporaryDir m_folder;
    std::string m_long, m_short;
};

void FilmServiceTest::initTestCase()
{
    CodedFilm f;
    f.name = "long.mp4";
    f.frames = 240;
    f.keyEvery = 120;
    m_long = f.write(m_folder.path().toStdString());
    f.name = "short.mp4";
    f.frames = 20;
    m_short = f.write(m_folder.path().toStdString());
    QVERIFY(!m_long.empty() && !m_short.empty());
}

void FilmServiceTest::open_givesTheFirstPictureThenTheFilm()
{
    Listener l;
    media::FilmService service;
    service.open(m_long, {}, l.handlers());
    QVERIFY(l.wait([&] { return l.info.has_value(); }));
    QCOMPARE(l.firstPictures, 1);
    QCOMPARE(l.info->frames(), std::int64_t{240});
}

void FilmServiceTest::want_anyFrame_isExact()
{
    Listener l;
    media::FilmService service;
    service.open(m_long, {}, l.handlers());
    const ErrorSample sample(4);
    for (std::uint64_t i = 0; i < 40; ++i) {
        const int n = static_cast<int>((sample.even(i) + 1) / 2 * 239);
        service.want(FrameIndex(n), {160, 120}, i % 2 ? Travel::Forward : Travel::Backward);
        QVERIFY(l.waitExact(n));
        QCOMPARE(numberIn(l.last->picture).value_or(-1), n);
        QCOMPARE(l.last->picture.size.width, 160);
    }
}

void FilmServiceTest::want_manyAtOnce_newestWins()
{
    Listener l;
    media::FilmService service;
    service.open(m_long, {}, l.handlers());
    QVERIFY(l.wait([&] { return l.info.has_value(); }));
    for (int n = 0; n < 200; ++n)
        service.want(FrameIndex((n * 37) % 240), {}, Travel::Forward);
    service.want(FrameIndex(123), {}, Travel::Forward);
    QVERIFY(l.waitExact(123));
    QTest::qWait(100);
    const std::lock_guard lock(l.mutex);
    QCOMPARE(l.delivered.back(), std::int64_t{123}); // nothing late comes after it
    QVERIFY2(l.delivered.size() < 100, qPrintable(QString::number(l.delivered.size())));
}

void FilmServiceTest::want_afterAnotherFilm_oldAnswersAreGone()
{
    Listener first, second;
    media::FilmService service;
    service.open(m_long, {}, first.handlers());
    service.want(FrameIndex(239), {}, Travel::Forward);
    service.open(m_short, {}, second.handlers());
    const auto before = [&] {
        const std::lock_guard lock(first.mutex);
        return first.delivered.size();
    }();
    service.want(FrameIndex(7), {}, Travel::Forward);
    QVERIFY(second.waitExact(7));
    QCOMPARE(second.info->frames(), std::int64_t{20});
    const std::lock_guard lock(first.mutex);
    QCOMPARE(first.delivered.size(), before);
}

void FilmServiceTest::wait_fillsAheadAndBehind_thenStepsDecodeNothing()
{
    Listener l;
    media::FilmService service;
    service.open(m_long, {}, l.handlers());
    service.want(FrameIndex(130), {}, Travel::Forward);
    QVERIFY(l.waitExact(130));
    QVERIFY(QTest::qWaitFor([&] { return service.decodedFrames() >= 240; }, 20000)); // all of this film fits
    QTest::qWait(150);
    const auto decoded = service.decodedFrames();
    for (const int n : {129, 128, 119, 90, 40, 0, 200, 239}) {
        service.want(FrameIndex(n), {}, Travel::Backward);
        QVERIFY(l.waitExact(n));
    }
    QCOMPARE(service.decodedFrames(), decoded);
}

void FilmServiceTest::backward_insideTheGroup_decodesEachPictureAboutOnce()
{
    Listener l;
    media::FilmService service;
    service.open(m_long, {}, l.handlers());
    for (int n = 239; n >= 120; --n) {
        service.want(FrameIndex(n), {}, Travel::Backward);
        QVERIFY(l.waitExact(n));
        QCOMPARE(numberIn(l.last->picture).value_or(-1), n);
    }
    // the group once, and what was decoded ahead of the walk
    QVERIFY2(service.decodedFrames() <= 120 + 130, qPrintable(QString::number(service.decodedFrames())));
}

void FilmServiceTest::backward_groupTooLongForMemory_isBegunWhileTheOneBeforeIsWalked()
{
    Listener l;
    media::FilmService service(24 * kMiB); // some 110 of these pictures, and the groups have 120
    service.open(m_long, {}, l.handlers());
    service.want(FrameIndex(239), {}, Travel::Backward);
    QVERIFY(l.waitExact(239));
    for (int n = 238; n >= 180; --n) {
        service.want(FrameIndex(n), {}, Travel::Backward);
        QVERIFY(l.waitExact(n));
    }
    // with 60 pictures still ahead the group before comes unasked, to be glimpsed at once
    QVERIFY2(QTest::qWaitFor([&] { return service.decodedFrames() >= 120 + 120; }, 20000),
             qPrintable(QString::number(service.decodedFrames())));
    service.want(FrameIndex(119), {}, Travel::Backward);
    QVERIFY(l.waitExact(119));
    QCOMPARE(numberIn(l.last->picture).value_or(-1), 119);
    std::int64_t settled = -1; // and nothing is decoded over and over while the coach looks
    QVERIFY(QTest::qWaitFor(
        [&] {
            QTest::qWait(200);
            return std::exchange(settled, service.decodedFrames()) == service.decodedFrames();
        },
        20000));
}

void FilmServiceTest::littleMemory_staysBelowTheCeiling_andGlimpsesAreTrue()
{
    Listener l;
    const std::size_t ceiling = 6 * kMiB; // some forty of these pictures
    media::FilmService service(ceiling);
    service.open(m_long, {}, l.handlers());
    for (int n = 0; n < 240; n += 3) {
        service.want(FrameIndex(n), {}, Travel::Forward);
        QVERIFY(l.waitExact(n));
        QVERIFY(service.cachedBytes() <= ceiling);
    }
    for (int n = 239; n >= 0; n -= 5) { // half or full: always the right one
        service.want(FrameIndex(n), {}, Travel::Backward);
        QVERIFY(l.wait([&] { return l.last->frame.value == n; }));
        QCOMPARE(numberIn(l.last->picture).value_or(-1), n);
    }
}

void FilmServiceTest::open_impossible_saysWhy()
{
    Listener l;
    media::FilmService service;
    service.open(m_folder.filePath(QStringLiteral("gone.mp4")).toStdString(), {}, l.handlers());
    QVERIFY(l.wait([&] { return l.error.has_value(); }));
    QCOMPARE(l.error->code, ErrorCode::CannotOpen);
    l.error.reset();
    service.open(m_short, {}, l.handlers());
    service.want(FrameIndex(99), {}, Travel::Forward); // beyond the end
    QVERIFY(l.wait([&] { return l.error.has_value(); }));
    QCOMPARE(l.error->code, ErrorCode::NoSuchFrame);
}

void FilmServiceTest::close_inTheMiddle_isQuick()
{
    Listener l;
    QElapsedTimer time;
    {
        media::FilmService service;
        service.open(m_long, {}, l.handlers());
        service.want(FrameIndex(239), {}, Travel::Forward);
        time.start();
        service.close();
        QVERIFY2(time.elapsed() < 500, qPrintable(QString::number(time.elapsed())));
    }
    QVERIFY2(time.elapsed() < 3000, qPrintable(QString::number(time.elapsed())));
}

void FilmServiceTest::cache_evicts_farthestFirst_keepsHalves()
{
    auto film = media::Film::open(m_long);
    film->cache().setCeiling(100 * kMiB);
    QVERIFY(film->decodeTo(FrameIndex(60), [] { return false; }));
    const auto one = film->cache().find(FrameIndex(30)).bytes;
    film->cache().setPlayhead(FrameIndex(40), Travel::Forward);
    film->cache().setCeiling(20 * one);
    QVERIFY(film->cache().bytes() <= 20 * one);
    QVERIFY(film->cache().hasFull(FrameIndex(40)) && film->cache().hasFull(FrameIndex(46)));
    QVERIFY(!film->cache().hasFull(FrameIndex(0)) && !film->cache().hasFull(FrameIndex(60)));
    QVERIFY(film->cache().hasFull(FrameIndex(48)) && !film->cache().hasFull(FrameIndex(32))); // behind counts twice
    bool someHalf = false;
    for (int n = 20; n < 60; ++n)
        someHalf |= film->cache().find(FrameIndex(n)).isSmall;
    QVERIFY(someHalf);
    QCOMPARE(film->cache().firstGap(40, 61) > 46, true);
    QCOMPARE(film->cache().firstGap(40, 30) < 40, true);
}

void FilmServiceTest::cache_readingOn_keepsFewAtFullSize_andTheRestAsShown()
{
    const media::PixelSize shown{160, 120};
    auto film = media::Film::open(m_long);
    auto& cache = film->cache();
    cache.setCeiling(1024 * kMiB);
    auto converter = film->makeConverter();
    std::vector<media::Picture> pictures;
    for (int n = 0; n < 100; ++n) {
        cache.setPlayhead(FrameIndex(n), Travel::Forward);
        QVERIFY(film->decodeTo(FrameIndex(n), [] { return false; }));
        pictures.push_back(*converter.convert(*cache.find(FrameIndex(n)).planes, shown));
        if (n != 50) // one that was passed over
            cache.putShrunk(FrameIndex(n), converter.shrunk());
    }
    QVERIFY(cache.hasFull(FrameIndex(99)) && cache.hasFull(FrameIndex(76)));
    QVERIFY(!cache.hasFull(FrameIndex(0)) && !cache.hasFull(FrameIndex(49)));
    QVERIFY(cache.hasFull(FrameIndex(50))); // nothing else would be left of it
    for (const int n : {0, 20, 49}) {
        const auto small = cache.find(FrameIndex(n));
        QVERIFY(small.isSmall && small.bytes < cache.find(FrameIndex(99)).bytes / 2);
        QVERIFY(converter.hasSizeFor(*small.planes, shown) && !converter.hasSizeFor(*small.planes, {}));
        const auto again = converter.convert(*small.planes, shown);
        const auto& first = pictures[static_cast<std::size_t>(n)];
        QVERIFY(again && again->size == first.size);
        for (int y = 0; y < first.size.height; ++y)
            QVERIFY(std::memcmp(again->row(y), first.row(y), static_cast<std::size_t>(4 * first.size.width)) == 0);
    }
    const auto before = cache.bytes();
    cache.putShrunk(FrameIndex(200), converter.shrunk()); // of a picture that is not there
    QCOMPARE(cache.bytes(), before);
}

KESTREL_TEST(FilmServiceTest)
#include "film_service_test.moc"
