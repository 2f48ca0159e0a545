#include "support/markings.h"
#include "support/runner.h"

#include "vision/find_repetitions.h"

#include <QtTest>

#include <map>

using namespace kestrel;
using namespace kestrel::test;
using namespace kestrel::vision;

/// Repetitions in a film that shows several.
class FindRepetitionsTest : public QObject {
    Q_OBJECT
private slots:
    void severalThrows_eachWithItsKeyPositions();
    void oneThrow_isOne();
    void standing_isNone();
    void nothingMarked_isNone();
    void fasterHand_isTheOneThatThrows();
};

namespace {

/// The same simulated pitch several times; between them the athlete goes back to where it began.
std::vector<Mark> pitches(const Marking& truth, int times, std::int64_t rest)
{
    std::map<Landmark, ImagePoint> start;
    for (const auto& m : truth.marks)
        if (m.frame.value == 0)
            start[m.landmark] = m.at;
    std::vector<Mark> all;
    for (int n = 0; n < times; ++n)
        for (Mark m : truth.marks) {
            const bool isLast = m.frame.value == truth.film.frames - 1;
            const ImagePoint end = m.at;
            m.frame = FrameIndex(m.frame.value + n * (truth.film.frames + rest));
            all.push_back(m);
            for (std::int64_t r = 1; isLast && r <= rest; ++r) {
                m.frame = FrameIndex(m.frame.value + 1);
                m.at = lerp(end, start[m.landmark], static_cast<double>(r) / static_cast<double>(rest));
                all.push_back(m);
            }
        }
    return all;
}

} // namespace

void FindRepetitionsTest::severalThrows_eachWithItsKeyPositions()
{
    sim::SimulateOptions o = pitch();
    o.frameRate = 120;
    const Marking truth = simulated(o).truth;
    constexpr int kTimes = 3;
    constexpr std::int64_t kRest = 180;
    const auto found = findRepetitions(pitches(truth, kTimes, kRest), evenClock(kTimes * (truth.film.frames + kRest), 120));
    QCOMPARE(found.size(), std::size_t{kTimes});
    for (int n = 0; n < kTimes; ++n) {
        const double shift = static_cast<double>(n * (truth.film.frames + kRest));
        const auto& f = found[static_cast<std::size_t>(n)];
        for (const auto* id : {"lift", "strike", "release", "through"}) {
            const double at = findEvent(truth, id)->frame.value + shift;
            QVERIFY2(at > static_cast<double>(f.first.value) && at < static_cast<double>(f.last.value), id);
        }
        QVERIFY(n == 0 || f.first > found[static_cast<std::size_t>(n - 1)].last);
    }
}

void FindRepetitionsTest::oneThrow_isOne()
{
    sim::SimulateOptions o = pitch();
    o.frameRate = 120;
    const Marking truth = simulated(o).truth;
    QCOMPARE(findRepetitions(truth.marks, evenClock(truth.film.frames, 120)).size(), std::size_t{1});
}

void FindRepetitionsTest::standing_isNone()
{
    std::vector<Mark> marks;
    for (std::int64_t f = 0; f < 100; ++f)
        for (const auto& [name, x, y] :
             {std::tuple{"hip.left", 100, 200}, std::tuple{"hip.right", 110, 200}, std::tuple{"shoulder.left", 100, 100},
              std::tuple{"shoulder.right", 110, 100}, std::tuple{"wrist.left", 90, 190}, std::tuple{"wrist.right", 120, 190}})
            marks.push_back({FrameIndex(f),
                             *findLandmark(name),
                             {x + 0.5 * static_cast<double>(f % 3), static_cast<double>(y)},
                             1,
                             Source::Network,
                             true});
    QVERIFY(findRepetitions(marks, evenClock(100, 60)).empty());
}

void FindRepetitionsTest::nothingMarked_isNone()
{
    QVERIFY(findRepetitions({}, evenClock(100, 60)).empty());
}

void FindRepetitionsTest::fasterHand_isTheOneThatThrows()
{
    for (const Hand hand : {Hand::Right, Hand::Left}) {
        sim::SimulateOptions o = pitch();
        o.frameRate = 120;
        o.hand = hand;
        const Marking truth = simulated(o).truth;
        QCOMPARE(fasterHand(truth.marks, evenClock(truth.film.frames, 120)),
                 std::optional(hand == Hand::Right ? BodySide::Right : BodySide::Left));
    }
    sim::SimulateOptions o; // two hands on one bat
    o.skill = "bat-swing";
    o.frameRate = 120;
    const Marking truth = simulated(o).truth;
    QVERIFY(!fasterHand(truth.marks, evenClock(truth.film.frames, 120)));
}

KESTREL_TEST(FindRepetitionsTest)
#include "find_repetitions_test.moc"
