#include "support/markings.h"
#include "support/runner.h"

#include "support/coded_film.h"

#include "core/base/error_sample.h"
#include "media/film.h"

#include <QTemporaryDir>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

class DamageTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void open_notAFilm_saysSo_data();
    void open_notAFilm_saysSo();
    void open_missingOrFolder_saysSo();
    void open_cutOff_isUsableWithAWarning_data();
    void open_cutOff_isUsableWithAWarning();
    void open_flippedBits_neverCrashes();
    void open_randomBytes_neverCrashes();
    void writer_impossible_saysSoAndLeavesNothing_data();
    void writer_impossible_saysSoAndLeavesNothing();
    void writer_abandoned_leavesNothing();
    void writer_timesNotRising_isRefused();

private:
    std::string write(const char* name, const std::string& content)
    {
        const std::string file = m_folder.filePath(QString::fromLatin1(name)).toStdString();
        writeFile(file, content);
        return file;
    }
    QTemporaryDir m_folder;
    std::string m_mp4, m_avi, m_webm;
};

void DamageTest::initTestCase()
{
    CodedFilm f;
    f.frames = 120;
    f.width = 160;
    f.height = 120;
    m_mp4 = contentOf(f.write(m_folder.path().toStdString()));
    f.name = "clip.avi";
    f.codec = "mjpeg";
    m_avi = contentOf(f.write(m_folder.path().toStdString()));
    f.name = "clip.webm";
    f.codec = "vp8";
    m_webm = contentOf(f.write(m_folder.path().toStdString()));
    QVERIFY(!m_mp4.empty() && !m_avi.empty() && !m_webm.empty());
}

void DamageTest::open_notAFilm_saysSo_data()
{
    QTest::addColumn<QByteArray>("content");
    QTest::newRow("empty") << QByteArray();
    QTest::newRow("one byte") << QByteArray(1, 'x');
    QTest::newRow("text") << QByteArray("This is a letter to the coach, not a film.\n").repeated(200);
    QTest::newRow("zeros") << QByteArray(100'000, '\0');
    QTest::newRow("a marking") << QByteArray("{\"format\": \"jolly-kestrel/marking\"}");
    QTest::newRow("the first hundred bytes of a film") << QByteArray::fromStdString(m_mp4.substr(0, 100));
    QTest::newRow("a film's tail") << QByteArray::fromStdString(m_mp4.substr(m_mp4.size() / 2));
}

void DamageTest::open_notAFilm_saysSo()
{
    QFETCH(QByteArray, content);
    const std::string file = write("wrong.mp4", content.toStdString());
    const auto film = media::Film::open(file);
    QVERIFY(!film);
    QCOMPARE(film.error().code, ErrorCode::NotAFilm);
    QCOMPARE(film.error().file, file);
    QVERIFY(film.error().message.size() > 20 && film.error().message.back() == '.');
}

void DamageTest::open_missingOrFolder_saysSo()
{
    for (const std::string& file :
         {m_folder.filePath(QStringLiteral("gone.mp4")).toStdString(), m_folder.path().toStdString(), std::string()}) {
        const auto film = media::Film::open(file);
        QVERIFY(!film);
        QCOMPARE(film.error().code, ErrorCode::CannotOpen);
        QVERIFY(film.error().message.size() > 10);
    }
}

void DamageTest::open_cutOff_isUsableWithAWarning_data()
{
    QTest::addColumn<QString>("name");
    QTest::addColumn<QByteArray>("content");
    const auto half = [](const std::string& s) { return QByteArray::fromStdString(s.substr(0, s.size() * 6 / 10)); };
    QTest::newRow("avi") << "cut.avi" << half(m_avi);
    QTest::newRow("webm") << "cut.webm" << half(m_webm);
}

void DamageTest::open_cutOff_isUsableWithAWarning()
{
    QFETCH(QString, name);
    QFETCH(QByteArray, content);
    auto film = media::Film::open(write(qPrintable(name), content.toStdString()));
    QVERIFY2(film, film ? "" : film.error().text().c_str());
    QVERIFY(film->info().frames() > 30 && film->info().frames() < 120);
    QVERIFY(!film->info().warnings.empty());
    int readable = 0;
    for (std::int64_t n = 0; n < film->info().frames(); ++n)
        if (const auto picture = film->frame(FrameIndex(n))) {
            QCOMPARE(numberIn(*picture).value_or(-1), static_cast<int>(n));
            ++readable;
        }
    QVERIFY(readable >= film->info().frames() - 2); // the last one may be cut through
}

/// A film whose data have rotted gives pictures or errors, never the wrong ordinal's time and never a crash.
void DamageTest::open_flippedBits_neverCrashes()
{
    for (std::uint32_t seed = 1; seed <= 24; ++seed) {
        std::string rotten = seed % 3 == 0 ? m_avi : seed % 3 == 1 ? m_mp4 : m_webm;
        const ErrorSample sample(seed);
        for (std::uint64_t i = 0; i < 40; ++i) {
            const auto at = static_cast<std::size_t>((sample.even(i) + 1) / 2 * static_cast<double>(rotten.size() - 1));
            rotten[at] = static_cast<char>(rotten[at] ^ (1 << (i % 8)));
        }
        auto film = media::Film::open(write("rotten.bin", rotten));
        if (!film) {
            QVERIFY(!film.error().message.empty());
            continue;
        }
        for (std::int64_t n = 0; n < film->info().frames(); n += 17)
            if (const auto picture = film->frame(FrameIndex(n)); !picture)
                QVERIFY(!picture.error().message.empty());
    }
}

void DamageTest::open_randomBytes_neverCrashes()
{
    const ErrorSample sample(99);
    std::string noise(60'000, '\0');
    for (std::size_t i = 0; i < noise.size(); ++i)
        noise[i] = static_cast<char>(static_cast<int>(sample.even(i) * 127));
    for (const std::string& head : {std::string(), m_mp4.substr(0, 64), m_avi.substr(0, 200), m_webm.substr(0, 120)}) {
        const auto film = media::Film::open(write("noise.bin", head + noise));
        if (!film)
            QVERIFY(!film.error().text().empty());
    }
}

void DamageTest::writer_impossible_saysSoAndLeavesNothing_data()
{
    QTest::addColumn<QString>("file");
    QTest::addColumn<int>("width");
    QTest::addColumn<QString>("codec");
    QTest::newRow("no such folder") << "/proc/no/folder/x.mp4" << 160 << "h264";
    QTest::newRow("odd size") << m_folder.filePath(QStringLiteral("odd.mp4")) << 161 << "h264";
    QTest::newRow("no size") << m_folder.filePath(QStringLiteral("none.mp4")) << 0 << "h264";
    QTest::newRow("unknown codec") << m_folder.filePath(QStringLiteral("codec.mp4")) << 160 << "wax";
}

void DamageTest::writer_impossible_saysSoAndLeavesNothing()
{
    QFETCH(QString, file);
    QFETCH(int, width);
    QFETCH(QString, codec);
    media::FilmWriterSettings settings;
    settings.size = {width, 120};
    settings.codec = codec.toStdString();
    const auto writer = media::FilmWriter::open(file.toStdString(), settings);
    QVERIFY(!writer);
    QVERIFY(writer.error().code == ErrorCode::CannotWrite || writer.error().code == ErrorCode::BadArgument);
    QVERIFY(!QFile::exists(file));
}

void DamageTest::writer_abandoned_leavesNothing()
{
    const QDir folder(m_folder.path());
    const int before = static_cast<int>(folder.entryList(QDir::Files).size());
    {
        media::FilmWriterSettings settings;
        settings.size = {160, 120};
        auto writer = media::FilmWriter::open(m_folder.filePath(QStringLiteral("abandoned.mp4")).toStdString(), settings);
        QVERIFY(writer);
        const QImage image = codedPicture(1, 160, 120);
        QVERIFY(writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()), {}));
    }
    QCOMPARE(static_cast<int>(folder.entryList(QDir::Files).size()), before);
}

void DamageTest::writer_timesNotRising_isRefused()
{
    media::FilmWriterSettings settings;
    settings.size = {160, 120};
    auto writer = media::FilmWriter::open(m_folder.filePath(QStringLiteral("times.mp4")).toStdString(), settings);
    const QImage image = codedPicture(1, 160, 120);
    QVERIFY(writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()), MediaTime::fromSeconds(1)));
    const auto again = writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()), MediaTime::fromSeconds(1));
    QVERIFY(!again);
    QCOMPARE(again.error().code, ErrorCode::BadArgument);
}

KESTREL_TEST(DamageTest)
#include "damage_test.moc"
