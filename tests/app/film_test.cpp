#include "support/runner.h" // first: Qt 6.4's moc stumbles over <compare> when nothing came before it

#include "window_fixture.h"

#include "app/bench/film_strip.h"
#include "app/film/film_check_card.h"
#include "app/live/live_view.h"
#include "app/shell/settings.h"
#include "sim/radar_gun.h"
#include "support/ffmpeg_films.h"

#include <QComboBox>
#include <QLineEdit>
#include <QTextBrowser>
#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

/// Playing, the strip, repetitions, the film check and live capture, as a coach uses them.
class FilmUseTest : public QObject {
    Q_OBJECT
private slots:
    void init()
    {
        m_window = std::make_unique<Window>();
        m_clip = m_window->addFilmedPitch();
        m_window->restart(); // the roster has read the library before
        QVERIFY(m_window->openOnBench(m_clip));
    }
    void cleanup() { m_window.reset(); }

    void shiftSpace_playsBackwardToTheBeginning();
    void play_faster_countsWhatItLeavesOut();
    void loopMarks_areSetByKeysAndShowOnTheStrip();
    void strip_fillsAndScrubs();
    void indexKept_nextOpeningReadsNothing();
    void changedFilm_isNoticed();
    void repetitions_addDescribeStep_undo_restart();
    void repetitions_keepTheirOwnKeyPositionsAndMarks();
    void repetition_filmedAtOnce_isReadFromBothFilms_undo();
    void strip_bracketEndDragged_changesTheRepetition();
    void filmCheck_saysWhatTheFilmShows_opensTheGuide();
    void filmCheck_slowMotion_asksAndSetsTheRate();
    void pictureFolder_dropped_isAClip();
    void live_standIn_savesAClipWithItsSpeed_readyToStep();
    void live_nobodyChosen_saysSo();
    void radar_noGun_saysSo();
    void settings_memory_isKeptAndUsed();

private:
    app::Bench& bench() { return m_window->bench(); }
    const store::Library& library() { return (*m_window)->workspace().library(); }
    std::unique_ptr<Window> m_window;
    store::ClipId m_clip;
};

void FilmUseTest::shiftSpace_playsBackwardToTheBeginning()
{
    bench().player.setFrame(FrameIndex(30));
    bench().player.setSpeed(0.25); // slow enough that a busy machine shows more than a few pictures
    std::vector<std::int64_t> seen;
    connect(&bench().player, &app::FilmPlayer::frameChanged, this, [&] { seen.push_back(bench().player.frame().value); });
    m_window->press(Qt::Key_Space, Qt::ShiftModifier);
    QVERIFY(bench().player.isPlaying() && bench().player.isBackward());
    QTRY_VERIFY_WITH_TIMEOUT(!bench().player.isPlaying(), 15000);
    QCOMPARE(bench().player.frame().value, std::int64_t{0});
    QStringList frames;
    for (const auto f : seen)
        frames << QString::number(f);
    QVERIFY2(seen.size() > 3 && std::is_sorted(seen.rbegin(), seen.rend()), qPrintable(frames.join(QLatin1Char(' '))));
    m_window->press(Qt::Key_Space, Qt::ShiftModifier); // at the beginning: from the end
    QTRY_VERIFY_WITH_TIMEOUT(bench().player.frame().value > 100, 10000);
    m_window->press(Qt::Key_Space, Qt::ShiftModifier);
    QVERIFY(!bench().player.isPlaying());
}

/// 120 pictures a second, shown on a window that cannot be drawn that often: what is left out is said.
void FilmUseTest::play_faster_countsWhatItLeavesOut()
{
    bench().player.setFrame(FrameIndex(0));
    bench().player.setSpeed(1);
    std::int64_t shown = 0;
    connect(&bench().player, &app::FilmPlayer::frameChanged, this, [&] { ++shown; });
    m_window->press(Qt::Key_Space);
    QTRY_VERIFY_WITH_TIMEOUT(!bench().player.isPlaying(), 30000);
    const std::int64_t passed = bench().player.frame().value;
    QVERIFY(passed >= bench().player.frames() - 2 - bench().player.droppedPictures());
    // every picture was either shown or counted; the first one stood there before
    QVERIFY2(
        std::abs(shown + bench().player.droppedPictures() - passed) <= 1,
        qPrintable(
            QStringLiteral("%1 shown, %2 left out, %3 passed").arg(shown).arg(bench().player.droppedPictures()).arg(passed)));
}

void FilmUseTest::loopMarks_areSetByKeysAndShowOnTheStrip()
{
    bench().player.setFrame(FrameIndex(40));
    m_window->press(Qt::Key_I);
    bench().player.setFrame(FrameIndex(55));
    m_window->press(Qt::Key_O);
    QCOMPARE(bench().player.loop()->first.value, std::int64_t{40});
    QCOMPARE(bench().player.loop()->last.value, std::int64_t{55});
    bench().player.setSpeed(0.5);
    bool outside = false;
    int wrapped = 0;
    std::int64_t last = 55;
    connect(&bench().player, &app::FilmPlayer::frameChanged, this, [&] {
        const auto f = bench().player.frame().value;
        outside |= f < 40 || f > 55;
        wrapped += f < last;
        last = f;
    });
    m_window->press(Qt::Key_Space);
    QTRY_VERIFY_WITH_TIMEOUT(wrapped >= 3, 20000);
    m_window->press(Qt::Key_Space);
    QVERIFY(!outside);
    m_window->press(Qt::Key_L);
    QVERIFY(!bench().player.loop());
}

void FilmUseTest::strip_fillsAndScrubs()
{
    auto* strip = (*m_window)->benchView()->strip();
    QTRY_VERIFY_WITH_TIMEOUT(strip->picturesReady() >= 8, 20000);
    const QPoint middle(strip->width() / 2, strip->height() - 10);
    QTest::mouseClick(strip, Qt::LeftButton, {}, middle);
    QVERIFY(std::abs(bench().player.frame().value - bench().player.frames() / 2) <= 1);
    QTest::mousePress(strip, Qt::LeftButton, {}, middle);
    QTest::mouseMove(strip, QPoint(strip->width() - 2, strip->height() - 10));
    QTest::mouseRelease(strip, Qt::LeftButton, {}, QPoint(strip->width() - 2, strip->height() - 10));
    QVERIFY(bench().player.frame().value >= bench().player.frames() - 2);
}

void FilmUseTest::indexKept_nextOpeningReadsNothing()
{
    const std::string hash = bench().context.clip().contentHash;
    QTRY_VERIFY_WITH_TIMEOUT(library().films().known(hash)->has_value(), 10000);
    QCOMPARE((*library().films().known(hash))->index, bench().player.index());
    m_window->restart();
    bool wasRead = false; // reading a film for its index announces how far it has come
    connect(&bench().player, &app::FilmPlayer::filmChanged, this, [&] { wasRead |= bench().player.indexing().has_value(); });
    QVERIFY(m_window->openOnBench(m_clip));
    QVERIFY(!wasRead);
    disconnect(&bench().player, nullptr, this, nullptr);
    QCOMPARE((*library().films().known(hash))->index, bench().player.index());
}

void FilmUseTest::changedFilm_isNoticed()
{
    const QString copy = m_window->folder() + QStringLiteral("/copy.mp4");
    QVERIFY(QFile::copy(filmedPitch().file, copy));
    store::Clip clip = bench().context.clip();
    clip.id = {};
    clip.file = copy.toStdString();
    const auto id = *const_cast<store::Library&>(library()).add(clip);
    CodedFilm other;
    other.name = "other.mp4";
    const std::string changed = contentOf(other.write(m_window->folder().toStdString()));
    writeFile(copy.toStdString(), changed);
    QVERIFY(m_window->openOnBench(id));
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->messageText().contains(QStringLiteral("changed")), 10000);
}

void FilmUseTest::repetitions_addDescribeStep_undo_restart()
{
    QCOMPARE(bench().context.repetitions().size(), std::size_t{1});
    bench().player.setFrame(FrameIndex(100));
    m_window->press(Qt::Key_I);
    bench().player.setFrame(FrameIndex(160));
    m_window->press(Qt::Key_O);
    m_window->press(Qt::Key_N);
    QCOMPARE(bench().context.repetitions().size(), std::size_t{2});
    QCOMPARE(bench().context.repetition().first.value, std::int64_t{100});
    QCOMPARE(bench().context.repetition().last.value, std::int64_t{160});
    QCOMPARE(bench().player.frame().value, std::int64_t{100});
    QCOMPARE(m_window->find<QToolButton>(QStringLiteral("editRepetition"))->text(), QStringLiteral("Repetition 2 of 2"));

    m_window->press(Qt::Key_R);
    auto* form = m_window->find<QFrame>(QStringLiteral("repetitionForm"));
    QVERIFY(form && form->isVisible());
    const auto type = [&](const char* field, const char* text) {
        auto* edit = form->findChild<QLineEdit*>(QLatin1String(field));
        edit->setText(QLatin1String(text));
        emit edit->editingFinished();
    };
    type("kind", "changeup");
    type("outcome", "low and in");
    auto* live = form->findChild<QComboBox*>(QStringLiteral("live"));
    live->setCurrentIndex(1);
    emit live->activated(1);
    form->close();
    const auto stored = library().repetitions().find(bench().context.repetition().id);
    QCOMPARE(stored->kind, std::string("changeup"));
    QCOMPARE(stored->outcome, std::string("low and in"));
    QVERIFY(!stored->isLive);

    m_window->press(Qt::Key_PageUp);
    QCOMPARE(bench().context.repetition().first.value, std::int64_t{0});
    m_window->press(Qt::Key_PageDown);
    QCOMPARE(bench().context.repetition().first.value, std::int64_t{100});
    m_window->restart();
    QCOMPARE(library().repetitions().of(m_clip)->size(), std::size_t{2});
    QVERIFY(m_window->openOnBench(m_clip));
    bench().context.stepRepetition(1);
    bench().repetitions.remove();
    QCOMPARE(bench().context.repetitions().size(), std::size_t{1});
    QTest::keyClick(&**m_window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(bench().context.repetitions().size(), std::size_t{2});
    bench().context.setRepetition(bench().context.repetitions().back().id);
    QCOMPARE(bench().context.repetition().outcome, std::string("low and in"));
    bench().repetitions.remove();
    bench().repetitions.remove(); // the last one stays
    QCOMPARE(bench().context.repetitions().size(), std::size_t{1});
    QVERIFY((*m_window)->messageText().contains(QStringLiteral("at least one")));
}

void FilmUseTest::repetitions_keepTheirOwnKeyPositionsAndMarks()
{
    bench().player.setFrame(FrameIndex(20));
    m_window->press(Qt::Key_1);
    bench().tools.setTool(app::Tool::Mark);
    m_window->clickFilm({300, 180});
    QCOMPARE(bench().context.marking().events.size(), std::size_t{1});
    QCOMPARE(bench().context.marking().marks.size(), std::size_t{1});
    bench().player.setFrame(FrameIndex(100));
    m_window->press(Qt::Key_N);
    QCOMPARE(bench().context.marking().events.size(), std::size_t{0});
    QCOMPARE(bench().context.marking().marks.size(), std::size_t{0}); // that one lies outside
    bench().player.setFrame(FrameIndex(120));
    m_window->press(Qt::Key_1);
    QCOMPARE(findEvent(bench().context.marking(), "set")->frame.value, 120.0);
    m_window->press(Qt::Key_PageUp);
    QCOMPARE(findEvent(bench().context.marking(), "set")->frame.value, 20.0);
    QCOMPARE(bench().context.marking().marks.size(), std::size_t{1});
}

/// The same throw on a second clip of the day, seen from behind: chosen in the form, it makes the separation a true angle.
void FilmUseTest::repetition_filmedAtOnce_isReadFromBothFilms_undo()
{
    const auto asSeen = [](Marking truth) {
        for (auto& m : truth.marks)
            m.source = Source::Coach;
        for (auto& e : truth.events)
            e.source = Source::Coach;
        return truth;
    };
    auto options = filmedPitch().truth.options;
    options.camera.view = View::Rear;
    const Marking rear = asSeen(simulated(options).truth), side = asSeen(filmedPitch().truth.truth);
    auto& workspace = (*m_window)->workspace();
    store::Clip behind = *library().clips().find(m_clip);
    behind.id = {};
    behind.file = "behind.mp4";
    behind.scene = rear.scene;
    const auto clip = m_clip;
    QVERIFY(workspace.edit(
        QStringLiteral("second film"),
        [=](store::Library& l) {
            return l.marks()
                .addMarking(clip, side)
                .and_then([&] { return l.add(behind, "stretch"); })
                .and_then([&](store::ClipId id) { return l.marks().addMarking(id, rear); });
        },
        [](store::Library&) { return Expected<void>{}; }));
    const auto separation = [this] { // of the repetition on the bench
        m_window->review();
        return bench().review.findReading("hip_shoulder_separation");
    };
    QCOMPARE(separation()->verdict, Verdict::NotFromThisView);

    m_window->press(Qt::Key_R);
    auto* form = m_window->find<QFrame>(QStringLiteral("repetitionForm"));
    auto* other = form->findChild<QComboBox*>(QStringLiteral("otherSide"));
    QVERIFY(other);
    QCOMPARE(other->count(), 2);
    QVERIFY2(other->itemText(1).contains(QStringLiteral("behind.mp4")), qPrintable(other->itemText(1)));
    other->setCurrentIndex(1);
    emit other->activated(1);
    form->close();
    QVERIFY(separation()->value);
    QVERIFY(separation()->isFromTwoViews);
    QVERIFY(bench().repetitions.secondCamera());
    QVERIFY(m_window->find<QToolButton>(QStringLiteral("editRepetition"))->text().contains(QStringLiteral("two films")));
    QCOMPARE((*m_window)->width(), 1280); // nothing that is said makes the window wider

    bench().scene.setView(View::Rear); // now both are from behind: still tied, and can be untied
    QCOMPARE(bench().repetitions.secondCameraChoices().size(), std::size_t{1});
    bench().scene.setView(View::Side);
    workspace.undoStack().undo();
    workspace.undoStack().undo();
    workspace.undoStack().undo();
    QCOMPARE(separation()->verdict, Verdict::NotFromThisView);
    QVERIFY(!bench().repetitions.secondCamera());
}

void FilmUseTest::strip_bracketEndDragged_changesTheRepetition()
{
    auto* strip = (*m_window)->benchView()->strip();
    const auto id = bench().context.repetition().id;
    const QPoint end = strip->handleOf(id, true).toPoint();
    const QPoint there(static_cast<int>(strip->xOf(FrameIndex(90))), end.y());
    QTest::mousePress(strip, Qt::LeftButton, {}, end);
    QTest::mouseMove(strip, (end + there) / 2);
    QTest::mouseMove(strip, there);
    QTest::mouseRelease(strip, Qt::LeftButton, {}, there);
    QVERIFY(std::abs(library().repetitions().find(id)->last.value - 90) <= 1);
    QTest::keyClick(&**m_window, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(library().repetitions().find(id)->last.value, bench().player.frames() - 1);
}

void FilmUseTest::filmCheck_saysWhatTheFilmShows_opensTheGuide()
{
    m_window->press(Qt::Key_F);
    auto* card = (*m_window)->benchView()->findChild<app::FilmCheckCard*>();
    QVERIFY(card && card->isVisible());
    QTRY_VERIFY_WITH_TIMEOUT(card->isReady(), 20000);
    QString text;
    for (auto* label : card->findChildren<QLabel*>())
        text += label->text() + QLatin1Char('\n');
    QVERIFY2(text.contains(QStringLiteral("640 × 360")), qPrintable(text));
    QVERIFY(text.contains(QStringLiteral("Release may not")) ||
            text.contains(QStringLiteral("Release lasts"))); // 120 < 125 pictures a second
    QPushButton* guide = nullptr;
    QTRY_VERIFY((guide = card->findChild<QPushButton*>(QStringLiteral("filmGuide"))) && guide->isVisible());
    QTRY_VERIFY(!guide->visibleRegion().isEmpty() && guide->y() + guide->height() <= card->height()); // laid out
    QTest::mouseClick(guide, Qt::LeftButton);
    auto* page = m_window->find<QTextBrowser>(QStringLiteral("guidePage"));
    QVERIFY(page);
    QVERIFY2(page->toPlainText().contains(QStringLiteral("How high")), qPrintable(page->toPlainText()));
    m_window->press(Qt::Key_F);
    QVERIFY(!card->isVisible());
}

void FilmUseTest::filmCheck_slowMotion_asksAndSetsTheRate()
{
    const QString slow = m_window->folder() + QStringLiteral("/slow.mp4");
    QVERIFY(!remade(filmedPitch().file.toStdString(), slow,
                    {QStringLiteral("-vf"), QStringLiteral("setpts=8*PTS"), QStringLiteral("-r"), QStringLiteral("15"),
                     QStringLiteral("-c:v"), QStringLiteral("libx264")})
                 .empty());
    (*m_window)->goTo(app::MainWindow::Place::Roster);
    (*m_window)->roster()->addClips({slow});
    m_window->answer({});
    auto* card = (*m_window)->roster()->findChild<app::FilmCheckCard*>();
    QTRY_VERIFY_WITH_TIMEOUT(card->isVisible() && card->isReady(), 30000);
    QPushButton* yes = nullptr;
    QTRY_VERIFY((yes = card->findChild<QPushButton*>(QStringLiteral("rate120"))) && !yes->visibleRegion().isEmpty());
    QTest::mouseClick(yes, Qt::LeftButton);
    const auto day = library().days().of((*m_window)->roster()->current())->front();
    const auto clip = library().clips().of(day.id)->front();
    QCOMPARE(clip.clock.capture, 120.0);
    QVERIFY(std::abs(clip.clock.playback - 15) < 0.1);
    QVERIFY(!card->findChild<QWidget*>(QStringLiteral("rateQuestion")) ||
            !card->findChild<QWidget*>(QStringLiteral("rateQuestion"))->isVisible());
}

void FilmUseTest::pictureFolder_dropped_isAClip()
{
    QDir(m_window->folder()).mkdir(QStringLiteral("burst"));
    for (int n = 0; n < 12; ++n)
        QVERIFY(codedPicture(n, 320, 240).save(m_window->folder() + QStringLiteral("/burst/shot-%1.png").arg(n)));
    (*m_window)->goTo(app::MainWindow::Place::Roster);
    (*m_window)->roster()->addClips({m_window->folder() + QStringLiteral("/burst")});
    m_window->answer({});
    const auto who = (*m_window)->roster()->current();
    QTRY_VERIFY_WITH_TIMEOUT(
        library().days().of(who)->size() == 2 && !library().clips().of(library().days().of(who)->front().id)->empty(), 10000);
    const auto clip = library().clips().of(library().days().of(who)->front().id)->front();
    QCOMPARE(clip.film.frames, std::int64_t{12});
    QVERIFY(m_window->openOnBench(clip.id));
}

void FilmUseTest::live_standIn_savesAClipWithItsSpeed_readyToStep()
{
    auto gun = sim::RadarGun::open();
    QVERIFY2(gun, gun ? "" : gun.error().text().c_str());
    (*m_window)->goTo(app::MainWindow::Place::Live);
    auto* live = (*m_window)->live();
    // the stand-in's film is made once; the fixture's serves as well and is there at once
    QDir(m_window->folder()).mkdir(QStringLiteral("stand-in"));
    QVERIFY(QFile::copy(filmedPitch().file, m_window->folder() + QStringLiteral("/stand-in/stand-in-camera.mp4")));
    m_window->find<QLineEdit>(QStringLiteral("radarAddress"))->setText(QString::fromStdString(gun->device()));
    QTest::mouseClick(m_window->find<QPushButton>(QStringLiteral("listenRadar")), Qt::LeftButton);
    QCOMPARE(m_window->find<QPushButton>(QStringLiteral("listenRadar"))->text(), QStringLiteral("Stop listening"));
    auto* source = m_window->find<QComboBox>(QStringLiteral("cameraSource"));
    source->setCurrentIndex(source->count() - 1);
    QTest::mouseClick(m_window->find<QPushButton>(QStringLiteral("startCamera")), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(live->camera().recorder().isStarted() && live->camera().recorder().secondsHeld() > 1.2, 30000);
    gun->announce(24.6);
    QTRY_COMPARE_WITH_TIMEOUT(m_window->find<QLabel>(QStringLiteral("radarSpeed"))->text(), QStringLiteral("89 km/h"), 5000);
    m_window->find<QDoubleSpinBox>(QStringLiteral("liveSeconds"))->setValue(1);
    QSignalSpy saved(live, &app::LiveView::clipSaved);
    QTest::keyClick(live, Qt::Key_Return);
    QTRY_VERIFY_WITH_TIMEOUT(m_window->isAsked(), 20000); // there is no day of today yet; what was seen is stored by now
    m_window->answer({});
    QTRY_COMPARE_WITH_TIMEOUT(saved.count(), 1, 20000);
    QTRY_VERIFY_WITH_TIMEOUT(bench().player.isOpen() && bench().context.clip().id.value != m_clip.value, 20000);
    QVERIFY(bench().player.frames() > 20);
    QVERIFY(bench().context.repetition().ballSpeed && std::abs(*bench().context.repetition().ballSpeed - 24.6) < 0.01);
    QVERIFY(bench().context.clip().file.rfind("films/live-", 0) == 0);
    QVERIFY(!live->camera().isRunning()); // the bench has the machine now
    m_window->press(Qt::Key_Right);
    QCOMPARE(bench().player.frame().value, std::int64_t{1});
}

void FilmUseTest::live_nobodyChosen_saysSo()
{
    (*m_window)->roster()->findChild<QPushButton*>(QStringLiteral("removeAthlete"))->click();
    (*m_window)->goTo(app::MainWindow::Place::Live);
    QDir(m_window->folder()).mkdir(QStringLiteral("stand-in"));
    QFile::copy(filmedPitch().file, m_window->folder() + QStringLiteral("/stand-in/stand-in-camera.mp4"));
    auto* source = m_window->find<QComboBox>(QStringLiteral("cameraSource"));
    source->setCurrentIndex(source->count() - 1);
    auto* live = (*m_window)->live();
    live->start();
    QTRY_VERIFY_WITH_TIMEOUT(live->camera().recorder().isStarted() && live->camera().recorder().secondsHeld() > 1, 30000);
    live->saveLast();
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->messageText().contains(QStringLiteral("athlete")), 20000);
    QVERIFY((*m_window)->messageText().contains(QStringLiteral("films/live-"))); // and where the film lies
    (*m_window)->live()->stop();
}

void FilmUseTest::radar_noGun_saysSo()
{
    app::RadarLink link;
    QSignalSpy refused(&link, &app::RadarLink::refused), opened(&link, &app::RadarLink::opened);
    link.open(QStringLiteral("/dev/no-such-gun"));
    QTRY_COMPARE(refused.count(), 1);
    QVERIFY(refused.front().front().toString().contains(QStringLiteral("no-such-gun")));
    link.open(QStringLiteral("127.0.0.1:1"));
    QTRY_COMPARE(refused.count(), 2);
    QVERIFY(!link.isOpen());
    QElapsedTimer asked;
    asked.start();
    link.open(QStringLiteral("127.0.0.1:1")); // nobody answers
    QVERIFY(asked.elapsed() < 200);           // and nobody waits
    link.close();
    {
        auto gun = sim::RadarGun::open();
        link.open(QStringLiteral("127.0.0.1:%1").arg(gun->port()));
        QTRY_COMPARE(opened.count(), 1);
        QSignalSpy heard(&link, &app::RadarLink::measured);
        QTRY_VERIFY_WITH_TIMEOUT((gun->announce(30), heard.count() > 0), 5000);
        QCOMPARE(heard.front().front().toDouble(), 30.0);
    }
    QSignalSpy lost(&link, &app::RadarLink::lost);
    QTRY_VERIFY_WITH_TIMEOUT(lost.count() > 0 || !link.isOpen(), 5000);
}

void FilmUseTest::settings_memory_isKeptAndUsed()
{
    QVERIFY(!app::Settings::filmMemory());
    QTest::mouseClick(m_window->find<QToolButton>(QStringLiteral("showSettings")), Qt::LeftButton);
    auto* form = m_window->find<QFrame>(QStringLiteral("settings"));
    QVERIFY(form);
    auto* memory = form->findChild<QComboBox*>(QStringLiteral("filmMemory"));
    memory->setCurrentIndex(memory->findData(128));
    emit memory->activated(memory->currentIndex());
    form->close();
    QCOMPARE(app::Settings::filmMemory().value_or(0), std::size_t{128} << 20);
    app::Settings::setFilmMemory({});
    QVERIFY(!app::Settings::filmMemory());
}

KESTREL_TEST(FilmUseTest)
#include "film_test.moc"
