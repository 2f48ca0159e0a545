#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "support/coded_film.h"
#include "support/ffmpeg_films.h"
#include "support/markings.h"

#include "core/base/error_sample.h"
#include "media/film.h"
#include "media/film_index.h"
#include "media/picture_converter.h"

#include <QImage>
#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

/// What FFmpeg is told to make of the coded film, and what is expected of the result.
struct Remake {
    const char* name;
    const char* options;
    const char* inputOptions = "";
    int firstNumber = 0; ///< coded in the first picture that is shown
    int frames = 90;
    bool isSlow = false; ///< no usable timestamps: counted, with a warning
    int width = 320, height = 240;
};

const std::vector<Remake>& remakes()
{
    static const std::vector<Remake> all{
        {"open_groups.mp4", "-c:v libx264 -x264-params open-gop=1:keyint=20:min-keyint=20:bframes=3:scenecut=0"},
        {"edit_list.mp4", "-c copy", "-ss 0.5", 15, 75},
        {"fragmented.mp4", "-c copy -movflags frag_keyframe+empty_moov"},
        {"negative_start.mov", "-c copy -output_ts_offset -0.4 -avoid_negative_ts disabled", "", 12, 78}, // shown from 0 on
        {"late_start.ts", "-c copy -output_ts_offset 30 -muxdelay 0"},
        {"ten_bit.mp4", "-c:v libx264 -pix_fmt yuv420p10le -g 20"},
        {"full_range.mp4", "-c:v libx264 -vf scale=out_range=full -color_range pc -g 20"},
        {"odd_size.webm", "-c:v libvpx -vf scale=319:239 -b:v 4M", "", 0, 90, false, 319, 239},
        {"anamorphic.mp4", "-c:v libx264 -vf scale=160:240,setsar=2/1 -g 20"},
        {"chroma_422.mkv", "-c:v libx264 -pix_fmt yuv422p -g 20"},
        {"chroma_444.mkv", "-c:v libx264 -pix_fmt yuv444p -g 20"},
        {"b_frames.avi", "-c copy"},
        {"no_times.h264", "-c copy -f h264"},
        {"mpeg2.mpg", "-c:v mpeg2video -q:v 2 -g 12 -bf 2"},
        {"intra_only.mov", "-c:v prores_ks"},
    };
    return all;
}

QStringList words(const char* text)
{
    return QString::fromLatin1(text).split(QLatin1Char(' '), Qt::SkipEmptyParts);
}

} // namespace

class ExactnessTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void everyMake_everyFrame_isThatFrame_data();
    void everyMake_everyFrame_isThatFrame();
    void doubledTimes_areCountedWithAWarning();
    void index_bytes_roundTripAndRefuseDamage();
    void index_known_givesTheSameFilmWithoutReadingIt();
    void pictureFolder_gapsAndTens_areInNumericalOrder();
    void pictureFolder_withoutNumbers_saysSo();
    void singlePicture_isAFilmOfOne();
    void halfSize_keepsColours();

private:
    QTemporaryDir m_folder;
    std::string m_source;
};

void ExactnessTest::initTestCase()
{
    CodedFilm f;
    f.frames = 90;
    f.keyEvery = 15;
    f.bFrames = 2;
    m_source = f.write(m_folder.path().toStdString());
    QVERIFY(!m_source.empty());
}

void ExactnessTest::everyMake_everyFrame_isThatFrame_data()
{
    QTest::addColumn<int>("which");
    for (std::size_t i = 0; i < remakes().size(); ++i)
        QTest::newRow(remakes()[i].name) << static_cast<int>(i);
}

void ExactnessTest::everyMake_everyFrame_isThatFrame()
{
    QFETCH(int, which);
    const Remake& r = remakes()[static_cast<std::size_t>(which)];
    const std::string file =
        remade(m_source, m_folder.filePath(QString::fromLatin1(r.name)), words(r.options), words(r.inputOptions));
    QVERIFY(!file.empty());
    auto film = media::Film::open(file);
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    QCOMPARE(film->info().frames(), std::int64_t{r.frames});
    QCOMPARE(film->info().size.width, r.width);
    QCOMPARE(film->info().size.height, r.height);
    QCOMPARE(film->info().shown.front().nanoseconds, std::int64_t{0});
    for (std::size_t n = 1; n < film->info().shown.size(); ++n)
        QVERIFY(film->info().shown[n] > film->info().shown[n - 1]);
    film->cache().setCeiling(1); // each picture has to be found anew
    std::vector<int> order;
    for (int n = 0; n < r.frames; n += 4)
        order.push_back(n);
    for (int n = r.frames - 1; n >= 0; n -= 7)
        order.push_back(n);
    const ErrorSample sample(3);
    for (std::uint64_t i = 0; i < 20; ++i)
        order.push_back(static_cast<int>((sample.even(i) + 1) / 2 * (r.frames - 1)));
    for (const int n : order) {
        const auto picture = film->frame(FrameIndex(n));
        QVERIFY2(picture, picture ? "" : picture.error().text().c_str());
        QCOMPARE(numberIn(*picture).value_or(-1), n + r.firstNumber);
    }
}

/// Two pictures that claim the same instant: neither gets lost, and the coach is told.
void ExactnessTest::doubledTimes_areCountedWithAWarning()
{
    const std::string file = remade(m_source, m_folder.filePath(QStringLiteral("doubled.mkv")),
                                    words("-c copy -bsf:v setts=pts=floor(PTS/2000)*2000"));
    QVERIFY(!file.empty());
    auto film = media::Film::open(file);
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    QCOMPARE(film->info().frames(), std::int64_t{90});
    QVERIFY(!film->info().warnings.empty());
    for (const int n : {0, 89, 44, 45, 1})
        QCOMPARE(numberIn(film->frame(FrameIndex(n)).value_or(media::Picture{})).value_or(-1), n);
}

void ExactnessTest::index_bytes_roundTripAndRefuseDamage()
{
    media::FilmIndex index;
    const ErrorSample sample(9);
    std::int64_t pts = -5000;
    for (std::uint64_t i = 0; i < 3000; ++i) {
        index.entries.push_back({pts, 512});
        if (i % 60 == 0)
            index.keys.push_back(pts);
        pts += i % 7 == 0 ? 700 : 512;
    }
    const std::string bytes = index.toBytes();
    QVERIFY(bytes.size() < 3 * index.entries.size() + 400);
    const auto again = media::FilmIndex::fromBytes(bytes);
    QVERIFY(again && again->entries == index.entries && again->keys == index.keys);
    QVERIFY(again->tick.num == 1 && again->tick.den == 1000);
    QVERIFY(!media::FilmIndex::fromBytes(""));
    QVERIFY(!media::FilmIndex::fromBytes(bytes.substr(0, bytes.size() / 2)));
    QVERIFY(!media::FilmIndex::fromBytes(bytes + "x"));
    for (std::uint64_t i = 0; i < 400; ++i) { // damage is refused or reads as something harmless; nothing crashes
        std::string rotten = bytes;
        const auto at = static_cast<std::size_t>((sample.even(i) + 1) / 2 * static_cast<double>(bytes.size() - 1));
        rotten[at] = static_cast<char>(rotten[at] ^ (1 << (i % 8)));
        if (const auto read = media::FilmIndex::fromBytes(rotten))
            QVERIFY(!read->entries.empty());
    }
}

void ExactnessTest::index_known_givesTheSameFilmWithoutReadingIt()
{
    const auto first = media::Film::open(m_source);
    bool wasRead = false;
    media::OpenOptions options;
    options.knownIndex = first->indexBytes();
    options.progress = [&](double) { wasRead = true; };
    auto second = media::Film::open(m_source, options);
    QVERIFY(second && !wasRead);
    QVERIFY(second->info().shown == first->info().shown);
    QVERIFY(media::shownTimes(first->indexBytes()) == first->info().shown); // without the film
    QVERIFY(media::shownTimes("rotten").empty());
    QCOMPARE(numberIn(second->frame(FrameIndex(61)).value_or(media::Picture{})).value_or(-1), 61);
    options.knownIndex = "rubbish";
    auto third = media::Film::open(m_source, options);
    QVERIFY(third && wasRead);
    QVERIFY(third->info().shown == first->info().shown);
}

void ExactnessTest::pictureFolder_gapsAndTens_areInNumericalOrder()
{
    for (const char* ending : {"png", "jpg"}) {
        QTemporaryDir folder;
        for (const int n : {1, 2, 9, 10, 11, 100}) // the name's order would be another
            QVERIFY(
                codedPicture(n, 320, 240).save(folder.filePath(QStringLiteral("shot%1.%2").arg(n).arg(QLatin1String(ending)))));
        QFile note(folder.filePath(QStringLiteral("notes7.txt")));
        QVERIFY(note.open(QIODevice::WriteOnly));
        media::OpenOptions options;
        options.folderRate = 50;
        auto film = media::Film::open(folder.path().toStdString(), options);
        QVERIFY2(film, film ? "" : film.error().text().c_str());
        QCOMPARE(film->info().frames(), std::int64_t{6});
        QVERIFY(std::abs(film->info().frameRate - 50) < 1e-6);
        int at = 0;
        for (const int n : {1, 2, 9, 10, 11, 100})
            QCOMPARE(numberIn(film->frame(FrameIndex(at++)).value_or(media::Picture{})).value_or(-1), n);
        QCOMPARE(numberIn(film->frame(FrameIndex(1)).value_or(media::Picture{})).value_or(-1), 2);
    }
}

void ExactnessTest::pictureFolder_withoutNumbers_saysSo()
{
    QTemporaryDir folder;
    QVERIFY(codedPicture(1, 64, 64).save(folder.filePath(QStringLiteral("portrait.png"))));
    const auto film = media::Film::open(folder.path().toStdString());
    QVERIFY(!film);
    QCOMPARE(film.error().code, ErrorCode::CannotOpen);
    QVERIFY(film.error().message.find("numbered") != std::string::npos);
}

void ExactnessTest::singlePicture_isAFilmOfOne()
{
    for (const char* name : {"one.png", "one.jpg"}) {
        const QString file = m_folder.filePath(QString::fromLatin1(name));
        QVERIFY(codedPicture(77, 320, 240).save(file));
        auto film = media::Film::open(file.toStdString());
        QVERIFY2(film, film ? "" : film.error().text().c_str());
        QCOMPARE(film->info().frames(), std::int64_t{1});
        const auto picture = film->frame(FrameIndex(0));
        QVERIFY2(picture, picture ? "" : picture.error().text().c_str());
        QCOMPARE(numberIn(*picture).value_or(-1), 77);
    }
}

/// Colours must not jump when the exact picture takes the place of the one at half size.
void ExactnessTest::halfSize_keepsColours()
{
    for (const char* size : {"320x240", "1280x720"}) { // two colour spaces
        const std::string file =
            remade("color=c=0xC05020:s=" + std::string(size) + ":d=0.2", m_folder.filePath(QStringLiteral("colour.mp4")),
                   words("-c:v libx264 -pix_fmt yuv420p"), words("-f lavfi"));
        QVERIFY(!file.empty());
        auto film = media::Film::open(file);
        QVERIFY(film);
        QVERIFY(film->frame(FrameIndex(0)));
        const auto full = film->cache().find(FrameIndex(0));
        const auto half = media::halved(full);
        QVERIFY(half.isSmall && half.bytes < full.bytes / 2);
        auto converter = film->makeConverter();
        const auto exact = converter.convert(*full.planes, {200, 200}), glimpse = converter.convert(*half.planes, {200, 200});
        QVERIFY(exact && glimpse && exact->size == glimpse->size);
        for (int c = 0; c < 3; ++c)
            QVERIFY(std::abs(exact->row(50)[4 * 80 + c] - glimpse->row(50)[4 * 80 + c]) <= 1);
    }
}

KESTREL_TEST(ExactnessTest)
#include "exactness_test.moc"
