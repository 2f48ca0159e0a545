// Sums: cards, sliders, and the numbers of the clip on the bench.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/flight/sums_view.h"
#include "app/shell/number_field.h"

#include <QPushButton>

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
