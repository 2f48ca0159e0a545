#include "support/runner.h"

#include "core/base/parallel_for.h"

#include <QtTest>

#include <algorithm>
#include <string>
#include <vector>

using namespace kestrel;

class ParallelForTest : public QObject {
    Q_OBJECT
private slots:
    void parts_coverAllOnce_noneIsEmpty_data();
    void parts_coverAllOnce_noneIsEmpty();
    void makeTogether_keepsTheOrder();
};

void ParallelForTest::parts_coverAllOnce_noneIsEmpty_data()
{
    QTest::addColumn<int>("count");
    for (const int count : {0, 1, 2, 3, 200})
        QTest::addRow("%d", count) << count;
}

void ParallelForTest::parts_coverAllOnce_noneIsEmpty()
{
    QFETCH(int, count);
    std::vector<int> times(static_cast<std::size_t>(count), 0); // each written by one thread alone
    std::vector<std::int64_t> lengths(kWorkers, -1);            // -1: not called
    parallelFor(count, [&](std::int64_t part, std::int64_t from, std::int64_t end) {
        lengths[static_cast<std::size_t>(part)] = end - from;
        for (auto n = from; n < end; ++n)
            ++times[static_cast<std::size_t>(n)];
    });
    QVERIFY(std::all_of(times.begin(), times.end(), [](int t) { return t == 1; }));
    QVERIFY(std::count(lengths.begin(), lengths.end(), 0) == 0);
}

void ParallelForTest::makeTogether_keepsTheOrder()
{
    QVERIFY(parallelMap(5, [](std::size_t n) { return std::to_string(n * n); }) ==
            (std::vector<std::string>{"0", "1", "4", "9", "16"}));
}

KESTREL_TEST(ParallelForTest)
#include "parallel_for_test.moc"
