#include "support/runner.h"
#include "window_fixture.h"

#include "app/bench/gauge.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

using namespace kestrel;
using namespace kestrel::test;

/// From an empty window to a page, and everything still there after a restart.
class StoryTest : public QObject {
    Q_OBJECT
private slots:
    void wholeStory();
};

void StoryTest::wholeStory()
{
    const auto& truth = filmedPitch().truth.truth;
    Window w;
    auto& bench = w.bench();

    // the roster is empty and says what to do; an athlete is added
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addAthlete")), Qt::LeftButton);
    w.find<QLineEdit>(QStringLiteral("name"))->setText(QStringLiteral("Ida Vale"));
    w.find<QLineEdit>(QStringLiteral("birthDate"))->setText(QStringLiteral("2013-03-08"));
    w.find<QDoubleSpinBox>(QStringLiteral("height"))->setValue(*truth.athlete.heightMetres);
    w.find<QCheckBox>(QStringLiteral("consent"))->setChecked(true);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    QCOMPARE(w.find<QListWidget>(QStringLiteral("athletes"))->count(), 1);
    QCOMPARE(w.find<QLabel>(QStringLiteral("athleteName"))->text(), QStringLiteral("Ida Vale"));

    // a filming day, and a clip dropped onto it
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addDay")), Qt::LeftButton);
    w.answer(QStringLiteral("overhand"));
    QMimeData dropped;
    dropped.setUrls({QUrl::fromLocalFile(filmedPitch().file)});
    auto* roster = w->roster();
    QDragEnterEvent enter({400, 400}, Qt::CopyAction, &dropped, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(roster, &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent drop({400, 400}, Qt::CopyAction, &dropped, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(roster, &drop);
    const auto& library = w->workspace().library();
    const auto day = library.days().of(roster->current())->front().id;
    QTRY_COMPARE_WITH_TIMEOUT(library.clips().of(day)->size(), std::size_t{1}, 10000);
    const auto clip = library.clips().of(day)->front();
    QCOMPARE(clip.film.frames, truth.film.frames);
    QCOMPARE(clip.clock.capture, 120.0);

    // a press on its tile brings it to the bench
    QAbstractButton* tile = nullptr;
    QTRY_VERIFY((tile = [&]() -> QAbstractButton* {
        for (auto* b : roster->findChildren<QAbstractButton*>())
            if (b->property("clip").toLongLong() == clip.id.value && b->isVisible())
                return b;
        return nullptr;
    }()));
    QSignalSpy painted(&bench.player, &app::FilmPlayer::pictureReady);
    QTest::mouseClick(tile, Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(bench.player.isOpen() && painted.count() > 0, 10000);

    // key positions, one key each
    for (std::size_t i = 0; i < pitchPack().keyPositions.size(); ++i) {
        const Event* e = findEvent(truth, pitchPack().keyPositions[i].id);
        bench.player.setFrame(FrameIndex(std::llround(e->frame.value)));
        w.press(Qt::Key_1 + static_cast<int>(i));
    }
    QCOMPARE(library.marking(clip.id)->events.size(), std::size_t{9});
    QCOMPARE(w.find<QLabel>(QStringLiteral("where"))->text(), QStringLiteral("Finish"));

    // the scale: the length is chosen and drawn
    bench.scene.setKnownLength(truth.scene.scale->metres);
    w.press(Qt::Key_S);
    w.dragFilm(truth.scene.scale->from, truth.scene.scale->to);
    QVERIFY(library.marking(clip.id)->scene.scale);
    QCOMPARE(library.marking(clip.id)->scene.scale->metres, 1.0);

    // the body, in the guided order across all key positions
    bench.positions.goTo("set");
    w.press(Qt::Key_M);
    int clicks = 0;
    while (const auto next = bench.marks.nextLandmark()) {
        w.clickFilm(findMark(truth, bench.player.frame(), *next)->at);
        QVERIFY2(++clicks < 200, "the guide does not come to an end");
    }
    QCOMPARE(static_cast<int>(library.marking(clip.id)->marks.size()), clicks);
    QVERIFY(clicks > 40);

    // the readings are there, the one thing is the head drop or its cause, and its line is drawn
    const Review review = bench.review.review();
    QVERIFY(review.oneThing);
    QVERIFY(review.oneThing->fault == "head_drop" || review.oneThing->fault == "trail_leg_collapse");
    QTRY_VERIFY(w.find<QLabel>(QStringLiteral("cue"))->text().contains(QString::fromStdString(review.oneThing->cue.teen)));
    bench.positions.goTo("strike");
    auto* gauge = w.find<app::Gauge>(QStringLiteral("lead_knee_strike"));
    QVERIFY(gauge && gauge->reading().value);
    const auto whisker = plusMinus(kWhisker * *gauge->reading().uncertainty, gauge->reading().unit);
    QVERIFY(gauge->toolTip().contains(QStringLiteral("Four times in five the true value lies within ") +
                                      QString::fromStdString(whisker)));
    QTest::mouseClick(gauge, Qt::LeftButton);
    QVERIFY(bench.review.shownReading());
    const Reading exact = *reviewOf(truth).findReading("stride_length");
    QVERIFY(std::abs(*review.findReading("stride_length")->value - *exact.value) < 4); // clicks fall on whole widget pixels

    // the page
    QTest::keyClick(&*w, Qt::Key_4, Qt::ControlModifier);
    QTRY_VERIFY_WITH_TIMEOUT(w->showView()->page()->isReady(), 15000);
    QCOMPARE(w->showView()->page()->page()->title, std::string("For Ida Vale"));
    const QString pdf = w.folder() + QStringLiteral("/page.pdf"), html = w.folder() + QStringLiteral("/page.html");
    w->showView()->page()->save(pdf);
    w->showView()->page()->save(html);
    QTRY_VERIFY(QFileInfo(pdf).size() > 10'000 && QFileInfo(html).size() > 10'000);
    QTRY_VERIFY(w->messageText().contains(QStringLiteral("Saved")));

    // quit and come back: everything is there
    const Marking before = *library.marking(clip.id);
    w.restart();
    QCOMPARE(w.find<QLabel>(QStringLiteral("athleteName"))->text(), QStringLiteral("Ida Vale"));
    QVERIFY(*w->workspace().library().marking(clip.id) == before);
    QVERIFY(w.openOnBench(clip.id));
    QCOMPARE(w.bench().review.review().oneThing->fault, review.oneThing->fault);
    QVERIFY(w.bench().review.review().readings == review.readings);
}

KESTREL_TEST(StoryTest)
#include "story_test.moc"
