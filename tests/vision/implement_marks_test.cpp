#include "support/runner.h"

#include "sim/simulate.h"
#include "vision/implement_marks.h"

#include <QTemporaryDir>
#include <QtTest>

#include <cmath>

using namespace kestrel;
using namespace kestrel::vision;

/// A bat found from the hands that hold it.
class ImplementMarksTest : public QObject {
    Q_OBJECT
private slots:
    void initTestCase();
    void bat_isFound_nearTheTruth();
    void stretch_isKeptTo_stopGivesNone();
    void nobodyMarked_isNone();
    void missingFilm_isSaid();

private:
    std::vector<Mark> body() const // true ones: what is tested is the bat
    {
        std::vector<Mark> marks;
        for (const auto& m : m_sim->truth.marks)
            if (m.landmark.part < Part::ImplementGrip)
                marks.push_back(m);
        return marks;
    }
    FollowOptions all() const { return {FrameIndex(0), FrameIndex(m_sim->truth.film.frames - 1), {}, {}, {}}; }
    FrameClock clock() const { return evenClock(m_sim->truth.film.frames, 60); }
    static constexpr HeldImplement kBat{0.41, 0.06};
    QTemporaryDir m_folder;
    std::string m_film;
    std::optional<sim::Simulated> m_sim;
};

void ImplementMarksTest::initTestCase()
{
    sim::SimulateOptions o;
    o.skill = "bat-swing";
    o.frameRate = 60;
    o.size = {640, 360};
    auto s = sim::simulate(o);
    QVERIFY2(s, s ? "" : s.error().text().c_str());
    m_sim = std::move(*s);
    m_film = m_folder.filePath(QStringLiteral("bat.mp4")).toStdString();
    QVERIFY(sim::saveClip(*m_sim, m_film));
}

void ImplementMarksTest::bat_isFound_nearTheTruth()
{
    const auto found = implementMarks(m_film, body(), kBat, clock(), all());
    QVERIFY2(found, found ? "" : found.error().text().c_str());
    const double height = standingHeight(body());
    QVERIFY(height > 150 && height < 260); // the athlete fills two thirds of 360 pixels
    int seen = 0, near = 0, seenButt = 0, nearButt = 0, there = 0;
    for (const auto& m : m_sim->truth.marks)
        there += m.landmark.part == Part::ImplementTip && m.visible;
    for (const auto& m : *found) {
        const Mark* real = findMark(m_sim->truth, m.frame, m.landmark);
        if (!real || !real->visible)
            continue;
        const bool isNear = (m.at - real->at).length() < 0.03 * height;
        (m.landmark.part == Part::ImplementTip ? near : nearButt) += isNear;
        (m.landmark.part == Part::ImplementTip ? seen : seenButt) += 1;
        QCOMPARE(m.source, Source::Network);
    }
    QVERIFY2(seen > 0.8 * there, qPrintable(QString::number(seen)));
    QVERIFY2(near > 0.85 * seen, qPrintable(QStringLiteral("%1 of %2").arg(near).arg(seen)));
    QVERIFY2(nearButt > 0.85 * seenButt, qPrintable(QStringLiteral("%1 of %2").arg(nearButt).arg(seenButt)));
}

void ImplementMarksTest::stretch_isKeptTo_stopGivesNone()
{
    FollowOptions options = all();
    options.first = FrameIndex(10);
    options.last = FrameIndex(30);
    const auto found = implementMarks(m_film, body(), kBat, clock(), options);
    QVERIFY(found && !found->empty());
    for (const auto& m : *found)
        QVERIFY(m.frame >= FrameIndex(10) && m.frame <= FrameIndex(30));
    std::stop_source stop;
    options.stop = stop.get_token();
    options.progress = [&](std::int64_t, std::int64_t) { stop.request_stop(); };
    const auto stopped = implementMarks(m_film, body(), kBat, clock(), options);
    QVERIFY(stopped && stopped->empty());
}

void ImplementMarksTest::nobodyMarked_isNone()
{
    const auto found = implementMarks(m_film, {}, kBat, clock(), all());
    QVERIFY(found && found->empty());
}

void ImplementMarksTest::missingFilm_isSaid()
{
    const auto found = implementMarks(m_folder.filePath(QStringLiteral("none.mp4")).toStdString(), body(), kBat, clock(), all());
    QVERIFY(!found);
    QCOMPARE(found.error().code, ErrorCode::CannotOpen);
}

KESTREL_TEST(ImplementMarksTest)
#include "implement_marks_test.moc"
