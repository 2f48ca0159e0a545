#include "support/runner.h"

#include "core/pack_folder.h"
#include "sim/simulate.h"
#include "vision/equipment_marks.h"

#include <QTemporaryDir>
#include <QtTest>

#include <cmath>
#include <map>

using namespace kestrel;
using namespace kestrel::vision;

/// A bat, racket or stick found from the hands that hold it.
class EquipmentMarksTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void implement_isFound_nearTheTruth_data();
    void implement_isFound_nearTheTruth();
    void stretch_isKeptTo_stopGivesNone();
    void nobodyMarked_isNone();
    void missingFilm_isSaid();

private:
    static std::vector<Mark> bodyOf(const sim::Simulated& s) // true ones: what is tested is what is held
    {
        std::vector<Mark> marks;
        for (const auto& m : s.truth.marks)
            if (m.landmark.part < Part::ImplementGrip)
                marks.push_back(m);
        return marks;
    }
    std::vector<Mark> body() const { return bodyOf(*m_sim); }
    FollowOptions all() const { return {FrameIndex(0), FrameIndex(m_sim->truth.film.frames - 1), {}, {}, {}}; }
    FrameClock clock() const { return evenClock(m_sim->truth.film.frames, 60); }
    QTemporaryDir m_folder;
    std::string m_film;
    std::optional<sim::Simulated> m_sim; // a bat swing
    Pack m_pack;
};

namespace {

sim::SimulateOptions filmOf(const std::string& skill)
{
    sim::SimulateOptions o;
    o.skill = skill;
    o.frameRate = 60;
    o.size = {640, 360};
    return o;
}

} // namespace

void EquipmentMarksTest::initTestCase()
{
    m_pack = *findPack("bat-swing");
    auto s = sim::simulate(filmOf(m_pack.id));
    QVERIFY2(s, s ? "" : s.error().text().c_str());
    m_sim = std::move(*s);
    m_film = m_folder.filePath(QStringLiteral("bat.mp4")).toStdString();
    QVERIFY(sim::saveClip(*m_sim, m_film));
}

void EquipmentMarksTest::implement_isFound_nearTheTruth_data()
{
    QTest::addColumn<QString>("skill");
    QTest::addColumn<bool>("hasMiddle");
    QTest::newRow("bat, two hands") << "bat-swing" << true;
    QTest::newRow("racket, one hand") << "slice-volley" << true;
    QTest::newRow("racket, two hands") << "two-handed-backhand" << true;
    QTest::newRow("stick, hands apart") << "snap-shot" << false;
}

void EquipmentMarksTest::implement_isFound_nearTheTruth()
{
    QFETCH(QString, skill);
    QFETCH(bool, hasMiddle);
    const auto pack = findPack(skill.toStdString());
    QVERIFY(pack && pack->implement);
    const auto s = sim::simulate(filmOf(pack->id));
    const std::string film = m_folder.filePath(skill + QStringLiteral(".mp4")).toStdString();
    QVERIFY(s && sim::saveClip(*s, film));
    const auto body = bodyOf(*s);
    const std::int64_t frames = s->truth.film.frames;
    const auto found = equipmentMarks(film, body, *pack, Hand::Right, evenClock(frames, 60),
                                      {FrameIndex(0), FrameIndex(frames - 1), {}, {}, {}});
    QVERIFY2(found, found ? "" : found.error().text().c_str());
    const double height = standingHeight(body);
    QVERIFY(height > 150 && height < 260); // the athlete fills two thirds of 360 pixels
    struct Count {
        int seen = 0, near = 0;
    };
    std::map<Part, Count> counts;
    int there = 0;
    for (const auto& m : s->truth.marks)
        there += m.landmark.part == Part::ImplementTip && m.visible;
    for (const auto& m : *found) {
        const Mark* real = findMark(s->truth, m.frame, m.landmark);
        if (!real || !real->visible)
            continue;
        if (m.landmark.part == Part::Ball)
            continue;
        Count& c = counts[m.landmark.part];
        c.near += (m.at - real->at).length() < 0.03 * height;
        ++c.seen;
        QCOMPARE(m.source, Source::Network);
    }
    QVERIFY2(counts[Part::ImplementTip].seen > 0.8 * there, qPrintable(QString::number(counts[Part::ImplementTip].seen)));
    QCOMPARE(counts.count(Part::ImplementMid), hasMiddle ? 1U : 0U); // what two hands apart hold bends
    for (const auto& [part, c] : counts)
        QVERIFY2(c.near > 0.85 * c.seen,
                 qPrintable(QStringLiteral("%1: %2 of %3").arg(static_cast<int>(part)).arg(c.near).arg(c.seen)));
}

void EquipmentMarksTest::stretch_isKeptTo_stopGivesNone()
{
    FollowOptions options = all();
    options.first = FrameIndex(10);
    options.last = FrameIndex(30);
    const auto found = equipmentMarks(m_film, body(), m_pack, Hand::Right, clock(), options);
    QVERIFY(found && !found->empty());
    for (const auto& m : *found)
        QVERIFY(m.frame >= FrameIndex(10) && m.frame <= FrameIndex(30));
    std::stop_source stop;
    options.stop = stop.get_token();
    options.progress = [&](std::int64_t, std::int64_t) { stop.request_stop(); };
    const auto stopped = equipmentMarks(m_film, body(), m_pack, Hand::Right, clock(), options);
    QVERIFY(stopped && stopped->empty());
}

void EquipmentMarksTest::nobodyMarked_isNone()
{
    const auto found = equipmentMarks(m_film, {}, m_pack, Hand::Right, clock(), all());
    QVERIFY(found && found->empty());
}

void EquipmentMarksTest::missingFilm_isSaid()
{
    const auto found =
        equipmentMarks(m_folder.filePath(QStringLiteral("none.mp4")).toStdString(), body(), m_pack, Hand::Right, clock(), all());
    QVERIFY(!found);
    QCOMPARE(found.error().code, ErrorCode::CannotOpen);
}

KESTREL_TEST(EquipmentMarksTest)
#include "equipment_marks_test.moc"
