// Show: what leaves for players and families.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/flight/sums_view.h"
#include "app/show/change_view.h"
#include "app/show/checklist_view.h"
#include "app/show/page_view.h"
#include "app/show/sheet_view.h"
#include "app/show/walk_view.h"
#include "media/film.h"
#include "media/sound.h"

#include <QLabel>
#include <QMenu>
#include <QProcess>
#include <QPushButton>
#include <QToolButton>

using namespace kestrel;
using namespace kestrel::app;
using namespace kestrel::test;

class ShowViewTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void everyLeaf_madeFromTheBench();
    void emptyLibrary_everyLeafSaysWhatToDo();
    void sheet_saved_isKeptAndListed();
    void sheet_drawings_areOnIt();
    void walk_isProposed_goodFirst();
    void walk_sentenceChanged_becomesOwn_undo_restart();
    void walk_order_remove_add_undo();
    void walk_drawings_ontoTheStop_andBackOntoTheFilm();
    void picture_intoTheTalk_ontoThePage_undone_written();
    void walk_player_spaceAndArrows();
    void walk_written_holdsEveryStop();
    void walk_cancelled_leavesNothing();
    void walk_noRoom_saysSo_leavesNothing();
    void walk_voice_goesIntoTheFilm();
    void consentMissing_facesAreHidden_andSaid();
    void change_noEarlierDay_saysSo();
    void change_sincePage_isBetter_onLeafCardAndNextPage();

private:
    Window& window() { return *m_window; }
    ShowView& show() { return *window()->showView(); }
    WalkView& walk() { return *show().walk(); }
    void turnTo(const char* leaf);
    /// Another day of the athlete on the bench, with pitches that were never painted: marked as simulated. Its first clip.
    store::ClipId addDay(const std::string& date, const std::map<std::string, double>& faults);
    QString file(const char* name) { return window().folder() + QLatin1Char('/') + QLatin1String(name); }

    std::unique_ptr<Window> m_window;
    store::ClipId m_clip;
};

void ShowViewTest::init()
{
    m_window = std::make_unique<Window>();
    m_clip = window().addFilmedPitch();
    auto library = store::Library::open(window().folder().toStdString());
    QVERIFY(library->marks().addMarking(m_clip, filmedPitch().truth.truth));
    QVERIFY(window().openOnBench(m_clip));
    window().review();
    QTest::keyClick(&*window(), Qt::Key_4, Qt::ControlModifier);
}

void ShowViewTest::turnTo(const char* leaf)
{
    show().findChild<QToolButton*>(QLatin1String(leaf))->click();
    if (QByteArray(leaf) == "leafWalk")
        QVERIFY(QTest::qWaitFor([&] { return walk().editor().day() != nullptr; }, 20000));
}

void ShowViewTest::everyLeaf_madeFromTheBench()
{
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady(), 20000);
    turnTo("leafSheet");
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady(), 20000);
    QCOMPARE(show().sheet()->sheet()->rows.front().cells.size(), pitchPack().keyPositions.size());
    turnTo("leafChecklist");
    QTRY_VERIFY_WITH_TIMEOUT(show().checklist()->isReady(), 20000);
    QVERIFY(show().checklist()->checklist()->groups.size() >= 5);
    turnTo("leafWalk");
    QVERIFY(walk().editor().script().stops.size() >= 3);
    // another clip's review: each is made anew when it is seen again
    window().bench().marks.setTaught("head_drop", false);
    turnTo("leafChecklist");
    QTRY_VERIFY_WITH_TIMEOUT(show().checklist()->isReady(), 20000);
}

void ShowViewTest::emptyLibrary_everyLeafSaysWhatToDo()
{
    Window empty;
    QTest::keyClick(&*empty, Qt::Key_4, Qt::ControlModifier);
    for (const char* leaf : {"leafPage", "leafSheet", "leafChecklist", "leafWalk", "leafChange"}) {
        empty->showView()->findChild<QToolButton*>(QLatin1String(leaf))->click();
        bool isSaid = false;
        for (auto* label : empty->showView()->findChildren<QLabel*>())
            isSaid = isSaid || (label->isVisible() && label->text().startsWith(QStringLiteral("Bring a clip to the bench")));
        QVERIFY2(isSaid, leaf);
    }
    QVERIFY(!empty->showView()->walk()->present());
}

void ShowViewTest::sheet_saved_isKeptAndListed()
{
    turnTo("leafSheet");
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady(), 20000);
    show().sheet()->save(file("sheet.pdf"));
    QTRY_VERIFY_WITH_TIMEOUT(window()->messageText().startsWith(QStringLiteral("Saved")), 20000);
    const auto& library = window()->workspace().library();
    const auto athlete = window().bench().context.athlete().id;
    const auto sent = *library.sent().of(athlete);
    QCOMPARE(sent.size(), std::size_t{1});
    QCOMPARE(sent.front().kind, std::string("sheet"));
    QCOMPARE(library.sent().find(sent.front().id)->content, contentOf(file("sheet.pdf").toStdString()));
    QVERIFY(sent.front().review.find("jolly-kestrel/review") != std::string::npos);
    // a place where nothing can be written: said, and nothing is kept
    show().sheet()->save(QStringLiteral("/proc/none/sheet.pdf"));
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("/proc/none")));
    QCOMPARE(library.sent().of(athlete)->size(), std::size_t{1});
    window().restart(); // the athlete was stored behind the window's back
    window()->roster()->select(athlete);
    auto* menu = window().find<QToolButton>(QStringLiteral("sent"))->menu();
    emit menu->aboutToShow();
    QCOMPARE(menu->actions().size(), 1);
    QVERIFY(menu->actions().front()->text().contains(QStringLiteral("sheet.pdf")));
}

void ShowViewTest::sheet_drawings_areOnIt()
{
    turnTo("leafSheet");
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady(), 20000);
    const QImage before = show().sheet()->sheet()->rows.front().cells.front().image;
    Drawing box;
    box.kind = DrawingKind::Box;
    box.at = {{{100, 20}, {}}, {{500, 340}, {}}};
    box.lives.on = Lives::On::Repetition;
    window().bench().drawings.add(box);
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady() && show().sheet()->sheet()->rows.front().cells.front().image != before,
                             20000);
}

void ShowViewTest::walk_isProposed_goodFirst()
{
    turnTo("leafWalk");
    const auto& stops = walk().editor().script().stops;
    QVERIFY(!walk().editor().isOwn());
    QCOMPARE(walk().findChild<QListWidget*>(QStringLiteral("walkStops"))->count(), static_cast<int>(stops.size()));
    QVERIFY(stops[1].text.find("Already good") == 0);
    QVERIFY(!*window()->workspace().library().walks().of(window().bench().context.day().id)); // nothing is stored for it
}

void ShowViewTest::walk_sentenceChanged_becomesOwn_undo_restart()
{
    turnTo("leafWalk");
    auto* list = walk().findChild<QListWidget*>(QStringLiteral("walkStops"));
    auto* text = walk().findChild<QPlainTextEdit*>(QStringLiteral("stopText"));
    list->setCurrentRow(1);
    text->setFocus();
    text->selectAll();
    QTest::keyClicks(text, QStringLiteral("Look how quiet your head is <here>."));
    list->setFocus(); // leaving it stores it
    QTRY_COMPARE(walk().editor().script().stops[1].text, std::string("Look how quiet your head is <here>."));
    QVERIFY(walk().editor().isOwn());
    window()->workspace().undoStack().undo();
    QVERIFY(!walk().editor().isOwn());
    QVERIFY(walk().editor().script().stops[1].text.find("Already good") == 0);
    window()->workspace().undoStack().redo();
    window().restart();
    QVERIFY(window().openOnBench(m_clip));
    window().review();
    QTest::keyClick(&*window(), Qt::Key_4, Qt::ControlModifier);
    turnTo("leafWalk");
    QCOMPARE(walk().editor().script().stops[1].text, std::string("Look how quiet your head is <here>."));
    walk().findChild<QPushButton*>(QStringLiteral("proposeAnew"))->click();
    QVERIFY(!walk().editor().isOwn());
}

void ShowViewTest::walk_order_remove_add_undo()
{
    turnTo("leafWalk");
    auto* list = walk().findChild<QListWidget*>(QStringLiteral("walkStops"));
    const auto before = walk().editor().script();
    list->setCurrentRow(0);
    QTest::keyClick(list, Qt::Key_Down, Qt::ControlModifier);
    QCOMPARE(walk().editor().script().stops[1], before.stops[0]);
    QCOMPARE(list->currentRow(), 1); // it stays chosen
    QTest::keyClick(list, Qt::Key_Delete);
    QCOMPARE(walk().editor().script().stops.size(), before.stops.size() - 1);
    window()->workspace().undoStack().undo();
    window()->workspace().undoStack().undo();
    QCOMPARE(walk().editor().script(), before);
    window().bench().player.setFrame(FrameIndex(77));
    walk().findChild<QPushButton*>(QStringLiteral("addStop"))->click();
    QCOMPARE(walk().editor().script().stops.size(), before.stops.size() + 1);
    const auto added = walk().editor().script().stops[static_cast<std::size_t>(list->currentRow())];
    QCOMPARE(added.frames.last.value, 77);
    auto* from = walk().findChild<QSpinBox*>(QStringLiteral("stopFrom"));
    from->setValue(40);
    QVERIFY(walk().editor().script().stops[static_cast<std::size_t>(list->currentRow())].isStretch());
}

void ShowViewTest::walk_drawings_ontoTheStop_andBackOntoTheFilm()
{
    turnTo("leafWalk");
    auto* stops = walk().findChild<QListWidget*>(QStringLiteral("walkStops"));
    auto* drawings = walk().findChild<QListWidget*>(QStringLiteral("stopDrawings"));
    const auto button = [&](const char* name) { return walk().findChild<QPushButton*>(QLatin1String(name)); };
    stops->setCurrentRow(1);
    QCOMPARE(drawings->count(), 0);
    QVERIFY(!button("moveDrawing")->isEnabled());
    const auto frame = walk().editor().script().stops[1].frames.last;
    button("drawOnStop")->click(); // the Bench, at the very picture
    QVERIFY(window()->benchView()->isVisible());
    QCOMPARE(window().bench().player.frame(), frame);
    Drawing circle;
    circle.kind = DrawingKind::Circle;
    circle.at = {{{200, 100}, {}}};
    circle.radius = 30;
    circle.lives.on = Lives::On::Repetition;
    window().bench().drawings.add(circle);
    QTest::keyClick(&*window(), Qt::Key_4, Qt::ControlModifier);
    QTRY_COMPARE_WITH_TIMEOUT(drawings->count(), 1, 20000);
    QVERIFY(drawings->item(0)->text().contains(QStringLiteral("on the film")));
    QVERIFY(!button("removeDrawing")->isEnabled());

    button("moveDrawing")->click();
    QTRY_COMPARE_WITH_TIMEOUT(walk().editor().script().stops[1].drawings.size(), std::size_t{1}, 20000);
    QTRY_VERIFY(drawings->count() == 1 && drawings->item(0)->text().contains(QStringLiteral("only")));
    QVERIFY(window().bench().drawings.all().empty());
    QTRY_VERIFY_WITH_TIMEOUT(!walk().editor().isGathering(), 20000);
    // another picture of the stop: it is seen there all the same
    walk().findChild<QSpinBox*>(QStringLiteral("stopTo"))->setValue(static_cast<int>(frame.value) + 3);
    const auto& day = *walk().editor().day();
    const auto& stop = walk().editor().script().stops[1];
    const PreparedRepetition prepared(day.films[0].marking, day.films[0].clock);
    const auto overlays = report::overlaysOf(stop, day.films[0], prepared, stop.frames.last, 1, true);
    QVERIFY(std::any_of(overlays.begin(), overlays.end(),
                        [](const look::Overlay& o) { return std::holds_alternative<look::DrawingOverlay>(o); }));

    button("moveDrawing")->click(); // back
    QTRY_COMPARE_WITH_TIMEOUT(window().bench().drawings.all().size(), std::size_t{1}, 20000);
    QCOMPARE(window().bench().drawings.all().front().drawing, circle);
    QTRY_VERIFY_WITH_TIMEOUT(!walk().editor().isGathering(), 20000);
    window()->workspace().undoStack().undo();
    QVERIFY(window().bench().drawings.all().empty());
    QTRY_VERIFY_WITH_TIMEOUT(!walk().editor().isGathering(), 20000);
    QCOMPARE(walk().editor().script().stops[1].drawings.size(), std::size_t{1});
    button("removeDrawing")->click();
    QVERIFY(walk().editor().script().stops[1].drawings.empty());
    circle.hides = true; // a face is hidden on everything, not on one stop
    window().bench().drawings.add(circle);
    QTRY_COMPARE_WITH_TIMEOUT(drawings->count(), 1, 20000);
    QVERIFY(!button("moveDrawing")->isEnabled());
}

void ShowViewTest::picture_intoTheTalk_ontoThePage_undone_written()
{
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady(), 20000);
    auto& sums = *window()->sums();
    sums.open("pitch_plane");
    const auto choose = [&](const QString& words) {
        for (auto* action : sums.findChild<QToolButton*>(QStringLiteral("sumOut"))->menu()->actions())
            if (action->text() == words)
                action->trigger();
    };
    choose(QStringLiteral("Put it into the walk-through"));
    QTRY_VERIFY_WITH_TIMEOUT(window()->messageText().contains(QStringLiteral("of the walk-through")), 20000);
    const auto script = walk().editor().script();
    QVERIFY(script.stops.back().isPicture());
    QCOMPARE(script.stops.back().text, sums.answer()->sentence);
    const QString kept = QString::fromStdString(walk().editor().scriptToPlay().stops.back().picture);
    QCOMPARE(QImage(kept).size(), QSize(1200, 800));

    choose(QStringLiteral("Put it on the page"));
    QTRY_VERIFY_WITH_TIMEOUT(window()->messageText().contains(QStringLiteral("on the page of")), 20000);
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady() && !show().page()->page()->extra.image.isNull(), 20000);
    QCOMPARE(show().page()->page()->extra.caption, sums.answer()->sentence);
    auto* off = show().page()->findChild<QPushButton*>(QStringLiteral("takePictureOff"));
    QVERIFY(off->isVisible());
    off->click();
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady() && show().page()->page()->extra.image.isNull(), 20000);
    window()->workspace().undoStack().undo();
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady() && !show().page()->page()->extra.image.isNull(), 20000);

    // both are there after a restart; the talk shows the picture and writes it
    window().restart();
    QVERIFY(window().openOnBench(m_clip));
    window().review();
    QTest::keyClick(&*window(), Qt::Key_4, Qt::ControlModifier);
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady() && !show().page()->page()->extra.image.isNull(), 20000);
    turnTo("leafWalk");
    auto after = walk().editor().script();
    QVERIFY(after.stops.back().isPicture());
    walk().findChild<QListWidget*>(QStringLiteral("walkStops"))->setCurrentRow(static_cast<int>(after.stops.size()) - 1);
    QVERIFY(!walk().findChild<QSpinBox*>(QStringLiteral("stopTo"))->isEnabled());
    after.stops.erase(after.stops.begin(), after.stops.end() - 1);
    walk().editor().change(QStringLiteral("the picture alone"), after);
    walk().write(file("sum.mp4"));
    QTRY_VERIFY_WITH_TIMEOUT(!walk().isWriting(), 60000);
    auto written = media::Film::open(file("sum.mp4").toStdString());
    QVERIFY(written.has_value());
    QVERIFY(std::abs(static_cast<double>(written->info().frames()) / 30 - report::timesOf(after.stops.back(), {}, 0).whole()) <
            0.1);
}

void ShowViewTest::walk_player_spaceAndArrows()
{
    turnTo("leafWalk");
    QPointer<WalkPlayer> player = walk().present();
    QVERIFY(player);
    QVERIFY(QTest::qWaitForWindowExposed(player));
    QCOMPARE(player->stage().stop(), std::size_t{0});
    QTest::keyClick(player, Qt::Key_Space);
    QCOMPARE(player->stage().stop(), std::size_t{1});
    QTRY_VERIFY_WITH_TIMEOUT(!player->stage().isPlaying(), 10000);
    QTest::keyClick(player, Qt::Key_Right);
    QCOMPARE(player->stage().stop(), std::size_t{2});
    QTest::keyClick(player, Qt::Key_Left);
    QCOMPARE(player->stage().stop(), std::size_t{1});
    QVERIFY(player->findChild<QLabel*>(QStringLiteral("walkWords"))->text().startsWith(QStringLiteral("Already good")));
    QTest::keyClick(player, Qt::Key_Escape);
    QTRY_VERIFY(!player);
}

void ShowViewTest::walk_written_holdsEveryStop()
{
    turnTo("leafWalk");
    auto script = walk().editor().script();
    script.stops.resize(2);
    script.stops[0].frames = {FrameIndex(60), FrameIndex(80)};
    script.stops[0].speed = 0.5;
    script.stops[0].text = "once";
    walk().editor().change(QStringLiteral("short"), script);
    QSignalSpy wrote(&walk(), &WalkView::wrote);
    walk().write(file("walk.mp4"));
    QVERIFY(walk().isWriting());
    QTRY_COMPARE_WITH_TIMEOUT(wrote.count(), 1, 60000);
    QVERIFY(wrote.front().front().toBool());
    auto film = media::Film::open(file("walk.mp4").toStdString());
    QVERIFY(film);
    double seconds = 0;
    for (const auto& s : script.stops)
        seconds += report::timesOf(s, walk().editor().day()->films[0].clock, 0).whole();
    QVERIFY(std::abs(static_cast<double>(film->info().frames()) / 30 - seconds) < 0.1);
    QVERIFY(contentOf(file("walk.srt").toStdString()).find("once") != std::string::npos);
    QVERIFY(contentOf(file("walk.vtt").toStdString()).find("WEBVTT") == 0);
    const auto sent = *window()->workspace().library().sent().of(window().bench().context.athlete().id);
    QCOMPARE(sent.front().kind, std::string("walk"));
    QVERIFY(window()->workspace().library().sent().find(sent.front().id)->content.find("once") != std::string::npos);
}

void ShowViewTest::walk_cancelled_leavesNothing()
{
    turnTo("leafWalk");
    QSignalSpy wrote(&walk(), &WalkView::wrote);
    walk().write(file("walk.mp4"));
    QTest::qWait(300);
    walk().findChild<QPushButton*>(QStringLiteral("writeWalk"))->click(); // says "Stop writing"
    QCOMPARE(wrote.count(), 1);
    QVERIFY(!wrote.front().front().toBool());
    QTest::qWait(1500);
    QVERIFY(!QFile::exists(file("walk.mp4")));
    QCOMPARE(QDir(window().folder()).entryList({QStringLiteral("walk*")}), QStringList());
    QVERIFY(window()->workspace().library().sent().of(window().bench().context.athlete().id)->empty());
}

void ShowViewTest::walk_noRoom_saysSo_leavesNothing()
{
    turnTo("leafWalk");
    QSignalSpy wrote(&walk(), &WalkView::wrote);
    walk().write(QStringLiteral("/proc/none/walk.mp4"));
    QTRY_COMPARE_WITH_TIMEOUT(wrote.count(), 1, 30000);
    QVERIFY(!wrote.front().front().toBool());
    QVERIFY(!window()->messageText().isEmpty());
    QVERIFY(!walk().isWriting());
}

void ShowViewTest::walk_voice_goesIntoTheFilm()
{
    turnTo("leafWalk");
    auto script = walk().editor().script();
    script.stops = {script.stops[1]};
    walk().editor().change(QStringLiteral("short"), script);
    auto* microphone = walk().findChild<QComboBox*>(QStringLiteral("microphone"));
    microphone->setCurrentText(VoiceRecorder::standInName());
    auto* record = walk().findChild<QPushButton*>(QStringLiteral("recordVoice"));
    record->click();
    auto* level = walk().findChild<QProgressBar*>(QStringLiteral("voiceLevel"));
    QTRY_VERIFY(level->value() > 0);
    QTest::qWait(700);
    record->click();
    QTRY_VERIFY(!walk().editor().script().stops.front().voice.empty()); // it is written on another thread
    const auto said = media::loadSound(walk().editor().scriptToPlay().stops.front().voice);
    QVERIFY(said && said->seconds() > 0.5);
    QSignalSpy wrote(&walk(), &WalkView::wrote);
    walk().write(file("spoken.mp4"));
    QTRY_COMPARE_WITH_TIMEOUT(wrote.count(), 1, 60000);
    const auto heard = media::loadSound(file("spoken.mp4").toStdString());
    QVERIFY(heard);
    QVERIFY(heard->samples.size() > 24000 && media::loudnessOf({heard->samples.begin(), heard->samples.begin() + 24000}) > 0.02);
    walk().findChild<QPushButton*>(QStringLiteral("forgetVoice"))->click();
    QVERIFY(walk().editor().script().stops.front().voice.empty());
    window()->workspace().undoStack().undo();
    QVERIFY(!walk().editor().script().stops.front().voice.empty());
}

store::ClipId ShowViewTest::addDay(const std::string& date, const std::map<std::string, double>& faults)
{
    auto library = store::Library::open(window().folder().toStdString());
    store::FilmingDay day = window().bench().context.day();
    day.id = {};
    day.date = date;
    const auto id = library->days().add(day);
    store::ClipId first;
    for (std::uint32_t seed = 1; seed <= 3; ++seed) {
        store::Clip clip = window().bench().context.clip();
        clip.id = {};
        clip.day = *id;
        const auto added = library->clips().add(clip);
        sim::SimulateOptions options = filmedPitch().truth.options;
        options.motion.faults = faults;
        options.motion.seed = seed;
        const auto pitch = sim::simulate(options);
        if (!added || !pitch || !library->marks().addMarking(*added, pitch->truth))
            return {};
        if (seed == 1)
            first = *added;
    }
    return first;
}

void ShowViewTest::change_noEarlierDay_saysSo()
{
    turnTo("leafChange");
    QTRY_VERIFY_WITH_TIMEOUT(window().find<QLabel>(QStringLiteral("changeSheet"))->text().contains(QStringLiteral("no earlier")),
                             20000);
    QVERIFY(!show().change()->isReady());
}

void ShowViewTest::change_sincePage_isBetter_onLeafCardAndNextPage()
{
    const auto before = addDay("2026-05-01", {{"head_drop", 1.3}}), after = addDay("2026-05-15", {});
    QVERIFY(before.value && after.value);
    QVERIFY(window().openOnBench(before));
    const auto task = window().review().oneThing;
    QVERIFY(task.has_value());
    QTest::keyClick(&*window(), Qt::Key_4, Qt::ControlModifier);
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady(), 20000);
    QVERIFY(!show().page()->page()->task->cue.empty() && show().page()->page()->since.empty());
    show().page()->save(file("page.pdf"));
    QTRY_VERIFY_WITH_TIMEOUT(window()->messageText().startsWith(QStringLiteral("Saved")), 20000);

    QVERIFY(window().openOnBench(after));
    window().review();
    auto* since = window().find<QLabel>(QStringLiteral("sinceLastPage"));
    QTRY_VERIFY_WITH_TIMEOUT(since->text().startsWith(QStringLiteral("Since the last page")), 20000);
    QVERIFY2(since->text().endsWith(QStringLiteral("go on to the next one")), qPrintable(since->text() + since->toolTip()));
    QTest::keyClick(&*window(), Qt::Key_4, Qt::ControlModifier);
    turnTo("leafPage");
    QTRY_VERIFY_WITH_TIMEOUT(show().page()->isReady(), 20000);
    QVERIFY(show().page()->page()->since.find("go on to the next one") != std::string::npos);
    turnTo("leafChange");
    QTRY_VERIFY_WITH_TIMEOUT(show().change()->isReady(), 20000);
    const auto& page = *show().change()->page();
    QVERIFY(page.rows.front().isPractised);
    QVERIFY2(page.rows.front().verdict == ChangeVerdict::Better, page.rows.front().why.c_str());
    QVERIFY(page.sentence.find("worked") != std::string::npos);
    QVERIFY(!page.rows.front().before.image.isNull() && !page.rows.front().after.image.isNull());
    QVERIFY(page.rows.front().before.caption.find("2026-05-01") == 0);
    show().change()->save(file("change.html"));
    QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(file("change.html")).size() > 10000, 20000);
    QVERIFY(contentOf(file("change.html").toStdString()).find("better for real") != std::string::npos);
}

void ShowViewTest::consentMissing_facesAreHidden_andSaid()
{
    auto* note = show().findChild<QLabel*>(QStringLiteral("consentMissing"));
    QVERIFY(note->text().isEmpty());
    turnTo("leafSheet");
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady(), 20000);
    const QImage seen = show().sheet()->sheet()->rows.front().cells.front().image;
    auto athlete = window().bench().context.athlete();
    athlete.guardianConsent = false;
    (void)window()->workspace().edit(
        EditNote(QStringLiteral("consent")), [athlete](store::Library& l) { return l.save(athlete); },
        [](store::Library&) { return Expected<void>(); });
    QVERIFY2(note->text().contains(QStringLiteral("No guardian has agreed")), qPrintable(note->text()));
    auto* faces = show().findChild<QComboBox*>(QStringLiteral("faceHiding"));
    QCOMPARE(faces->currentIndex(), 1);
    show().sheet()->outdate();
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady() && show().sheet()->sheet()->rows.front().cells.front().image != seen,
                             20000);
    faces->setCurrentIndex(0);
    emit faces->activated(0);
    QTRY_VERIFY_WITH_TIMEOUT(show().sheet()->isReady() && show().sheet()->sheet()->rows.front().cells.front().image == seen,
                             20000);
    QVERIFY(note->text().contains(QStringLiteral("ask before anything leaves")));
}

KESTREL_TEST(ShowViewTest)
#include "show_test.moc"
