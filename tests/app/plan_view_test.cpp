// Plan: weeks, book, workload, progress; and what is due in the Roster.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/plan/book_view.h"
#include "app/plan/plan_view.h"
#include "app/plan/progress_view.h"
#include "app/plan/weeks_view.h"
#include "app/roster/roster_view.h"
#include "app/shell/number_field.h"
#include "app/workspace/row_edits.h"

#include <QCalendarWidget>
#include <QCheckBox>
#include <QPushButton>
#include <QTextCharFormat>
#include <QToolButton>

using namespace kestrel;
using namespace kestrel::app;
using namespace kestrel::test;
using std::chrono::days;

class PlanViewTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void emptyLibrary_saysWhatToDo();
    void plan_isMade_changed_lockedStays_undone();
    void plan_intakeChanged_asksToPlanAnew();
    void plan_daysNotFree_areLeftOut_andKept();
    void plan_movedAndDropped_calendarKnows();
    void progress_height_isARowOfDots();
    void book_matchesAreOffered_neverDoubled();
    void plan_leaves_everyEnding();
    void book_typed_isStored_undone();
    void book_table_isShownThenTaken();
    void workload_limitRestAndPain();
    void rule_ofTheLeague_replacesTheShipped();
    void progress_twoDays_areDots();
    void roster_due_filterAndKey();

private:
    Window& window() { return *m_window; }
    PlanView& plan() { return *window()->plan(); }
    const PlanContext& context() { return plan().context(); }
    template <class W> W* find(const char* name) { return plan().findChild<W*>(QLatin1String(name)); }
    void type(const char* field, double value) { find<NumberField>(field)->setValue(value); }
    QString file(const char* name) { return window().folder() + QLatin1Char('/') + QLatin1String(name); }

    std::unique_ptr<Window> m_window;
    store::ClipId m_clip;
};

void PlanViewTest::init()
{
    m_window = std::make_unique<Window>();
    m_clip = window().addFilmedPitch();
    auto library = store::Library::open(window().folder().toStdString());
    QVERIFY(library->marks().addMarking(m_clip, filmedPitch().truth.truth));
    QVERIFY(window().openOnBench(m_clip));
    window().review();
    plan().context().setToday(*parseDate("2026-11-30")); // a Monday
    QTest::keyClick(&*window(), Qt::Key_5, Qt::ControlModifier);
    QVERIFY(plan().isVisible());
    QVERIFY(context().isOpen());
}

void PlanViewTest::emptyLibrary_saysWhatToDo()
{
    Window empty;
    QTest::keyClick(&*empty, Qt::Key_5, Qt::ControlModifier);
    auto* task = empty->plan()->findChild<QLabel*>(QStringLiteral("planTask"));
    QVERIFY(task->isVisible() && task->text().startsWith(QStringLiteral("Choose an athlete above")));
    for (const char* leaf : {"leafBook", "leafWorkload", "leafProgress", "leafWeeks"})
        empty->plan()->findChild<QToolButton*>(QLatin1String(leaf))->click();
    QVERIFY(!empty->plan()->findChild<QPushButton*>(QStringLiteral("makePlan"))->isEnabled());
}

void PlanViewTest::plan_isMade_changed_lockedStays_undone()
{
    QVERIFY(!context().plan());
    find<QDateEdit>("planStart")->setDate(QDate(2026, 11, 30));
    find<QPushButton>("makePlan")->click();
    QVERIFY(context().plan().has_value());
    const Plan first = *context().plan();
    QCOMPARE(first.sessions.size(), std::size_t{6}); // two weeks, Monday, Wednesday, Saturday
    const Date day = first.sessions[1].date;
    plan().weeks()->choose(day);
    find<NumberField>("sets0")->setValue(first.sessions[1].items[0].sets + 3);
    QCOMPARE(context().plan()->sessions[1].items[0].sets, first.sessions[1].items[0].sets + 3);
    find<QCheckBox>("lockSession")->click();
    QVERIFY(context().plan()->sessions[1].isLocked);
    for (int n = 1; n <= 6; ++n)
        find<QToolButton>(qPrintable(QStringLiteral("planDay%1").arg(n)))->setChecked(n == 2);
    find<QPushButton>("makePlan")->click();
    const Plan& again = *context().plan();
    QCOMPARE(again.sequence, first.sequence + 3);
    const auto locked =
        std::find_if(again.sessions.begin(), again.sessions.end(), [&](const PlanSession& s) { return s.date == day; });
    QVERIFY(locked != again.sessions.end());
    QCOMPARE(locked->items[0].sets, first.sessions[1].items[0].sets + 3);
    QVERIFY(!again.dropped.empty());
    for (int n = 0; n < 3; ++n)
        window()->workspace().undoStack().undo();
    QCOMPARE(*context().plan(), first);
    window().restart();
    QCOMPARE(*window()->workspace().library().plans().latest(window()->roster()->current()).value(), first);
}

void PlanViewTest::plan_intakeChanged_asksToPlanAnew()
{
    find<QDateEdit>("planStart")->setDate(QDate(2026, 11, 30));
    find<QPushButton>("makePlan")->click();
    auto* notice = find<QLabel>("planNotice");
    QVERIFY(!notice->text().contains(QStringLiteral("Plan anew?")));
    const Plan before = *context().plan();
    // the intake, as the athlete's form stores it
    auto athlete = context().athlete();
    athlete.practiceDays = "tue, thu";
    QVERIFY(changeRow(window()->workspace(), QStringLiteral("the intake"), context().athlete(), athlete));
    QTRY_VERIFY(notice->text().contains(QStringLiteral("other days of the week. Plan anew?")));
    QCOMPARE(*context().plan(), before); // it only asks
    find<QPushButton>("makePlan")->click();
    QVERIFY(!notice->text().contains(QStringLiteral("Plan anew?")));
    for (const auto& s : context().plan()->sessions)
        QVERIFY(std::chrono::weekday(s.date).c_encoding() == 2 || std::chrono::weekday(s.date).c_encoding() == 4);
    // the coach's own choice in the form asks as well
    find<NumberField>("planMinutes")->setValue(35);
    QVERIFY(notice->text().contains(QStringLiteral("minutes")));
}

void PlanViewTest::plan_daysNotFree_areLeftOut_andKept()
{
    find<QDateEdit>("planStart")->setDate(QDate(2026, 11, 30));
    find<QPushButton>("makePlan")->click();
    const Date match = context().plan()->sessions[1].date;
    plan().weeks()->choose(match);
    find<QCheckBox>("dayNotFree")->click();
    QVERIFY(find<QLabel>("planNotice")->text().contains(QStringLiteral("not free")));
    find<QPushButton>("makePlan")->click();
    const auto has = [&](Date date) {
        const auto& all = context().plan()->sessions;
        return std::any_of(all.begin(), all.end(), [&](const PlanSession& s) { return s.date == date; });
    };
    QVERIFY(!has(match));
    window().restart(); // it is still known
    QTest::keyClick(&*window(), Qt::Key_5, Qt::ControlModifier);
    plan().open(window()->roster()->current());
    QVERIFY(context().plan()->madeFor->notOn.count(match) == 1);
    auto* calendar = find<QCalendarWidget>("notFreeCalendar");
    QVERIFY(calendar->dateTextFormat().contains(QDate(2026, 12, 2)));
    emit calendar->clicked(QDate(2026, 12, 2)); // free again
    QVERIFY(calendar->dateTextFormat().isEmpty());
}

void PlanViewTest::book_matchesAreOffered_neverDoubled()
{
    MatchLog log;
    log.sport = "free";
    log.players = {"ida", "missed"};
    log.firstServer = "ida";
    log.date = "2026-11-30";
    for (int n = 0; n < 12; ++n)
        log.rallies.push_back({n % 2 ? "ida" : "missed", "", "", {n < 10 ? "straight" : "ground_ball"}, {}, {}, {}, {}, {}, {}});
    auto library = store::Library::open(window().folder().toStdString());
    QVERIFY(library->matches().add(log));
    find<QToolButton>("leafBook")->click();
    QCOMPARE(context().countedInMatches(*parseDate("2026-11-30")), 10); // what counts as a pitch
    plan().open(context().athlete().id);
    auto* take = find<QPushButton>("takeFilmed");
    QVERIFY(take->isVisible() && take->text().startsWith(QStringLiteral("At least 10 were counted in a match")));
    take->click();
    QCOMPARE(context().dayOf(*parseDate("2026-11-30")).counts.at("pitch"), 10);
    QVERIFY(!take->isVisible());
}

void PlanViewTest::progress_height_isARowOfDots()
{
    auto athlete = context().athlete();
    athlete.heights = {{"2026-03-01", 1.52}, {"2026-11-01", 1.57}};
    QVERIFY(changeRow(window()->workspace(), QStringLiteral("heights"), context().athlete(), athlete));
    find<QToolButton>("leafProgress")->click();
    auto* measure = find<QComboBox>("progressMeasure");
    QTRY_VERIFY_WITH_TIMEOUT(measure->findText(QStringLiteral("Standing height")) >= 0, 20000);
    const int at = measure->findText(QStringLiteral("Standing height"));
    measure->setCurrentIndex(at);
    emit measure->activated(at);
    QVERIFY2(find<QLabel>("progressWords")->text().contains(QStringLiteral("cm a year")),
             qPrintable(find<QLabel>("progressWords")->text()));
    QTRY_COMPARE(find<QCustomPlot>("progressPlot")->graph(0)->dataCount(), 2);
    QCOMPARE(find<QCustomPlot>("progressPlot")->graph(0)->dataMainValue(1), 157.0);
}

void PlanViewTest::plan_movedAndDropped_calendarKnows()
{
    find<QDateEdit>("planStart")->setDate(QDate(2026, 11, 30));
    plan().weeks()->make();
    const Plan first = *context().plan();
    plan().weeks()->save(file("a.ics"));
    plan().weeks()->move(first.sessions[0].date, first.sessions[0].date + days(1));
    QCOMPARE(context().plan()->sessions[0].uid, first.sessions[0].uid);
    plan().weeks()->move(first.sessions[1].date, first.sessions[2].date); // taken
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("practice on")));
    plan().weeks()->choose(first.sessions[5].date);
    find<QPushButton>("dropSession")->click();
    QCOMPARE(context().plan()->dropped.size(), std::size_t{1});
    plan().weeks()->save(file("b.ics"));
    const auto a = contentOf(file("a.ics").toStdString()), b = contentOf(file("b.ics").toStdString());
    QVERIFY(a.find("SEQUENCE:0") != std::string::npos && a.find("CANCELLED") == std::string::npos);
    QVERIFY(b.find("SEQUENCE:2") != std::string::npos && b.find("STATUS:CANCELLED") != std::string::npos);
    QVERIFY(b.find(first.sessions[0].uid) != std::string::npos);
}

void PlanViewTest::plan_leaves_everyEnding()
{
    plan().weeks()->make();
    for (const char* name : {"p.pdf", "p.html", "p.png", "p.json", "p.ics"}) {
        plan().weeks()->save(file(name));
        QTRY_VERIFY2_WITH_TIMEOUT(QFileInfo(file(name)).size() > 500, name, 10000);
    }
    QCOMPARE(*loadPlan(file("p.json").toStdString()), *context().plan());
    plan().weeks()->save(QStringLiteral("/proc/none/p.pdf"));
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("/proc/none")));
}

void PlanViewTest::book_typed_isStored_undone()
{
    plan().turnTo(PlanView::Leaf::Book);
    plan().book()->choose(context().today());
    type("pitch", 52);
    type("effort", 6);
    const BookDay* day = context().book().find(context().today());
    QVERIFY(day);
    QCOMPARE(day->counts.at("pitch"), 52);
    QCOMPARE(*day->effort, 6);
    window().restart();
    QCOMPARE(window()->workspace().library().books().of(window()->roster()->current())->days.size(), std::size_t{1});
}

void PlanViewTest::book_table_isShownThenTaken()
{
    QFile table(file("book.csv"));
    QVERIFY(table.open(QIODevice::WriteOnly));
    table.write("Day;Pitches;Effort;Colour\n2026-11-01;40;5;blue\n02.11.2026;12;;\n2026-11-31;1;;\nnonsense;3;;\n");
    table.close();
    plan().turnTo(PlanView::Leaf::Book);
    plan().book()->read(table.fileName());
    auto* offer = find<QLabel>("tableOffer");
    QVERIFY(offer->isVisible());
    QVERIFY(offer->text().contains(QStringLiteral("2 days from 2026-11-01 to 2026-11-02")));
    QVERIFY(offer->text().contains(QStringLiteral("Pitches: pitch")) &&
            offer->text().contains(QStringLiteral("Colour: left out")));
    QVERIFY(offer->text().contains(QStringLiteral("2 lines cannot be read: line 4")));
    QVERIFY(context().book().days.empty()); // nothing is stored before it was seen
    find<QPushButton>("takeTable")->click();
    QCOMPARE(context().book().days.size(), std::size_t{2});
    QCOMPARE(context().book().days[0].counts.at("pitch"), 40);
    plan().book()->write(file("out.csv"));
    QCOMPARE(bookFromCsv(contentOf(file("out.csv").toStdString())).days, context().book().days);
    window()->workspace().undoStack().undo();
    QVERIFY(context().book().days.empty());
}

void PlanViewTest::workload_limitRestAndPain()
{
    plan().turnTo(PlanView::Leaf::Book);
    plan().book()->choose(context().today() - days(1));
    type("pitch", 60);
    plan().turnTo(PlanView::Leaf::Workload);
    QVERIFY(find<QLabel>("workloadRest")->text().startsWith(QStringLiteral("Rest until")));
    QVERIFY(find<QLabel>("workloadLeft")->text().startsWith(QStringLiteral("0 pitches left")));
    QVERIFY(find<QLabel>("workloadRule")->text().contains(QStringLiteral("league's current rule decides")));
    auto* where = find<QComboBox>("painWhere");
    where->setCurrentIndex(where->findData(QStringLiteral("elbow")));
    emit where->activated(where->currentIndex());
    QVERIFY(find<QLabel>("workloadWarnings")->text().contains(QStringLiteral("licensed clinician")));
    QVERIFY(find<QPushButton>("clearPain")->isVisible());
    find<QPushButton>("clearPain")->click();
    QVERIFY(!find<QLabel>("workloadWarnings")->text().contains(QStringLiteral("Pain")));
    QVERIFY(!plan().findChildren<QLabel*>().isEmpty());
    for (auto* label : plan().findChildren<QLabel*>())
        QVERIFY(!label->text().contains(QStringLiteral("safe ")));
}

void PlanViewTest::rule_ofTheLeague_replacesTheShipped()
{
    plan().turnTo(PlanView::Leaf::Workload);
    auto* limits = find<QTableWidget>("ruleLimits");
    limits->item(0, 2)->setText(QStringLiteral("40"));
    QVERIFY(context().isOwnRule());
    QCOMPARE(context().rule().limits[0].pitches, 40);
    limits->item(1, 2)->setText(QStringLiteral("many")); // no number: nothing changes
    QCOMPARE(context().rule().limits[1].pitches, 75);
    window().restart();
    QVERIFY(window()->plan()->context().isOwnRule());
    window()->plan()->findChild<QPushButton*>(QStringLiteral("shippedRule"))->click();
    QCOMPARE(window()->plan()->context().rule().limits[0].pitches, 50);
}

void PlanViewTest::progress_twoDays_areDots()
{
    auto library = store::Library::open(window().folder().toStdString());
    store::FilmingDay later = window().bench().context.day();
    later.id = {};
    later.date = "2026-12-24";
    const auto id = library->days().add(later);
    store::Clip clip = window().bench().context.clip();
    clip.id = {};
    clip.day = *id;
    const auto added = library->clips().add(clip);
    QVERIFY(library->marks().addMarking(*added, filmedPitch().truth.truth));
    QSignalSpy gathered(plan().progress(), &ProgressView::gathered);
    plan().turnTo(PlanView::Leaf::Progress);
    QTRY_VERIFY_WITH_TIMEOUT(!gathered.isEmpty(), 20000);
    QCOMPARE(plan().progress()->progress().points.size(), std::size_t{2});
    auto* words = find<QLabel>("progressWords");
    QVERIFY2(words->text().startsWith(QStringLiteral("2 days, from")), qPrintable(words->text()));
    QCOMPARE(find<QCustomPlot>("progressPlot")->graph(0)->dataCount(), 2);
    QCOMPARE(find<QCustomPlot>("progressPlot")->accessibleName(), words->text());
}

void PlanViewTest::roster_due_filterAndKey()
{
    const auto second = window().addFilmedPitch(); // another athlete
    {
        auto library = store::Library::open(window().folder().toStdString());
        for (const auto clip : {m_clip, second}) { // filmed today, and no page has left
            store::FilmingDay day = *library->days().find(library->clips().find(clip)->day);
            day.id = {};
            day.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
            const auto today = library->days().add(day);
            store::Clip film = *library->clips().find(clip);
            film.id = {};
            film.day = *today;
            QVERIFY(library->clips().add(film).has_value());
        }
    }
    window().restart();
    QTest::keyClick(&*window(), Qt::Key_1, Qt::ControlModifier);
    auto* list = window().find<QListWidget>(QStringLiteral("athletes"));
    QCOMPARE(list->count(), 2);
    auto* next = window().find<QPushButton>(QStringLiteral("nextDue"));
    auto* words = window().find<QLabel>(QStringLiteral("dueWords"));
    QVERIFY(next->isVisible());
    QVERIFY2(words->isVisible() && words->text().contains(QStringLiteral("No page has left")), qPrintable(words->text()));
    auto* show = window().find<QComboBox>(QStringLiteral("showAthletes"));
    QVERIFY(show->isVisible());
    show->setCurrentIndex(1); // for whom something is due
    emit show->activated(1);
    const int before = list->currentRow();
    next->click();
    QVERIFY(list->currentRow() != before);
    QTest::keyClick(&*window(), Qt::Key_U, Qt::ControlModifier);
    QCOMPARE(list->currentRow(), before);
}

KESTREL_TEST(PlanViewTest)
#include "plan_view_test.moc"
