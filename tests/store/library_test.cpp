#include "support/markings.h"
#include "support/runner.h"

#include "store/content_hash.h"
#include "store/library.h"
#include "store/migrations.h"

#include <QTemporaryDir>
#include <QtTest>

#include <csignal>
#include <sys/wait.h>
#include <unistd.h>

using namespace kestrel;
using namespace kestrel::store;
using namespace kestrel::test;

namespace {

Athlete ada()
{
    return {{}, "Ada \"Ace\" O'Hill", "2013-04-05", Hand::Left, 1.52, true};
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
    if (const auto added = l.addMarking(f.clip, m); !added)
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
    QVERIFY(*l.athlete(f.athlete) == a);
    QCOMPARE(l.day(f.day)->school, std::string("tall"));
    Clip c = clipOf(f.day);
    c.id = f.clip;
    QVERIFY(*l.clip(f.clip) == c);
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
    const auto all = *l.athletes();
    QCOMPARE(all.size(), std::size_t{3});
    QCOMPARE(all[0].name, std::string("Ann"));
    QCOMPARE(all[1].name, std::string("bea"));
    QVERIFY(!all[0].heightMetres);
}

void LibraryTest::notYetTaught_isKept()
{
    Library l = open();
    Athlete a{{}, "Ann", "", Hand::Right, {}, false, {{"overhand-pitch", "head_drop"}}};
    a.id = *l.add(a);
    QVERIFY(*l.athlete(a.id) == a);
    a.notYetTaught = {{"bat-swing", "casting"}, {"bat-swing", "lunging"}};
    QVERIFY(l.save(a));
    QVERIFY(*l.athlete(a.id) == a);
    a.notYetTaught.clear();
    QVERIFY(l.save(a));
    QVERIFY(*l.athlete(a.id) == a);
}

void LibraryTest::otherSide_tiesBothWays_survivesARemovalUndone()
{
    Library l = open();
    const Filled f = fill(l);
    const auto one = l.repetitions(f.clip)->front().id;
    const auto clip = *l.add(clipOf(f.day));
    const auto two = l.repetitions(clip)->front().id;
    QVERIFY(!*l.otherSide(one));
    QVERIFY(l.setOtherSide(one, two));
    QVERIFY(*l.otherSide(one) == two);
    QVERIFY(*l.otherSide(two) == one);
    const auto taken = l.take(clip);
    QVERIFY(taken);
    QVERIFY(!*l.otherSide(one)); // what is gone is tied to nothing
    QVERIFY(l.restore(*taken));
    QVERIFY(*l.otherSide(one) == two);
    const auto third = l.repetitions(*l.add(clipOf(f.day)))->front().id;
    QVERIFY(l.setOtherSide(two, third)); // the tie that another stored gives way
    QVERIFY(!*l.otherSide(one));
    QVERIFY(l.setOtherSide(third, std::nullopt));
    QVERIFY(!*l.otherSide(two));
}

void LibraryTest::days_newestFirst_clipsInOrder()
{
    Library l = open();
    const auto f = fill(l);
    const auto later = *l.add(FilmingDay{{}, f.athlete, "2026-06-01", "overhand-pitch", ""});
    const auto second = *l.add(clipOf(f.day));
    const auto days = *l.days(f.athlete);
    QCOMPARE(days.front().id, later);
    const auto clips = *l.clips(f.day);
    QCOMPARE(clips.front().id, f.clip);
    QCOMPARE(clips.back().id, second);
}

void LibraryTest::save_changesOnlyThatRow()
{
    Library l = open();
    const auto f = fill(l);
    const auto other = *l.add(ada());
    Athlete a = *l.athlete(f.athlete);
    a.name = "Robert'); DROP TABLE athlete;--";
    a.heightMetres.reset();
    QVERIFY(l.save(a));
    QVERIFY(*l.athlete(f.athlete) == a);
    QCOMPARE(l.athlete(other)->name, ada().name);
    Clip c = *l.clip(f.clip);
    c.scene.scale.reset();
    c.clock.capture = 120;
    QVERIFY(l.save(c));
    QVERIFY(*l.clip(f.clip) == c);
    FilmingDay d = *l.day(f.day);
    d.school = "low-drive";
    QVERIFY(l.save(d));
    QVERIFY(*l.day(f.day) == d);
}

void LibraryTest::take_thenRestore_givesEverythingBack()
{
    Library l = open();
    const auto f = fill(l);
    const Marking before = *l.marking(f.clip);
    const auto athlete = l.take(f.athlete);
    QVERIFY(athlete);
    QVERIFY(l.athletes()->empty());
    QVERIFY(l.restore(*athlete));
    QVERIFY(*l.marking(f.clip) == before);
    const auto day = l.take(f.day);
    QVERIFY(day && l.days(f.athlete)->empty());
    QVERIFY(l.restore(*day));
    const auto clip = l.take(f.clip);
    QVERIFY(clip && l.clips(f.day)->empty());
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
    QVERIFY(l.addMarking(f.clip, network));
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
    const auto repetition = l.repetitions(f.clip)->front().id;
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
    QVERIFY(l.setProgramWork(f.clip, repetition, early));
    QVERIFY(l.setProgramWork(f.clip, repetition, late));
    Marking m = *l.marking(f.clip);
    QCOMPARE(findMark(m, FrameIndex(211), wrist)->at.x, 10.25); // the coach's
    QCOMPARE(findMark(m, FrameIndex(211), knee)->at.x, 3.0);
    QCOMPARE(findMark(m, FrameIndex(50), knee)->at.x, 1.0); // of another stretch
    QCOMPARE(findEvent(m, "strike")->frame.value, 211.5);
    QCOMPARE(findEvent(m, "lift")->source, Source::Network);

    const ProgramWork none{FrameIndex(200), FrameIndex(300), {}, {{"lift", {}}, {"strike", {}}}, {}};
    QVERIFY(l.setProgramWork(f.clip, repetition, none));
    m = *l.marking(f.clip);
    QVERIFY(!findMark(m, FrameIndex(250), knee) && findMark(m, FrameIndex(50), knee) && findMark(m, FrameIndex(211), wrist));
    QVERIFY(!findEvent(m, "lift") && findEvent(m, "strike"));

    ProgramWork forged = late;
    forged.marks.back().source = Source::Coach;
    QVERIFY(!l.setProgramWork(f.clip, repetition, forged)); // a program cannot speak for the coach
    QVERIFY(*l.marking(f.clip) == m);
}

void LibraryTest::programWork_ofOnePoint_outlivesTheBodys()
{
    Library l = open();
    const auto f = fill(l);
    const auto repetition = l.repetitions(f.clip)->front().id;
    const Landmark knee = *findLandmark("knee.left"), hip = *findLandmark("hip.left");
    const auto at = [](std::int64_t frame, const Landmark& landmark, double x, Source source) {
        return Mark{FrameIndex(frame), landmark, {x, x}, 3, source, true};
    };
    const FrameIndex first(0), last(100);
    QVERIFY(l.setProgramWork(f.clip, repetition,
                             {first, last, {at(50, knee, 1, Source::Network), at(50, hip, 2, Source::Network)}, {}, {}, {}}));
    QVERIFY(l.setProgramWork(f.clip, repetition, {first, last, {at(50, knee, 7, Source::Tracked)}, {}, {}, knee}));
    Marking m = *l.marking(f.clip);
    QCOMPARE(findMark(m, FrameIndex(50), knee)->at.x, 7.0);
    QCOMPARE(findMark(m, FrameIndex(50), hip)->at.x, 2.0); // another point
    QVERIFY(l.setProgramWork(f.clip, repetition,
                             {first, last, {at(50, knee, 3, Source::Network), at(50, hip, 4, Source::Network)}, {}, {}, {}}));
    m = *l.marking(f.clip);
    QCOMPARE(findMark(m, FrameIndex(50), knee)->at.x, 7.0);
    QCOMPARE(findMark(m, FrameIndex(50), hip)->at.x, 4.0);
}

void LibraryTest::setRepetitions_replacesAll_givesBack()
{
    Library l = open();
    const auto f = fill(l);
    const auto before = *l.repetitionRecords(f.clip);
    RepetitionRecord early = before.front(), late;
    early.repetition.last = FrameIndex(99);
    late.repetition.first = FrameIndex(100);
    late.repetition.last = FrameIndex(200);
    late.events = {{"lift", FramePosition(120), 1, Source::Network}};
    const auto ids = *l.setRepetitions(f.clip, {early, late});
    QCOMPARE(ids.size(), std::size_t{2});
    QCOMPARE(ids.front(), before.front().repetition.id);
    QCOMPARE(l.repetitions(f.clip)->size(), std::size_t{2});
    QCOMPARE(findEvent(*l.marking(ids.back()), "lift")->frame.value, 120.0);
    QVERIFY(!l.setRepetitions(f.clip, {}));
    QCOMPARE(l.repetitions(f.clip)->size(), std::size_t{2}); // nothing was done
    QVERIFY(l.setRepetitions(f.clip, before));
    QVERIFY(*l.repetitionRecords(f.clip) == before);
}

void LibraryTest::setEventAndMark_emptyRemoves()
{
    Library l = open();
    const auto f = fill(l);
    const Landmark wrist = *findLandmark("wrist.left");
    QVERIFY(l.setMark(f.clip, FrameIndex(211), wrist, Mark{FrameIndex(211), wrist, {7, 8}, 1, Source::Coach, false}));
    QCOMPARE(findMark(*l.marking(f.clip), FrameIndex(211), wrist)->at.y, 8.0);
    QVERIFY(!findMark(*l.marking(f.clip), FrameIndex(211), wrist)->visible);
    QVERIFY(l.setMark(f.clip, FrameIndex(211), wrist, {}));
    QVERIFY(!findMark(*l.marking(f.clip), FrameIndex(211), wrist));
    QVERIFY(l.setEvent(l.repetitions(f.clip)->front().id, "strike", Event{"strike", FramePosition(3.0), 0.5, Source::Coach}));
    QCOMPARE(findEvent(*l.marking(f.clip), "strike")->frame.value, 3.0);
    QVERIFY(l.setEvent(l.repetitions(f.clip)->front().id, "strike", {}));
    QVERIFY(l.marking(f.clip)->events.empty());
}

void LibraryTest::missingRow_isNotFound()
{
    Library l = open();
    QCOMPARE(l.athlete(AthleteId(7)).error().code, ErrorCode::NotFound);
    QCOMPARE(l.clip(ClipId(7)).error().code, ErrorCode::NotFound);
    QCOMPARE(l.marking(ClipId(7)).error().code, ErrorCode::NotFound);
    QCOMPARE(l.take(DayId(7)).error().code, ErrorCode::NotFound);
    QVERIFY(l.athletes()->empty() && l.days(AthleteId(7))->empty());
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
    QCOMPARE(l.athletes()->size(), std::size_t{1});
    QCOMPARE(l.marking(f.clip)->marks.size(), std::size_t{2});
    for (const auto& error :
         {l.add(ada()).error(), l.setEvent(l.repetitions(f.clip)->front().id, "strike", {}).error(), l.take(f.athlete).error()}) {
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
    QCOMPARE(l.error().code, ErrorCode::Database);
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
        QVERIFY(db->run(QStringLiteral("INSERT INTO athlete (id, name, birth_date, hand, height_metres, guardian_consent) VALUES "
                                       "(4, 'Old Timer', '2001-01-01', 'left', 1.8, 1)")));
        QVERIFY(db->run(
            QStringLiteral("INSERT INTO filming_day (id, athlete, date, skill) VALUES (5, 4, '2020-01-01', 'overhand-pitch')")));
        const bool hadVariant = version < 3;
        QVERIFY(db->run(QStringLiteral("INSERT INTO clip VALUES (6, 5, 'a.mp4', 'h', %1 640, 480, 90, 30, 30, "
                                       "'{\"view\":\"side\",\"targetDirection\":\"left\"}')")
                            .arg(hadVariant ? QStringLiteral("'stretch',") : QString())));
        if (hadVariant)
            QVERIFY(db->run(QStringLiteral("INSERT INTO event VALUES (6, 'strike', 42.5, 0.5, 'coach')")));
        else
            QVERIFY(db->run(QStringLiteral("INSERT INTO repetition VALUES (7, 6, 0, 89, '', 'windup', '', 1, '', NULL)")));
        QVERIFY(db->run(QStringLiteral("INSERT INTO mark VALUES (6, 3, 'nose', 1.5, 2.5, 1, 'coach', 1)")));
    }
    Library l = open();
    QCOMPARE(l.athletes()->front().name, std::string("Old Timer"));
    QCOMPARE(l.days(AthleteId(4))->front().school, std::string());
    QCOMPARE(l.marking(ClipId(6))->marks.front().at.x, 1.5);
    QCOMPARE(l.marking(ClipId(6))->scene.target, TargetDirection::Left);
    if (version < 3) { // what was the clip's is its first repetition's
        QCOMPARE(l.marking(ClipId(6))->variant, std::string("stretch"));
        QCOMPARE(findEvent(*l.marking(ClipId(6)), "strike")->frame.value, 42.5);
        QCOMPARE(l.repetitions(ClipId(6))->size(), std::size_t{1});
        QCOMPARE(l.repetitions(ClipId(6))->front().last.value, std::int64_t{89});
    }
}

void LibraryTest::answers_areKept_takenAndGivenBack()
{
    Library l = open();
    const auto athlete = *l.add(Athlete{{}, "Ida Vale", "2013-03-08", Hand::Right, 1.6, true});
    const auto day = *l.add(FilmingDay{{}, athlete, "2026-05-01", "overhand-pitch", ""});
    Clip clip;
    clip.day = day;
    clip.file = "a.mp4";
    clip.film = {"", 640, 480, 90};
    clip.clock = {30, 30};
    const auto id = *l.add(clip);
    const auto repetition = l.repetitions(id)->front().id;
    QVERIFY(l.setAnswer(repetition, "eyes", "later"));
    QVERIFY(l.setAnswer(repetition, "eyes", "lift")); // the last answer counts
    QVERIFY(l.setAnswer(repetition, "grip", "firm"));
    QVERIFY(l.setAnswer(repetition, "grip", std::nullopt));
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
        QVERIFY(db->run(QStringLiteral("INSERT INTO athlete VALUES (1, 'x', '', 'left', NULL, 0, '')")));
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
    QVERIFY(db->run(QStringLiteral("INSERT INTO athlete VALUES (1, 'kept', '', 'left', NULL, 0, '')")));
    QVERIFY(db->run(QStringLiteral("PRAGMA max_page_count = 1"))); // no page more than there are
    Transaction t(*db);
    const auto added = db->run(QStringLiteral("INSERT INTO athlete VALUES (2, ?, '', 'left', NULL, 0, '')"),
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
    QCOMPARE(open().athletes()->size(), std::size_t{25});
}

void LibraryTest::twoWindows_oneLibrary_bothSeeChanges()
{
    Library one = open(), two = open();
    const auto f = fill(one);
    QCOMPARE(two.athletes()->size(), std::size_t{1});
    QVERIFY(two.setEvent(two.repetitions(f.clip)->front().id, "lift", Event{"lift", FramePosition(1.0), 0.5, Source::Coach}));
    QCOMPARE(one.marking(f.clip)->events.size(), std::size_t{2});
}

void LibraryTest::folder_thatCannotBeMade_saysSo()
{
    const auto l = Library::open("/proc/none/library");
    QVERIFY(!l);
    QCOMPARE(l.error().code, ErrorCode::CannotWrite);
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
