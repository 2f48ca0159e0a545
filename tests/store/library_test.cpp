#include "support/markings.h"
#include "support/runner.h"

#include "store/content_hash.h"
#include "store/db/migrations.h"
#include "store/library.h"

#include <QTemporaryDir>
#include <QtTest>

#include <csignal>
#include <set>
#include <sys/wait.h>
#include <unistd.h>

using namespace kestrel;
using namespace kestrel::store;
using namespace kestrel::test;

namespace {

Athlete ada()
{
    return {{}, "Ada \"Ace\" O'Hill", "2013-04-05", Hand::Left, {{"2026-01-01", 1.52}}, true};
}

Clip clipOf(DayId day)
{
    Clip c;
    c.day = day;
    c.file = "films/ä clip.mp4";
    c.contentHash = "abc";
    c.film = {{}, 1280, 720, 480};
    c.clock = {240, 30};
    c.scene = {View::Rear, TargetDirection::Away, {0.1, -0.9}, Scale{{1, 2}, {300, 4}, 0.61}};
    return c;
}

struct Filled {
    AthleteId athlete;
    DayId day;
    ClipId clip;
};

/// One athlete with one clip with one key position and two marks.
Filled fill(Library& l)
{
    Filled f;
    f.athlete = *l.add(ada());
    f.day = *l.add(FilmingDay{{}, f.athlete, "2026-05-01", "overhand-pitch", "tall"});
    f.clip = *l.add(clipOf(f.day), "windup");
    const Marking m = [] {
        Marking all;
        place(all, "strike", 211.5, 0.5);
        mark(all, 211, "wrist.left", 10.25, 20.75, 1.5);
        mark(all, 211, "ref.plate", 1, 2, 1.5);
        return all;
    }();
    if (const auto added = l.marks().addMarking(f.clip, m); !added)
        qFatal("%s", added.error().text().c_str());
    return f;
}

} // namespace

class LibraryTest : public QObject {
    Q_OBJECT
private slots:
    void init() { m_folder = std::make_unique<QTemporaryDir>(); }
    void everything_survivesClosing();
    void marking_isReadyForReadings();
    void athletes_areSortedByName();
    void notYetTaught_isKept();
    void otherSide_tiesBothWays_survivesARemovalUndone();
    void days_newestFirst_clipsInOrder();
    void save_changesOnlyThatRow();
    void take_thenRestore_givesEverythingBack();
    void take_removesAllThatBelongsToIt();
    void add_withoutParent_isRefused();
    void addMarking_neverReplacesTheCoach();
    void programWork_replacesOnlyAProgramsInItsStretch();
    void programWork_ofOnePoint_outlivesTheBodys();
    void setRepetitions_replacesAll_givesBack();
    void setEventAndMark_emptyRemoves();
    void missingRow_isNotFound();
    void film_insideTheFolder_isStoredRelative();
    void readOnly_reads_refusesChangesClearly();
    void readOnly_withoutLibrary_saysSo();
    void notALibrary_isRefusedAndKept_data();
    void notALibrary_isRefusedAndKept();
    void newerLibrary_isRefusedAndKept();
    void migration_fromEachEarlierVersion_keepsRows_data();
    void migration_fromEachEarlierVersion_keepsRows();
    void answers_areKept_takenAndGivenBack();
    void transaction_notCommitted_isUndone();
    void fullDisk_saysSo_losesNothing();
    void killedProcess_keepsWhatWasStored();
    void twoWindows_oneLibrary_bothSeeChanges();
    void folder_thatCannotBeMade_saysSo();
    void take_noTableIsForgotten();
    void match_isKept_takenAndRestored();
    void book_painOfAFilmingDay_isInIt();
    void uuids_areUnique_outliveARemovalUndone();
    void skill_changedAndBack_eventsAnswersVariantsComeBack();
    void clip_movedAndBack_keepsWhatWasPlaced();
    void batting_usesTheBattingSide();
    void revision_changesWithEveryMark();
    void readings_areKeptWithTheirKey();
    void summaries_sayWhatMarkingsSay();
    void together_oneFails_nothingIsDone();
    void heightOn_data();
    void heightOn();
    void ageOn_data();
    void ageOn();
    void contentHash_isSha256();
    void contentHash_findsAMovedFilm();
    void contentHash_stopped_isCancelled();

private:
    std::string folder() const { return m_folder->path().toStdString(); }
    Library open(bool readOnly = false)
    {
        auto l = Library::open(folder(), readOnly);
        if (!l)
            qFatal("%s", l.error().text().c_str());
        return std::move(*l);
    }
    std::unique_ptr<QTemporaryDir> m_folder;
};

void LibraryTest::everything_survivesClosing()
{
    Filled f;
    {
        Library l = open();
        f = fill(l);
    }
    const Library l = open();
    Athlete a = ada();
    a.id = f.athlete;
    QVERIFY(*l.athletes().find(f.athlete) == a);
    QCOMPARE(l.days().find(f.day)->school, std::string("tall"));
    Clip c = clipOf(f.day);
    c.id = f.clip;
    QVERIFY(*l.clips().find(f.clip) == c);
    const Marking m = *l.marking(f.clip);
    QCOMPARE(m.events.size(), std::size_t{1});
    QCOMPARE(m.events[0].frame.value, 211.5);
    QCOMPARE(m.marks.size(), std::size_t{2});
    QCOMPARE(findMark(m, FrameIndex(211), *findLandmark("wrist.left"))->at.x, 10.25);
    QCOMPARE(findMark(m, FrameIndex(211), *findLandmark("wrist.left"))->sigma, 1.5);
}

void LibraryTest::marking_isReadyForReadings()
{
    Library l = open();
    const Marking m = *l.marking(fill(l).clip);
    QCOMPARE(m.athlete.hand, Hand::Left);
    QCOMPARE(m.athlete.heightMetres, std::optional(1.52));
    QVERIFY(std::abs(*m.athlete.age - 13.07) < 0.01); // from 5 April 2013 to 1 May 2026
    QCOMPARE(m.skill, std::string("overhand-pitch"));
    QCOMPARE(m.variant, std::string("windup"));
    QCOMPARE(m.clock.slowFactor(), 8.0);
    QVERIFY(QString::fromStdString(m.film.file).endsWith(QStringLiteral("/films/ä clip.mp4")));
    QVERIFY(m.scene == clipOf({}).scene);
}

void LibraryTest::athletes_areSortedByName()
{
    Library l = open();
    for (const auto* name : {"bea", "Cid", "Ann"})
        QVERIFY(l.add(Athlete{{}, name, "", Hand::Right, {}, false}));
    const auto all = *l.athletes().all();
    QCOMPARE(all.size(), std::size_t{3});
    QCOMPARE(all[0].name, std::string("Ann"));
    QCOMPARE(all[1].name, std::string("bea"));
    QVERIFY(all[0].heights.empty());
}

void LibraryTest::notYetTaught_isKept()
{
    Library l = open();
    Athlete a{{}, "Ann", "", Hand::Right, {}, false, {{"overhand-pitch", "head_drop"}}};
    a.id = *l.add(a);
    QVERIFY(*l.athletes().find(a.id) == a);
    a.notYetTaught = {{"bat-swing", "casting"}, {"bat-swing", "lunging"}};
    QVERIFY(l.save(a));
    QVERIFY(*l.athletes().find(a.id) == a);
    a.notYetTaught.clear();
    QVERIFY(l.save(a));
    QVERIFY(*l.athletes().find(a.id) == a);
}

void LibraryTest::otherSide_tiesBothWays_survivesARemovalUndone()
{
    Library l = open();
    const Filled f = fill(l);
    const auto one = l.repetitions().of(f.clip)->front().id;
    const auto clip = *l.add(clipOf(f.day));
    const auto two = l.repetitions().of(clip)->front().id;
    QVERIFY(!*l.repetitions().secondCamera(one));
    QVERIFY(l.repetitions().setSecondCamera(one, two));
    QVERIFY(*l.repetitions().secondCamera(one) == two);
    QVERIFY(*l.repetitions().secondCamera(two) == one);
    const auto taken = l.take(clip);
    QVERIFY(taken);
    QVERIFY(!*l.repetitions().secondCamera(one)); // what is gone is tied to nothing
    QVERIFY(l.restore(*taken));
    QVERIFY(*l.repetitions().secondCamera(one) == two);
    const auto third = l.repetitions().of(*l.add(clipOf(f.day)))->front().id;
    QVERIFY(l.repetitions().setSecondCamera(two, third)); // the tie that another stored gives way
    QVERIFY(!*l.repetitions().secondCamera(one));
    QVERIFY(l.repetitions().setSecondCamera(third, std::nullopt));
    QVERIFY(!*l.repetitions().secondCamera(two));
}

void LibraryTest::days_newestFirst_clipsInOrder()
{
    Library l = open();
    const auto f = fill(l);
    const auto later = *l.add(FilmingDay{{}, f.athlete, "2026-06-01", "overhand-pitch", ""});
    auto turned = *l.days().find(later); // on that day from the other side
    turned.side = Hand::Left;
    QVERIFY(l.save(turned));
    QCOMPARE(*l.days().find(later), turned);
    QCOMPARE(athleteOn(*l.athletes().find(f.athlete), turned).hand, Hand::Left);
    turned.side.reset();
    QVERIFY(l.save(turned));
    QVERIFY(!l.days().find(later)->side);
    const auto second = *l.add(clipOf(f.day));
    const auto days = *l.days().of(f.athlete);
    QCOMPARE(days.front().id, later);
    const auto clips = *l.clips().of(f.day);
    QCOMPARE(clips.front().id, f.clip);
    QCOMPARE(clips.back().id, second);
}

void LibraryTest::save_changesOnlyThatRow()
{
    Library l = open();
    const auto f = fill(l);
    const auto other = *l.add(ada());
    Athlete a = *l.athletes().find(f.athlete);
    a.name = "Robert'); DROP TABLE athlete;--";
    a.heights = {{"2025-03-01", 1.4}, {"2026-03-01", 1.47}};
    a.batHand = Hand::Right;
    a.consentDate = "2026-02-01";
    a.level = "first season";
    a.goal = "to start";
    a.kit = "net, soft balls";
    a.space = "garden";
    a.practiceDays = "mon,sat";
    QVERIFY(l.save(a));
    QVERIFY(*l.athletes().find(f.athlete) == a);
    QCOMPARE(l.athletes().find(other)->name, ada().name);
    Clip c = *l.clips().find(f.clip);
    c.scene.scale.reset();
    c.clock.capture = 120;
    QVERIFY(l.save(c));
    QVERIFY(*l.clips().find(f.clip) == c);
    FilmingDay d = *l.days().find(f.day);
    d.school = "low-drive";
    d.kind = "match";
    d.note = "windy";
    d.pain = {BodyRegion::Elbow, BodyRegion::Knee};
    d.handUse = HandUse::Batting;
    QVERIFY(l.save(d));
    QVERIFY(*l.days().find(f.day) == d);
}

void LibraryTest::take_thenRestore_givesEverythingBack()
{
    Library l = open();
    const auto f = fill(l);
    const Marking before = *l.marking(f.clip);
    const auto athlete = l.take(f.athlete);
    QVERIFY(athlete);
    QVERIFY(l.athletes().all()->empty());
    QVERIFY(l.restore(*athlete));
    QVERIFY(*l.marking(f.clip) == before);
    const auto day = l.take(f.day);
    QVERIFY(day && l.days().of(f.athlete)->empty());
    QVERIFY(l.restore(*day));
    const auto clip = l.take(f.clip);
    QVERIFY(clip && l.clips().of(f.day)->empty());
    QVERIFY(l.restore(*clip));
    QVERIFY(*l.marking(f.clip) == before);
}

void LibraryTest::take_removesAllThatBelongsToIt()
{
    {
        Library l = open();
        QVERIFY(l.take(fill(l).athlete));
    }
    auto db = Database::open(folder() + "/library.db", Database::Mode::ReadOnly);
    QVERIFY(db);
    for (const auto* table : {"athlete", "filming_day", "clip", "repetition", "event", "mark"}) {
        auto count = db->run(QStringLiteral("SELECT count(*) FROM %1").arg(QLatin1String(table)));
        QVERIFY(count && count->next());
        QCOMPARE(count->value(0).toInt(), 0);
    }
    // deleted means deleted: the name is not left in the file
    QVERIFY(contentOf(folder() + "/library.db").find("O'Hill") == std::string::npos);
}

void LibraryTest::add_withoutParent_isRefused()
{
    Library l = open();
    const auto day = l.add(FilmingDay{{}, AthleteId(99), "2026-01-01", "overhand-pitch", ""});
    QVERIFY(!day);
    QCOMPARE(day.error().code, ErrorCode::Database);
    const auto clip = l.add(clipOf(DayId(99)));
    QVERIFY(!clip);
}

void LibraryTest::addMarking_neverReplacesTheCoach()
{
    Library l = open();
    const auto f = fill(l);
    Marking network;
    network.events = {{"strike", FramePosition(5.0), 1, Source::Network}, {"lift", FramePosition(6.0), 1, Source::Network}};
    network.marks = {{FrameIndex(211), *findLandmark("wrist.left"), {99, 99}, 3, Source::Network, true},
                     {FrameIndex(212), *findLandmark("wrist.left"), {98, 98}, 3, Source::Network, true}};
    QVERIFY(l.marks().addMarking(f.clip, network));
    const Marking m = *l.marking(f.clip);
    QCOMPARE(findEvent(m, "strike")->frame.value, 211.5);
    QCOMPARE(findEvent(m, "lift")->source, Source::Network);
    QCOMPARE(findMark(m, FrameIndex(211), *findLandmark("wrist.left"))->at.x, 10.25);
    QCOMPARE(findMark(m, FrameIndex(212), *findLandmark("wrist.left"))->at.x, 98.0);
}

void LibraryTest::programWork_replacesOnlyAProgramsInItsStretch()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions().of(f.clip)->front().id;
    const Landmark wrist = *findLandmark("wrist.left"), knee = *findLandmark("knee.left");
    const auto seen = [](std::int64_t frame, const Landmark& landmark, double x) {
        return Mark{FrameIndex(frame), landmark, {x, x}, 3, Source::Network, true};
    };
    const ProgramWork early{FrameIndex(0), FrameIndex(100), {seen(50, knee, 1)}, {}, {}};
    const ProgramWork late{FrameIndex(200),
                           FrameIndex(300),
                           {seen(211, wrist, 2), seen(211, knee, 3), seen(250, knee, 4)},
                           {{"strike", Event{"strike", FramePosition(5.0), 1, Source::Network}},
                            {"lift", Event{"lift", FramePosition(6.0), 1, Source::Network}}},
                           {}};
    QVERIFY(l.marks().setProgramWork(f.clip, repetition, early));
    QVERIFY(l.marks().setProgramWork(f.clip, repetition, late));
    Marking m = *l.marking(f.clip);
    QCOMPARE(findMark(m, FrameIndex(211), wrist)->at.x, 10.25); // the coach's
    QCOMPARE(findMark(m, FrameIndex(211), knee)->at.x, 3.0);
    QCOMPARE(findMark(m, FrameIndex(50), knee)->at.x, 1.0); // of another stretch
    QCOMPARE(findEvent(m, "strike")->frame.value, 211.5);
    QCOMPARE(findEvent(m, "lift")->source, Source::Network);

    const ProgramWork none{FrameIndex(200), FrameIndex(300), {}, {{"lift", {}}, {"strike", {}}}, {}};
    QVERIFY(l.marks().setProgramWork(f.clip, repetition, none));
    m = *l.marking(f.clip);
    QVERIFY(!findMark(m, FrameIndex(250), knee) && findMark(m, FrameIndex(50), knee) && findMark(m, FrameIndex(211), wrist));
    QVERIFY(!findEvent(m, "lift") && findEvent(m, "strike"));

    ProgramWork forged = late;
    forged.marks.back().source = Source::Coach;
    QVERIFY(!l.marks().setProgramWork(f.clip, repetition, forged)); // a program cannot speak for the coach
    QVERIFY(*l.marking(f.clip) == m);
}

void LibraryTest::programWork_ofOnePoint_outlivesTheBodys()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions().of(f.clip)->front().id;
    const Landmark knee = *findLandmark("knee.left"), hip = *findLandmark("hip.left");
    const auto at = [](std::int64_t frame, const Landmark& landmark, double x, Source source) {
        return Mark{FrameIndex(frame), landmark, {x, x}, 3, source, true};
    };
    const FrameIndex first(0), last(100);
    QVERIFY(l.marks().setProgramWork(
        f.clip, repetition, {first, last, {at(50, knee, 1, Source::Network), at(50, hip, 2, Source::Network)}, {}, {}, {}}));
    QVERIFY(l.marks().setProgramWork(f.clip, repetition, {first, last, {at(50, knee, 7, Source::Tracked)}, {}, {}, knee}));
    Marking m = *l.marking(f.clip);
    QCOMPARE(findMark(m, FrameIndex(50), knee)->at.x, 7.0);
    QCOMPARE(findMark(m, FrameIndex(50), hip)->at.x, 2.0); // another point
    QVERIFY(l.marks().setProgramWork(
        f.clip, repetition, {first, last, {at(50, knee, 3, Source::Network), at(50, hip, 4, Source::Network)}, {}, {}, {}}));
    m = *l.marking(f.clip);
    QCOMPARE(findMark(m, FrameIndex(50), knee)->at.x, 7.0);
    QCOMPARE(findMark(m, FrameIndex(50), hip)->at.x, 4.0);
}

void LibraryTest::setRepetitions_replacesAll_givesBack()
{
    Library l = open();
    const auto f = fill(l);
    const auto before = *l.repetitions().records(f.clip);
    RepetitionRecord early = before.front(), late;
    early.repetition.last = FrameIndex(99);
    late.repetition.first = FrameIndex(100);
    late.repetition.last = FrameIndex(200);
    late.events = {{"lift", FramePosition(120), 1, Source::Network}};
    const auto ids = *l.repetitions().replace(f.clip, {early, late});
    QCOMPARE(ids.size(), std::size_t{2});
    QCOMPARE(ids.front(), before.front().repetition.id);
    QCOMPARE(l.repetitions().of(f.clip)->size(), std::size_t{2});
    QCOMPARE(findEvent(*l.marking(ids.back()), "lift")->frame.value, 120.0);
    QVERIFY(!l.repetitions().replace(f.clip, {}));
    QCOMPARE(l.repetitions().of(f.clip)->size(), std::size_t{2}); // nothing was done
    QVERIFY(l.repetitions().replace(f.clip, before));
    QVERIFY(*l.repetitions().records(f.clip) == before);
}

void LibraryTest::setEventAndMark_emptyRemoves()
{
    Library l = open();
    const auto f = fill(l);
    const Landmark wrist = *findLandmark("wrist.left");
    QVERIFY(l.marks().set(f.clip, FrameIndex(211), wrist, Mark{FrameIndex(211), wrist, {7, 8}, 1, Source::Coach, false}));
    QCOMPARE(findMark(*l.marking(f.clip), FrameIndex(211), wrist)->at.y, 8.0);
    QVERIFY(!findMark(*l.marking(f.clip), FrameIndex(211), wrist)->visible);
    QVERIFY(l.marks().set(f.clip, FrameIndex(211), wrist, {}));
    QVERIFY(!findMark(*l.marking(f.clip), FrameIndex(211), wrist));
    QVERIFY(l.repetitions().setEvent(l.repetitions().of(f.clip)->front().id, "strike",
                                     Event{"strike", FramePosition(3.0), 0.5, Source::Coach}));
    QCOMPARE(findEvent(*l.marking(f.clip), "strike")->frame.value, 3.0);
    QVERIFY(l.repetitions().setEvent(l.repetitions().of(f.clip)->front().id, "strike", {}));
    QVERIFY(l.marking(f.clip)->events.empty());
}

void LibraryTest::missingRow_isNotFound()
{
    Library l = open();
    QCOMPARE(l.athletes().find(AthleteId(7)).error().code, ErrorCode::NotFound);
    QCOMPARE(l.clips().find(ClipId(7)).error().code, ErrorCode::NotFound);
    QCOMPARE(l.marking(ClipId(7)).error().code, ErrorCode::NotFound);
    QCOMPARE(l.take(DayId(7)).error().code, ErrorCode::NotFound);
    QVERIFY(l.athletes().all()->empty() && l.days().of(AthleteId(7))->empty());
}

void LibraryTest::film_insideTheFolder_isStoredRelative()
{
    Library l = open();
    QCOMPARE(l.storedPath(folder() + "/films/a.mp4"), std::string("films/a.mp4"));
    QCOMPARE(l.storedPath("/elsewhere/a.mp4"), std::string("/elsewhere/a.mp4"));
    Clip c;
    c.file = "films/a.mp4";
    QCOMPARE(l.filmPath(c), folder() + "/films/a.mp4");
    c.file = "/elsewhere/a.mp4";
    QCOMPARE(l.filmPath(c), std::string("/elsewhere/a.mp4"));
}

void LibraryTest::readOnly_reads_refusesChangesClearly()
{
    Filled f;
    {
        Library l = open();
        f = fill(l);
    }
    Library l = open(true);
    QVERIFY(l.isReadOnly());
    QCOMPARE(l.athletes().all()->size(), std::size_t{1});
    QCOMPARE(l.marking(f.clip)->marks.size(), std::size_t{2});
    for (const auto& error :
         {l.add(ada()).error(), l.repetitions().setEvent(l.repetitions().of(f.clip)->front().id, "strike", {}).error(),
          l.take(f.athlete).error()}) {
        QCOMPARE(error.code, ErrorCode::ReadOnly);
        QVERIFY2(error.text().find("read-only") != std::string::npos && error.text().find("library.db") != std::string::npos,
                 error.text().c_str());
    }
    QCOMPARE(l.marking(f.clip)->events.size(), std::size_t{1});
}

void LibraryTest::readOnly_withoutLibrary_saysSo()
{
    const auto l = Library::open(folder(), true);
    QVERIFY(!l);
    QCOMPARE(l.error().code, ErrorCode::CannotOpen);
    QVERIFY(QDir(m_folder->path()).isEmpty()); // and makes none
}

void LibraryTest::notALibrary_isRefusedAndKept_data()
{
    QTest::addColumn<QByteArray>("content");
    QTest::newRow("text") << QByteArray("Dear coach, this is my homework.").repeated(100);
    QTest::newRow("half a header") << QByteArray("SQLite format 3\0broken", 22).leftJustified(5000, 'x');
}

void LibraryTest::notALibrary_isRefusedAndKept()
{
    QFETCH(QByteArray, content);
    writeFile(folder() + "/library.db", content.toStdString());
    const auto l = Library::open(folder());
    QVERIFY(!l);
    QCOMPARE(l.error().code, ErrorCode::Damaged);
    QVERIFY2(l.error().text().find("damaged") != std::string::npos, l.error().text().c_str());
    QVERIFY(contentOf(folder() + "/library.db") == content.toStdString());
}

void LibraryTest::newerLibrary_isRefusedAndKept()
{
    {
        Library l = open();
        fill(l);
    }
    {
        auto db = Database::open(folder() + "/library.db", Database::Mode::ReadWrite);
        QVERIFY(db->run(QStringLiteral("PRAGMA user_version = 77")));
    }
    const auto l = Library::open(folder());
    QVERIFY(!l);
    QCOMPARE(l.error().code, ErrorCode::WrongVersion);
    QVERIFY2(l.error().text().find("77") != std::string::npos, l.error().text().c_str());
}

void LibraryTest::migration_fromEachEarlierVersion_keepsRows_data()
{
    QTest::addColumn<int>("version");
    for (int v = 1; v < static_cast<int>(migrations().size()); ++v)
        QTest::addRow("version %d", v) << v;
}

void LibraryTest::migration_fromEachEarlierVersion_keepsRows()
{
    QFETCH(int, version);
    {
        auto db = Database::open(folder() + "/library.db", Database::Mode::ReadWrite);
        QVERIFY(db && migrate(*db, version));
        QCOMPARE(*schemaVersion(*db), version);
        const bool isBySkill = version >= 7; // heights have dates, and what is placed belongs to a skill
        QVERIFY(db->run(
            QStringLiteral("INSERT INTO athlete (id, name, birth_date, hand, %1 guardian_consent) VALUES "
                           "(4, 'Old Timer', '2001-01-01', 'left', %2 1)")
                .arg(isBySkill ? QStringLiteral("uuid, bat_hand,") : QStringLiteral("height_metres,"),
                     isBySkill ? QStringLiteral("'4a7e3c52-0000-4000-8000-000000000004', 'left',") : QStringLiteral("1.8,"))));
        if (isBySkill)
            QVERIFY(db->run(QStringLiteral("INSERT INTO height VALUES (4, '2020-01-01', 1.8)")));
        QVERIFY(db->run(
            QStringLiteral("INSERT INTO filming_day (id, athlete, date, skill) VALUES (5, 4, '2020-01-01', 'overhand-pitch')")));
        const bool hadVariant = version < 3;
        QVERIFY(db->run(QStringLiteral("INSERT INTO clip VALUES (6, 5, 'a.mp4', 'h', %1 640, 480, 90, 30, 30, "
                                       "'{\"view\":\"side\",\"targetDirection\":\"left\"}'%2)")
                            .arg(hadVariant ? QStringLiteral("'stretch',") : QString(),
                                 isBySkill ? QStringLiteral(", 'a clip'") : QString())));
        if (hadVariant)
            QVERIFY(db->run(QStringLiteral("INSERT INTO event VALUES (6, 'strike', 42.5, 0.5, 'coach')")));
        else
            QVERIFY(db->run(QStringLiteral("INSERT INTO repetition (id, clip, first_frame, last_frame, name, variant, kind, "
                                           "is_live, outcome) VALUES (7, 6, 0, 89, '', 'windup', '', 1, '')")));
        const QString skill = isBySkill ? QStringLiteral("'overhand-pitch', ") : QString();
        if (!hadVariant)
            QVERIFY(db->run(QStringLiteral("INSERT INTO event VALUES (7, %1'strike', 42.5, 0.5, 'coach')").arg(skill)));
        if (version >= 4)
            QVERIFY(db->run(QStringLiteral("INSERT INTO answer VALUES (7, %1'eyes', 'lift')").arg(skill)));
        if (version >= 5)
            QVERIFY(db->run(QStringLiteral("UPDATE athlete SET not_yet_taught = 'overhand-pitch/head_drop'")));
        QVERIFY(db->run(QStringLiteral("INSERT INTO mark VALUES (6, 3, 'nose', 1.5, 2.5, 1, 'coach', 1)")));
    }
    Library l = open();
    const Athlete old = l.athletes().all()->front();
    QCOMPARE(old.name, std::string("Old Timer"));
    QCOMPARE(old.batHand, Hand::Left);                                  // as thrown
    QVERIFY((old.heights == std::vector<Height>{{"2020-01-01", 1.8}})); // measured on the last filming day
    QCOMPARE(old.notYetTaught.size(), std::size_t(version >= 5 ? 1 : 0));
    QCOMPARE(l.marking(ClipId(6))->athlete.heightMetres, std::optional(1.8));
    QCOMPARE(findEvent(*l.marking(ClipId(6)), "strike")->frame.value, 42.5);
    QCOMPARE(l.marking(ClipId(6))->answers.size(), std::size_t(version >= 4 ? 1 : 0));
    QCOMPARE(l.uuid(AthleteId(4))->size(), std::size_t{36});
    // the library as it was stays behind
    auto copy = Database::open(folder() + "/copies/library-version-" + std::to_string(version) + ".db", Database::Mode::ReadOnly);
    QVERIFY(copy);
    QCOMPARE(*schemaVersion(*copy), version);
    QCOMPARE(l.days().of(AthleteId(4))->front().school, std::string());
    QCOMPARE(l.marking(ClipId(6))->marks.front().at.x, 1.5);
    QCOMPARE(l.marking(ClipId(6))->scene.target, TargetDirection::Left);
    if (version < 3) { // what was the clip's is its first repetition's
        QCOMPARE(l.marking(ClipId(6))->variant, std::string("stretch"));
        QCOMPARE(l.repetitions().of(ClipId(6))->size(), std::size_t{1});
        QCOMPARE(l.repetitions().of(ClipId(6))->front().last.value, std::int64_t{89});
    }
}

void LibraryTest::answers_areKept_takenAndGivenBack()
{
    Library l = open();
    const auto athlete = *l.add(Athlete{{}, "Ida Vale", "2013-03-08", Hand::Right, {{"2026-01-01", 1.6}}, true});
    const auto day = *l.add(FilmingDay{{}, athlete, "2026-05-01", "overhand-pitch", ""});
    Clip clip;
    clip.day = day;
    clip.file = "a.mp4";
    clip.film = {"", 640, 480, 90};
    clip.clock = {30, 30};
    const auto id = *l.add(clip);
    const auto repetition = l.repetitions().of(id)->front().id;
    QVERIFY(l.repetitions().setAnswer(repetition, "eyes", "later"));
    QVERIFY(l.repetitions().setAnswer(repetition, "eyes", "lift")); // the last answer counts
    QVERIFY(l.repetitions().setAnswer(repetition, "grip", "firm"));
    QVERIFY(l.repetitions().setAnswer(repetition, "grip", std::nullopt));
    const std::map<std::string, std::string> expected{{"eyes", "lift"}};
    QCOMPARE(open().marking(id)->answers, expected);
    const auto taken = l.take(id);
    QVERIFY(taken);
    QVERIFY(l.restore(*taken));
    QCOMPARE(l.marking(id)->answers, expected);
}

void LibraryTest::transaction_notCommitted_isUndone()
{
    open();
    auto db = Database::open(folder() + "/library.db", Database::Mode::ReadWrite);
    {
        Transaction t(*db);
        QVERIFY(db->run(
            QStringLiteral("INSERT INTO athlete (id, name, birth_date, hand, guardian_consent) VALUES (1, 'x', '', 'left', 0)")));
    }
    auto count = db->run(QStringLiteral("SELECT count(*) FROM athlete"));
    QVERIFY(count->next());
    QCOMPARE(count->value(0).toInt(), 0);
}

/// SQLite's own page limit stands in for the disk: the same error code comes up the same way.
void LibraryTest::fullDisk_saysSo_losesNothing()
{
    open();
    auto db = Database::open(folder() + "/library.db", Database::Mode::ReadWrite);
    QVERIFY(db->run(
        QStringLiteral("INSERT INTO athlete (id, name, birth_date, hand, guardian_consent) VALUES (1, 'kept', '', 'left', 0)")));
    QVERIFY(db->run(QStringLiteral("PRAGMA max_page_count = 1"))); // no page more than there are
    Transaction t(*db);
    const auto added =
        db->run(QStringLiteral(
                    "INSERT INTO athlete (id, uuid, name, birth_date, hand, guardian_consent) VALUES (2, 'u', ?, '', 'left', 0)"),
                {QString(100'000, QLatin1Char('x'))});
    QVERIFY(!added);
    QCOMPARE(added.error().code, ErrorCode::CannotWrite);
    QVERIFY2(added.error().text().find("full") != std::string::npos, added.error().text().c_str());
    auto kept = db->run(QStringLiteral("SELECT name FROM athlete"));
    QVERIFY(kept->next());
    QCOMPARE(kept->value(0).toString(), QStringLiteral("kept"));
}

void LibraryTest::killedProcess_keepsWhatWasStored()
{
    open();
    const pid_t child = fork();
    if (child == 0) { // no Qt objects of the parent are touched: a new library object, then gone without a goodbye
        auto l = Library::open(folder());
        for (int i = 0; l && i < 25; ++i)
            (void)l->add(Athlete{{}, "Number " + std::to_string(i), "", Hand::Right, {}, false});
        kill(getpid(), SIGKILL);
    }
    int status = 0;
    QCOMPARE(waitpid(child, &status, 0), child);
    QVERIFY(WIFSIGNALED(status));
    QCOMPARE(open().athletes().all()->size(), std::size_t{25});
}

void LibraryTest::twoWindows_oneLibrary_bothSeeChanges()
{
    Library one = open(), two = open();
    const auto f = fill(one);
    QCOMPARE(two.athletes().all()->size(), std::size_t{1});
    QVERIFY(two.repetitions().setEvent(two.repetitions().of(f.clip)->front().id, "lift",
                                       Event{"lift", FramePosition(1.0), 0.5, Source::Coach}));
    QCOMPARE(one.marking(f.clip)->events.size(), std::size_t{2});
}

void LibraryTest::folder_thatCannotBeMade_saysSo()
{
    const auto l = Library::open("/proc/none/library");
    QVERIFY(!l);
    QCOMPARE(l.error().code, ErrorCode::CannotWrite);
}

/// A row in every table there is, found in the database itself: a new table that a removal would forget fails here.
void LibraryTest::take_noTableIsForgotten()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions().of(f.clip)->front().id;
    QVERIFY(l.repetitions().setAnswer(repetition, "eyes", "lift"));
    QVERIFY(l.readings().keep(repetition, {"key", "{}"}));
    Drawing drawing;
    drawing.at = {{{1, 2}, {}}, {{3, 4}, *findLandmark("knee.left")}};
    drawing.lives.on = Lives::On::Repetition;
    const auto drawn = l.add(DrawingRow{{}, repetition, drawing});
    QVERIFY(drawn);
    QVERIFY((*l.drawings().seenOn(repetition) == std::vector<DrawingRow>{{*drawn, repetition, drawing}}));
    SentRow page{{}, f.day, "2026-11-29", "page", "Ada.pdf", "{}", std::string("%PDF\0\xff bytes", 12)};
    const auto sent = l.sent().add(page);
    QVERIFY(sent);
    QCOMPARE(l.sent().find(*sent)->content, page.content);
    QCOMPARE(l.sent().of(f.athlete)->size(), std::size_t{1});
    QVERIFY(l.walks().set(f.day, "{}"));
    QCOMPARE(**l.walks().of(f.day), std::string("{}"));
    const PagePicture picture{"7f2c.png", "Between 3.1 and 3.9 degrees."};
    QVERIFY(!*l.pagePictures().names(picture.file));
    QVERIFY(l.pagePictures().set(f.day, picture));
    QCOMPARE(**l.pagePictures().of(f.day), picture);
    QVERIFY(*l.pagePictures().names(picture.file));
    BookDay booked;
    booked.date = *parseDate("2026-11-20");
    booked.counts["pitch"] = 52;
    QVERIFY(l.books().set(f.athlete, booked));
    QVERIFY(l.books().addCleared(f.athlete, {booked.date, BodyRegion::Elbow}));
    QCOMPARE(l.books().of(f.athlete)->find(booked.date)->counts.at("pitch"), 52);
    Plan plan;
    plan.start = plan.refilm = booked.date;
    QVERIFY(l.plans().add(f.athlete, plan));
    plan.sequence = 1;
    QVERIFY(l.plans().add(f.athlete, plan));
    QCOMPARE(l.plans().latest(f.athlete)->value().sequence, 1);
    QCOMPARE(l.plans().versions(f.athlete)->size(), std::size_t{2});
    QVERIFY(l.plans().removeLatest(f.athlete));
    QCOMPARE(l.plans().latest(f.athlete)->value().sequence, 0);
    FilmingDay day = *l.days().find(f.day);
    day.skill = "bat-swing"; // keeps the variant aside
    QVERIFY(l.days().save(day, "pitched-ball"));
    auto db = Database::open(folder() + "/library.db", Database::Mode::ReadWrite);
    const auto everything = [&] {
        QStringList all;
        auto tables = db->run(
            QStringLiteral("SELECT name FROM sqlite_master WHERE type='table' AND name NOT LIKE 'sqlite_%' ORDER BY name"));
        while (tables->next()) {
            const QString table = tables->value(0).toString();
            auto rows = db->run(QStringLiteral("SELECT * FROM %1 ORDER BY 1, 2").arg(table));
            while (rows->next()) {
                QString line = table;
                for (int i = 0; rows->value(i).isValid(); ++i)
                    line += QLatin1Char('|') + rows->value(i).toString();
                all << line;
            }
            if (table != QLatin1String("film") && table != QLatin1String("match_log")) // of no athlete
                all << QStringLiteral("rows in %1: %2").arg(table).arg(all.filter(table + QStringLiteral("|")).isEmpty() ? 0 : 1);
        }
        return all;
    };
    const QStringList before = everything();
    QVERIFY2(before.filter(QStringLiteral(": 0")).isEmpty(),
             qPrintable(before.filter(QStringLiteral(": 0")).join(QStringLiteral(", "))));
    const auto taken = l.take(f.athlete);
    QVERIFY(taken);
    QVERIFY2(everything().filter(QStringLiteral("|")).isEmpty(), qPrintable(everything().join(QLatin1Char('\n'))));
    QVERIFY(l.restore(*taken));
    QCOMPARE(everything(), before);
}

void LibraryTest::match_isKept_takenAndRestored()
{
    Library l = open();
    MatchLog log;
    log.sport = "tennis";
    log.players = {"Mira", "Joost"};
    log.firstServer = "Joost";
    log.rallies.resize(3);
    log.rallies[1].won = "Mira";
    const auto id = l.matches().add(log);
    QVERIFY(id);
    log.rallies[1].won = "Joost";
    QVERIFY(l.matches().save(*id, log));
    QCOMPARE(l.matches().find(*id)->log, log);
    const auto taken = l.take(*id);
    QVERIFY(taken && l.matches().all()->empty());
    QVERIFY(l.restore(*taken));
    QCOMPARE(l.matches().all()->front().log, log);
}

void LibraryTest::book_painOfAFilmingDay_isInIt()
{
    Library l = open();
    const auto f = fill(l);
    FilmingDay day = *l.days().find(f.day);
    day.pain = {BodyRegion::Elbow};
    QVERIFY(l.days().save(day));
    const auto on = *parseDate(day.date);
    QVERIFY(l.books().of(f.athlete)->openPain(on).count(BodyRegion::Elbow));
    QVERIFY(l.books().all()->at(f.athlete).openPain(on + std::chrono::days(40)).count(BodyRegion::Elbow));
    QVERIFY(l.books().addCleared(f.athlete, {on + std::chrono::days(9), BodyRegion::Elbow}));
    QVERIFY(l.books().of(f.athlete)->openPain(on + std::chrono::days(40)).empty());
    BookDay old, hurt, recent;
    old.date = on - std::chrono::days(100);
    old.counts["pitch"] = 20;
    hurt.date = on - std::chrono::days(90);
    hurt.pain = {{BodyRegion::Knee, 2}};
    recent.date = on + std::chrono::days(1);
    recent.counts["pitch"] = 30;
    for (const auto& booked : {old, hurt, recent})
        QVERIFY(l.books().set(f.athlete, booked));
    const Book late = l.books().since(on)->at(f.athlete);
    QVERIFY(!late.find(old.date) && late.find(hurt.date) && late.find(recent.date)); // pain is never forgotten
    BookDay empty;
    empty.date = on;
    QVERIFY(l.books().set(f.athlete, empty)); // leaves nothing of its own
    QCOMPARE(l.days().lastDates()->at(f.athlete), day.date);
    FilmingDay later = day;
    later.id = {};
    later.date = "2026-11-02";
    QVERIFY(l.days().add(later)); // has no film yet
    QCOMPARE(l.days().lastDates()->at(f.athlete), later.date);
    QCOMPARE(l.days().lastFilmed()->at(f.athlete), day.date);
}

void LibraryTest::uuids_areUnique_outliveARemovalUndone()
{
    Library l = open();
    const auto f = fill(l), g = fill(l);
    QVERIFY(*l.uuid(f.athlete) != *l.uuid(g.athlete) && *l.uuid(f.clip) != *l.uuid(g.clip) && *l.uuid(f.day) != *l.uuid(g.day));
    const auto name = *l.uuid(f.clip);
    const auto taken = l.take(f.athlete);
    QVERIFY(taken && l.restore(*taken));
    QCOMPARE(*l.uuid(f.clip), name);
    QCOMPARE(name.size(), std::size_t{36});
}

void LibraryTest::skill_changedAndBack_eventsAnswersVariantsComeBack()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions().of(f.clip)->front().id;
    QVERIFY(l.repetitions().setAnswer(repetition, "eyes", "lift"));
    const Marking before = *l.marking(f.clip);
    FilmingDay day = *l.days().find(f.day);
    const FilmingDay pitch = day;
    day.skill = "overhead-serve";
    day.handUse = HandUse::Batting;
    QVERIFY(l.days().save(day, "platform"));
    Marking serve = *l.marking(f.clip);
    QVERIFY(serve.events.empty() && serve.answers.empty());
    QCOMPARE(serve.variant, std::string("platform"));
    QVERIFY(serve.marks == before.marks);
    QVERIFY(l.repetitions().setEvent(repetition, "contact", Event{"contact", FramePosition(20.0), 0.5, Source::Coach}));
    RepetitionRow row = *l.repetitions().find(repetition);
    row.variant = "pinpoint";
    QVERIFY(l.save(row));
    QVERIFY(l.days().save(pitch, "stretch"));
    QVERIFY(*l.marking(f.clip) == before);
    QVERIFY(l.days().save(day, "platform"));
    serve = *l.marking(f.clip);
    QCOMPARE(findEvent(serve, "contact")->frame.value, 20.0);
    QCOMPARE(serve.variant, std::string("pinpoint"));
}

void LibraryTest::clip_movedAndBack_keepsWhatWasPlaced()
{
    Library l = open();
    const auto f = fill(l);
    const auto other = *l.add(FilmingDay{{}, f.athlete, "2026-06-01", "overhead-serve", ""});
    const auto tied = *l.add(clipOf(f.day));
    const auto one = l.repetitions().of(f.clip)->front().id;
    QVERIFY(l.repetitions().setSecondCamera(one, l.repetitions().of(tied)->front().id));
    const Marking before = *l.marking(f.clip);
    const Clip here = *l.clips().find(f.clip);
    Clip there = here;
    there.day = other;
    QVERIFY(l.clips().save(there, "platform"));
    QVERIFY(l.marking(f.clip)->events.empty());
    QCOMPARE(l.marking(f.clip)->variant, std::string("platform"));
    QVERIFY(l.marking(f.clip)->marks == before.marks);
    QVERIFY(!*l.repetitions().secondCamera(one)); // two days, two repetitions
    QVERIFY(l.clips().save(here));
    QVERIFY(*l.marking(f.clip) == before);
    QVERIFY(*l.repetitions().secondCamera(one));
}

void LibraryTest::batting_usesTheBattingSide()
{
    Library l = open();
    const auto f = fill(l);
    Athlete a = *l.athletes().find(f.athlete);
    a.hand = Hand::Left;
    a.batHand = Hand::Right;
    QVERIFY(l.save(a));
    QCOMPARE(l.marking(f.clip)->athlete.hand, Hand::Left);
    FilmingDay day = *l.days().find(f.day);
    day.handUse = HandUse::Batting;
    QVERIFY(l.save(day));
    QCOMPARE(l.marking(f.clip)->athlete.hand, Hand::Right);
}

void LibraryTest::revision_changesWithEveryMark()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions().of(f.clip)->front().id;
    const Landmark nose = *findLandmark("nose");
    std::set<std::int64_t> seen{*l.marks().revision(f.clip)};
    const auto isNew = [&] { return seen.insert(*l.marks().revision(f.clip)).second; };
    QVERIFY(l.marks().set(f.clip, FrameIndex(3), nose, Mark{FrameIndex(3), nose, {1, 2}, 1, Source::Coach, true}));
    QVERIFY(isNew());
    QVERIFY(l.marks().set(f.clip, FrameIndex(3), nose, {}));
    QVERIFY(isNew());
    QVERIFY(l.marks().setProgramWork(f.clip, repetition, {FrameIndex(0), FrameIndex(9), {}, {}, {}}));
    QVERIFY(isNew());
    QVERIFY(l.marks().addMarking(f.clip, {}));
    QVERIFY(isNew());
    const auto taken = l.take(f.clip);
    QVERIFY(taken && l.restore(*taken));
    QVERIFY(!isNew()); // the same marks
    const auto other = fill(l);
    QVERIFY(l.marks().set(other.clip, FrameIndex(3), nose, Mark{FrameIndex(3), nose, {1, 2}, 1, Source::Coach, true}));
    QVERIFY(!isNew()); // another clip's
}

void LibraryTest::readings_areKeptWithTheirKey()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions().of(f.clip)->front().id;
    QVERIFY(!*l.readings().kept(repetition));
    QVERIFY(l.readings().keep(repetition, {"a", "[1]"}));
    QVERIFY(l.readings().keep(repetition, {"b", "[2]"}));
    QVERIFY((**open().readings().kept(repetition) == KeptReadings{"b", "[2]"}));
}

void LibraryTest::summaries_sayWhatMarkingsSay()
{
    Library l = open();
    const auto f = fill(l);
    const auto empty = *l.add(clipOf(f.day), "stretch");
    RepetitionRow more;
    more.clip = f.clip;
    more.first = FrameIndex(300);
    more.last = FrameIndex(400);
    QVERIFY(l.add(more));
    const auto all = *l.clips().summaries(f.day);
    QCOMPARE(all.size(), std::size_t{2});
    QCOMPARE(all[0].repetitions, 2);
    QVERIFY(all[0].events == l.marking(f.clip)->events);
    QCOMPARE(all[0].variant, std::string("windup"));
    QVERIFY(all[1].clip == *l.clips().find(empty) && all[1].events.empty());
}

void LibraryTest::together_oneFails_nothingIsDone()
{
    Library l = open();
    const auto f = fill(l);
    const auto done = l.together([&]() -> Expected<void> {
        Athlete a = *l.athletes().find(f.athlete);
        a.name = "Changed";
        if (auto saved = l.save(a); !saved)
            return saved;
        return l.add(clipOf(DayId(99))).map([](ClipId) {}); // no such day
    });
    QVERIFY(!done);
    QCOMPARE(l.athletes().find(f.athlete)->name, ada().name);
    QVERIFY(l.add(ada())); // and the library goes on
}

void LibraryTest::heightOn_data()
{
    QTest::addColumn<QString>("day");
    QTest::addColumn<double>("metres");
    QTest::newRow("before the first") << "2024-01-01" << 1.40;
    QTest::newRow("on the first") << "2025-01-01" << 1.40;
    QTest::newRow("half way of 100 days") << "2025-02-20" << 1.43;
    QTest::newRow("on the second") << "2025-04-11" << 1.46;
    QTest::newRow("after the last") << "2027-01-01" << 1.46;
    QTest::newRow("not a date") << "spring" << 1.46;
}

void LibraryTest::heightOn()
{
    QFETCH(QString, day);
    QFETCH(double, metres);
    const std::vector<Height> heights{{"2025-01-01", 1.40}, {"2025-04-11", 1.46}};
    QVERIFY(std::abs(*store::heightOn(heights, day.toStdString()) - metres) < 1e-9);
    QVERIFY(!store::heightOn({}, day.toStdString()));
}

void LibraryTest::ageOn_data()
{
    QTest::addColumn<QString>("born");
    QTest::addColumn<QString>("day");
    QTest::addColumn<double>("age"); // negative: empty
    QTest::newRow("on the birthday") << "2012-05-30"
                                     << "2026-05-30" << 14.0;
    QTest::newRow("the day before") << "2012-05-30"
                                    << "2026-05-29" << 14 - 1 / 365.0;
    QTest::newRow("half a year") << "2012-01-01"
                                 << "2026-07-02" << 14 + 182 / 365.0;
    QTest::newRow("born on a leap day") << "2012-02-29"
                                        << "2026-03-01" << 14 + 1 / 365.0;
    QTest::newRow("not known") << ""
                               << "2026-05-30" << -1.0;
    QTest::newRow("not a date") << "last May"
                                << "2026-05-30" << -1.0;
    QTest::newRow("not born yet") << "2030-01-01"
                                  << "2026-05-30" << -1.0;
}

void LibraryTest::ageOn()
{
    QFETCH(QString, born);
    QFETCH(QString, day);
    QFETCH(double, age);
    const auto found = store::ageOn(born.toStdString(), day.toStdString());
    QCOMPARE(found.has_value(), age >= 0);
    if (found)
        QVERIFY2(std::abs(*found - age) < 0.0001, qPrintable(QString::number(*found)));
}

void LibraryTest::contentHash_isSha256()
{
    const std::string file = folder() + "/abc";
    writeFile(file, "abc");
    QCOMPARE(*calcContentHash(file), std::string("ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"));
    writeFile(file, "");
    QCOMPARE(*calcContentHash(file), std::string("e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855"));
    QCOMPARE(calcContentHash(folder() + "/gone").error().code, ErrorCode::CannotOpen);
}

void LibraryTest::contentHash_findsAMovedFilm()
{
    QVERIFY(QDir(m_folder->path()).mkpath(QStringLiteral("a/b/c")));
    writeFile(folder() + "/a/other.mp4", "other");
    writeFile(folder() + "/a/b/c/renamed.MOV", "film");
    writeFile(folder() + "/a/note.txt", "film"); // not a film's name
    const std::string hash = *calcContentHash(folder() + "/a/note.txt");
    const auto found = findByContent(folder(), hash);
    QVERIFY(found);
    QCOMPARE(*found, folder() + "/a/b/c/renamed.MOV");
    QCOMPARE(findByContent(folder(), "0000").error().code, ErrorCode::NotFound);
}

void LibraryTest::contentHash_stopped_isCancelled()
{
    writeFile(folder() + "/a.mp4", "film");
    std::stop_source stop;
    stop.request_stop();
    QCOMPARE(calcContentHash(folder() + "/a.mp4", stop.get_token()).error().code, ErrorCode::Cancelled);
    QCOMPARE(findByContent(folder(), "0000", stop.get_token()).error().code, ErrorCode::Cancelled);
}

KESTREL_TEST(LibraryTest)
#include "library_test.moc"
