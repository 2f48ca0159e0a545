#include "support/runner.h"
#include "window_fixture.h"

#include "core/judge/day_review.h"

#include <QFrame>
#include <QPushButton>
#include <QToolButton>

#include <functional>

using namespace kestrel;
using namespace kestrel::test;

/// A filming day of several clips is read, judged and shown as one, and nothing that was read outlives what it depends on.
class DayTest : public QObject {
    Q_OBJECT
private slots:
    void init();
    void cleanup() { m_window.reset(); }

    void threeClips_areOneReview_benchAndPageCountThem();
    void shown_hasItsOwnReadings_theDayTheTypicalOnes();
    void secondFilmOfOneRepetition_countsOnce();
    void nextClip_isOneKey();
    void change_readingsOfTheOthersFollow_data();
    void change_readingsOfTheOthersFollow();
    void unchanged_isNotReadAgain_evenAfterARestart();
    void emptyDay_givesNoAdvice();
    void outOfOrder_isSaidAtOnce_oneKeyTakesItBack();
    void acceptAll_makesProposalsTheCoachs();
    void rateThatSaysNothing_isNotShownAsANumber();

private:
    app::Bench& bench() { return m_window->bench(); }
    store::Library& writable() { return *m_store; }
    store::ClipId addClip(const Marking& marking, View view = View::Side);
    /// By measure, of one repetition as the day has it.
    std::map<std::string, std::optional<double>> valuesOf(store::ClipId);
    Marking truthOf(const char* fault, std::uint32_t seed);

    std::unique_ptr<Window> m_window;
    std::unique_ptr<store::Library> m_store;
    store::ClipId m_first;
    store::DayId m_day;
};

void DayTest::init()
{
    m_window = std::make_unique<Window>();
    m_first = m_window->addFilmedPitch();
    m_store = std::make_unique<store::Library>(*store::Library::open(m_window->folder().toStdString()));
    QVERIFY(m_store->marks().addMarking(m_first, filmedPitch().truth.truth));
    m_day = m_store->clips().find(m_first)->day;
}

store::ClipId DayTest::addClip(const Marking& marking, View view)
{
    store::Clip clip = *m_store->clips().find(m_first);
    clip.id = {};
    clip.scene = marking.scene;
    clip.scene.view = view;
    clip.contentHash += std::to_string(m_store->clips().of(m_day)->size()); // another film
    const auto id = *m_store->add(clip, "stretch");
    if (auto added = m_store->marks().addMarking(id, marking); !added)
        qFatal("%s", added.error().text().c_str());
    return id;
}

Marking DayTest::truthOf(const char* fault, std::uint32_t seed)
{
    auto o = pitch(View::Side, fault ? std::vector<std::string>{fault} : std::vector<std::string>{});
    o.frameRate = 120;
    o.size = {640, 360};
    o.motion.seed = seed;
    Marking m = simulated(o).truth;
    std::erase_if(m.marks, [&](const Mark& mark) { // as a coach marks: at the key positions
        return std::none_of(m.events.begin(), m.events.end(),
                            [&](const Event& e) { return std::abs(e.frame.value - static_cast<double>(mark.frame.value)) <= 1; });
    });
    return m;
}

std::map<std::string, std::optional<double>> DayTest::valuesOf(store::ClipId clip)
{
    std::map<std::string, std::optional<double>> values;
    const auto& library = (*m_window)->workspace().library();
    const auto day = app::gatherDay(library, m_day, *(*m_window)->workspace().findPack("overhand-pitch"), {}, 0);
    const auto id = library.repetitions().of(clip)->front().id;
    for (std::size_t n = 0; day && n < day->ids.size(); ++n)
        if (day->ids[n] == id && day->repetitions[n].read) // as kept: what was read last
            for (const auto& r : day->repetitions[n].read->readings)
                values[r.measure] = r.value;
    return values;
}

void DayTest::threeClips_areOneReview_benchAndPageCountThem()
{
    addClip(truthOf("head_drop", 2));
    const auto good = addClip(truthOf(nullptr, 3));
    QVERIFY(m_window->openOnBench(m_first));
    const Review review = m_window->review();
    QCOMPARE(review.repetitions, 3);
    QVERIFY(review.oneThing);
    QCOMPARE(review.oneThing->fault, std::string("head_drop"));
    const auto head =
        std::find_if(review.faults.begin(), review.faults.end(), [](const auto& f) { return f.fault == "head_drop"; });
    QCOMPARE(head->habit.read, 3);
    QCOMPARE(head->habit.shown, 2);
    bool canDoIt = false;
    for (const auto& r : review.remarks)
        canDoIt |= r.kind == RemarkKind::CanDoIt && r.text.find("clip 3") != std::string::npos;
    QVERIFY(canDoIt);
    QTRY_VERIFY2(m_window->find<QLabel>(QStringLiteral("dayCount"))->text().contains(QStringLiteral("3 repetitions on 3 clips")),
                 qPrintable(m_window->find<QLabel>(QStringLiteral("dayCount"))->text()));
    // another clip of the day on the bench: the same review, in the same words
    QVERIFY(m_window->openOnBench(good));
    QVERIFY(m_window->review().remarks == review.remarks);
    QVERIFY(m_window->review().oneThing == review.oneThing);
    QTest::keyClick(&**m_window, Qt::Key_4, Qt::ControlModifier);
    QTRY_VERIFY_WITH_TIMEOUT((*m_window)->showView()->page()->isReady(), 20000);
    const auto& page = *(*m_window)->showView()->page()->page();
    // the copied clips name one film file: three repetitions on one film
    QVERIFY2(page.honesty.find("typical one of 3 repetitions") != std::string::npos, page.honesty.c_str());
}

void DayTest::shown_hasItsOwnReadings_theDayTheTypicalOnes()
{
    const auto other = addClip(truthOf(nullptr, 5));
    QVERIFY(m_window->openOnBench(m_first));
    m_window->review();
    const double dropping = *bench().review.findReading("lead_knee_strike")->value;
    QVERIFY(bench().review.findReading("lead_knee_strike")->spread);
    QVERIFY(m_window->openOnBench(other));
    m_window->review();
    const double upright = *bench().review.findReading("lead_knee_strike")->value;
    QVERIFY(std::abs(dropping - upright) > 0.01);
    const double typical = *bench().review.review().findReading("lead_knee_strike")->value;
    QVERIFY(std::abs(typical - (dropping + upright) / 2) < 1e-9); // the median of two
}

void DayTest::secondFilmOfOneRepetition_countsOnce()
{
    const auto rear = addClip(truthOf(nullptr, 5), View::Rear);
    const auto& l = writable();
    QVERIFY(
        writable().repetitions().setSecondCamera(l.repetitions().of(rear)->front().id, l.repetitions().of(m_first)->front().id));
    QVERIFY(m_window->openOnBench(rear));
    QCOMPARE(m_window->review().repetitions, 1);
    QCOMPARE(bench().review.repetitionsOfDay(), 1);
    QVERIFY(!bench().review.readings().empty()); // its own are there to look at
}

void DayTest::nextClip_isOneKey()
{
    const auto second = addClip(truthOf(nullptr, 5));
    QVERIFY(m_window->openOnBench(m_first));
    QCOMPARE(m_window->find<QToolButton>(QStringLiteral("nextClip"))->text(), QStringLiteral("Clip 1/2"));
    m_window->press(Qt::Key_C);
    QCOMPARE(bench().context.clip().id, second);
    QTRY_VERIFY_WITH_TIMEOUT(bench().player.isOpen(), 10000);
    m_window->press(Qt::Key_C);
    QCOMPARE(bench().context.clip().id, m_first);
    m_window->press(Qt::Key_C, Qt::ShiftModifier);
    QCOMPARE(bench().context.clip().id, second);
}

using ChangeDay = std::function<void(app::Workspace&, store::ClipId shown, store::ClipId other)>;
Q_DECLARE_METATYPE(ChangeDay)

/// Each changes something that readings depend on; those of the repetition that is not on the bench have to follow.
void DayTest::change_readingsOfTheOthersFollow_data()
{
    QTest::addColumn<ChangeDay>("change");
    const auto clip = [](auto set) {
        return ChangeDay([set](app::Workspace& w, store::ClipId, store::ClipId other) {
            store::Clip after = *w.library().clips().find(other);
            set(after);
            QVERIFY(w.edit(
                QStringLiteral("change"), [after](store::Library& l) { return l.save(after); },
                [](store::Library&) { return Expected<void>(); }));
        });
    };
    QTest::newRow("scale") << clip([](store::Clip& c) { c.scene.scale->metres *= 1.2; });
    QTest::newRow("view") << clip([](store::Clip& c) { c.scene.view = View::Rear; });
    QTest::newRow("rates") << clip([](store::Clip& c) { c.clock.capture *= 2; });
    QTest::newRow("up") << clip([](store::Clip& c) { c.scene.up = {0.3, -0.9}; });
    QTest::newRow("target") << clip([](store::Clip& c) {
        c.scene.target = c.scene.target == TargetDirection::Left ? TargetDirection::Right : TargetDirection::Left;
    });
    QTest::newRow("the athlete's height") << ChangeDay([](app::Workspace& w, store::ClipId shown, store::ClipId) {
        const auto day = *w.library().days().find(w.library().clips().find(shown)->day);
        store::Athlete after = *w.library().athletes().find(day.athlete);
        after.heights.front().metres *= 1.1;
        QVERIFY(w.edit(
            QStringLiteral("grow"), [after](store::Library& l) { return l.save(after); },
            [](store::Library&) { return Expected<void>(); }));
    });
    QTest::newRow("a mark") << ChangeDay([](app::Workspace& w, store::ClipId, store::ClipId other) {
        const Marking m = *w.library().marking(other);
        const auto frame = findEvent(m, "strike")->frame.nearest();
        Mark moved = *findMark(m, frame, *findLandmark("knee.left"));
        moved.at.x += 25;
        QVERIFY(w.edit(
            QStringLiteral("mark"), [=](store::Library& l) { return l.marks().set(other, frame, moved.landmark, moved); },
            [](store::Library&) { return Expected<void>(); }));
    });
    QTest::newRow("a key position") << ChangeDay([](app::Workspace& w, store::ClipId, store::ClipId other) {
        const auto id = w.library().repetitions().of(other)->front().id;
        const auto release = findEvent(*w.library().marking(other), "release");
        const Event later{"release", FramePosition(release->frame.value + 2), 0.5, Source::Coach};
        QVERIFY(w.edit(
            QStringLiteral("place"), [=](store::Library& l) { return l.repetitions().setEvent(id, "release", later); },
            [](store::Library&) { return Expected<void>(); }));
    });
    QTest::newRow("the other hand") << ChangeDay([](app::Workspace& w, store::ClipId shown, store::ClipId) {
        const auto day = *w.library().days().find(w.library().clips().find(shown)->day);
        store::Athlete after = *w.library().athletes().find(day.athlete);
        after.hand = Hand::Left;
        QVERIFY(w.edit(
            QStringLiteral("hand"), [after](store::Library& l) { return l.save(after); },
            [](store::Library&) { return Expected<void>(); }));
    });
}

void DayTest::change_readingsOfTheOthersFollow()
{
    QFETCH(ChangeDay, change);
    const auto other = addClip(truthOf(nullptr, 5));
    QVERIFY(m_window->openOnBench(m_first));
    m_window->review();
    const auto before = valuesOf(other);
    QVERIFY(before.size() > 10);
    change((*m_window)->workspace(), m_first, other);
    const Review review = m_window->review();
    const auto after = valuesOf(other);
    QVERIFY(after.size() > 5);
    QVERIFY(after != before);
    // and they are what a fresh look says
    const Pack& pack = *(*m_window)->workspace().findPack("overhand-pitch");
    const auto& library = (*m_window)->workspace().library();
    const auto day = *library.days().find(m_day);
    for (const auto& r : calcReadings(pack, PreparedRepetition(*library.marking(other)), {day.school, {}}))
        if (after.count(r.measure))
            QVERIFY2(after.at(r.measure).has_value() == r.value.has_value() &&
                         (!r.value || std::abs(*after.at(r.measure) - *r.value) < 1e-6 * (1 + std::abs(*r.value))),
                     r.measure.c_str());
    QCOMPARE(review.repetitions, 2);
}

void DayTest::unchanged_isNotReadAgain_evenAfterARestart()
{
    const auto other = addClip(truthOf(nullptr, 5));
    QVERIFY(m_window->openOnBench(m_first));
    QTRY_VERIFY_WITH_TIMEOUT(
        (*m_window)->workspace().library().films().known(writable().clips().find(m_first)->contentHash)->has_value(),
        10000); // the film's index is kept once its content is known to be the same
    const Review before = m_window->review();
    m_window->restart();
    const auto& library = (*m_window)->workspace().library();
    const auto day = app::gatherDay(library, m_day, *(*m_window)->workspace().findPack("overhand-pitch"), {}, 0);
    QVERIFY(day);
    QCOMPARE(day->marksToRead, std::size_t{0}); // both are kept
    for (const auto& r : day->repetitions)
        QVERIFY(r.read);
    QVERIFY(m_window->openOnBench(other));
    const Review after = m_window->review();
    QVERIFY(after.oneThing == before.oneThing && after.remarks == before.remarks);
    for (std::size_t i = 0; i < before.readings.size(); ++i)
        QVERIFY(after.readings[i].value == before.readings[i].value && after.readings[i].verdict == before.readings[i].verdict);
}

void DayTest::emptyDay_givesNoAdvice()
{
    m_window = std::make_unique<Window>();
    QVERIFY(m_window->openOnBench(m_window->addFilmedPitch()));
    QVERIFY(m_window->review().remarks.empty());
    QTRY_VERIFY(m_window->find<QLabel>(QStringLiteral("cue"))->text().contains(QStringLiteral("Nothing read yet")));
    QVERIFY(m_window->find<QLabel>(QStringLiteral("remarks"))->text().isEmpty());
}

void DayTest::outOfOrder_isSaidAtOnce_oneKeyTakesItBack()
{
    QVERIFY(m_window->openOnBench(m_first));
    auto* notice = m_window->find<QFrame>(QStringLiteral("orderNotice"));
    QVERIFY(!notice->isVisible());
    const Marking before = *(*m_window)->workspace().library().marking(m_first);
    bench().player.setFrame(FrameIndex(0));
    m_window->press(Qt::Key_5); // Strike, on the first picture
    QVERIFY(notice->isVisible());
    const QString said = m_window->find<QLabel>(QStringLiteral("orderProblem"))->text();
    QVERIFY2(said.contains(QStringLiteral("lies before")) && said.contains(QStringLiteral("Nothing that rests on it")),
             qPrintable(said));
    m_window->review();
    QCOMPARE(bench().review.findReading("stride_length")->verdict, Verdict::NotMarked);
    QTest::mouseClick(m_window->find<QPushButton>(QStringLiteral("takeBack")), Qt::LeftButton);
    QVERIFY(!notice->isVisible());
    QVERIFY((*m_window)->workspace().library().marking(m_first)->events == before.events);
    bench().player.setFrame(FrameIndex(0));
    m_window->press(Qt::Key_5);
    QVERIFY(notice->isVisible());
    m_window->press(Qt::Key_B); // the same by key
    QVERIFY((*m_window)->workspace().library().marking(m_first)->events == before.events);
}

void DayTest::acceptAll_makesProposalsTheCoachs()
{
    const auto id = writable().repetitions().of(m_first)->front().id;
    for (const auto* position : {"lift", "release"}) {
        Event e = *findEvent(filmedPitch().truth.truth, position);
        e.source = Source::Network;
        QVERIFY(writable().repetitions().setEvent(id, position, e));
    }
    QVERIFY(m_window->openOnBench(m_first));
    const auto proposals = [&] {
        const auto events = bench().context.marking().events;
        return std::count_if(events.begin(), events.end(), [](const Event& e) { return e.source == Source::Network; });
    };
    QCOMPARE(proposals(), 2);
    m_window->press(Qt::Key_A);
    QCOMPARE(proposals(), 0);
    (*m_window)->workspace().undoStack().undo();
    QCOMPARE(proposals(), 2);
}

void DayTest::rateThatSaysNothing_isNotShownAsANumber()
{
    Reading r;
    r.unit = Unit::DegreePerSecond;
    r.value = 297;
    r.uncertainty = 1049 / kWhisker;
    r.verdict = Verdict::TooCloseToCall;
    QVERIFY(r.saysNothing());
    r.uncertainty = 40;
    QVERIFY(!r.saysNothing());
    r.unit = Unit::Centimetre; // a signed length near zero says a lot
    r.value = 0.5;
    r.uncertainty = 2;
    QVERIFY(!r.saysNothing());
}

KESTREL_TEST(DayTest)
#include "day_test.moc"
