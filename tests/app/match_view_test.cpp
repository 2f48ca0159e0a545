// Match: a game logged by keys, corrected, tallied, found on a film, taken along.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/match/match_view.h"
#include "media/film.h"
#include "sim/match_film.h"

#include <QCompleter>
#include <QLineEdit>
#include <QPushButton>

using namespace kestrel;
using namespace kestrel::app;
using namespace kestrel::test;

class MatchViewTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void empty_saysWhatToDo_names();
    void namesTyped_enterBegins_keysLog();
    void game_loggedByKeys_scoreFollows();
    void thirdRally_corrected_undone_removed();
    void let_penalty_server();
    void tallies_afterTenCases_sayWhatToTrain();
    void twoThousandRallies_aKeyIsQuick();
    void film_ralliesFound_played_written();
    void table_outAndIn_page();
    void note_typed_isKept_andDoesNotLog();
    void otherMatch_besideEachNumber();
    void trainNext_ontoThePlan();

private:
    Window& window() { return *m_window; }
    MatchView& match() { return *window()->match(); }
    MatchModel& model() { return match().model(); }
    void keys(const char* typed)
    {
        for (const char* c = typed; *c; ++c)
            QTest::keyClick(&match(), *c);
    }
    void make();
    QString file(const char* name) { return window().folder() + QLatin1Char('/') + QLatin1String(name); }
    template <class W> W* find(const char* name) { return match().findChild<W*>(QLatin1String(name)); }

    std::unique_ptr<Window> m_window;
};

void MatchViewTest::init()
{
    m_window = std::make_unique<Window>();
    QTest::keyClick(&*window(), Qt::Key_7, Qt::ControlModifier);
    QVERIFY(match().isVisible());
}

void MatchViewTest::make()
{
    find<QLineEdit>("firstPlayer")->setText(QStringLiteral("Mira"));
    find<QLineEdit>("secondPlayer")->setText(QStringLiteral("Joost"));
    find<QPushButton>("makeMatch")->click();
    QVERIFY(model().isOpen());
}

void MatchViewTest::empty_saysWhatToDo_names()
{
    QVERIFY(find<QLabel>("matchHint")->isVisible());
    find<QPushButton>("makeMatch")->click();
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("Type both names")));
    find<QLineEdit>("firstPlayer")->setText(QStringLiteral("Mira"));
    find<QLineEdit>("secondPlayer")->setText(QStringLiteral("Mira"));
    find<QPushButton>("makeMatch")->click();
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("same name")));
    keys("Z"); // nothing happens, nothing breaks
    QVERIFY(!model().isOpen());
}

void MatchViewTest::namesTyped_enterBegins_keysLog()
{
    auto *first = find<QLineEdit>("firstPlayer"), *second = find<QLineEdit>("secondPlayer");
    first->setFocus();
    QTest::keyClicks(first, QStringLiteral("Mira"));
    second->setFocus();
    QTest::keyClicks(second, QStringLiteral("Joost"));
    QTest::keyClick(second, Qt::Key_Return);
    QTRY_VERIFY(model().isOpen());
    QTRY_VERIFY(match().hasFocus());
    for (const char key : {'4', 'N', 'M'}) // to whatever has the keys
        QTest::keyClick(QApplication::focusWidget(), key);
    QCOMPARE(model().log().rallies.size(), std::size_t{1});
    QVERIFY(model().log().rallies[0].note.empty());

    auto* matches = find<QComboBox>("matches"); // the next one: nothing is left of this one, and who is known is offered
    matches->setCurrentIndex(0);
    emit matches->activated(0);
    QTRY_VERIFY(first->isVisible());
    QVERIFY(first->text().isEmpty() && second->text().isEmpty());
    QTest::keyClicks(first, QStringLiteral("mi"));
    QCOMPARE(first->completer()->currentCompletion(), QStringLiteral("Mira"));
}

void MatchViewTest::game_loggedByKeys_scoreFollows()
{
    make();
    keys("A4NM"); // short backspin, backhand into the net, Joost's point
    QCOMPARE(model().log().rallies.size(), std::size_t{1});
    const Rally& r = model().log().rallies[0];
    QCOMPARE(r.serve, std::string("backspin_short"));
    QCOMPARE(r.strokes, std::vector<std::string>{"backhand"});
    QCOMPARE(r.how, std::string("error_net"));
    QCOMPARE(r.won, std::string("Joost"));
    QCOMPARE(find<QLabel>("matchPoints")->text(), QStringLiteral("0-1"));
    keys("ZZZZZZZZZZ");
    QVERIFY(find<QLabel>("inHand")->text().contains(QStringLiteral("game point for Mira")));
    keys("Z");
    QVERIFY(find<QLabel>("matchScore")->text().contains(QStringLiteral("11-1")));
    QCOMPARE(model().score().now.games, (std::array<int, 2>{1, 0}));
    window().restart();
    QCOMPARE(window()->workspace().library().matches().all()->front().log.rallies.size(), std::size_t{12});
}

void MatchViewTest::thirdRally_corrected_undone_removed()
{
    make();
    keys("ZZZZZ");
    QTest::keyClick(&match(), Qt::Key_Up);
    QTest::keyClick(&match(), Qt::Key_Up);
    QTest::keyClick(&match(), Qt::Key_Up);
    QCOMPARE(*model().keeper().corrected(), std::size_t{2});
    keys("3LM");
    QCOMPARE(model().log().rallies.size(), std::size_t{5});
    QCOMPARE(model().log().rallies[2].won, std::string("Joost"));
    QCOMPARE(model().score().now.points, (std::array<int, 2>{4, 1}));
    QVERIFY(!model().keeper().corrected());
    window()->workspace().undoStack().undo();
    QCOMPARE(model().score().now.points, (std::array<int, 2>{5, 0}));
    QTest::keyClick(&match(), Qt::Key_Backspace); // nothing typed: the last one
    QCOMPARE(*model().keeper().corrected(), std::size_t{4});
    QTest::keyClick(&match(), Qt::Key_Delete);
    QCOMPARE(model().log().rallies.size(), std::size_t{4});
    QTest::keyClick(&match(), Qt::Key_Up);
    QTest::keyClick(&match(), Qt::Key_Escape);
    keys("M");
    QCOMPARE(model().log().rallies.size(), std::size_t{5});
}

void MatchViewTest::let_penalty_server()
{
    make();
    keys("T"); // a let is over with its key
    QCOMPARE(model().log().rallies.size(), std::size_t{1});
    QCOMPARE(model().score().now.points, (std::array<int, 2>{0, 0}));
    keys("O");
    keys("Z");
    QCOMPARE(model().log().rallies[1].server, std::string("Joost"));
    QCOMPARE(model().score().before[1].server, PlayerIndex{1});
    QVERIFY(model().score().problems.empty());
}

void MatchViewTest::tallies_afterTenCases_sayWhatToTrain()
{
    make();
    for (int n = 0; n < 10; ++n)
        keys(n % 2 ? "4NM" : "4LM");
    QVERIFY2(find<QLabel>("trainNext")->text().contains(QStringLiteral("Film the backhand topspin: 0 of 10")),
             qPrintable(find<QLabel>("trainNext")->text()));
    auto* tallies = find<QListWidget>("tallies");
    QVERIFY(tallies->count() > 2);
    emit tallies->itemClicked(tallies->item(0));
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("no film of this match")));
}

/// From the key to what is seen, as a ratio to painting the whole window once.
void MatchViewTest::twoThousandRallies_aKeyIsQuick()
{
    make();
    std::vector<Rally> many;
    for (int n = 0; n < 2000; ++n)
        many.push_back({n % 3 ? "Mira" : "Joost", "winner", "topspin", {"serve", "forehand"}, {}, {}, {}, {}, {}, {}});
    model().setRallies(QStringLiteral("many"), many);
    QElapsedTimer timer;
    timer.start();
    for (int n = 0; n < 10; ++n)
        (void)window()->grab();
    const double painting = timer.restart() / 10.0;
    for (int n = 0; n < 20; ++n) {
        keys("4");
        QCoreApplication::processEvents();
    }
    const double typing = timer.elapsed() / 20.0;
    QVERIFY2(typing <= 2 * painting + 10, qPrintable(QStringLiteral("%1 ms against %2").arg(typing).arg(painting)));
}

void MatchViewTest::film_ralliesFound_played_written()
{
    const QString film = file("match.mp4");
    sim::MatchFilmOptions options;
    options.rallies = 5;
    options.size = {320, 180};
    const auto truth = sim::saveMatchFilm(options, film.toStdString());
    QVERIFY2(truth.has_value(), truth ? "" : truth.error().text().c_str());
    make();
    model().setFilm(film);
    QTRY_VERIFY_WITH_TIMEOUT(model().player().isOpen(), 20000);
    find<QPushButton>("findRallies")->click();
    QTRY_VERIFY_WITH_TIMEOUT(!model().log().rallies.empty(), 60000);
    QCOMPARE(model().log().rallies.size(), truth->rallies.size());
    for (std::size_t n = 0; n < truth->rallies.size(); ++n) {
        QVERIFY(std::abs(*model().log().rallies[n].from - *truth->rallies[n].from) < 0.5);
        QVERIFY(std::abs(*model().log().rallies[n].to - *truth->rallies[n].to) < 0.5);
    }
    // each is looked at and decided
    for (std::size_t n = 0; n < truth->rallies.size(); ++n) {
        model().correct(n);
        QTest::keyClick(&match(), truth->rallies[n].won == "Mira" ? 'Z' : 'M');
    }
    QCOMPARE(model().score().now, scoreOf(*truth, model().sport()).now);
    QVERIFY(std::abs(*model().log().rallies[1].from - *truth->rallies[1].from) < 0.5); // its place stays
    model().playRallies({1, 3});
    QVERIFY(model().isPlayingRallies());
    QTRY_VERIFY(model().player().isPlaying());
    QVERIFY(std::abs(model().seconds() - *model().log().rallies[1].from) < 1.5);
    match().saveFilm(file("some.mp4"), {1});
    QTRY_VERIFY_WITH_TIMEOUT(window()->messageText().startsWith(QStringLiteral("Saved")), 60000);
    auto written = media::Film::open(file("some.mp4").toStdString());
    const double seconds = *model().log().rallies[1].to - *model().log().rallies[1].from + 2;
    QVERIFY(written && std::abs(static_cast<double>(written->info().frames()) - 30 * seconds) <= 2);
}

void MatchViewTest::table_outAndIn_page()
{
    make();
    keys("A4NM");
    keys("D3WZ");
    const auto rallies = model().log().rallies;
    match().saveTable(file("m.csv"));
    match().saveTable(file("m.json"));
    match().savePage(file("m.pdf"));
    QTRY_VERIFY_WITH_TIMEOUT(QFileInfo(file("m.pdf")).size() > 1000, 10000);
    model().setRallies(QStringLiteral("none"), {});
    match().readTable(file("m.csv"));
    QCOMPARE(model().log().rallies, rallies);
    match().readTable(file("m.json"));
    QCOMPARE(model().log().rallies, rallies);
    QFile broken(file("broken.csv"));
    QVERIFY(broken.open(QIODevice::WriteOnly));
    broken.write("nothing here\n");
    broken.close();
    match().readTable(broken.fileName());
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("no column")));
    QCOMPARE(model().log().rallies, rallies);
}

void MatchViewTest::note_typed_isKept_andDoesNotLog()
{
    make();
    keys("4N");
    QTest::keyClick(&match(), Qt::Key_Return);
    auto* note = find<QLineEdit>("rallyNote");
    QTRY_VERIFY(note->hasFocus());
    QTest::keyClicks(note, QStringLiteral("Zoom in on the feet"));
    QTest::keyClick(note, Qt::Key_Return);
    QTRY_VERIFY(match().hasFocus());
    QVERIFY(model().log().rallies.empty());
    keys("M");
    QCOMPARE(model().log().rallies.size(), std::size_t{1});
    QCOMPARE(model().log().rallies[0].note, std::string("Zoom in on the feet"));
    QVERIFY(note->text().isEmpty());
    // of a rally that is corrected it is stored at once
    model().correct(0);
    QTRY_COMPARE(note->text(), QStringLiteral("Zoom in on the feet"));
    note->setFocus();
    note->setText(QStringLiteral("late"));
    QTest::keyClick(note, Qt::Key_Return);
    QCOMPARE(model().log().rallies[0].note, std::string("late"));
    window()->workspace().undoStack().undo();
    QCOMPARE(model().log().rallies[0].note, std::string("Zoom in on the feet"));
}

void MatchViewTest::otherMatch_besideEachNumber()
{
    make();
    for (int n = 0; n < 20; ++n)
        keys(n % 10 ? "4NM" : "4WZ"); // the backhand: 2 of 20
    const auto first = model().id();
    model().close();
    make();
    for (int n = 0; n < 20; ++n)
        keys(n % 10 ? "4WZ" : "4NM"); // 18 of 20
    auto* other = find<QComboBox>("otherMatch");
    QVERIFY(other->isVisible());
    other->setCurrentIndex(other->findData(qlonglong(first.value)));
    emit other->activated(other->currentIndex());
    auto* tallies = find<QListWidget>("tallies");
    QString said;
    for (int n = 0; n < tallies->count(); ++n)
        if (tallies->item(n)->text().startsWith(QStringLiteral("backhand topspin")))
            said = tallies->item(n)->text();
    QVERIFY2(said.contains(QStringLiteral("18 of 20")) && said.contains(QStringLiteral("there: 2 of 20")) &&
                 said.contains(QStringLiteral("differs for real")),
             qPrintable(said));
    other->setCurrentIndex(0);
    emit other->activated(0);
    for (int n = 0; n < tallies->count(); ++n)
        QVERIFY(!tallies->item(n)->text().contains(QStringLiteral("there:")));
}

void MatchViewTest::trainNext_ontoThePlan()
{
    auto library = store::Library::open(window().folder().toStdString());
    const auto id = *library->add(store::Athlete{{}, "Mira Vale", "2013-03-08", Hand::Right, {}, true});
    make();
    for (int n = 0; n < 10; ++n)
        keys("4NM");
    auto* button = find<QPushButton>("nextToPlan");
    QVERIFY(button->isVisible() && button->text().contains(QStringLiteral("Mira Vale")));
    button->click();
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("no plan yet")));
    Plan plan;
    plan.pack = "table-tennis-topspin";
    plan.start = plan.refilm = *parseDate("2026-11-30");
    QVERIFY(library->plans().add(id, plan));
    button->click();
    QTRY_VERIFY(window()->messageText().contains(QStringLiteral("on the plan of Mira Vale")));
    const auto notes = [&] { return (*library->plans().latest(id))->coachNotes; };
    QCOMPARE(notes().size(), std::size_t{1});
    QVERIFY(notes()[0].find("0 of 10") != std::string::npos);
    button->click(); // not twice
    QCOMPARE(notes().size(), std::size_t{1});
    window()->workspace().undoStack().undo();
    QVERIFY(notes().empty());
}

KESTREL_TEST(MatchViewTest)
#include "match_view_test.moc"
