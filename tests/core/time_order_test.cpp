#include "support/markings.h"
#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "core/read/reading.h"
#include "core/read/time_order.h"
#include "sim/skill.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;

namespace {

Pack fourPositions()
{
    Pack pack;
    for (const auto* id : {"a", "b", "c", "d"})
        pack.keyPositions.push_back({id, std::string("The ") + id, ""});
    return pack;
}

/// "a10 b20": coach's positions and their frames; a small x behind it: a program's, give or take two pictures.
std::vector<Event> eventsOf(const QString& text)
{
    std::vector<Event> events;
    for (QString word : text.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
        const bool isProgram = word.endsWith(QLatin1Char('x'));
        if (isProgram)
            word.chop(1);
        events.push_back({word.left(1).toStdString(), FramePosition(word.mid(1).toDouble()), isProgram ? 2.0 : 0.5,
                          isProgram ? Source::Network : Source::Coach});
    }
    return events;
}

} // namespace

class TimeOrderTest : public QObject {
    Q_OBJECT
private slots:
    void outOfOrder_data();
    void outOfOrder();
    void anyOrderWith_isNoMistake();
    void sentence_namesBoth();
    void reading_restingOnAMisplacedPosition_isNotJudged();
    void simulatedMovements_areInOrder();
};

void TimeOrderTest::outOfOrder_data()
{
    QTest::addColumn<QString>("events");
    QTest::addColumn<QString>("wrong");
    QTest::newRow("none placed") << ""
                                 << "";
    QTest::newRow("in order") << "a1 b5 c9 d12"
                              << "";
    QTest::newRow("some are missing") << "a1 d12"
                                      << "";
    QTest::newRow("two on one picture") << "a1 b5 c5 d12"
                                        << "";
    QTest::newRow("one slip of a key") << "a10 b20 c0 d40"
                                       << "c";
    QTest::newRow("the first far too late") << "a99 b20 c30 d40"
                                            << "a";
    QTest::newRow("two changed places: either may be wrong") << "a10 b30 c20 d40"
                                                             << "bc";
    QTest::newRow("two alone") << "b30 c20"
                               << "bc";
    QTest::newRow("all backward") << "a40 b30 c20 d10"
                                  << "abcd";
    QTest::newRow("a program's, within what it says") << "a10 b23x c20x d40"
                                                      << "";
    QTest::newRow("a program's, far beyond it") << "a10 b33x c20x d40"
                                                << "bc";
    QTest::newRow("a coach's, by one picture") << "a10 b21 c20 d40"
                                               << "bc";
}

void TimeOrderTest::outOfOrder()
{
    QFETCH(QString, events);
    QFETCH(QString, wrong);
    QString found;
    for (const auto& id : findOutOfOrder(fourPositions(), eventsOf(events)))
        found += QString::fromStdString(id);
    QCOMPARE(found, wrong);
}

void TimeOrderTest::anyOrderWith_isNoMistake()
{
    Pack pack = fourPositions();
    pack.keyPositions[1].anyOrderWith = {"c"};
    QVERIFY(findOutOfOrder(pack, eventsOf(QStringLiteral("a10 b30 c20 d40"))).empty());
    QVERIFY(!findOutOfOrder(pack, eventsOf(QStringLiteral("a10 b50 c20 d40"))).empty()); // b and d are still ordered
}

void TimeOrderTest::sentence_namesBoth()
{
    const Pack pack = fourPositions();
    QCOMPARE(sentenceAboutOrder(pack, eventsOf(QStringLiteral("a1 b5"))), std::string());
    QCOMPARE(sentenceAboutOrder(pack, eventsOf(QStringLiteral("a10 b20 c0 d40"))),
             std::string("The c lies before The a, which comes first in the movement."));
    QCOMPARE(sentenceAboutOrder(pack, eventsOf(QStringLiteral("a99 b20 c30 d40"))),
             std::string("The a lies after The b, which comes later in the movement."));
}

/// One slip of a key: "Strike" on the first picture. What rests on it says so, the rest is read as before.
void TimeOrderTest::reading_restingOnAMisplacedPosition_isNotJudged()
{
    Marking m = simulated(pitch(View::Side, {"head_drop"})).truth;
    const auto before = calcReadings(pitchPack(), PreparedRepetition(m), {});
    place(m, "strike", 0, 0.5);
    const auto after = calcReadings(pitchPack(), PreparedRepetition(m), {});
    int unread = 0;
    for (std::size_t i = 0; i < before.size(); ++i) {
        const Measure& measure = *pitchPack().findMeasure(before[i].measure);
        if (measure.at == "strike" || measure.from == "strike") {
            if (before[i].verdict == Verdict::NotFromThisView)
                continue;
            QCOMPARE(after[i].verdict, Verdict::NotMarked);
            QVERIFY2(after[i].why.find("out of the movement's order") != std::string::npos, after[i].why.c_str());
            ++unread;
        } else {
            QCOMPARE(after[i].verdict, before[i].verdict);
        }
    }
    QVERIFY(unread > 3);
    const Review review = reviewOf(m);
    for (const auto& f : review.faults)
        for (const auto& id : f.measures)
            QVERIFY(pitchPack().findMeasure(id)->at != "strike");
}

/// A rule that called a real movement wrong would hide its readings.
void TimeOrderTest::simulatedMovements_areInOrder()
{
    for (const auto& file : packFiles(packFolder())) {
        const auto pack = loadPack(file);
        QVERIFY(pack);
        const auto skill = sim::loadSimSkill(pack->id);
        QVERIFY(skill);
        for (const auto& variant : pack->variants) {
            std::vector<std::string> faults{""};
            for (const auto& fault : skill->faults)
                faults.push_back(fault.id);
            for (const auto& fault : faults) {
                sim::SimulateOptions o;
                o.skill = pack->id;
                o.motion.variant = variant;
                o.frameRate = 120;
                if (!fault.empty())
                    o.motion.faults[fault] = 1;
                const auto made = sim::simulate(o);
                if (!made)
                    continue; // not every fault is of every variant
                const std::string said = sentenceAboutOrder(*pack, made->truth.events);
                QVERIFY2(said.empty(), (pack->id + " " + variant + " " + fault + ": " + said).c_str());
            }
        }
    }
}

KESTREL_TEST(TimeOrderTest)
#include "time_order_test.moc"
