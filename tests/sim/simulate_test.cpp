#include "support/markings.h"
#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "core/scene/marking_json.h"
#include "media/film.h"
#include "sim/film_maker.h"
#include "sim/painter.h"
#include "sim/simulate.h"

#include <QTemporaryDir>
#include <QtTest>

#include <nlohmann/json.hpp>
#include <set>

using namespace kestrel;
using namespace kestrel::test;

class SimulateTest : public QObject {
    Q_OBJECT
private slots:
    void faultless_nothingIsCalled_data();
    void faultless_nothingIsCalled();
    void fault_isCalled_asTheOneThingOrItsCause_data();
    void fault_isCalled_asTheOneThingOrItsCause();
    void fault_disturbsWhatItSays_data();
    void fault_disturbsWhatItSays();
    void headDrop_theShownExample_namesItWithCueAndDrill();
    void truth_landmarks_areTheProjectedJoints();
    void truth_sideViewLengths_areTrue();
    void truth_scale_isOneMetre();
    void truth_leftHander_readsAsTheRightHander();
    void truth_farArm_isHiddenBehindTheBody();
    void truthJson_isAMarkingWithMore();
    void simulate_wrongOptions_sayWhatThereIs_data();
    void simulate_wrongOptions_sayWhatThereIs();
    void clip_showsTheAthleteWhereTheTruthIs();
    void jumpShot_fromTheFront_nothingHidesThePlayer();
    void clip_slowMotion_keepsRealTimes();
    void clip_cancelled_leavesNothing();
    void sameOptions_sameTruth();
};

void SimulateTest::faultless_nothingIsCalled_data()
{
    QTest::addColumn<QString>("variant");
    QTest::addColumn<QString>("school");
    QTest::addColumn<int>("hand");
    QTest::addColumn<int>("view");
    QTest::addColumn<int>("seed");
    for (const auto* variant : {"stretch", "windup"})
        for (const auto* school : {"tall", "low-drive"})
            for (const auto hand : {Hand::Right, Hand::Left})
                for (const auto view : {View::Side, View::Rear})
                    for (const int seed : {1, 2, 7})
                        QTest::addRow("%s %s %s-handed %s, seed %d", variant, school, std::string(wordOf(hand)).c_str(),
                                      std::string(wordOf(view)).c_str(), seed)
                            << QString::fromLatin1(variant) << QString::fromLatin1(school) << static_cast<int>(hand)
                            << static_cast<int>(view) << seed;
}

void SimulateTest::faultless_nothingIsCalled()
{
    QFETCH(QString, variant);
    QFETCH(QString, school);
    QFETCH(int, hand);
    QFETCH(int, view);
    QFETCH(int, seed);
    auto o = pitch(static_cast<View>(view));
    o.motion.variant = variant.toStdString();
    o.motion.school = school.toStdString();
    o.motion.seed = static_cast<std::uint32_t>(seed);
    o.hand = static_cast<Hand>(hand);
    const Review r = reviewOf(simulated(o).truth, school.toStdString());
    QVERIFY2(!r.oneThing, r.oneThing ? r.oneThing->why.c_str() : "");
    for (const auto& f : r.faults)
        QVERIFY2(f.verdict != Verdict::Off, f.fault.c_str());
    QVERIFY(r.strengths.size() >= 2);
}

void SimulateTest::fault_isCalled_asTheOneThingOrItsCause_data()
{
    QTest::addColumn<QString>("fault");
    QTest::addColumn<int>("view");
    QTest::addColumn<QString>("expected"); // any of these, with commas
    const int side = static_cast<int>(View::Side), rear = static_cast<int>(View::Rear);
    QTest::newRow("head_drop") << "head_drop" << side << "head_drop,trail_leg_collapse";
    QTest::newRow("late_hands") << "late_hands" << side << "late_hands";
    QTest::newRow("late_hands from behind") << "late_hands" << rear << "late_hands";
    QTest::newRow("open_landing") << "open_landing" << rear << "lands_open";
    QTest::newRow("stiff_front_leg") << "stiff_front_leg" << side << "stiff_front_leg";
    QTest::newRow("glove_flies_out") << "glove_flies_out" << side << "glove_flies";
    QTest::newRow("short_stride") << "short_stride" << side << "short_stride";
}

void SimulateTest::fault_isCalled_asTheOneThingOrItsCause()
{
    QFETCH(QString, fault);
    QFETCH(int, view);
    QFETCH(QString, expected);
    for (const auto* school : {"tall", "low-drive"})
        for (const auto hand : {Hand::Right, Hand::Left}) {
            auto o = pitch(static_cast<View>(view), {fault.toStdString()});
            o.motion.school = school;
            o.hand = hand;
            const Review r = reviewOf(simulated(o).truth, school);
            QVERIFY2(r.oneThing, school);
            QVERIFY2(expected.split(QLatin1Char(',')).contains(QString::fromStdString(r.oneThing->fault)),
                     r.oneThing->why.c_str());
            QVERIFY(!r.oneThing->cue.child.empty() && !r.oneThing->drills.empty());
        }
}

void SimulateTest::fault_disturbsWhatItSays_data()
{
    QTest::addColumn<QString>("skill");
    QTest::addColumn<QString>("variant");
    for (const auto& id : sim::simSkillIds()) {
        const auto known = sim::loadSimSkill(id);
        for (const auto& v : known->variants)
            QTest::addRow("%s %s", id.c_str(), v.id.c_str()) << QString::fromStdString(id) << QString::fromStdString(v.id);
    }
}

/// Without a fault everything lies within its band; each fault takes the first measure it names out of it and moves no
/// measure that it does not name by a quarter of the band.
void SimulateTest::fault_disturbsWhatItSays()
{
    QFETCH(QString, skill);
    QFETCH(QString, variant);
    const auto sim = sim::loadSimSkill(skill.toStdString());
    const auto pack = findPack(skill.toStdString());
    QVERIFY2(pack, pack ? "" : pack.error().text().c_str());
    sim::SimulateOptions o;
    o.skill = skill.toStdString();
    o.motion.variant = variant.toStdString();
    o.motion.school = sim->schools.front().id;
    const auto valuesOf = [&] {
        std::map<std::string, double> values;
        for (const auto& r : sim::trueReadings(o, *pack))
            if (r.value)
                values[r.measure] = *r.value;
        return values;
    };
    const auto calm = valuesOf();
    const auto isOut = [](const Band& b, double v) { return (b.low && v < *b.low) || (b.high && v > *b.high); };
    const auto bandOf = [&](const Measure& m) { return bandFor(m, o.motion.school, o.person.age, o.motion.variant); };
    // a seam is not painted, and the film ends with the finish
    static const std::set<std::string> kNotSimulated{"spin", "stick_finish"};
    for (const auto& m : pack->measures) {
        if (!m.variants.empty() && std::find(m.variants.begin(), m.variants.end(), o.motion.variant) == m.variants.end())
            continue;
        QVERIFY2(calm.count(m.id) || kNotSimulated.count(m.id), m.id.c_str());
        if (!bandOf(m))
            continue;
        QVERIFY2(!isOut(*bandOf(m), calm.at(m.id)),
                 qPrintable(QStringLiteral("%1 is %2").arg(QString::fromStdString(m.id)).arg(calm.at(m.id))));
    }
    for (const auto& f : sim->faults) {
        if (!f.isFor(o.motion.variant))
            continue;
        o.motion.faults = {{f.id, 1}};
        const auto wrong = valuesOf();
        bool isMain = true;
        for (const auto& id : f.disturbs) {
            const Measure* m = pack->findMeasure(id);
            QVERIFY2(m, id.c_str());
            if (isMain && wrong.count(id))
                QVERIFY2(isOut(*bandOf(*m), wrong.at(id)),
                         qPrintable(QStringLiteral("%1 leaves %2 at %3")
                                        .arg(QString::fromStdString(f.id), QString::fromStdString(id))
                                        .arg(wrong.at(id))));
            isMain = isMain && !wrong.count(id);
        }
        QVERIFY2(!isMain, f.id.c_str());
        for (const auto& [id, value] : wrong) {
            const Measure* m = pack->findMeasure(id);
            const Band* band = bandOf(*m);
            if (!band)
                continue;
            const double width = band->low && band->high ? *band->high - *band->low : 4 * m->margin;
            if (std::find(f.disturbs.begin(), f.disturbs.end(), id) == f.disturbs.end() && calm.count(id))
                QVERIFY2(std::abs(value - calm.at(id)) <= width / 4,
                         qPrintable(QStringLiteral("%1 leaks into %2: %3 -> %4")
                                        .arg(QString::fromStdString(f.id), QString::fromStdString(id))
                                        .arg(calm.at(id))
                                        .arg(value)));
        }
    }
}

void SimulateTest::headDrop_theShownExample_namesItWithCueAndDrill()
{
    const Review r = reviewOf(simulated(pitch(View::Side, {"head_drop"})).truth);
    QCOMPARE(r.findReading("head_dip")->verdict, Verdict::Off);
    QVERIFY(r.oneThing->fault == "head_drop" || r.oneThing->fault == "trail_leg_collapse");
    QVERIFY(pitchPack().findDrill(r.oneThing->drills.front()));
    QVERIFY(reviewOf(simulated(pitch()).truth).findReading("head_dip")->verdict != Verdict::Off);
}

void SimulateTest::truth_landmarks_areTheProjectedJoints()
{
    const auto s = simulated(pitch(View::Rear));
    for (const int f : {0, 100, 300, 417}) {
        for (const auto& [landmark, p] : s.body(static_cast<std::size_t>(f)).points) {
            const Mark* m = findMark(s.truth, FrameIndex(f), landmark);
            QVERIFY(m);
            const ImagePoint seen = s.camera.project(p);
            QVERIFY(std::hypot(m->at.x - seen.x, m->at.y - seen.y) < 1e-9);
            QCOMPARE(m->sigma, 0.0);
        }
    }
}

void SimulateTest::truth_sideViewLengths_areTrue()
{
    // stride in the 3D skeleton against the reading from pixels: perspective leaves less than 3 % of height
    const auto s = simulated(pitch());
    const auto strike = static_cast<std::size_t>(findEvent(s.truth, "strike")->frame.value);
    const auto body = s.body(strike);
    const double stride = (body.at(Part::Ankle, BodySide::Left).x() - body.at(Part::Ankle, BodySide::Right).x()) /
                          s.options.person.heightMetres * 100;
    const double read = *reviewOf(s.truth).findReading("stride_length")->value;
    QVERIFY2(std::abs(stride - read) < 3, qPrintable(QStringLiteral("%1 %2").arg(stride).arg(read)));
}

void SimulateTest::truth_scale_isOneMetre()
{
    const auto s = simulated(pitch());
    const auto a = s.camera.project({0, 0, 0}), b = s.camera.project({1, 0, 0});
    const double metre = std::hypot(b.x - a.x, b.y - a.y), drawn = (s.truth.scene.scale->to - s.truth.scene.scale->from).length();
    QVERIFY(std::abs(drawn / s.truth.scene.scale->metres - metre) < 1e-9);
}

void SimulateTest::truth_leftHander_readsAsTheRightHander()
{
    auto o = pitch();
    const Review right = reviewOf(simulated(o).truth);
    o.hand = Hand::Left;
    const auto left = simulated(o);
    QCOMPARE(left.truth.scene.target, TargetDirection::Left);
    const Review mirrored = reviewOf(left.truth);
    for (std::size_t i = 0; i < right.readings.size(); ++i) {
        const Reading &a = right.readings[i], &b = mirrored.readings[i];
        QCOMPARE(a.value.has_value(), b.value.has_value());
        if (a.value)
            QVERIFY2(std::abs(*a.value - *b.value) < 1e-6, a.measure.c_str());
    }
}

void SimulateTest::truth_farArm_isHiddenBehindTheBody()
{
    const auto s = simulated(pitch(View::Rear));
    int hidden = 0, seen = 0;
    for (const auto& m : s.truth.marks)
        (m.visible ? seen : hidden) += 1;
    QVERIFY(hidden > 500 && seen > hidden);
    // from behind, the nose is never seen at the strike
    const FrameIndex strike(static_cast<std::int64_t>(findEvent(s.truth, "strike")->frame.value));
    QVERIFY(!findMark(s.truth, strike, *findLandmark("nose"))->visible);
    const auto side = simulated(pitch());
    QVERIFY(findMark(side.truth, FrameIndex(static_cast<std::int64_t>(findEvent(side.truth, "strike")->frame.value)),
                     *findLandmark("knee.left"))
                ->visible);
}

void SimulateTest::truthJson_isAMarkingWithMore()
{
    auto o = pitch(View::Side, {"short_stride"});
    o.frameRate = 60;
    const auto s = simulated(o);
    const auto json = sim::truthJson(s);
    const auto back = parseMarking(json, "truth.json");
    QVERIFY2(back, back ? "" : back.error().text().c_str());
    QVERIFY(*back == s.truth);
    QCOMPARE(json["simulated"]["faults"]["short_stride"].get<double>(), 1.0);
    QCOMPARE(json["joints3d"]["frames"].size(), s.frames());
    QCOMPARE(json["joints3d"]["frames"][5]["knee.left"].size(), std::size_t{3});
}

void SimulateTest::simulate_wrongOptions_sayWhatThereIs_data()
{
    QTest::addColumn<QString>("what");
    QTest::addColumn<QString>("says");
    for (const auto& [what, says] : {std::pair{"skill", "overhand-pitch"},
                                     {"fault", "head_drop"},
                                     {"amount", "1.5"},
                                     {"variant", "windup"},
                                     {"school", "low-drive"},
                                     {"distance", "1.5"},
                                     {"exposure", "exposure"},
                                     {"rotation", "270"},
                                     {"rate", "1000"},
                                     {"size", "even"},
                                     {"height", "2.3"},
                                     {"age", "99"}})
        QTest::newRow(what) << QString::fromLatin1(what) << QString::fromLatin1(says);
}

void SimulateTest::simulate_wrongOptions_sayWhatThereIs()
{
    QFETCH(QString, what);
    QFETCH(QString, says);
    auto o = pitch();
    const std::map<std::string, std::function<void()>> spoil{
        {"skill", [&] { o.skill = "juggling"; }},
        {"fault", [&] { o.motion.faults["sneeze"] = 1; }},
        {"amount", [&] { o.motion.faults["head_drop"] = 7; }},
        {"variant", [&] { o.motion.variant = "hop"; }},
        {"school", [&] { o.motion.school = "old"; }},
        {"distance", [&] { o.camera.distance = 0.5; }},
        {"exposure", [&] { o.film.exposure = 1; }},
        {"rotation", [&] { o.film.rotation = 45; }},
        {"rate", [&] { o.frameRate = std::nan(""); }},
        {"size",
         [&] {
             o.size = {641, 480};
         }},
        {"height", [&] { o.person.heightMetres = 9; }},
        {"age", [&] { o.person.age = -1; }},
    };
    spoil.at(what.toStdString())();
    const auto s = sim::simulate(o);
    QVERIFY(!s);
    QVERIFY2(QString::fromStdString(s.error().message).contains(says), s.error().text().c_str());
}

void SimulateTest::clip_showsTheAthleteWhereTheTruthIs()
{
    QTemporaryDir folder;
    auto o = pitch();
    o.frameRate = 30;
    o.size = {640, 360};
    const auto s = simulated(o);
    const std::string file = folder.filePath(QStringLiteral("clip.mp4")).toStdString();
    int last = 0, total = 0;
    const auto saved = sim::saveClip(s, file, [&](int done, int of) {
        last = done;
        total = of;
    });
    QVERIFY2(saved, saved ? "" : saved.error().text().c_str());
    QCOMPARE(last, total);
    auto film = media::Film::open(file);
    QVERIFY(film);
    QCOMPARE(film->info().frames(), std::int64_t{static_cast<int>(s.frames())});
    const int f = static_cast<int>(findEvent(s.truth, "strike")->frame.value);
    const auto picture = film->frame(FrameIndex(f));
    QVERIFY(picture);
    const auto colourAt = [&](const char* landmark) {
        const Mark* m = findMark(s.truth, FrameIndex(f), *findLandmark(landmark));
        const auto* pixel = picture->row(static_cast<int>(m->at.y)) + 4 * static_cast<int>(m->at.x);
        return QColor(pixel[2], pixel[1], pixel[0]);
    };
    // trousers are light, the sky and the grass are not; the throwing forearm is skin
    const QColor knee = colourAt("knee.left");
    QVERIFY2(knee.lightness() > 130 && knee.saturation() < 60, qPrintable(knee.name()));
    const QColor wrist = colourAt("wrist.right");
    QVERIFY2(wrist.red() > wrist.green() && wrist.green() > wrist.blue(), qPrintable(wrist.name()));
}

void SimulateTest::jumpShot_fromTheFront_nothingHidesThePlayer()
{
    auto o = pitch();
    o.skill = "jump-shot";
    o.motion = {};
    o.camera.view = View::Front;
    o.size = {640, 360};
    const auto s = simulated(o);
    const QImage picture = sim::FilmMaker(s).picture(0);
    const Mark* wrist = findMark(s.truth, FrameIndex(0), *findLandmark("wrist.right"));
    QVERIFY(wrist);
    const QColor skin = picture.pixelColor(static_cast<int>(wrist->at.x), static_cast<int>(wrist->at.y));
    QVERIFY2(skin.red() > skin.green() && skin.green() > skin.blue(), qPrintable(skin.name()));
}

void SimulateTest::clip_slowMotion_keepsRealTimes()
{
    QTemporaryDir folder;
    auto o = pitch();
    o.frameRate = 120;
    o.playbackRate = 30;
    o.size = {320, 180};
    const auto s = simulated(o);
    QCOMPARE(s.truth.clock.slowFactor(), 4.0);
    const std::string file = folder.filePath(QStringLiteral("slow.mp4")).toStdString();
    QVERIFY(sim::saveClip(s, file));
    const auto film = media::Film::open(file);
    QVERIFY(std::abs(film->info().frameRate - 30) < 0.01);
    const FrameClock clock(film->info().shown, s.truth.clock.slowFactor());
    QVERIFY(std::abs(clock.meanInterval() - 1.0 / 120) < 1e-6);
}

void SimulateTest::clip_cancelled_leavesNothing()
{
    QTemporaryDir folder;
    const auto s = simulated(pitch());
    std::stop_source stop;
    const std::string file = folder.filePath(QStringLiteral("clip.mp4")).toStdString();
    const auto saved = sim::saveClip(
        s, file,
        [&](int done, int) {
            if (done == 3)
                stop.request_stop();
        },
        stop.get_token());
    QVERIFY(!saved);
    QCOMPARE(saved.error().code, ErrorCode::Cancelled);
    QCOMPARE(QDir(folder.path()).entryList(QDir::Files).size(), 0);
}

void SimulateTest::sameOptions_sameTruth()
{
    const auto o = pitch(View::Side, {"late_hands"});
    QVERIFY(simulated(o).truth == simulated(o).truth);
    auto other = o;
    other.motion.seed = 5;
    QVERIFY(!(simulated(o).truth == simulated(other).truth));
}

KESTREL_TEST(SimulateTest)
#include "simulate_test.moc"
