#include "support/runner.h"
#include "window_fixture.h"

#include "app/roster/clip_grid.h"
#include "app/roster/day_card.h"
#include "app/shell/file_dialogs.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>

using namespace kestrel;
using namespace kestrel::test;

class RosterTest : public QObject {
    Q_OBJECT
private slots:
    void form_wrongField_saysWhatAndKeepsTheRest_data();
    void form_wrongField_saysWhatAndKeepsTheRest();
    void form_byKeysAlone_comesToTheHeight();
    void edit_isStoredAndUndone();
    void remove_undo_givesEverythingBack();
    void noConsent_isSaid();
    void drop_withoutAthlete_saysWhatToDo();
    void drop_withoutDay_makesOneForToday();
    void drop_badFilms_areNamed_goodOnesStay();
    void date_canBeSet_andTheAgeFollows();
    void school_isChosenPerDay();
    void tile_deleteRemovesTheClip_undoBringsItBack();
    void emptyLibrary_offersToBegin();
    void newDay_asksForTheSkill_theLastOneFirst();
    void newDay_left_makesNothing();
    void skill_isChanged_marksStay_undoBringsBack();
    void clip_isDraggedToAnotherDay_undone();
    void clip_goesToAnotherAthlete_theirDayIsMade();
    void dayNotes_painIsStored_andStopsAdvice();
    void intake_isStored_changed();
    void search_typingFinds();
    void manyClips_tilesAreMadeWhenSeen();
    void message_movesNothing();
    void fileDialogs_rememberTheirFolder();
    void removedAthlete_clearsTheBench();
    void readOnlyLibrary_saysSoAndKeepsEverything();

private:
    static void addAthlete(Window& w, const QString& name)
    {
        QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addAthlete")), Qt::LeftButton);
        w.find<QLineEdit>(QStringLiteral("name"))->setText(name);
        QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    }
};

void RosterTest::form_wrongField_saysWhatAndKeepsTheRest_data()
{
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("birth");
    QTest::addColumn<double>("height");
    QTest::addColumn<QString>("says");
    QTest::newRow("no name") << "  "
                             << "" << 1.5 << "name";
    QTest::newRow("no date") << "Ida"
                             << "spring" << 1.5 << "spring";
    QTest::newRow("not yet born") << "Ida"
                                  << "2190-01-01" << 1.5 << "2190";
    QTest::newRow("31 February") << "Ida"
                                 << "2013-02-31" << 1.5 << "2013-02-31";
    QTest::newRow("height in the wrong unit") << "Ida"
                                              << "" << 0.15 << "metres";
}

void RosterTest::form_wrongField_saysWhatAndKeepsTheRest()
{
    QFETCH(QString, name);
    QFETCH(QString, birth);
    QFETCH(double, height);
    QFETCH(QString, says);
    Window w;
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addAthlete")), Qt::LeftButton);
    w.find<QLineEdit>(QStringLiteral("name"))->setText(name);
    w.find<QLineEdit>(QStringLiteral("birthDate"))->setText(birth);
    w.find<QDoubleSpinBox>(QStringLiteral("height"))->setValue(height);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    QVERIFY2(w.find<QLabel>(QStringLiteral("wrong"))->text().contains(says),
             qPrintable(w.find<QLabel>(QStringLiteral("wrong"))->text()));
    QCOMPARE(w.find<QLineEdit>(QStringLiteral("birthDate"))->text(), birth);
    QVERIFY(w->workspace().library().athletes().all()->empty());
}

/// As somebody does who never takes the hands off the keys.
void RosterTest::form_byKeysAlone_comesToTheHeight()
{
    Window w;
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addAthlete")), Qt::LeftButton);
    const auto type = [](const char* words) {
        QTest::keyClicks(QApplication::focusWidget(), QLatin1String(words));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Tab);
    };
    QTRY_VERIFY(w.find<QLineEdit>(QStringLiteral("name"))->hasFocus());
    for (const char* words : {"Nell Ashby", "2013-04-02", "l", "l", "1.58"})
        type(words);
    QCOMPARE(w.find<QDoubleSpinBox>(QStringLiteral("height"))->value(), 1.58);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    const auto athlete = w->workspace().library().athletes().all()->front();
    QCOMPARE(athlete.heights.back().metres, 1.58);
    QCOMPARE(athlete.hand, Hand::Left);
    QVERIFY(w.find<QPushButton>(QStringLiteral("addDay"))->hasFocus());
}

void RosterTest::edit_isStoredAndUndone()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("editAthlete")), Qt::LeftButton);
    w.find<QComboBox>(QStringLiteral("hand"))->setCurrentIndex(1);
    w.find<QDoubleSpinBox>(QStringLiteral("height"))->setValue(1.44);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    const auto& library = w->workspace().library();
    QCOMPARE(library.athletes().all()->front().hand, Hand::Left);
    QCOMPARE(library.athletes().all()->front().heights.back().metres, 1.44);
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(library.athletes().all()->front().hand, Hand::Right);
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(library.athletes().all()->empty());
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QCOMPARE(library.athletes().all()->front().heights.back().metres, 1.44);
}

void RosterTest::remove_undo_givesEverythingBack()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    const auto& library = w->workspace().library();
    const Marking before = *library.marking(clip);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    QVERIFY(library.athletes().all()->empty());
    QVERIFY2(w->messageText().contains(QStringLiteral("Ctrl+Z")), qPrintable(w->messageText()));
    w->workspace().undoStack().undo();
    QVERIFY(*library.marking(clip) == before);
    QCOMPARE(w.find<QListWidget>(QStringLiteral("athletes"))->count(), 1);
}

void RosterTest::noConsent_isSaid()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    bool said = false;
    for (const auto* label : w->findChildren<QLabel*>())
        said |= label->isVisible() && label->text().contains(QStringLiteral("No guardian has agreed"));
    QVERIFY(said);
}

void RosterTest::drop_withoutAthlete_saysWhatToDo()
{
    Window w;
    w->roster()->addClips({filmedPitch().file});
    QVERIFY2(w->messageText().contains(QStringLiteral("athlete first")), qPrintable(w->messageText()));
}

void RosterTest::drop_withoutDay_makesOneForToday()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    w->roster()->addClips({filmedPitch().file, filmedPitch().file});
    const auto& library = w->workspace().library();
    QVERIFY(library.days().of(w->roster()->current())->empty()); // until the skill is known
    w.answer(QStringLiteral("serve"));
    QVERIFY(!w.isAsked()); // once for both
    const auto days = *library.days().of(w->roster()->current());
    QCOMPARE(days.size(), std::size_t{1});
    QCOMPARE(QString::fromStdString(days[0].date), QDate::currentDate().toString(Qt::ISODate));
    QCOMPARE(days[0].skill, std::string("overhead-serve"));
    QTRY_COMPARE_WITH_TIMEOUT(library.clips().of(days[0].id)->size(), std::size_t{2}, 10000);
    QCOMPARE(library.marking(library.clips().of(days[0].id)->front().id)->variant, std::string("platform"));
    w->roster()->addClips({filmedPitch().file}); // today has its day now
    QVERIFY(!w.isAsked());
    QTRY_COMPARE_WITH_TIMEOUT(library.clips().of(days[0].id)->size(), std::size_t{3}, 10000);
}

void RosterTest::drop_badFilms_areNamed_goodOnesStay()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    const QString text = w.folder() + QStringLiteral("/letter.mp4"), empty = w.folder() + QStringLiteral("/empty.mov");
    writeFile(text.toStdString(), "Dear coach");
    writeFile(empty.toStdString(), "");
    QStringList said;
    connect(&w->workspace(), &app::Workspace::failed, this, [&](const Error& e) { said << QString::fromStdString(e.text()); });
    w->roster()->addClips({text, filmedPitch().file, empty, w.folder() + QStringLiteral("/gone.mp4")});
    w.answer(QStringLiteral("overhand"));
    const auto& library = w->workspace().library();
    QTRY_COMPARE_WITH_TIMEOUT(said.size(), 3, 10000);
    const auto day = library.days().of(w->roster()->current())->front().id;
    QCOMPARE(library.clips().of(day)->size(), std::size_t{1});
    for (const auto* name : {"letter.mp4", "empty.mov", "gone.mp4"})
        QVERIFY2(said.join(QLatin1Char('\n')).contains(QLatin1String(name)), name);
    disconnect(&w->workspace(), nullptr, this, nullptr);
}

void RosterTest::date_canBeSet_andTheAgeFollows()
{
    Window w;
    const auto clip = w.addFilmedPitch(); // filmed 2026-05-01, born 2013-03-08
    w.restart();
    auto* date = w.find<QDateEdit>(QStringLiteral("date"));
    QVERIFY(date);
    date->setDate(QDate(2025, 3, 7));
    emit date->editingFinished();
    QCOMPARE(w->workspace().library().days().of(w->roster()->current())->front().date, std::string("2025-03-07"));
    QVERIFY(*w->workspace().library().marking(clip)->athlete.age < 12);
    w->workspace().undoStack().undo();
    QCOMPARE(w->workspace().library().days().of(w->roster()->current())->front().date, std::string("2026-05-01"));
}

void RosterTest::school_isChosenPerDay()
{
    Window w;
    w.addFilmedPitch();
    w.restart();
    QComboBox* school = nullptr;
    for (auto* box : w->roster()->findChildren<QComboBox*>())
        if (box->findData(QStringLiteral("low-drive")) >= 0)
            school = box;
    QVERIFY(school);
    school->setCurrentIndex(school->findData(QStringLiteral("low-drive")));
    emit school->activated(school->currentIndex());
    QCOMPARE(w->workspace().library().days().of(w->roster()->current())->front().school, std::string("low-drive"));
    w->workspace().undoStack().undo();
    QCOMPARE(w->workspace().library().days().of(w->roster()->current())->front().school, std::string("tall"));
}

void RosterTest::tile_deleteRemovesTheClip_undoBringsItBack()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    QAbstractButton* tile = w.tileOf(clip);
    QVERIFY(tile);
    QTest::keyClick(tile, Qt::Key_Delete);
    QVERIFY(!w->workspace().library().clips().find(clip));
    QVERIFY(QFile::exists(filmedPitch().file)); // the film stays on the disk
    w->workspace().undoStack().undo();
    QVERIFY(w->workspace().library().clips().find(clip));
}

void RosterTest::emptyLibrary_offersToBegin()
{
    Window w;
    auto* add = w.find<QPushButton>(QStringLiteral("welcomeAdd"));
    auto* demo = w.find<QPushButton>(QStringLiteral("welcomeDemo"));
    QVERIFY(add && add->isVisible() && demo && demo->isVisible());
    QSignalSpy wanted(&*w, &app::MainWindow::demoWanted);
    QTest::mouseClick(demo, Qt::LeftButton);
    QCOMPARE(wanted.count(), 1);
    QTest::mouseClick(add, Qt::LeftButton);
    QVERIFY(w.find<QLineEdit>(QStringLiteral("name"))->isVisible());
    w.find<QLineEdit>(QStringLiteral("name"))->setText(QStringLiteral("Ida"));
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    QVERIFY(!w.find<QPushButton>(QStringLiteral("welcomeAdd"))->isVisible());
}

void RosterTest::newDay_asksForTheSkill_theLastOneFirst()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    auto* addDay = w.find<QPushButton>(QStringLiteral("addDay"));
    const auto offered = [&] {
        QStringList names;
        auto* list = w.find<QListWidget>(QStringLiteral("chooserList"));
        for (int i = 0; i < list->count(); ++i)
            names << list->item(i)->text();
        return names;
    };
    QTest::mouseClick(addDay, Qt::LeftButton);
    QVERIFY(w.isAsked());
    QCOMPARE(offered().size(), static_cast<qsizetype>(w->workspace().packs().size()));
    QVERIFY(offered().size() >= 11);
    w.answer(QStringLiteral("snap"));
    const auto& library = w->workspace().library();
    store::FilmingDay day = library.days().of(w->roster()->current())->front();
    QCOMPARE(day.skill, std::string("snap-shot"));
    QCOMPARE(day.handUse, HandUse::Batting);
    QTest::mouseClick(addDay, Qt::LeftButton);
    QVERIFY2(offered().front().startsWith(QStringLiteral("Snap shot")), qPrintable(offered().front()));
    w.answer({}); // Enter takes the first
    QCOMPARE(library.days().of(w->roster()->current())->size(), std::size_t{2});
    QCOMPARE(library.days().of(w->roster()->current())->front().skill, std::string("snap-shot"));
    w->workspace().undoStack().undo();
    QCOMPARE(library.days().of(w->roster()->current())->size(), std::size_t{1});
}

void RosterTest::newDay_left_makesNothing()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addDay")), Qt::LeftButton);
    auto* field = w.find<QLineEdit>(QStringLiteral("chooserFilter"));
    QTest::keyClicks(field, QStringLiteral("zzz"));
    QTest::keyClick(field, Qt::Key_Return); // nothing fits
    QVERIFY(w.isAsked());
    QTest::keyClick(field, Qt::Key_Escape);
    QTRY_VERIFY(!w.isAsked());
    QVERIFY(w->workspace().library().days().of(w->roster()->current())->empty());
}

void RosterTest::skill_isChanged_marksStay_undoBringsBack()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    const auto& truth = filmedPitch().truth.truth;
    auto store = store::Library::open(w.folder().toStdString());
    QVERIFY(store->marks().addMarking(clip, truth));
    w.restart();
    const auto& library = w->workspace().library();
    const Marking before = *library.marking(clip);
    QVERIFY(!before.events.empty());
    QTest::mouseClick(w.find<QToolButton>(QStringLiteral("skill")), Qt::LeftButton);
    w.answer(QStringLiteral("two-handed"));
    Marking now = *library.marking(clip);
    QCOMPARE(now.skill, std::string("two-handed-backhand"));
    QCOMPARE(now.variant, std::string("drive"));
    QVERIFY(now.events.empty());
    QVERIFY(now.marks == before.marks);
    QCOMPARE(now.scene.view, before.scene.view); // it is marked: the coach knows where the camera stood
    w->workspace().undoStack().undo();
    QVERIFY(*library.marking(clip) == before);
    w->workspace().undoStack().redo();
    QTest::mouseClick(w.find<QToolButton>(QStringLiteral("skill")), Qt::LeftButton);
    w.answer(QStringLiteral("overhand"));
    now = *library.marking(clip);
    QVERIFY(now.events == before.events && now.variant == before.variant && now.scene == before.scene);
}

void RosterTest::clip_isDraggedToAnotherDay_undone()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addDay")), Qt::LeftButton);
    w.answer(QStringLiteral("windmill"));
    const auto& library = w->workspace().library();
    const auto days = *library.days().of(w->roster()->current());
    app::DayCard* target = nullptr;
    const auto findTarget = [&] {
        for (auto* card : w->findChildren<app::DayCard*>())
            if (card->isVisible() && card->day().id == days.front().id)
                target = card;
        return target != nullptr;
    };
    QTRY_VERIFY(findTarget());
    QMimeData dragged;
    dragged.setData(app::ClipTile::mimeType(), QByteArray::number(static_cast<qlonglong>(clip.value)));
    QDragEnterEvent enter({20, 20}, Qt::MoveAction, &dragged, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(target, &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent drop({20, 20}, Qt::MoveAction, &dragged, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(target, &drop);
    QTRY_COMPARE(library.clips().find(clip)->day, days.front().id);
    QCOMPARE(library.marking(clip)->skill, std::string("windmill-pitch"));
    QCOMPARE(library.marking(clip)->variant, std::string("straight"));
    QVERIFY(w.tileOf(clip));
    w->workspace().undoStack().undo();
    QCOMPARE(library.clips().find(clip)->day, days.back().id);
    QCOMPARE(library.marking(clip)->variant, std::string("stretch"));
}

void RosterTest::clip_goesToAnotherAthlete_theirDayIsMade()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    const auto ida = w->roster()->current();
    addAthlete(w, QStringLiteral("Wim"));
    const auto wim = w->roster()->current();
    w->roster()->select(ida);
    const auto& library = w->workspace().library();
    const auto chooseInMenu = [&](const QString& words) {
        auto* tile = w.tileOf(clip);
        QVERIFY(tile);
        QContextMenuEvent wish(QContextMenuEvent::Mouse, tile->rect().center(), tile->mapToGlobal(tile->rect().center()));
        QApplication::sendEvent(tile, &wish);
        auto* menu = w.find<QMenu>(QStringLiteral("clipMenu"));
        QVERIFY(menu);
        for (auto* action : menu->actions())
            if (action->text().contains(words))
                action->trigger();
        menu->close();
        delete menu;
    };
    chooseInMenu(QStringLiteral("another athlete"));
    w.answer(QStringLiteral("Wim"));
    const auto days = *library.days().of(wim);
    QCOMPARE(days.size(), std::size_t{1});
    QCOMPARE(days.front().skill, std::string("overhand-pitch"));
    QCOMPARE(days.front().date, std::string("2026-05-01"));
    QCOMPARE(library.clips().find(clip)->day, days.front().id);
    w->workspace().undoStack().undo();
    QVERIFY(library.days().of(wim)->empty());
    QCOMPARE(library.clips().find(clip)->day, library.days().of(ida)->front().id);
    w->workspace().undoStack().redo();
    QCOMPARE(library.days().of(wim)->size(), std::size_t{1});
}

void RosterTest::dayNotes_painIsStored_andStopsAdvice()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    auto store = store::Library::open(w.folder().toStdString());
    QVERIFY(store->marks().addMarking(clip, filmedPitch().truth.truth));
    w.restart();
    QVERIFY(w.openOnBench(clip));
    QVERIFY(w.review().oneThing); // a head drop
    QTest::keyClick(&*w, Qt::Key_1, Qt::ControlModifier);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("dayNotes")), Qt::LeftButton);
    auto* kind = w.find<QComboBox>(QStringLiteral("dayKind"));
    kind->setEditText(QStringLiteral("match"));
    emit kind->lineEdit()->editingFinished();
    auto* note = w.find<QLineEdit>(QStringLiteral("dayNote"));
    note->setText(QStringLiteral("<b>windy</b>"));
    emit note->editingFinished();
    auto* side = w.find<QComboBox>(QStringLiteral("daySide"));
    QCOMPARE(side->currentText(), QStringLiteral("usual side"));
    QTest::keyClick(side, Qt::Key_Down);
    QTest::keyClick(side, Qt::Key_Down);
    QCOMPARE(w->workspace().library().marking(clip)->athlete.hand, Hand::Left);
    w.find<QCheckBox>(QStringLiteral("pain-elbow"))->click();
    const auto day = w->workspace().library().days().of(w->roster()->current())->front();
    QCOMPARE(day.kind, std::string("match"));
    QCOMPARE(day.note, std::string("<b>windy</b>"));
    QVERIFY(day.pain == std::set<BodyRegion>{BodyRegion::Elbow});
    w.find<QWidget>(QStringLiteral("dayForm"))->close();
    w.popupHasGone();
    QLabel* said = nullptr;
    const auto isSaid = [&] {
        for (auto* label : w->findChildren<QLabel*>(QStringLiteral("daySaid")))
            if (label->isVisible())
                said = label;
        return said != nullptr;
    };
    QTRY_VERIFY(isSaid());
    QVERIFY(said->text().contains(QStringLiteral("licensed clinician")));
    QCOMPARE(said->textFormat(), Qt::PlainText); // what was typed is text
    // the card and the page stop
    QTest::keyClick(&*w, Qt::Key_2, Qt::ControlModifier);
    QVERIFY(!w.review().oneThing && !w.review().stop.empty());
    QTRY_VERIFY(w.find<QLabel>(QStringLiteral("caution"))->text().contains(QStringLiteral("licensed clinician")));
    QVERIFY(w.find<QLabel>(QStringLiteral("drill"))->text().isEmpty());
    QTest::keyClick(&*w, Qt::Key_4, Qt::ControlModifier);
    QTRY_VERIFY_WITH_TIMEOUT(w->showView()->page()->isReady(), 15000);
    QVERIFY(!w->showView()->page()->page()->task && w->showView()->page()->page()->also.empty());
    QVERIFY(w->showView()->page()->page()->stop.find("the elbow") != std::string::npos);
    w->workspace().undoStack().undo();
    QVERIFY(w.review().oneThing);
}

void RosterTest::intake_isStored_changed()
{
    Window w;
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("addAthlete")), Qt::LeftButton);
    w.find<QLineEdit>(QStringLiteral("name"))->setText(QStringLiteral("Ida Vale"));
    w.find<QDoubleSpinBox>(QStringLiteral("height"))->setValue(1.44);
    w.find<QDateEdit>(QStringLiteral("heightDate"))->setDate(QDate(2026, 3, 1));
    auto* hand = w.find<QComboBox>(QStringLiteral("hand"));
    hand->setCurrentIndex(1);
    emit hand->activated(1);
    QCOMPARE(w.find<QComboBox>(QStringLiteral("batHand"))->currentIndex(), 1); // follows until it is chosen
    w.find<QComboBox>(QStringLiteral("batHand"))->setCurrentIndex(0);
    w.find<QLineEdit>(QStringLiteral("level"))->setText(QStringLiteral("first season"));
    w.find<QLineEdit>(QStringLiteral("goal"))->setText(QStringLiteral("to start"));
    w.find<QLineEdit>(QStringLiteral("kit"))->setText(QStringLiteral("net"));
    w.find<QLineEdit>(QStringLiteral("space"))->setText(QStringLiteral("garden"));
    w.find<QCheckBox>(QStringLiteral("day-tue"))->setChecked(true);
    w.find<QCheckBox>(QStringLiteral("day-sat"))->setChecked(true);
    w.find<QCheckBox>(QStringLiteral("consent"))->setChecked(true);
    w.find<QDateEdit>(QStringLiteral("consentDate"))->setDate(QDate(2026, 2, 2));
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    store::Athlete a = w->workspace().library().athletes().all()->front();
    QCOMPARE(a.hand, Hand::Left);
    QCOMPARE(a.batHand, Hand::Right);
    QVERIFY((a.heights == std::vector<store::Height>{{"2026-03-01", 1.44}}));
    QCOMPARE(a.level + "/" + a.goal + "/" + a.kit + "/" + a.space, std::string("first season/to start/net/garden"));
    QCOMPARE(a.practiceDays, std::string("tue,sat"));
    QCOMPARE(a.consentDate, std::string("2026-02-02"));
    QVERIFY(w.find<QLabel>(QStringLiteral("athleteFacts"))->text().contains(QStringLiteral("throws left, bats right")));
    // grown
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("editAthlete")), Qt::LeftButton);
    QTest::mouseClick(w.find<QToolButton>(QStringLiteral("addHeight")), Qt::LeftButton);
    w.find<QDoubleSpinBox>(QStringLiteral("height"))->setValue(1.49);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("save")), Qt::LeftButton);
    a = w->workspace().library().athletes().all()->front();
    QCOMPARE(a.heights.size(), std::size_t{2});
    QCOMPARE(a.heights.back().metres, 1.49);
    QCOMPARE(a.heights.front().metres, 1.44);
}

void RosterTest::search_typingFinds()
{
    Window w;
    auto store = store::Library::open(w.folder().toStdString());
    for (int i = 0; i < 40; ++i)
        QVERIFY(store->add(store::Athlete{{}, (i == 17 ? "Quill " : "Player ") + std::to_string(i), "", Hand::Right, {}, true}));
    w.restart();
    auto* search = w.find<QLineEdit>(QStringLiteral("searchAthletes"));
    QVERIFY(search->isVisible());
    QTest::keyClicks(search, QStringLiteral("quill"));
    QCOMPARE(w.find<QLabel>(QStringLiteral("athleteName"))->text(), QStringLiteral("Quill 17"));
    auto* list = w.find<QListWidget>(QStringLiteral("athletes"));
    int shown = 0;
    for (int i = 0; i < list->count(); ++i)
        shown += !list->isRowHidden(i);
    QCOMPARE(shown, 1);
}

void RosterTest::manyClips_tilesAreMadeWhenSeen()
{
    Window w;
    const auto first = w.addFilmedPitch();
    auto store = store::Library::open(w.folder().toStdString());
    store::Clip clip = *store->clips().find(first);
    store::ClipId last;
    for (int i = 0; i < 199; ++i)
        last = *store->add(clip, "stretch");
    w.restart();
    QVERIFY(w.tileOf(first));
    auto* grid = w.find<app::ClipGrid>();
    QVERIFY2(grid->tilesMade() < 60, qPrintable(QString::number(grid->tilesMade())));
    for (auto* area : w->roster()->findChildren<QScrollArea*>())
        area->verticalScrollBar()->setValue(area->verticalScrollBar()->maximum());
    QVERIFY(w.tileOf(last));
    QVERIFY2(grid->tilesMade() < 60, qPrintable(QString::number(grid->tilesMade())));
}

void RosterTest::message_movesNothing()
{
    Window w;
    addAthlete(w, QStringLiteral("Ida"));
    const QRect before = w->roster()->geometry();
    emit w->workspace().failed({ErrorCode::BadArgument, "Something long enough to need several lines. ", {}, {}});
    auto* line = w.find<QFrame>(QStringLiteral("messageLine"));
    QTRY_VERIFY(line->isVisible());
    QCOMPARE(w->roster()->geometry(), before);
    QVERIFY(line->geometry().bottom() < w->roster()->height()); // over the foot, and not cut off
    QVERIFY(w->messageText().startsWith(QStringLiteral("Not done")));
    addAthlete(w, QStringLiteral("Wim")); // the next thing works: what was wrong is over
    QTRY_VERIFY(!line->isVisible());
}

void RosterTest::fileDialogs_rememberTheirFolder()
{
    Window w;
    const QString films = w.folder() + QStringLiteral("/films of may");
    QVERIFY(QDir().mkpath(films));
    app::rememberFolderOf(app::FilePurpose::Films, films + QStringLiteral("/a.mp4"));
    QCOMPARE(app::rememberedFolder(app::FilePurpose::Films), films);
    QVERIFY(app::rememberedFolder(app::FilePurpose::Documents) != films); // each purpose its own
    QDir(films).removeRecursively();
    QVERIFY(app::rememberedFolder(app::FilePurpose::Films) != films); // a folder that is gone is no place to begin
    QCOMPARE(app::fileNameFor(QStringLiteral("Ida/Vale: 1")), QStringLiteral("Ida-Vale- 1"));
}

void RosterTest::removedAthlete_clearsTheBench()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    QVERIFY(w.openOnBench(clip));
    QTest::keyClick(&*w, Qt::Key_1, Qt::ControlModifier);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    QVERIFY(!w.bench().context.isOpen());
}

void RosterTest::readOnlyLibrary_saysSoAndKeepsEverything()
{
    QTemporaryDir folder;
    {
        auto l = store::Library::open(folder.path().toStdString());
        QVERIFY(l->add(store::Athlete{{}, "Ida", "", Hand::Right, {}, true}));
    }
    auto library = store::Library::open(folder.path().toStdString(), true);
    QVERIFY(library);
    app::MainWindow window(std::move(*library), packFolder());
    window.show();
    QVERIFY2(window.messageText().contains(QStringLiteral("read-only")), qPrintable(window.messageText()));
    QTest::mouseClick(window.findChild<QPushButton*>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    QVERIFY2(window.messageText().contains(QStringLiteral("Copy its folder")), qPrintable(window.messageText()));
    QCOMPARE(window.workspace().library().athletes().all()->size(), std::size_t{1});
    QVERIFY(!window.workspace().undoStack().canUndo());
}

KESTREL_TEST(RosterTest)
#include "roster_test.moc"
