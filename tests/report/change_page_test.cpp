#include "support/markings.h"
#include "support/runner.h"

#include "core/read/reading.h"
#include "report/change_page.h"
#include "sim/simulate.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;
using namespace kestrel::report;

namespace {

/// Three repetitions of one day, with that much of a fault.
ChangeDay dayOf(const Pack& pack, const char* date, double fault)
{
    ChangeDay day{date, {}, {}};
    for (std::uint32_t seed = 1; seed <= 3; ++seed) {
        sim::SimulateOptions o;
        o.skill = pack.id;
        o.motion.faults = {{"head_drop", fault}};
        o.motion.seed = seed;
        const auto s = sim::simulate(o);
        if (!s)
            qFatal("%s", s.error().text().c_str());
        day.readings.push_back(readRepetition(pack, PreparedRepetition(s->truth), {}).readings);
    }
    return day;
}

} // namespace

/// What the page of a change says to the player.
class ChangePageTest : public QObject {
    Q_OBJECT
private slots:
    void noTaskKnown_saysWhatGotBetter()
    {
        const Pack& pack = pitchPack();
        const auto page = makeChangePage(pack, "Ida", dayOf(pack, "2026-04-11", 1), dayOf(pack, "2026-05-09", 0), {}, {}, {});
        const auto better = std::find_if(page.rows.begin(), page.rows.end(),
                                         [](const ChangeRow& r) { return r.verdict == ChangeVerdict::Better; });
        QVERIFY(better != page.rows.end());
        QCOMPARE(page.sentence, better->name + ": better than it was, and the film proves it.");
    }

    void noTaskKnown_nothingBetter_saysSo()
    {
        const Pack& pack = pitchPack();
        const auto page = makeChangePage(pack, "Ida", dayOf(pack, "2026-04-11", 1), dayOf(pack, "2026-05-09", 1), {}, {}, {});
        QCOMPARE(page.sentence, std::string("Nothing has changed yet that the film can prove."));
    }
};

KESTREL_TEST(ChangePageTest)
#include "change_page_test.moc"
