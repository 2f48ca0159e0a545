// Sums: cards, sliders, and the numbers of the clip on the bench.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/flight/sums_view.h"
#include "app/shell/number_field.h"
#include "app/shell/theme.h"
#include "media/film.h"
#include "media/film_writer.h"

#include <QPainter>
#include <QPushButton>

#include <cmath>
#include <numbers>

using namespace kestrel;
using namespace kestrel::app;
using namespace kestrel::test;

class SumsViewTest : public QObject {
    Q_OBJECT
private slots:
    void everyCard_isShown_withoutAClip();
    void slider_movesTheAnswer_numberToo();
    void outOfReach_saysTheLeastSpeed();
    void bench_numbersAreMarkedAndTaken();
    void reading_opensItsCard();
    void air_ball_place();
    void picture_isSaved();
    void spin_countedOnAFilm_data();
    void spin_countedOnAFilm();
    void court_ofYoungPlayers();
    void slider_isQuick();
};

void SumsViewTest::everyCard_isShown_withoutAClip()
{
    Window window;
    QTest::keyClick(&*window, Qt::Key_8, Qt::ControlModifier);
    auto& sums = *window->sums();
    QVERIFY(sums.isVisible());
    auto* list = sums.findChild<QListWidget*>(QStringLiteral("sumCards"));
    QCOMPARE(list->count(), 14);
    for (int n = 0; n < list->count(); ++n) {
        list->setCurrentRow(n);
        QVERIFY2(sums.answer().has_value(), sums.card().id.c_str());
        QVERIFY(!sums.findChild<QLabel*>(QStringLiteral("sumSentence"))->text().isEmpty());
        QVERIFY(sums.findChild<QLabel*>(QStringLiteral("sumAssumes"))->text().startsWith(QStringLiteral("Assumes")));
        QVERIFY(!sums.findChild<QPushButton*>(QStringLiteral("takeFromBench"))->isVisible());
    }
}

void SumsViewTest::slider_movesTheAnswer_numberToo()
{
    Window window;
    QTest::keyClick(&*window, Qt::Key_8, Qt::ControlModifier);
    auto& sums = *window->sums();
    sums.open("pull");
    auto* slider = sums.findChild<MarkedSlider*>(QStringLiteral("slider-ratio"));
    slider->setValue(slider->maximum()); // ten times
    QVERIFY(std::abs(sums.answer()->find("speed_ratio")->value - std::sqrt(10.0)) < 1e-9);
    sums.findChild<NumberField*>(QStringLiteral("number-ratio"))->setValue(4);
    QVERIFY(std::abs(sums.answer()->find("speed_ratio")->value - 2) < 1e-9);
    QVERIFY(std::abs(slider->value() - std::lround(1000 * (4 - 0.1) / 9.9)) <= 1);
}

void SumsViewTest::outOfReach_saysTheLeastSpeed()
{
    Window window;
    auto& sums = *window->sums();
    sums.open("pitch_plane");
    sums.set("speed", 8);
    QVERIFY(!sums.answer());
    QVERIFY(sums.findChild<QLabel*>(QStringLiteral("sumSentence"))->text().contains(QStringLiteral("at least")));
    sums.savePicture(QStringLiteral("/tmp/none.png"));
    sums.set("speed", 30);
    QVERIFY(sums.answer().has_value());
}

void SumsViewTest::bench_numbersAreMarkedAndTaken()
{
    Window window;
    const auto clip = window.addFilmedPitch();
    auto library = store::Library::open(window.folder().toStdString());
    QVERIFY(library->marks().addMarking(clip, filmedPitch().truth.truth));
    QVERIFY(window.openOnBench(clip));
    window.review();
    QTest::keyClick(&*window, Qt::Key_8, Qt::ControlModifier);
    auto& sums = *window->sums();
    sums.open("pitch_plane");
    const Reading* reading = window.bench().review.findReading("release_height");
    QVERIFY(reading && reading->value);
    auto* take = sums.findChild<QPushButton*>(QStringLiteral("takeFromBench"));
    QVERIFY(take->isVisible());
    QVERIFY2(benchValues(sums.card(), window.bench()).count("release-height"), reading->why.c_str());
    take->click();
    const double expected = *reading->value / 100 * *window.bench().context.marking().athlete.heightMetres;
    const double taken = sums.findChild<NumberField*>(QStringLiteral("number-release-height"))->value();
    QVERIFY2(std::abs(taken - expected) < 0.01, qPrintable(QStringLiteral("%1, not %2").arg(taken).arg(expected)));
    sums.open("spin");
    sums.takeFromBench();
    QCOMPARE(sums.findChild<NumberField*>(QStringLiteral("number-capture-rate"))->value(),
             window.bench().context.clip().clock.capture);
    sums.open("ball_speed"); // no ball is marked: said
    QVERIFY(sums.answer().has_value());
}

void SumsViewTest::reading_opensItsCard()
{
    Window window;
    const auto clip = window.addFilmedPitch();
    auto library = store::Library::open(window.folder().toStdString());
    QVERIFY(library->marks().addMarking(clip, filmedPitch().truth.truth));
    QVERIFY(window.openOnBench(clip));
    window.review();
    window->sums()->open("pull");
    window.bench().review.selectReading("release_height");
    QTest::keyClick(&*window, Qt::Key_8, Qt::ControlModifier);
    QCOMPARE(window->sums()->card().id, std::string("pitch_plane"));
}

void SumsViewTest::air_ball_place()
{
    Window window;
    auto& sums = *window->sums();
    sums.open("jump_shot");
    const double withAir = sums.answer()->find("least_speed")->value;
    sums.findChild<QCheckBox*>(QStringLiteral("sumAir"))->setChecked(false);
    QVERIFY(sums.answer()->find("least_speed")->value < withAir);
    auto* place = sums.findChild<QComboBox*>(QStringLiteral("sumPlace"));
    QVERIFY(place->count() > 3);
    place->setCurrentIndex(1); // the smallest hoop
    emit place->activated(1);
    QCOMPARE(sums.findChild<NumberField*>(QStringLiteral("number-ring-height"))->value(), 2.60);
    QCOMPARE(sums.findChild<QComboBox*>(QStringLiteral("sumBall"))->currentData().toString(), QStringLiteral("basketball-5"));
}

void SumsViewTest::picture_isSaved()
{
    Window window;
    auto& sums = *window->sums();
    sums.open("serve_window");
    const QString file = window.folder() + QStringLiteral("/serve.png");
    sums.savePicture(file);
    const QImage image(file);
    QCOMPARE(image.size(), QSize(1200, 800));
    Theme::instance().setDark(true); // it is printed, whatever the window looks like
    const QImage dark = sums.picture();
    Theme::instance().setDark(false);
    QCOMPARE(dark.pixel(2, 2), image.pixel(2, 2));
}

namespace {

constexpr QPointF kBallMiddle(320, 180);
constexpr double kBallRadius = 90, kSeamAt = 62, kSpinRate = 240; // pixels, pictures a second

/// A film of a ball that turns with a dark spot on it, so many turns a minute.
QString spinFilm(const QString& folder, double turnsAMinute, int pictures)
{
    const QString file = folder + QStringLiteral("/spin.mp4");
    media::FilmWriterSettings settings;
    settings.size = {640, 360};
    settings.frameRate = kSpinRate;
    auto writer = media::FilmWriter::open(file.toStdString(), settings);
    for (int n = 0; n < pictures; ++n) {
        QImage image(640, 360, QImage::Format_RGB32);
        image.fill(qRgb(60, 110, 70));
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(Qt::NoPen);
        painter.setBrush(Qt::white);
        painter.drawEllipse(kBallMiddle, kBallRadius, kBallRadius);
        const double angle = 0.4 + 2 * std::numbers::pi * turnsAMinute / 60 * n / kSpinRate;
        painter.setBrush(Qt::black);
        painter.drawEllipse(kBallMiddle + kSeamAt * QPointF(std::cos(angle), std::sin(angle)), 9, 9);
        painter.end();
        if (!writer ||
            !writer->write(image.constBits(), static_cast<int>(image.bytesPerLine()), MediaTime::fromSeconds(n / kSpinRate)))
            qFatal("no film");
    }
    if (!writer->finish())
        qFatal("no film");
    return file;
}

/// Where a person sees the spot.
ImagePoint spotOn(media::Film& film, FrameIndex frame)
{
    const auto picture = film.frame(frame);
    double x = 0, y = 0, n = 0;
    for (int row = 0; row < 360; ++row)
        for (int column = 0; column < 640; ++column) {
            const auto* p = picture->pixels.get() + row * picture->stride + 4 * column;
            if (p[0] < 50 && p[1] < 50 && p[2] < 50) {
                x += column;
                y += row;
                ++n;
            }
        }
    return {x / n, y / n};
}

} // namespace

void SumsViewTest::spin_countedOnAFilm_data()
{
    QTest::addColumn<double>("spin");
    QTest::addColumn<bool>("usesAngles");
    QTest::newRow("whole turns by the key") << 1200.0 << false;
    QTest::newRow("a part of a turn by its angle") << 1317.0 << true;
    QTest::newRow("the other way round") << -1130.0 << true;
    QTest::newRow("quick: four pictures a turn") << 3350.0 << true;
}

void SumsViewTest::spin_countedOnAFilm()
{
    QFETCH(double, spin);
    QFETCH(bool, usesAngles);
    constexpr int kPictures = 60;
    Window window;
    const QString file = spinFilm(window.folder(), spin, kPictures);
    QVERIFY(window.openOnBench(window.addFilm(file.toStdString(), kPictures, kSpinRate)));
    auto film = media::Film::open(file.toStdString());
    QVERIFY(film.has_value());
    auto& player = window.bench().player;
    const auto angleAt = [&](int frame) {
        const auto spot = spotOn(*film, FrameIndex(frame));
        return std::atan2(spot.y - kBallMiddle.y(), spot.x - kBallMiddle.x());
    };
    const auto drawSeam = [&](int frame) {
        player.setFrame(FrameIndex(frame));
        window.press(Qt::Key_J, Qt::ShiftModifier);
        window.dragFilm({kBallMiddle.x(), kBallMiddle.y()}, spotOn(*film, FrameIndex(frame)));
        window.press(Qt::Key_Escape);
    };
    // the key, each time the spot stands nearest to where it stood at first
    player.setFrame(FrameIndex(0));
    window.press(Qt::Key_J);
    if (usesAngles)
        drawSeam(0);
    const double first = angleAt(0), turn = 60 * kSpinRate / std::abs(spin);
    double next = turn;
    for (; next < kPictures - 3; next += turn) {
        int nearest = static_cast<int>(next);
        for (const int frame : {nearest, nearest + 1})
            if (std::abs(std::remainder(angleAt(frame) - first, 2 * std::numbers::pi)) <
                std::abs(std::remainder(angleAt(nearest) - first, 2 * std::numbers::pi)))
                nearest = frame;
        player.setFrame(FrameIndex(nearest));
        window.press(Qt::Key_J);
    }
    if (usesAngles)
        drawSeam(kPictures - 1);
    const auto counted = window.bench().spin.counted();
    QVERIFY(counted.has_value());
    const double measured = 60 * counted->turns / static_cast<double>(counted->pictures()) * kSpinRate;
    QVERIFY2(std::abs(measured / std::abs(spin) - 1) < 0.02, qPrintable(QString::number(measured)));
    QVERIFY(window->messageText().contains(QStringLiteral("turns a minute")));
    // and in the card, with its interval
    QTest::keyClick(&*window, Qt::Key_8, Qt::ControlModifier);
    auto& sums = *window->sums();
    sums.open("spin");
    sums.takeFromBench();
    const auto* answer = sums.answer()->find("spin");
    QVERIFY(answer->low < std::abs(spin) && answer->high > std::abs(spin));
}

void SumsViewTest::court_ofYoungPlayers()
{
    Window window;
    auto& sums = *window->sums();
    sums.open("serve_window");
    auto* place = sums.findChild<QComboBox*>(QStringLiteral("sumPlace"));
    const int at = place->findText(QStringLiteral("tennis court, three quarters"), Qt::MatchStartsWith);
    QVERIFY(at > 0);
    place->setCurrentIndex(at);
    emit place->activated(at);
    QCOMPARE(sums.findChild<NumberField*>(QStringLiteral("number-net-distance"))->value(), 9.0);
    QCOMPARE(sums.findChild<NumberField*>(QStringLiteral("number-net-height"))->value(), 0.8);
    QCOMPARE(sums.findChild<NumberField*>(QStringLiteral("number-line"))->value(), 4.85);
}

/// As a ratio to painting the window once: a card answers while it is painted a few times.
void SumsViewTest::slider_isQuick()
{
    Window window;
    QTest::keyClick(&*window, Qt::Key_8, Qt::ControlModifier);
    auto& sums = *window->sums();
    QElapsedTimer timer;
    timer.start();
    for (int n = 0; n < 10; ++n)
        (void)window->grab();
    const double painting = timer.restart() / 10.0;
    for (const auto& card : sumCards()) {
        sums.open(card.id);
        timer.restart();
        for (int n = 0; n < 5; ++n)
            sums.set(card.variables.front().id,
                     card.variables.front().usual + n * (card.variables.front().high - card.variables.front().usual) / 50);
        const double answering = timer.elapsed() / 5.0;
        QVERIFY2(
            answering <= 3 * painting + 20,
            qPrintable(QStringLiteral("%1: %2 ms against %3").arg(QString::fromStdString(card.id)).arg(answering).arg(painting)));
    }
}

KESTREL_TEST(SumsViewTest)
#include "sums_view_test.moc"
