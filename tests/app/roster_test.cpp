#include "support/runner.h"
#include "window_fixture.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>

using namespace kestrel;
using namespace kestrel::test;

class RosterTest : public QObject {
    Q_OBJECT
private slots:
    void form_wrongField_saysWhatAndKeepsTheRest_data();
    void form_wrongField_saysWhatAndKeepsTheRest();
    void edit_isStoredAndUndone();
    void remove_undo_givesEverythingBack();
    void noConsent_isSaid();
    void drop_withoutAthlete_saysWhatToDo();
    void drop_withoutDay_makesOneForToday();
    void drop_badFilms_areNamed_goodOnesStay();
    void date_canBeSet_andTheAgeFollows();
    void school_isChosenPerDay();
    void tile_deleteRemovesTheClip_undoBringsItBack();
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
    QVERIFY(w->workspace().library().athletes()->empty());
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
    QCOMPARE(library.athletes()->front().hand, Hand::Left);
    QCOMPARE(library.athletes()->front().heightMetres, std::optional(1.44));
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(library.athletes()->front().hand, Hand::Right);
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(library.athletes()->empty());
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QTest::keyClick(&*w, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    QCOMPARE(library.athletes()->front().heightMetres, std::optional(1.44));
}

void RosterTest::remove_undo_givesEverythingBack()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    const auto& library = w->workspace().library();
    const Marking before = *library.marking(clip);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    QVERIFY(library.athletes()->empty());
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
    w->roster()->addClips({filmedPitch().file});
    const auto& library = w->workspace().library();
    const auto days = *library.days(w->roster()->current());
    QCOMPARE(days.size(), std::size_t{1});
    QCOMPARE(QString::fromStdString(days[0].date), QDate::currentDate().toString(Qt::ISODate));
    QTRY_COMPARE_WITH_TIMEOUT(library.clips(days[0].id)->size(), std::size_t{1}, 10000);
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
    const auto& library = w->workspace().library();
    QTRY_COMPARE_WITH_TIMEOUT(said.size(), 3, 10000);
    const auto day = library.days(w->roster()->current())->front().id;
    QCOMPARE(library.clips(day)->size(), std::size_t{1});
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
    QCOMPARE(w->workspace().library().days(w->roster()->current())->front().date, std::string("2025-03-07"));
    QVERIFY(*w->workspace().library().marking(clip)->athlete.age < 12);
    w->workspace().undoStack().undo();
    QCOMPARE(w->workspace().library().days(w->roster()->current())->front().date, std::string("2026-05-01"));
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
    QCOMPARE(w->workspace().library().days(w->roster()->current())->front().school, std::string("low-drive"));
    w->workspace().undoStack().undo();
    QCOMPARE(w->workspace().library().days(w->roster()->current())->front().school, std::string("tall"));
}

void RosterTest::tile_deleteRemovesTheClip_undoBringsItBack()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    QAbstractButton* tile = nullptr;
    for (auto* b : w->roster()->findChildren<QAbstractButton*>())
        if (b->property("clip").toLongLong() == clip.value)
            tile = b;
    QVERIFY(tile);
    QTest::keyClick(tile, Qt::Key_Delete);
    QVERIFY(!w->workspace().library().clip(clip));
    QVERIFY(QFile::exists(filmedPitch().file)); // the film stays on the disk
    w->workspace().undoStack().undo();
    QVERIFY(w->workspace().library().clip(clip));
}

void RosterTest::removedAthlete_clearsTheBench()
{
    Window w;
    const auto clip = w.addFilmedPitch();
    w.restart();
    QVERIFY(w.openOnBench(clip));
    QTest::keyClick(&*w, Qt::Key_1, Qt::ControlModifier);
    QTest::mouseClick(w.find<QPushButton>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    QVERIFY(!w.session().isOpen());
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
    app::MainWindow window(std::move(*library), pitchPackFolder());
    window.show();
    QVERIFY2(window.messageText().contains(QStringLiteral("read-only")), qPrintable(window.messageText()));
    QTest::mouseClick(window.findChild<QPushButton*>(QStringLiteral("removeAthlete")), Qt::LeftButton);
    QVERIFY2(window.messageText().contains(QStringLiteral("Copy its folder")), qPrintable(window.messageText()));
    QCOMPARE(window.workspace().library().athletes()->size(), std::size_t{1});
    QVERIFY(!window.workspace().undoStack().canUndo());
}

KESTREL_TEST(RosterTest)
#include "roster_test.moc"
