// Two films together.

#include "support/runner.h"

#include "window_fixture.h"

#include "app/film/film_canvas.h"
#include "app/pair/pair_view.h"
#include "app/shell/chooser.h"
#include "app/show/walk_view.h"
#include "media/film.h"

using namespace kestrel;
using namespace kestrel::app;
using namespace kestrel::test;

class PairTest : public QObject {
    Q_OBJECT
private slots:
    void emptyBench_saysWhatToDo();
    void chosenFromTheBench_linedUp_differencesListed();
    void bestRepetition_andLastDay_standFirst();
    void keys_stepPlayNudgeAndStand();
    void byPhase_bothPassEveryPosition();
    void ghost_liesOnTheSameHips_sameSize();
    void noCommonPosition_handOffsetOnly();
    void otherSkill_isRefused();
    void missingFilm_saysSo_theOtherPlays();
    void model_isPaintedOnTheSpot_sameHeightAndView();
    void chosenDifference_isDrawnOnBoth_andItsCurve();
    void backward_playsTowardTheBeginning();
    void zoom_together_orApart();
    void still_andClip_holdBoth();
    void grid_liesOnBoth_fromTheSamePoint();
    void both_intoTheTalk();

private:
    PairView& pair() { return *m_window->operator->()->pair(); }
    PairModel& model() { return pair().model(); }
    /// Two filmed pitches of two athletes, marked; the second one's events moved by so many pictures.
    void open(int moved = 0);

    std::unique_ptr<Window> m_window;
    store::ClipId m_a, m_b;
    store::RepetitionId m_ra, m_rb;
};

void PairTest::open(int moved)
{
    m_window = std::make_unique<Window>();
    m_a = m_window->addFilmedPitch();
    m_b = m_window->addFilmedPitch();
    auto library = store::Library::open(m_window->folder().toStdString());
    Marking m = filmedPitch().truth.truth;
    QVERIFY(library->marks().addMarking(m_a, m));
    for (auto& e : m.events)
        e.frame = FramePosition(e.frame.value + moved);
    QVERIFY(library->marks().addMarking(m_b, m));
    m_ra = library->repetitions().of(m_a)->front().id;
    m_rb = library->repetitions().of(m_b)->front().id;
    QVERIFY(m_window->openOnBench(m_a));
    QTest::keyClick(&**m_window, Qt::Key_3, Qt::ControlModifier);
}

void PairTest::emptyBench_saysWhatToDo()
{
    m_window = std::make_unique<Window>();
    QTest::keyClick(&**m_window, Qt::Key_3, Qt::ControlModifier);
    QVERIFY(pair().isVisible());
    QTest::keyClick(&pair(), Qt::Key_O);
    QTRY_VERIFY((*m_window)->messageText().contains(QStringLiteral("Bring a clip to the Bench first")));
    QTest::keyClick(&pair(), Qt::Key_Space); // nothing happens, nothing breaks
    QTest::keyClick(&pair(), Qt::Key_Right);
    QVERIFY(!model().isOpen());
}

void PairTest::chosenFromTheBench_linedUp_differencesListed()
{
    open();
    QTest::keyClick(&pair(), Qt::Key_O);
    m_window->answer(QStringLiteral("Ida"));
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
    QCOMPARE(model().linedUpAt(), pitchPack().zero);
    QCOMPARE(model().player(0).frame().value, model().player(1).frame().value); // the same film
    auto* list = pair().findChild<QListWidget*>(QStringLiteral("pairDifferences"));
    QVERIFY(list->count() > 10);
    for (const auto& d : model().differences())
        QVERIFY(std::abs(d.difference) < 1e-6 && d.isReal != true);
    QVERIFY(!pair().findChild<QLabel*>(QStringLiteral("pairUnfair"))->isVisible());
    emit list->itemClicked(list->item(0));
    QCOMPARE(model().player(0).frame().value,
             findEvent(model().side(0).film.marking, model().differences().front().keyPosition)->frame.nearest().value);
}

void PairTest::bestRepetition_andLastDay_standFirst()
{
    open();
    auto library = store::Library::open(m_window->folder().toStdString());
    auto clip = *library->clips().find(m_a);
    auto day = *library->days().find(clip.day);
    const auto good = *library->add(clip, "stretch"); // another pitch of the same day
    QVERIFY(library->marks().addMarking(good, filmedPitch().truth.truth));
    day.date = "2026-03-01";
    clip.day = *library->add(day); // and one of an earlier day
    const auto early = *library->add(clip, "stretch");
    QVERIFY(m_window->openOnBench(m_a));
    m_window->review();
    QTest::keyClick(&**m_window, Qt::Key_3, Qt::ControlModifier);
    const auto repetitionOf = [&](store::ClipId id) { return library->repetitions().of(id)->front().id; };
    for (const auto& [typed, expected] : {std::pair(QStringLiteral("best"), repetitionOf(good)),
                                          std::pair(QStringLiteral("last filming"), repetitionOf(early))}) {
        QSignalSpy changed(&model(), &PairModel::changed);
        QTest::keyClick(&pair(), Qt::Key_O);
        m_window->answer(typed);
        QTRY_VERIFY_WITH_TIMEOUT(changed.count() > 0 && !model().isGathering() && model().isOpen(), 20000);
        const auto kept = library->clips().find(expected == repetitionOf(good) ? good : early);
        QVERIFY(kept.has_value());
        QVERIFY(QString::fromStdString(model().side(1).title)
                    .contains(expected == repetitionOf(good) ? QStringLiteral("2026-05-01") : QStringLiteral("2026-03-01")));
    }
}

void PairTest::keys_stepPlayNudgeAndStand()
{
    open(5);
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(0).isOpen() && model().player(1).isOpen(), 20000);
    const auto a = [&] { return model().player(0).frame().value; };
    const auto b = [&] { return model().player(1).frame().value; };
    QCOMPARE(b() - a(), std::int64_t{5}); // both at strike
    const auto before = a();
    QTest::keyClick(&pair(), Qt::Key_Right);
    QCOMPARE(a(), before + 1);
    QCOMPARE(b() - a(), std::int64_t{5});
    QTest::keyClick(&pair(), Qt::Key_Period);
    QCOMPARE(b() - a(), std::int64_t{6});
    QTest::keyClick(&pair(), Qt::Key_Comma);
    QTest::keyClick(&pair(), Qt::Key_2);
    QCOMPARE(a(), findEvent(model().side(0).film.marking, pitchPack().keyPositions[1].id)->frame.nearest().value);
    QTest::keyClick(&pair(), Qt::Key_Space);
    QVERIFY(model().isPlaying());
    for (int i = 0; i < 20; ++i) { // never apart
        QTest::qWait(25);
        QVERIFY(std::abs(b() - a() - 5) <= 1);
    }
    QVERIFY(a() > before - 400);
    QTest::keyClick(&pair(), Qt::Key_Space);
    QVERIFY(!model().isPlaying());
    QTest::keyClick(&**m_window, Qt::Key_2, Qt::ControlModifier);
    QVERIFY(!model().isPlaying());
}

void PairTest::byPhase_bothPassEveryPosition()
{
    open();
    auto library = store::Library::open(m_window->folder().toStdString());
    const std::string last = pitchPack().keyPositions.back().id;
    const double at = findEvent(filmedPitch().truth.truth, last)->frame.value;
    QVERIFY(library->repetitions().setEvent(m_rb, last, Event{last, FramePosition(at - 20), 0.5, Source::Coach})); // ends sooner
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
    QTest::keyClick(&pair(), Qt::Key_P);
    QCOMPARE(static_cast<int>(model().by()), static_cast<int>(LineUp::By::Phase));
    for (const auto* k : model().commonPositions()) {
        model().goTo(k->id);
        QVERIFY(std::abs(static_cast<double>(model().player(1).frame().value) -
                         findEvent(model().side(1).film.marking, k->id)->frame.value) <= 1);
    }
    QVERIFY(model().tempo().back().b < model().tempo().back().a);
}

void PairTest::ghost_liesOnTheSameHips_sameSize()
{
    open(3);
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(1).isOpen(), 20000);
    QTest::keyClick(&pair(), Qt::Key_V);
    QTest::keyClick(&pair(), Qt::Key_V);
    QCOMPARE(static_cast<int>(pair().layoutNow()), static_cast<int>(PairLayout::Ghost));
    const auto t = model().secondToFirst();
    QVERIFY(t);
    QVERIFY(std::abs(t->m11() - 1) < 0.01); // the same athlete
    const auto hips = [&](std::size_t n) {
        const auto& m = model().side(n).film.marking;
        const FrameIndex f = model().player(n).frame();
        return midpoint(findMark(m, f, *findLandmark("hip.left"))->at, findMark(m, f, *findLandmark("hip.right"))->at);
    };
    const QPointF mapped = t->map(QPointF(hips(1).x, hips(1).y));
    QVERIFY(std::hypot(mapped.x() - hips(0).x, mapped.y() - hips(0).y) < 0.5);
    pair().grab(); // painted without a fault
}

void PairTest::noCommonPosition_handOffsetOnly()
{
    open();
    auto library = store::Library::open(m_window->folder().toStdString());
    for (const auto& k : pitchPack().keyPositions)
        QVERIFY(library->repetitions().setEvent(m_rb, k.id, std::nullopt));
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
    QVERIFY(pair()
                .findChild<QLabel*>(QStringLiteral("pairUnfair"))
                ->text()
                .contains(QStringLiteral("No key position is placed on both")));
    const auto before = model().player(1).frame().value;
    QTest::keyClick(&pair(), Qt::Key_Period);
    QCOMPARE(model().player(1).frame().value, before + 1);
}

void PairTest::otherSkill_isRefused()
{
    open();
    auto library = store::Library::open(m_window->folder().toStdString());
    auto day = *library->days().find(library->clips().find(m_b)->day);
    day.skill = "bat-swing";
    QVERIFY(library->days().save(day, "pitched-ball"));
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->messageText().contains(QStringLiteral("one skill")), 20000);
    QVERIFY(!model().isOpen());
}

void PairTest::missingFilm_saysSo_theOtherPlays()
{
    open();
    auto library = store::Library::open(m_window->folder().toStdString());
    auto clip = *library->clips().find(m_b);
    clip.file = "/nowhere/gone.mp4";
    QVERIFY(library->save(clip));
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(0).isOpen() && model().player(1).error(), 20000);
    QTest::keyClick(&pair(), Qt::Key_Right);
    QVERIFY(!model().differences().empty()); // what is marked stays
}

void PairTest::model_isPaintedOnTheSpot_sameHeightAndView()
{
    open();
    QTest::keyClick(&pair(), Qt::Key_O);
    m_window->answer(QStringLiteral("the model"));
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(1).isOpen(), 120000);
    const auto &player = model().side(0).film.marking, &shown = model().side(1).film.marking;
    QVERIFY(model().side(1).isModel);
    QCOMPARE(shown.scene.view, player.scene.view);
    QCOMPARE(shown.athlete.heightMetres, player.athlete.heightMetres);
    QCOMPARE(shown.athlete.hand, player.athlete.hand);
    QCOMPARE(model().commonPositions().size(), pitchPack().keyPositions.size());
    QVERIFY(
        pair().findChild<QLabel*>(QStringLiteral("pairUnfair"))->text().contains(QStringLiteral("picture of this pack's bands")));
    // "you" and "where to"
    QTest::keyClick(&pair(), Qt::Key_B);
    QVERIFY(model().secondToFirst().has_value());
    // kept: the second time nothing has to be painted
    QElapsedTimer again;
    again.start();
    model().openModel(m_ra);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
}

void PairTest::chosenDifference_isDrawnOnBoth_andItsCurve()
{
    open(5);
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
    auto* list = pair().findChild<QListWidget*>(QStringLiteral("pairDifferences"));
    emit list->itemClicked(list->item(0));
    QCOMPARE(model().chosen(), model().differences().front().measure);
    QVERIFY(model().chosenReading(0) && model().chosenReading(1));
    QTest::keyClick(&pair(), Qt::Key_T);
    auto* plot = pair().findChild<QCustomPlot*>(QStringLiteral("pairCurve"));
    QVERIFY(plot->isVisible());
    QVERIFY(plot->graph(0)->dataCount() > 0 && plot->graph(0)->dataCount() == plot->graph(1)->dataCount());
    QTest::keyClick(&pair(), Qt::Key_T);
    QVERIFY(pair().findChild<QLabel*>(QStringLiteral("pairTempo"))->text().contains(QStringLiteral(" s (")));
    emit list->itemClicked(list->item(0)); // once more: none
    QVERIFY(model().chosen().empty());
}

void PairTest::backward_playsTowardTheBeginning()
{
    open();
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(0).isOpen(), 20000);
    QTest::keyClick(&pair(), Qt::Key_5);
    const auto from = model().player(0).frame();
    QTest::keyClick(&pair(), Qt::Key_Space, Qt::ShiftModifier);
    QTRY_VERIFY(model().player(0).frame() < from);
    QTest::keyClick(&pair(), Qt::Key_Space);
    QVERIFY(!model().isPlaying());
}

void PairTest::zoom_together_orApart()
{
    open();
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
    const auto films = pair().findChildren<FilmCanvas*>();
    QCOMPARE(films.size(), 2);
    const auto scale = [&](int n) { return films[n]->toWidget().m11(); };
    const double whole = scale(1);
    films[0]->zoomBy(2, films[0]->rect().center());
    QVERIFY(std::abs(scale(1) - 2 * whole) < 1e-6);
    QTest::keyClick(&pair(), Qt::Key_Z);
    films[0]->zoomBy(2, films[0]->rect().center());
    QVERIFY(std::abs(scale(1) - 2 * whole) < 1e-6);
}

void PairTest::still_andClip_holdBoth()
{
    open();
    pair().askForClip(); // nothing is chosen yet: said
    QTRY_VERIFY((*m_window)->messageText().contains(QStringLiteral("Choose two films first")));
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(0).isOpen(), 20000);
    const QString png = m_window->folder() + QStringLiteral("/both.png"), mp4 = m_window->folder() + QStringLiteral("/both.mp4");
    pair().saveStill(png);
    QTRY_VERIFY_WITH_TIMEOUT(QFileInfo::exists(png), 20000);
    const auto& film = model().side(0).film.marking.film;
    QCOMPARE(QImage(png).size(), QSize(2 * film.width + 8, film.height));
    model().setSpeed(1);
    pair().saveClip(mp4);
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->messageText() == QStringLiteral("Saved %1").arg(mp4), 60000);
    auto written = media::Film::open(mp4.toStdString());
    QVERIFY(written.has_value());
    const auto& clock = model().side(0).film.clock;
    const double seconds =
        *clock.timeOf(model().side(0).film.repetition.last) - *clock.timeOf(model().side(0).film.repetition.first);
    QVERIFY(std::abs(static_cast<double>(written->info().frames()) - 30 * seconds) <= 1.5);
    pair().saveClip(m_window->folder() + QStringLiteral("/both.avi"));
    QTRY_VERIFY((*m_window)->messageText().contains(QStringLiteral(".mp4 or .webm")));
    QVERIFY(!QFileInfo::exists(m_window->folder() + QStringLiteral("/both.avi")));
}

void PairTest::grid_liesOnBoth_fromTheSamePoint()
{
    open();
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen(), 20000);
    model().goTo(model().commonPositions().front()->id);
    QTest::keyClick(&pair(), Qt::Key_G);
    QVERIFY(pair().findChild<QCheckBox*>(QStringLiteral("pairGrid"))->isChecked());
    for (std::size_t n = 0; n < 2; ++n) {
        std::vector<look::Overlay> overlays;
        const auto frame = model().player(n).frame();
        addGrid(overlays, model().side(n), frame, model().anchor());
        QCOMPARE(overlays.size(), std::size_t{1});
        const auto hips = *placeOf(model().side(n), "midHip", frame);
        // a level line and an upright one go through the hips
        int through = 0;
        for (const auto& stroke : std::get<look::DrawingOverlay>(overlays[0]).shape.figure.strokes)
            if (stroke.points.size() == 2) {
                const auto a = stroke.points[0], b = stroke.points[1];
                const double across = (b.x - a.x) * (hips.y - a.y) - (b.y - a.y) * (hips.x - a.x);
                through += std::abs(across) / (b - a).length() < 0.5;
            }
        QCOMPARE(through, 2);
    }
}

void PairTest::both_intoTheTalk()
{
    open();
    model().open(m_ra, m_rb);
    QTRY_VERIFY_WITH_TIMEOUT(model().isOpen() && model().player(0).isOpen(), 20000);
    const auto put = [&] {
        for (auto* action : pair().findChild<QToolButton*>(QStringLiteral("pairOut"))->menu()->actions())
            if (action->text() == QStringLiteral("Put it into the walk-through"))
                action->trigger();
    };
    QVERIFY(m_window->openOnBench(m_b)); // another player: the picture is not for that one's family
    put();
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->messageText().contains(QStringLiteral("Another day is on the Bench")), 30000);
    QVERIFY(m_window->openOnBench(m_a));
    m_window->review();
    put();
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->messageText().contains(QStringLiteral("of the walk-through")), 30000);
    auto& editor = (*m_window)->showView()->walk()->editor();
    QVERIFY(editor.script().stops.back().isPicture());
    const auto& film = model().side(0).film.marking.film;
    QCOMPARE(QImage(QString::fromStdString(editor.scriptToPlay().stops.back().picture)).size(),
             QSize(2 * film.width + 8, film.height));
}

KESTREL_TEST(PairTest)
#include "pair_test.moc"
