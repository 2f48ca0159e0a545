#include "support/runner.h"
#include "window_fixture.h"

#include "app/bench_view.h"

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

private:
    app::BenchSession& session() { return m_window->session(); }
    app::AutoMarker& marker() { return (*m_window)->bench()->marker(); }
    QToolButton* button() { return m_window->find<QToolButton>(QStringLiteral("markForMe")); }
    Marking stored() { return *(*m_window)->workspace().library().marking(session().repetition().id); }
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
    const std::string first = session().pack()->keyPositions.front().id;
    const FrameIndex where = session().frame();
    session().moveMark(nose, {12, 34});
    const Marking before = stored();
    QVERIFY(before.scene.scale);

    QTest::mouseClick(button(), Qt::LeftButton);
    QVERIFY(marker().isRunning());
    QTRY_VERIFY_WITH_TIMEOUT(button()->text().contains(QStringLiteral("%")), 30000);
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 120000);
    QCOMPARE(button()->text(), QStringLiteral("Mark for me"));
    QVERIFY2((*m_window)->messageText().contains(QStringLiteral("marked on")), qPrintable((*m_window)->messageText()));

    const Marking after = stored();
    QVERIFY2(byNetwork(after) > 20 * session().frames(), qPrintable(QString::number(byNetwork(after))));
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
    QVERIFY2(marks > 0 && marks < 20 * session().frames(), qPrintable(QString::number(marks)));
    for (const auto& e : stored().events) // half a film has other extremes: nothing is proposed
        QCOMPARE(e.source, Source::Coach);
}

void AutoMarkTest::stoppedEarly_earlierMarksOnOtherPicturesStay()
{
    const FrameIndex last(session().frames() - 1);
    const Mark earlier{last, {Part::Nose, BodySide::None, {}}, {5, 6}, 3, Source::Network, true};
    auto& workspace = (*m_window)->workspace();
    const auto clip = session().clip().id;
    const auto repetition = session().repetition().id;
    const store::ProgramWork before{FrameIndex(0), last, {earlier}, {}, {}};
    workspace.edit(
        QStringLiteral("before"), [=](store::Library& l) { return l.setProgramWork(clip, repetition, before); },
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
    const std::string id = session().pack()->keyPositions.front().id;
    const Event proposal{id, FramePosition(31.4), 1, Source::Network};
    auto& workspace = (*m_window)->workspace();
    const auto repetition = session().repetition().id;
    workspace.edit(
        QStringLiteral("propose"), [=](store::Library& l) { return l.setEvent(repetition, id, proposal); },
        [=](store::Library& l) { return l.setEvent(repetition, id, {}); });
    session().goTo(id);
    QCOMPARE(session().frame(), FrameIndex(31));
    m_window->press(Qt::Key_1);
    const Event* now = findEvent(session().marking(), id);
    QVERIFY(now);
    QCOMPARE(now->source, Source::Coach);
    QCOMPARE(now->frame.value, 31.0);
}

void AutoMarkTest::box_isDrawnOnTheFilm_startsThere()
{
    QVERIFY(button()->menu() && button()->menu()->actions().size() == 1);
    button()->menu()->actions().front()->trigger();
    QCOMPARE(session().tool(), app::Tool::PlayerBox);
    QSignalSpy drawn(&session(), &app::BenchSession::playerDrawn);
    m_window->dragFilm({300, 80}, {420, 330});
    QCOMPARE(drawn.count(), 1);
    QCOMPARE(session().tool(), app::Tool::Look);
    QVERIFY(marker().isRunning());
    marker().stop();
    QTRY_VERIFY_WITH_TIMEOUT(!marker().isRunning(), 10000);
}

KESTREL_TEST(AutoMarkTest)
#include "auto_mark_test.moc"
