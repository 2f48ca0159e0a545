#include "support/ffmpeg_films.h"
#include "support/runner.h"
#include "window_fixture.h"

#include "app/bench/bench_view.h"
#include "app/shell/settings.h"
#include "core/pack/pack_folder.h"
#include "media/film.h"

#include <QMenu>
#include <QToolButton>

using namespace kestrel;
using namespace kestrel::test;

/// The program marks the repetition on the bench, through the window.
class AutoMarkTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void cleanup() { m_window.reset(); }

    void button_marksEveryPicture_proposesKeyPositions_keepsTheCoachs_undo();
    void button_again_stops_keepsWhatIsDone();
    void stoppedEarly_earlierMarksOnOtherPicturesStay();
    void proposal_pressedOnItsNumber_becomesTheCoachs();
    void box_isDrawnOnTheFilm_startsThere();
    void player_isChosenByAClick_nobodyThere_isSaid();
    void point_isFollowed_correctedOnce_isFollowedAnew_undo();
    void anyPoint_oneClickOnTheFilm_isFollowed();
    void follow_nothingMarkedByHand_saysWhatToDo();
    void wrongView_isAskedAbout_notChanged();
    void fromAbove_saysThatItSeesBadly_takesNoScale();
    void thoroughNetwork_notFetched_saysHow();
    void leastSure_comesFirst_thenTheNext();
    void twoRepetitions_areSeen_splitInTwo_undo();

private:
    app::Bench& bench() { return m_window->bench(); }
    app::AutoMarker& marker() { return (*m_window)->benchView()->marker(); }
    QToolButton* button() { return m_window->find<QToolButton>(QStringLiteral("markForMe")); }
    Marking stored() { return *(*m_window)->workspace().library().marking(bench().context.repetition().id); }
    static std::int64_t byNetwork(const Marking& m)
    {
        return std::count_if(m.marks.begin(), m.marks.end(), [](const Mark& k) { return k.source == Source::Network; });
    }
    std::unique_ptr<Window> m_window;
};

void AutoMarkTest::init()
{
    m_window = std::make_unique<Window>();
    QVERIFY(m_window->openOnBench(m_window->addFilmedPitch()));
}

void AutoMarkTest::button_marksEveryPicture_proposesKeyPositions_keepsTheCoachs_undo()
{
    const auto& truth = filmedPitch().truth.truth;
    const Landmark nose{Part::Nose, BodySide::None, {}};
    m_window->press(Qt::Key_1); // a key position and a mark of the coach's own, both wrong on purpose
    const std::string first = bench().context.pack()->keyPositions.front().id;
    const FrameIndex where = bench().player.frame();
    bench().marks.moveMark(nose, {12, 34});
    const Marking before = stored();
    QVERIFY(before.scene.scale);

    QTest::mouseClick(button(), Qt::LeftButton);
    QVERIFY(marker().isRunning());
    QTRY_VERIFY_WITH_TIMEOUT(button()->text().contains(QStringLiteral("left")), 30000);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 120000);
    QCOMPARE(button()->text(), QStringLiteral("Mark for me"));
    QCOMPARE((*m_window)->width(), 1280); // nothing on the way widened it
    QVERIFY2((*m_window)->messageText().contains(QStringLiteral("marked on")), qPrintable((*m_window)->messageText()));

    const Marking after = stored();
    QVERIFY2(byNetwork(after) > 20 * bench().player.frames(), qPrintable(QString::number(byNetwork(after))));
    QCOMPARE(findMark(after, where, nose)->at, (ImagePoint{12, 34}));
    QCOMPARE(findEvent(after, first)->source, Source::Coach);
    int proposed = 0;
    for (const auto& e : after.events)
        proposed += e.source == Source::Network;
    QVERIFY2(proposed >= 3, qPrintable(QString::number(proposed)));
    QTRY_VERIFY(m_window->find<QLabel>(QStringLiteral("remarks"))->text().contains(QStringLiteral("proposed")));
    QVERIFY(after.scene == before.scene); // the scale that is there stays

    // near the truth: hips of a body 200 pixels high, half of the time within eight pixels
    std::vector<double> off;
    for (const auto& m : after.marks)
        if (m.landmark.part == Part::Hip)
            if (const Mark* real = findMark(truth, m.frame, m.landmark))
                off.push_back((m.at - real->at).length());
    QVERIFY(!off.empty());
    std::nth_element(off.begin(), off.begin() + static_cast<std::ptrdiff_t>(off.size() / 2), off.end());
    QVERIFY2(off[off.size() / 2] < 8, qPrintable(QString::number(off[off.size() / 2])));

    (*m_window)->workspace().undoStack().undo();
    QVERIFY(stored() == before);
    (*m_window)->workspace().undoStack().redo();
    QVERIFY(stored() == after);
}

void AutoMarkTest::button_again_stops_keepsWhatIsDone()
{
    m_window->press(Qt::Key_G);
    QTRY_VERIFY_WITH_TIMEOUT(marker().share() > 0.05, 30000);
    m_window->press(Qt::Key_G);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 10000);
    const auto marks = byNetwork(stored());
    QVERIFY2(marks > 0 && marks < 20 * bench().player.frames(), qPrintable(QString::number(marks)));
    for (const auto& e : stored().events) // half a film has other extremes: nothing is proposed
        QCOMPARE(e.source, Source::Coach);
}

void AutoMarkTest::stoppedEarly_earlierMarksOnOtherPicturesStay()
{
    const FrameIndex last(bench().player.frames() - 1);
    const Mark earlier{last, {Part::Nose, BodySide::None, {}}, {5, 6}, 3, Source::Network, true};
    auto& workspace = (*m_window)->workspace();
    const auto clip = bench().context.clip().id;
    const auto repetition = bench().context.repetition().id;
    const store::ProgramWork before{FrameIndex(0), last, {earlier}, {}, {}};
    workspace.edit(
        QStringLiteral("before"), [=](store::Library& l) { return l.marks().setProgramWork(clip, repetition, before); },
        [](store::Library&) -> Expected<void> { return {}; });
    marker().start();
    QTRY_VERIFY_WITH_TIMEOUT(marker().share() > 0.02, 30000);
    marker().stop();
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 10000);
    const Marking now = stored();
    QVERIFY(byNetwork(now) > 1);
    const Mark* kept = findMark(now, last, earlier.landmark);
    QVERIFY(kept && *kept == earlier);
}

void AutoMarkTest::proposal_pressedOnItsNumber_becomesTheCoachs()
{
    const std::string id = bench().context.pack()->keyPositions.front().id;
    const Event proposal{id, FramePosition(31.4), 1, Source::Network};
    auto& workspace = (*m_window)->workspace();
    const auto repetition = bench().context.repetition().id;
    workspace.edit(
        QStringLiteral("propose"), [=](store::Library& l) { return l.repetitions().setEvent(repetition, id, proposal); },
        [=](store::Library& l) { return l.repetitions().setEvent(repetition, id, {}); });
    bench().positions.goTo(id);
    QCOMPARE(bench().player.frame(), FrameIndex(31));
    m_window->press(Qt::Key_1);
    const Event* now = findEvent(bench().context.marking(), id);
    QVERIFY(now);
    QCOMPARE(now->source, Source::Coach);
    QCOMPARE(now->frame.value, 31.0);
}

void AutoMarkTest::box_isDrawnOnTheFilm_startsThere()
{
    QVERIFY(button()->menu() && button()->menu()->actions().front()->text().contains(QStringLiteral("player")));
    button()->menu()->actions().front()->trigger();
    QCOMPARE(bench().tools.tool(), app::Tool::PlayerBox);
    QSignalSpy drawn(&bench().scene, &app::SceneEditor::playerDrawn);
    m_window->dragFilm({300, 80}, {420, 330});
    QCOMPARE(drawn.count(), 1);
    QCOMPARE(bench().tools.tool(), app::Tool::Look);
    QVERIFY(marker().isRunning());
    marker().stop();
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 10000);
}

void AutoMarkTest::player_isChosenByAClick_nobodyThere_isSaid()
{
    const auto& truth = filmedPitch().truth.truth;
    bench().tools.setTool(app::Tool::PlayerBox);
    m_window->clickFilm(findMark(truth, bench().player.frame(), {Part::Hip, BodySide::Left, {}})->at);
    QCOMPARE(bench().tools.tool(), app::Tool::Look);
    QVERIFY(marker().isRunning());
    QTRY_VERIFY_WITH_TIMEOUT(marker().share() > 0.02, 30000);
    marker().stop();
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 10000);
    QVERIFY(byNetwork(stored()) > 1);
    bench().tools.setTool(app::Tool::PlayerBox);
    m_window->clickFilm({630, 350}); // bare ground: in the trees above, the finder takes some crops for somebody
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 10000);
    QTRY_VERIFY2((*m_window)->messageText().contains(QStringLiteral("where you clicked")),
                 qPrintable((*m_window)->messageText()));
}

void AutoMarkTest::point_isFollowed_correctedOnce_isFollowedAnew_undo()
{
    const auto& truth = filmedPitch().truth.truth;
    const Landmark ankle{Part::Ankle, BodySide::Right, {}};
    const FrameIndex start(20);
    bench().player.setFrame(start);
    bench().marks.moveMark(ankle, findMark(truth, start, ankle)->at);
    const Marking before = stored();
    bench().marks.selectMark(ankle);
    m_window->press(Qt::Key_K);
    QVERIFY(marker().isRunning());
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 30000);
    const auto followed = [&] {
        std::vector<Mark> all;
        for (const auto& m : stored().marks)
            if (m.source == Source::Tracked)
                all.push_back(m);
        return all;
    };
    QVERIFY2(followed().size() > 30, qPrintable(QString::number(followed().size())));
    for (const auto& m : followed())
        if (std::abs(m.frame.value - start.value) <= 10) // the foot it pivots on
            QVERIFY((m.at - findMark(truth, m.frame, ankle)->at).length() < 4);
    QVERIFY2((*m_window)->messageText().contains(QStringLiteral("is followed on")), qPrintable((*m_window)->messageText()));
    const Marking once = stored();

    bench().player.setFrame(FrameIndex(26)); // moved by the coach, it is followed from both
    const ImagePoint lower{findMark(once, FrameIndex(26), ankle)->at.x, findMark(once, FrameIndex(26), ankle)->at.y + 3};
    bench().marks.moveMark(ankle, lower);
    QVERIFY(marker().isRunning());
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 30000);
    QCOMPARE(findMark(stored(), FrameIndex(26), ankle)->source, Source::Coach);
    QCOMPARE(findMark(stored(), FrameIndex(26), ankle)->at, lower);
    const double down = findMark(stored(), FrameIndex(25), ankle)->at.y - findMark(once, FrameIndex(25), ankle)->at.y;
    QVERIFY2(down > 1, qPrintable(QString::number(down)));
    for (int n = 0; n < 3; ++n) // the second way, the correction, the first way
        (*m_window)->workspace().undoStack().undo();
    QVERIFY(stored() == before);
}

void AutoMarkTest::anyPoint_oneClickOnTheFilm_isFollowed()
{
    bench().tools.setTool(app::Tool::Point);
    m_window->clickFilm(findMark(filmedPitch().truth.truth, bench().player.frame(), {Part::Toe, BodySide::Right, {}})->at);
    QCOMPARE(bench().tools.tool(), app::Tool::Look);
    QVERIFY(marker().isRunning());
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 30000);
    const Landmark point{Part::Reference, BodySide::None, "point1"};
    QCOMPARE(bench().marks.selectedMark(), std::optional(point));
    QCOMPARE(findMark(stored(), bench().player.frame(), point)->source, Source::Coach);
    QVERIFY(findMark(stored(), FrameIndex(bench().player.frame().value + 1), point));
}

void AutoMarkTest::follow_nothingMarkedByHand_saysWhatToDo()
{
    m_window->press(Qt::Key_K);
    QVERIFY((*m_window)->messageText().contains(QStringLiteral("Select a point")));
    marker().follow({Part::Ball, BodySide::None, {}});
    QVERIFY(!marker().isRunning());
    QVERIFY((*m_window)->messageText().contains(QStringLiteral("Mark the point yourself")));
}

void AutoMarkTest::wrongView_isAskedAbout_notChanged()
{
    bench().scene.setView(View::SideBack); // the film shows the chest
    const Scene before = stored().scene;
    QTest::mouseClick(button(), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 120000);
    auto* message = m_window->find<QLabel>(QStringLiteral("message"));
    QVERIFY2(message->isVisible() && message->text().contains(QStringLiteral("The chest is seen")), qPrintable(message->text()));
    QVERIFY(message->height() >= message->heightForWidth(message->width())); // none of it is cut off
    QCOMPARE((*m_window)->width(), 1280);
    QVERIFY(stored().scene == before);
}

void AutoMarkTest::fromAbove_saysThatItSeesBadly_takesNoScale()
{
    bench().scene.setView(View::Overhead);
    store::Clip clip = bench().context.clip();
    clip.scene.scale.reset();
    (*m_window)->workspace().edit(
        QStringLiteral("no scale"), [=](store::Library& l) { return l.save(clip); },
        [](store::Library&) -> Expected<void> { return {}; });
    m_window->press(Qt::Key_G);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 120000);
    auto* message = m_window->find<QLabel>(QStringLiteral("message"));
    QVERIFY2(message->text().contains(QStringLiteral("From above")) && !message->text().contains(QLatin1Char('?')),
             qPrintable(message->text()));
    QVERIFY(message->height() >= message->heightForWidth(message->width()));
    QVERIFY(byNetwork(stored()) > 0);
    QVERIFY(!stored().scene.scale);
}

void AutoMarkTest::thoroughNetwork_notFetched_saysHow()
{
    if (QFile::exists(QString::fromStdString(shippedFolder("models")) + QStringLiteral("/pose_landmark_heavy.tflite")))
        QSKIP("the thorough network has been fetched here");
    const auto choose = [&](const QString& name) {
        for (auto* action : button()->menu()->actions())
            if (action->text().startsWith(name))
                action->trigger();
    };
    const Marking before = stored();
    choose(QStringLiteral("Look thoroughly"));
    QCOMPARE(app::Settings::bodyNetwork(), vision::BodyNetwork::Thorough);
    QTest::mouseClick(button(), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 30000);
    QVERIFY2((*m_window)->messageText().contains(QStringLiteral("fetch_heavy.sh")), qPrintable((*m_window)->messageText()));
    QVERIFY(stored() == before);
    choose(QStringLiteral("Look as usual"));
    QCOMPARE(app::Settings::bodyNetwork(), vision::BodyNetwork::Usual);
}

void AutoMarkTest::leastSure_comesFirst_thenTheNext()
{
    const std::string strike = "strike";
    const Landmark knee{Part::Knee, BodySide::Left, {}}, ankle{Part::Ankle, BodySide::Left, {}};
    store::ProgramWork work{
        FrameIndex(0), FrameIndex(99), {}, {{strike, Event{strike, FramePosition(40.2), 1, Source::Network}}}, {}, {}};
    work.marks = {{FrameIndex(40), knee, {100, 100}, 3, Source::Network, true},
                  {FrameIndex(40), ankle, {100, 150}, 9, Source::Network, true}};
    const auto clip = bench().context.clip().id;
    const auto repetition = bench().context.repetition().id;
    (*m_window)->workspace().edit(
        QStringLiteral("work"), [=](store::Library& l) { return l.marks().setProgramWork(clip, repetition, work); },
        [](store::Library&) -> Expected<void> { return {}; });
    m_window->press(Qt::Key_W);
    QCOMPARE(bench().player.frame(), FrameIndex(40));
    QCOMPARE(bench().marks.selectedMark(), std::optional(ankle));
    QVERIFY2((*m_window)->messageText().contains(QStringLiteral("9 pixels")), qPrintable((*m_window)->messageText()));
    bench().marks.moveMark(ankle, {101, 151}); // the coach's now
    m_window->press(Qt::Key_W);
    QCOMPARE(bench().marks.selectedMark(), std::optional(knee));
    m_window->press(Qt::Key_W);
    QVERIFY((*m_window)->messageText().contains(QStringLiteral("looked at every")));
}

void AutoMarkTest::twoRepetitions_areSeen_splitInTwo_undo()
{
    const QString twice = m_window->folder() + QStringLiteral("/twice.mp4");
    QVERIFY(!remade(filmedPitch().file.toStdString(), twice, {QStringLiteral("-r"), QStringLiteral("60")},
                    {QStringLiteral("-stream_loop"), QStringLiteral("1")})
                 .empty());
    const auto frames = media::Film::open(twice.toStdString())->info().frames();
    QVERIFY(m_window->openOnBench(m_window->addFilm(twice.toStdString(), frames, 60)));
    QAction* split = nullptr;
    for (auto* a : button()->menu()->actions())
        if (a->text().contains(QStringLiteral("Split")))
            split = a;
    QVERIFY(split && !split->isVisible());
    m_window->press(Qt::Key_G);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 120000);
    QCOMPARE(marker().repetitionsSeen(), 2);
    QVERIFY(split->isVisible() && split->text().contains(QStringLiteral("2 repetitions")));
    QVERIFY(stored().events.empty()); // of which repetition would they be?
    // what the coach places before the split stays, in the repetition that it is in or nearest to
    const std::string first = bench().context.pack()->keyPositions.front().id,
                      second = bench().context.pack()->keyPositions[1].id;
    bench().positions.move(first, FrameIndex(0));
    bench().positions.move(second, FrameIndex(frames - 40));
    const Marking unsplit = stored();
    split->trigger();
    QCOMPARE(bench().context.repetitions().size(), std::size_t{2});
    const Marking early = *(*m_window)->workspace().library().marking(bench().context.repetitions().front().id),
                  late = *(*m_window)->workspace().library().marking(bench().context.repetitions().back().id);
    QCOMPARE(*findEvent(early, first), *findEvent(unsplit, first));
    QCOMPARE(*findEvent(late, second), *findEvent(unsplit, second));
    QVERIFY(findEvent(early, second) && findEvent(early, second)->source == Source::Network);
    for (const auto& r : bench().context.repetitions()) {
        const Marking m = *(*m_window)->workspace().library().marking(r.id);
        QVERIFY2(m.events.size() >= 3, qPrintable(QString::number(m.events.size())));
        for (const auto& e : m.events)
            QVERIFY(e.source == Source::Coach ||
                    (e.frame.value >= static_cast<double>(r.first.value) && e.frame.value <= static_cast<double>(r.last.value)));
    }
    QVERIFY(!split->isVisible());
    const auto ids = bench().context.repetitions();
    (*m_window)->workspace().undoStack().undo();
    QCOMPARE(bench().context.repetitions().size(), std::size_t{1});
    QVERIFY(stored() == unsplit);
    (*m_window)->workspace().undoStack().redo();
    QVERIFY(bench().context.repetitions() == ids);
}

KESTREL_TEST(AutoMarkTest)
#include "auto_mark_test.moc"
