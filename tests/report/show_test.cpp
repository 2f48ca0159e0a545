// Photo sheet, checklist and walk-through.

#include "support/markings.h"
#include "support/runner.h"

#include "support/coded_film.h" // moc reads it only after the others

#include "core/judge/pain.h"
#include "core/pack/pack_folder.h"
#include "media/film.h"
#include "report/checklist.h"
#include "report/photo_sheet.h"
#include "report/walk.h"
#include "report/walk_film.h"

#include <QFile>
#include <QPainter>
#include <QTemporaryDir>
#include <QtTest>

#include <nlohmann/json.hpp>

using namespace kestrel;
using namespace kestrel::report;
using namespace kestrel::test;

namespace {

constexpr int kFilmFrames = 90;

sim::Simulated headDrop()
{
    return simulated(pitch(View::Side, {"head_drop"}));
}

QImage grey(FrameIndex)
{
    QImage image(1280, 720, QImage::Format_RGB32);
    image.fill(QColor(120, 130, 120));
    return image;
}

SheetFilm sheetFilm(const Marking& m, const std::string& title = {})
{
    const PreparedRepetition prepared(m);
    return {title,
            {"",
             "",
             m,
             prepared.clock(),
             {FrameIndex(0), FrameIndex(m.film.frames - 1)},
             readRepetition(pitchPack(), prepared, {}).readings},
            grey};
}

const CheckPoint* findPoint(const Checklist& list, const std::string& text)
{
    for (const auto& group : list.groups)
        for (const auto& point : group.points)
            if (point.text == text)
                return &point;
    return nullptr;
}

/// A film with a number in every picture, and a marking of it without marks.
RepetitionFilm codedFilm(const QTemporaryDir& folder)
{
    CodedFilm coded;
    coded.frames = kFilmFrames;
    RepetitionFilm film;
    film.file = coded.write(folder.path().toStdString());
    film.marking = plainMarking();
    film.marking.film = {"clip.mp4", coded.width, coded.height, kFilmFrames};
    film.marking.clock = {30, 30};
    film.clock = evenClock(kFilmFrames, 30);
    film.repetition = {FrameIndex(0), FrameIndex(kFilmFrames - 1)};
    return film;
}

WalkStop stopAt(int first, int last, double speed, const std::string& text)
{
    WalkStop stop;
    stop.frames = {FrameIndex(first), FrameIndex(last)};
    stop.speed = speed;
    stop.text = text;
    return stop;
}

std::vector<Marking> markingsOf(const Marking& m)
{
    return {withoutMarks(m)};
}
std::vector<FrameRange> rangesOf(const Marking& m)
{
    return {{FrameIndex(0), FrameIndex(m.film.frames - 1)}};
}

} // namespace

class ShowTest : public QObject {
    Q_OBJECT
private slots:
    void sheet_showsEveryPlacedPosition_inOrder_withItsTime();
    void sheet_notPlaced_isLeftOutWithItsName();
    void sheet_twoFilms_onePositionMissing_keepsItsColumn();
    void sheet_withReadings_namesThem();
    void sheet_leaves_data();
    void sheet_leaves();
    void checklist_everyPointOfThePack_inTheOrderOfTheMovement();
    void checklist_voice_followsTheReader();
    void checklist_pain_stopsAndLeavesNothingToWorkOn();
    void checklist_nothingMarked_allIsNotSeen();
    void checklist_everyPack_fitsOneSide();
    void walk_proposal_saysGoodFirst_thenTheOneThing();
    void walk_proposal_pain_saysStop();
    void walk_json_roundTrips();
    void walk_badScript_isRefusedWithItsPlace_data();
    void walk_badScript_isRefusedWithItsPlace();
    void walk_times_standAsLongAsWordsOrVoice();
    void film_everyPictureIsTheRightOne();
    void film_withoutStops_orWrongEnding_saysSo();
    void film_cancelled_leavesNothing();
    void film_missing_leavesNothing();
    void film_voiceMissing_isLeftOutAndSaid();
};

void ShowTest::sheet_showsEveryPlacedPosition_inOrder_withItsTime()
{
    const Marking m = headDrop().truth;
    const PhotoSheet sheet = makeSheet(pitchPack(), {sheetFilm(m)}, "Juno", {});
    QCOMPARE(sheet.rows.size(), std::size_t{1});
    QCOMPARE(sheet.rows.front().cells.size(), pitchPack().keyPositions.size());
    for (std::size_t i = 0; i < pitchPack().keyPositions.size(); ++i) {
        const auto& cell = sheet.rows.front().cells[i];
        QCOMPARE(cell.name, pitchPack().keyPositions[i].name);
        QVERIFY(!cell.image.isNull());
        QVERIFY(cell.image.size() == sheet.rows.front().cells.front().image.size());
        if (pitchPack().keyPositions[i].id == pitchPack().zero)
            QCOMPARE(cell.time, std::string("0.00 s"));
    }
    QVERIFY(sheet.rows.front().cells.front().time.find("\u2212") == 0);
    QVERIFY(sheet.notes.empty());
    QVERIFY(!sheet.isEmpty());
}

void ShowTest::sheet_notPlaced_isLeftOutWithItsName()
{
    Marking m = headDrop().truth;
    std::erase_if(m.events, [](const Event& e) { return e.keyPosition == "lift"; });
    const PhotoSheet sheet = makeSheet(pitchPack(), {sheetFilm(m)}, {}, {});
    QCOMPARE(sheet.rows.front().cells.size(), pitchPack().keyPositions.size() - 1);
    QCOMPARE(sheet.notes.front(), std::string("Not placed, and left out: Lift."));
    m.events.clear();
    QVERIFY(makeSheet(pitchPack(), {sheetFilm(m)}, {}, {}).isEmpty());
}

void ShowTest::sheet_twoFilms_onePositionMissing_keepsItsColumn()
{
    const Marking whole = headDrop().truth;
    Marking part = whole;
    std::erase_if(part.events, [](const Event& e) { return e.keyPosition == "lift"; });
    const PhotoSheet sheet = makeSheet(pitchPack(), {sheetFilm(whole, "before"), sheetFilm(part, "after")}, {}, {});
    QCOMPARE(sheet.rows.size(), std::size_t{2});
    QCOMPARE(sheet.rows[1].cells.size(), sheet.rows[0].cells.size());
    QVERIFY(sheet.rows[1].cells[1].image.isNull() && sheet.rows[1].cells[1].time.empty());
    QVERIFY(!sheet.rows[1].cells[2].image.isNull());
}

void ShowTest::sheet_withReadings_namesThem()
{
    SheetOptions options;
    options.hasReadings = true;
    const auto sheet = makeSheet(pitchPack(), {sheetFilm(headDrop().truth)}, {}, options);
    const auto named = std::count_if(sheet.rows.front().cells.begin(), sheet.rows.front().cells.end(),
                                     [](const SheetCell& c) { return !c.reading.empty(); });
    QVERIFY2(named >= 6, QByteArray::number(static_cast<int>(named)).constData());
}

void ShowTest::sheet_leaves_data()
{
    QTest::addColumn<QString>("ending");
    QTest::addColumn<QByteArray>("begins");
    QTest::newRow("pdf") << QStringLiteral(".pdf") << QByteArray("%PDF");
    QTest::newRow("png") << QStringLiteral(".png") << QByteArray("\x89PNG");
    QTest::newRow("html") << QStringLiteral(".html") << QByteArray("<!doctype html>");
}

void ShowTest::sheet_leaves()
{
    QFETCH(QString, ending);
    QFETCH(QByteArray, begins);
    const QTemporaryDir folder;
    const QString file = folder.filePath(QStringLiteral("sheet") + ending);
    const auto sheet = makeSheet(pitchPack(), {sheetFilm(headDrop().truth)}, "Ada & Co", {});
    QVERIFY(saveDocument(documentOf(sheet), file.toStdString()));
    QFile written(file);
    QVERIFY(written.open(QIODevice::ReadOnly));
    QVERIFY(written.readAll().startsWith(begins));
    QVERIFY(!saveDocument(documentOf(sheet), "/proc/none/sheet" + ending.toStdString()));
}

void ShowTest::checklist_everyPointOfThePack_inTheOrderOfTheMovement()
{
    Marking m = headDrop().truth;
    m.athlete.age = 16;
    const Review r = reviewOf(m);
    QVERIFY(r.oneThing);
    const Checklist list = makeChecklist(pitchPack(), r, {"Juno", "2026-10-31", {}}, {});
    std::size_t position = 0;
    for (const auto& group : list.groups) { // each after the one before
        while (position < pitchPack().keyPositions.size() && pitchPack().keyPositions[position].name != group.keyPosition)
            ++position;
        QVERIFY2(position < pitchPack().keyPositions.size(), group.keyPosition.c_str());
    }
    const CheckPoint* one = findPoint(list, r.oneThing->cue.teen);
    QVERIFY(one && one->isTheOne && one->state == CheckState::WorkOnIt && !one->still.image.isNull());
    int right = 0, unseen = 0;
    for (const auto& group : list.groups)
        for (const auto& point : group.points) {
            right += point.state == CheckState::Right;
            unseen += point.state == CheckState::NotSeen;
        }
    QVERIFY(right >= 5 && unseen >= 3); // one side view cannot show everything
    QVERIFY(makeChecklist(pitchPack(), r, {}, {}, false).groups.size() <= list.groups.size());
    for (const auto& group : makeChecklist(pitchPack(), r, {}, {}, false).groups)
        for (const auto& point : group.points)
            QVERIFY(point.state != CheckState::NotSeen);
}

void ShowTest::checklist_voice_followsTheReader()
{
    Marking m = headDrop().truth;
    m.athlete.age = 9;
    const Review r = reviewOf(m);
    QVERIFY(r.oneThing);
    QVERIFY(findPoint(makeChecklist(pitchPack(), r, {}, {}), r.oneThing->cue.child));
    QVERIFY(findPoint(makeChecklist(pitchPack(), r, {{}, {}, Voice::Adult}, {}), r.oneThing->cue.adult));
}

void ShowTest::checklist_pain_stopsAndLeavesNothingToWorkOn()
{
    const Marking m = headDrop().truth;
    const PreparedRepetition prepared(m);
    JudgeOptions options;
    options.pain = {BodyRegion::Elbow};
    const Review r = calcReview(pitchPack(), {readRepetition(pitchPack(), prepared, options)}, options);
    const Checklist list = makeChecklist(pitchPack(), r, {}, {});
    QVERIFY(list.stop.find("clinician") != std::string::npos);
    for (const auto& group : list.groups)
        for (const auto& point : group.points)
            QVERIFY(point.state != CheckState::WorkOnIt);
}

void ShowTest::checklist_nothingMarked_allIsNotSeen()
{
    Marking m = headDrop().truth;
    m.marks.clear();
    m.events.clear();
    m.answers.clear();
    const Checklist list = makeChecklist(pitchPack(), reviewOf(m), {}, {});
    QVERIFY(!list.groups.empty());
    for (const auto& group : list.groups)
        for (const auto& point : group.points)
            QVERIFY(point.state == CheckState::NotSeen);
}

void ShowTest::checklist_everyPack_fitsOneSide()
{
    std::vector<Pack> packs;
    std::vector<Error> problems;
    addPacks(packs, packFolder(), problems);
    QCOMPARE(packs.size(), std::size_t{11});
    for (const auto& pack : packs)
        for (const auto voice : {Voice::Child, Voice::Teen, Voice::Adult}) {
            Review r; // nothing was seen: every point of the pack is on it, and the pain's sentence
            r.pack = pack.id;
            r.athlete.age = 20;
            r.stop = "Stop: there is pain in the elbow. No throwing today. See a licensed clinician before the next practice.";
            const Checklist list = makeChecklist(pack, r, {"Wilhelmina Featherstonehaugh", "2026-10-31", voice}, {});
            QImage sheet(620, 877, QImage::Format_RGB32);
            QPainter painter(&sheet);
            QVERIFY2(paintChecklist(painter, list, QRectF(sheet.rect())), pack.id.c_str());
        }
}

void ShowTest::walk_proposal_saysGoodFirst_thenTheOneThing()
{
    Marking m = headDrop().truth;
    m.athlete.age = 16;
    const Review r = reviewOf(m);
    QVERIFY(r.oneThing && r.strengths.size() >= 2);
    const WalkScript script = proposeWalk(pitchPack(), r, {"Juno", "2026-10-31", {}}, markingsOf(m), rangesOf(m));
    QVERIFY(script.stops.size() >= 3 && script.stops.size() <= 8);
    QVERIFY(script.stops.front().isStretch());
    QVERIFY(script.stops[1].text.find(r.strengths[0].text) != std::string::npos);
    std::size_t cue = 0, drill = 0;
    for (std::size_t i = 0; i < script.stops.size(); ++i) {
        QVERIFY(!script.stops[i].text.empty());
        if (script.stops[i].text == r.oneThing->cue.teen)
            cue = i;
        if (script.stops[i].text.find("Practise: ") == 0)
            drill = i;
    }
    QVERIFY(cue > 2 && drill > cue);
}

void ShowTest::walk_proposal_pain_saysStop()
{
    const Marking m = headDrop().truth;
    JudgeOptions options;
    options.pain = {BodyRegion::Elbow};
    const Review r = calcReview(pitchPack(), {readRepetition(pitchPack(), PreparedRepetition(m), options)}, options);
    const WalkScript script = proposeWalk(pitchPack(), r, {}, markingsOf(m), rangesOf(m));
    const auto stops =
        std::count_if(script.stops.begin(), script.stops.end(), [&](const WalkStop& s) { return s.text == r.stop; });
    QCOMPARE(stops, 1);
    for (const auto& s : script.stops)
        QVERIFY(s.text.find("Practise") == std::string::npos);
}

void ShowTest::walk_json_roundTrips()
{
    WalkScript script{"Ada: serve", {stopAt(3, 40, 0.125, "watch the toss"), stopAt(40, 40, 0.25, "here")}};
    script.stops[1].measure = "trunk_tilt";
    script.stops[1].voice = "a.wav";
    script.stops[1].repetition = 2;
    Drawing d;
    d.at = {{{1, 2}, {}}, {{3, 4}, {}}};
    d.lives.on = Lives::On::Repetition;
    script.stops[0].drawings = {d};
    script.stops.push_back(stopAt(0, 0, 0.25, "the sum"));
    script.stops[2].picture = "sum.png";
    auto expected = script;
    expected.stops[1].speed = 0.25; // of a picture that stands still it means nothing
    const auto back = parseWalk(toJson(script), "w.json");
    QVERIFY2(back, back ? "" : back.error().text().c_str());
    QVERIFY(*back == expected);
}

void ShowTest::walk_badScript_isRefusedWithItsPlace_data()
{
    QTest::addColumn<QString>("stops");
    QTest::addColumn<QString>("place");
    QTest::newRow("no list") << "{}"
                             << "/stops";
    QTest::newRow("no picture") << R"([{"text": "x"}])"
                                << "/stops/0/from";
    QTest::newRow("ends before") << R"([{"from": 9, "to": 3}])"
                                 << "/stops/0/to";
    QTest::newRow("too fast") << R"([{"from": 1, "to": 3, "speed": 1000}])"
                              << "/stops/0/speed";
    QTest::newRow("stands still for ever") << R"([{"from": 1, "to": 3, "speed": 0}])"
                                           << "/stops/0/speed";
    QTest::newRow("bad drawing") << R"([{"from": 1, "drawings": [{"kind": "line", "at": 3, "lives": {"repetition": true}}]}])"
                                 << "/stops/0/drawings/0/at";
}

void ShowTest::walk_badScript_isRefusedWithItsPlace()
{
    QFETCH(QString, stops);
    QFETCH(QString, place);
    nlohmann::json root{{"format", "jolly-kestrel/walk"}, {"version", 1}, {"stops", nlohmann::json::parse(stops.toStdString())}};
    const auto script = parseWalk(root, "w.json");
    QVERIFY(!script);
    QCOMPARE(QString::fromStdString(script.error().place), place);
}

void ShowTest::walk_times_standAsLongAsWordsOrVoice()
{
    const FrameClock clock = evenClock(kFilmFrames, 30);
    const auto still = timesOf(stopAt(10, 10, 0.25, "one two three four five six seven eight"), clock, 0);
    QCOMPARE(still.plays, 0.0);
    QVERIFY(still.stands > 4 && still.stands < 6);
    const auto stretch = timesOf(stopAt(0, 60, 0.25, "short"), clock, 0); // two seconds of film in eight
    QVERIFY(std::abs(stretch.plays - 8) < 1e-9);
    QVERIFY(stretch.stands > 0.5 && stretch.stands < 1.5);
    QVERIFY(timesOf(stopAt(10, 10, 1, "short"), clock, 12).stands >= 12);
    QCOMPARE(frameAt(stopAt(0, 60, 0.25, {}), clock, 4).value, 30);
    QCOMPARE(frameAt(stopAt(0, 60, 0.25, {}), clock, 100).value, 60);
}

void ShowTest::film_everyPictureIsTheRightOne()
{
    const QTemporaryDir folder;
    const std::vector<RepetitionFilm> films{codedFilm(folder)};
    WalkScript script{"", {stopAt(10, 40, 0.5, ""), stopAt(70, 70, 1, "")}};
    WalkFilmOptions options;
    options.captions = CaptionStyle::None;
    double last = 0;
    options.progress = [&](double share) {
        QVERIFY(share > last && share <= 1);
        last = share;
    };
    const std::string file = folder.filePath(QStringLiteral("walk.mp4")).toStdString();
    const auto done = writeWalk(script, films, file, options);
    QVERIFY2(done, done ? "" : done.error().text().c_str());
    QCOMPARE(last, 1.0);
    auto written = media::Film::open(file);
    QVERIFY(written);
    QCOMPARE(written->info().frames(), std::llround(done->seconds * 30));
    for (std::int64_t n = 0; n < written->info().frames(); ++n) {
        const double t = static_cast<double>(n) / 30;
        const auto& stop = t < done->stops[1].from - 1e-6 ? script.stops[0] : script.stops[1];
        const double into = t - (t < done->stops[1].from - 1e-6 ? 0 : done->stops[1].from);
        const auto number = numberIn(*written->frame(FrameIndex(n)));
        QVERIFY(number);
        QCOMPARE(*number, static_cast<int>(frameAt(stop, films[0].clock, into).value));
    }
}

void ShowTest::film_withoutStops_orWrongEnding_saysSo()
{
    const QTemporaryDir folder;
    const std::vector<RepetitionFilm> films{codedFilm(folder)};
    const auto file = [&](const char* name) { return folder.filePath(QLatin1String(name)).toStdString(); };
    QVERIFY(!writeWalk({}, films, file("a.mp4"), {}));
    QVERIFY(!writeWalk({"", {stopAt(1, 1, 1, "x")}}, films, file("a.avi"), {}));
    WalkStop elsewhere = stopAt(1, 1, 1, "x");
    elsewhere.repetition = 7;
    QVERIFY(!writeWalk({"", {elsewhere}}, films, file("a.mp4"), {}));
    const auto beyond = writeWalk({"", {stopAt(1, 5000, 1, "x")}}, films, file("a.mp4"), {});
    QVERIFY(!beyond);
    QVERIFY(!QFile::exists(QString::fromStdString(file("a.mp4"))));
}

void ShowTest::film_cancelled_leavesNothing()
{
    const QTemporaryDir folder;
    const std::vector<RepetitionFilm> films{codedFilm(folder)};
    std::stop_source stop;
    WalkFilmOptions options;
    options.progress = [&](double share) {
        if (share > 0.3)
            stop.request_stop();
    };
    const QString file = folder.filePath(QStringLiteral("walk.mp4"));
    const auto done = writeWalk({"", {stopAt(0, 80, 0.5, "x")}}, films, file.toStdString(), options, stop.get_token());
    QVERIFY(!done);
    QCOMPARE(done.error().code, ErrorCode::Cancelled);
    QCOMPARE(QDir(folder.path()).entryList(QDir::Files), QStringList{QStringLiteral("clip.mp4")});
}

void ShowTest::film_missing_leavesNothing()
{
    const QTemporaryDir folder;
    std::vector<RepetitionFilm> films{codedFilm(folder)};
    QFile::remove(QString::fromStdString(films[0].file));
    const auto done =
        writeWalk({"", {stopAt(0, 8, 0.5, "x")}}, films, folder.filePath(QStringLiteral("walk.mp4")).toStdString(), {});
    QVERIFY(!done);
    QVERIFY(QDir(folder.path()).entryList(QDir::Files).isEmpty());
}

void ShowTest::film_voiceMissing_isLeftOutAndSaid()
{
    const QTemporaryDir folder;
    const std::vector<RepetitionFilm> films{codedFilm(folder)};
    WalkStop stop = stopAt(4, 4, 1, "x");
    stop.voice = folder.filePath(QStringLiteral("gone.wav")).toStdString();
    const auto done = writeWalk({"", {stop}}, films, folder.filePath(QStringLiteral("walk.mp4")).toStdString(), {});
    QVERIFY(done);
    QCOMPARE(done->warnings.size(), std::size_t{1});
}

KESTREL_TEST(ShowTest)
#include "show_test.moc"
