#include "support/markings.h"
#include "support/runner.h"

#include "support/coded_film.h" // moc reads it only after the others

#include "media/caption.h"
#include "media/film_writer.h"
#include "media/sound.h"

#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::media;
using namespace kestrel::test;

namespace {

/// A tone between two instants, silence around it.
Sound toneBetween(double from, double to, double whole)
{
    Sound s;
    s.samples.resize(static_cast<std::size_t>(whole * kSoundRate), 0);
    for (auto i = static_cast<std::size_t>(from * kSoundRate); i < static_cast<std::size_t>(to * kSoundRate); ++i)
        s.samples[i] = static_cast<std::int16_t>(12000 * std::sin(static_cast<double>(i) * 2 * M_PI * 440 / kSoundRate));
    return s;
}

std::vector<std::int16_t> part(const Sound& s, std::size_t from, std::size_t count)
{
    const auto begin = s.samples.begin() + static_cast<std::ptrdiff_t>(from);
    return {begin, begin + static_cast<std::ptrdiff_t>(count)};
}

/// When it first becomes loud, seconds.
double onsetOf(const Sound& s)
{
    constexpr std::size_t kWindow = kSoundRate / 200;
    for (std::size_t i = 0; i + kWindow < s.samples.size(); i += kWindow)
        if (loudnessOf(part(s, i, kWindow)) > 0.05)
            return static_cast<double>(i) / kSoundRate;
    return -1;
}

QByteArray ffprobe(const QString& file, const QStringList& what)
{
    QProcess p;
    p.start(QStringLiteral("ffprobe"),
            QStringList{QStringLiteral("-v"), QStringLiteral("error"), QStringLiteral("-of"), QStringLiteral("csv=p=0")} + what +
                QStringList{file});
    p.waitForFinished();
    return p.readAllStandardOutput();
}

} // namespace

class SoundTest : public QObject {
    Q_OBJECT
private slots:
    void wav_roundTrip_keepsEverySample();
    void load_noSound_saysSo();
    void loudness_silenceAndSquare();
    void film_withSoundAndCaptions_holdsBoth_data();
    void film_withSoundAndCaptions_holdsBoth();
    void captionFiles_areAsTheirKindWants();
};

void SoundTest::wav_roundTrip_keepsEverySample()
{
    const QTemporaryDir folder;
    const std::string file = folder.filePath(QStringLiteral("voice.wav")).toStdString();
    const Sound tone = toneBetween(0.1, 0.3, 0.5);
    QVERIFY(saveWav(tone, file));
    const auto back = loadSound(file);
    QVERIFY(back);
    QVERIFY(*back == tone);
}

void SoundTest::load_noSound_saysSo()
{
    const QTemporaryDir folder;
    const std::string text = folder.filePath(QStringLiteral("a.wav")).toStdString();
    writeFile(text, "this is not a sound");
    QVERIFY(!loadSound(text));
    QVERIFY(!loadSound(folder.filePath(QStringLiteral("none.wav")).toStdString()));
    const std::string film = CodedFilm{}.write(folder.path().toStdString());
    const auto silent = loadSound(film);
    QVERIFY(!silent);
    QCOMPARE(silent.error().code, ErrorCode::NotAFilm);
    QVERIFY(!saveWav(Sound{}, "/proc/none/a.wav"));
}

void SoundTest::loudness_silenceAndSquare()
{
    QCOMPARE(loudnessOf({}), 0.0);
    QCOMPARE(loudnessOf(std::vector<std::int16_t>(100, 0)), 0.0);
    QCOMPARE(loudnessOf(std::vector<std::int16_t>(100, 16384)), 0.5);
}

void SoundTest::film_withSoundAndCaptions_holdsBoth_data()
{
    QTest::addColumn<QString>("name");
    QTest::addColumn<QByteArray>("codecs");
    QTest::newRow("mp4") << QStringLiteral("walk.mp4") << QByteArray("h264\naac\nmov_text\n");
    QTest::newRow("webm") << QStringLiteral("walk.webm") << QByteArray("vp9\nopus\nwebvtt\n");
}

void SoundTest::film_withSoundAndCaptions_holdsBoth()
{
    QFETCH(QString, name);
    QFETCH(QByteArray, codecs);
    const QTemporaryDir folder;
    const QString file = folder.filePath(name);
    const bool isWebm = name.endsWith(QStringLiteral("webm"));
    FilmWriterSettings settings;
    settings.size = {320, 240};
    settings.codec = isWebm ? "vp9" : "h264";
    settings.sound = isWebm ? "opus" : "aac";
    settings.captions = isWebm ? "webvtt" : "mov_text";
    settings.bFrames = 0;
    auto writer = FilmWriter::open(file.toStdString(), settings);
    QVERIFY2(writer, writer ? "" : writer.error().text().c_str());
    QVERIFY(writer->writeCaption({MediaTime::fromSeconds(0), MediaTime::fromSeconds(1), "Stay {tall} <here>"}));
    QVERIFY(writer->writeCaption({MediaTime::fromSeconds(1), MediaTime::fromSeconds(2), "then push"}));
    const Sound tone = toneBetween(1.0, 1.5, 2.0);
    for (int n = 0; n < 60; ++n) {
        const QImage picture = codedPicture(n, 320, 240);
        QVERIFY(writer->write(picture.constBits(), static_cast<int>(picture.bytesPerLine()), MediaTime::fromSeconds(n / 30.0)));
        QVERIFY(writer->writeSound(part(tone, static_cast<std::size_t>(n) * 1600, 1600)));
    }
    QVERIFY(!QFile::exists(file)); // not before all of it is there
    QVERIFY(writer->finish());
    QCOMPARE(ffprobe(file, {QStringLiteral("-show_entries"), QStringLiteral("stream=codec_name")}), codecs);
    const double seconds = ffprobe(file, {QStringLiteral("-show_entries"), QStringLiteral("format=duration")}).toDouble();
    QVERIFY2(std::abs(seconds - 2) < 0.1, QByteArray::number(seconds).constData());
    const auto sound = loadSound(file.toStdString());
    QVERIFY(sound);
    const double onset = onsetOf(*sound);
    QVERIFY2(std::abs(onset - 1.0) < 0.04, QByteArray::number(onset).constData());
    QProcess captions;
    captions.start(QStringLiteral("ffmpeg"),
                   {QStringLiteral("-v"), QStringLiteral("error"), QStringLiteral("-i"), file, QStringLiteral("-map"),
                    QStringLiteral("0:s:0"), QStringLiteral("-f"), QStringLiteral("webvtt"), QStringLiteral("-")});
    captions.waitForFinished();
    const QByteArray said = captions.readAllStandardOutput();
    QVERIFY2(said.contains("Stay (tall)") && said.contains("here") && said.contains("then push"), said.constData());
    // Opus is played a few milliseconds late, and all else with it
    QVERIFY2(said.contains("00:01.000 --> 00:02.000") || said.contains("00:01.014 --> 00:02.014"), said.constData());
}

void SoundTest::captionFiles_areAsTheirKindWants()
{
    const std::vector<Caption> captions{{MediaTime::fromSeconds(0), MediaTime::fromSeconds(3661.5), "One\n\nline & <b>"},
                                        {MediaTime::fromSeconds(3661.5), MediaTime::fromSeconds(3662), "two"}};
    QCOMPARE(toSrt(captions),
             std::string("1\n00:00:00,000 --> 01:01:01,500\nOne  line & <b>\n\n2\n01:01:01,500 --> 01:01:02,000\ntwo\n\n"));
    QCOMPARE(
        toWebVtt(captions),
        std::string("WEBVTT\n\n00:00:00.000 --> 01:01:01.500\nOne  line &amp; &lt;b>\n\n01:01:01.500 --> 01:01:02.000\ntwo\n\n"));
}

KESTREL_TEST(SoundTest)
#include "sound_test.moc"
