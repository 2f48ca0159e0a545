// Dates, the book, workload and the planner.

#include "support/markings.h"
#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/pack/pack_folder.h"
#include "core/plan/book_csv.h"
#include "core/plan/due.h"
#include "core/plan/planner.h"
#include "core/plan/progress.h"

#include <QtTest>

using namespace kestrel;
using namespace kestrel::test;
using std::chrono::days;

namespace {

Date date(const char* text)
{
    return *parseDate(text);
}

const WorkloadRule& rule()
{
    static const WorkloadRule shipped = *shippedWorkloadRule();
    return shipped;
}

/// A book of pitches by date.
Book bookOf(std::initializer_list<std::pair<const char*, int>> pitches, const char* born = nullptr)
{
    Book book;
    if (born)
        book.birthDate = date(born);
    for (const auto& [on, count] : pitches) {
        BookDay day;
        day.date = date(on);
        day.counts["pitch"] = count;
        book.days.push_back(day);
    }
    return book;
}

QString kindsOf(const Workload& w)
{
    QStringList kinds;
    for (const auto& x : w.warnings)
        kinds << QString::fromStdString(std::string(wordOf(x.kind)));
    return kinds.join(QLatin1Char(' '));
}

QString textOrNone(const std::optional<Date>& d)
{
    return d ? QString::fromStdString(textOf(*d)) : QStringLiteral("none");
}

PlanWish wishFor(const Pack& pack)
{
    PlanWish wish;
    wish.faults = {pack.faults[0].id, pack.faults[1].id, pack.faults[2].id};
    wish.start = date("2026-11-30"); // a Monday
    wish.intake.weekdays = {1, 3, 6};
    wish.weeks = 3;
    wish.age = 12;
    return wish;
}

} // namespace

class PlanTest : public QObject {
    Q_OBJECT
private slots:
    void dates_data();
    void dates();
    void ages_countBirthdays();
    void limits_everyAge_asPublished();
    void rest_everyAgeAndCount_asPublished();
    void workload_byHand_data();
    void workload_byHand();
    void ramp_serves();
    void monthsOff();
    void pain_stopsUntilCleared();
    void noBirthDate_strictest();
    void book_roundTrip_andMistakes();
    void plan_properties_data();
    void plan_properties();
    void plan_restDay_noBall();
    void plan_kit_nearestIsSaid();
    void plan_again_keepsPastAndLocked_dropsTheRest();
    void plan_badWishes_data();
    void plan_badWishes();
    void plan_oneTask_fillsTheMinutes();
    void plan_shortSessions_areSaid();
    void plan_roundTrip();
    void plan_sixWeeksThreeTasks_isQuick();
    void bookTable_byHand();
    void due_byHand();
    void progress_realSince_andGrowth();
};

void PlanTest::dates_data()
{
    QTest::addColumn<QString>("text");
    QTest::addColumn<bool>("isOne");
    for (const char* good : {"2026-11-29", "2024-02-29", "1999-12-31"})
        QTest::newRow(good) << good << true;
    for (const char* bad :
         {"2026-02-29", "2026-13-01", "2026-00-10", "26-11-29", "2026/11/29", "2026-11-29T00:00", "", "2026-1-1", "abcd-ef-gh"})
        QTest::newRow(bad) << bad << false;
}

void PlanTest::dates()
{
    QFETCH(QString, text);
    QFETCH(bool, isOne);
    const auto d = parseDate(text.toStdString());
    QCOMPARE(d.has_value(), isOne);
    if (isOne)
        QCOMPARE(QString::fromStdString(textOf(*d)), text);
}

void PlanTest::ages_countBirthdays()
{
    QCOMPARE(yearsBetween(date("2014-03-02"), date("2026-03-01")), 11);
    QCOMPARE(yearsBetween(date("2014-03-02"), date("2026-03-02")), 12);
    QCOMPARE(yearsBetween(date("2012-02-29"), date("2026-02-28")), 13); // no such day that year: the day after
    QCOMPARE(yearsBetween(date("2012-02-29"), date("2026-03-01")), 14);
    QCOMPARE(QString::fromStdString(wordsOf(date("2026-11-29"))), QStringLiteral("Sun 29 November 2026"));
}

/// The published table, written down once more by hand.
void PlanTest::limits_everyAge_asPublished()
{
    const auto byHand = [](int age) -> std::optional<int> {
        if (age <= 8)
            return 50;
        if (age <= 10)
            return 75;
        if (age <= 12)
            return 85;
        if (age <= 16)
            return 95;
        return age <= 18 ? std::optional(105) : std::nullopt;
    };
    for (int age = 5; age <= 40; ++age)
        QCOMPARE(rule().limitFor(age), byHand(age));
    QCOMPARE(rule().limitFor({}), std::optional(50));
}

void PlanTest::rest_everyAgeAndCount_asPublished()
{
    const auto byHand = [](int age, int n) {
        if (age <= 14)
            return n <= 20 ? 0 : n <= 35 ? 1 : n <= 50 ? 2 : n <= 65 ? 3 : 4;
        return n <= 30 ? 0 : n <= 45 ? 1 : n <= 60 ? 2 : n <= 75 ? 3 : 4;
    };
    for (int age = 7; age <= 18; ++age)
        for (int n = 0; n <= 120; ++n) {
            QCOMPARE(rule().restAfter(n, age), byHand(age, n));
            // and the days that follow from it
            Book book;
            BookDay day;
            day.date = date("2026-05-10");
            day.counts["pitch"] = n;
            book.days = {day};
            const Workload load = calcWorkload(rule(), book, day.date, age);
            const int rest = byHand(age, n);
            QCOMPARE(load.restUntil, rest > 0 ? std::optional(day.date + days(rest)) : std::nullopt);
            const Workload after = calcWorkload(rule(), book, day.date + days(rest + 1), age);
            QVERIFY(!after.restUntil && after.left == after.limit && after.nextAllowed == day.date + days(rest + 1));
        }
}

void PlanTest::workload_byHand_data()
{
    QTest::addColumn<Book>("book");
    QTest::addColumn<QString>("on");
    QTest::addColumn<int>("left");
    QTest::addColumn<QString>("restUntil");
    QTest::addColumn<QString>("next");
    QTest::addColumn<QString>("kinds");
    const char* born = "2014-03-02"; // twelve on these days: 85 a day
    QTest::newRow("nothing thrown") << bookOf({}, born) << "2026-11-20" << 85 << "none"
                                    << "2026-11-20"
                                    << "";
    QTest::newRow("52 on the day") << bookOf({{"2026-11-20", 52}}, born) << "2026-11-20" << 33 << "2026-11-23"
                                   << "2026-11-24"
                                   << "";
    QTest::newRow("the day after") << bookOf({{"2026-11-20", 52}}, born) << "2026-11-21" << 0 << "2026-11-23"
                                   << "2026-11-24"
                                   << "rest";
    QTest::newRow("the last day of rest") << bookOf({{"2026-11-20", 52}}, born) << "2026-11-23" << 0 << "2026-11-23"
                                          << "2026-11-24"
                                          << "rest";
    QTest::newRow("rest is over") << bookOf({{"2026-11-20", 52}}, born) << "2026-11-24" << 85 << "none"
                                  << "2026-11-24"
                                  << "";
    QTest::newRow("over the limit") << bookOf({{"2026-11-20", 90}}, born) << "2026-11-20" << 0 << "2026-11-24"
                                    << "2026-11-25"
                                    << "limit";
    QTest::newRow("thrown while resting") << bookOf({{"2026-11-20", 52}, {"2026-11-21", 10}}, born) << "2026-11-21" << 0
                                          << "2026-11-23"
                                          << "2026-11-24"
                                          << "rest";
    QTest::newRow("two days running") << bookOf({{"2026-11-20", 10}, {"2026-11-21", 10}}, born) << "2026-11-21" << 75
                                      << "2026-11-22"
                                      << "2026-11-23"
                                      << "";
    QTest::newRow("on the third") << bookOf({{"2026-11-20", 10}, {"2026-11-21", 10}}, born) << "2026-11-22" << 0 << "2026-11-22"
                                  << "2026-11-23"
                                  << "three_days";
    QTest::newRow("three days running") << bookOf({{"2026-11-20", 10}, {"2026-11-21", 10}, {"2026-11-22", 10}}, born)
                                        << "2026-11-22" << 0 << "2026-11-23"
                                        << "2026-11-24"
                                        << "three_days";
    QTest::newRow("over the year's end") << bookOf({{"2026-12-30", 66}}, born) << "2026-12-31" << 0 << "2027-01-03"
                                         << "2027-01-04"
                                         << "rest";
    QTest::newRow("over a leap day") << bookOf({{"2028-02-27", 40}}, "2015-03-02") << "2028-02-28" << 0 << "2028-02-29"
                                     << "2028-03-01"
                                     << "rest";
    QTest::newRow("later days do not count") << bookOf({{"2026-11-20", 52}}, born) << "2026-11-19" << 85 << "none"
                                             << "2026-11-19"
                                             << "";
    Book catcher = bookOf({{"2026-11-20", 10}}, born);
    catcher.days[0].isCatcher = true;
    QTest::newRow("pitched and caught") << catcher << "2026-11-20" << 75 << "none"
                                        << "2026-11-20"
                                        << "catcher";
}

void PlanTest::workload_byHand()
{
    QFETCH(Book, book);
    QFETCH(QString, on);
    QFETCH(int, left);
    QFETCH(QString, restUntil);
    QFETCH(QString, next);
    QFETCH(QString, kinds);
    const Workload w = calcWorkload(rule(), book, date(qPrintable(on)));
    QCOMPARE(w.left.value_or(-1), left);
    QCOMPARE(textOrNone(w.restUntil), restUntil);
    QCOMPARE(textOrNone(w.nextAllowed), next);
    QCOMPARE(kindsOf(w), kinds);
    QVERIFY(w.rule.find("league's current rule decides") != std::string::npos);
    for (const auto& warning : w.warnings)
        QVERIFY(warning.text.find("safe") == std::string::npos);
}

void PlanTest::ramp_serves()
{
    Book book;
    for (int week = 0; week < 5; ++week) { // 100 a week for four weeks, then more
        BookDay day;
        day.date = date("2026-10-05") + days(7 * week);
        day.counts["serve"] = week < 4 ? 100 : 120;
        book.days.push_back(day);
    }
    const Date on = book.days.back().date + days(2);
    QVERIFY(!calcWorkload(rule(), book, on, 14).has(WarningKind::Ramp)); // a fifth more is the most
    book.days.back().counts["serve"] = 121;
    const auto w = calcWorkload(rule(), book, on, 14);
    QVERIFY(w.has(WarningKind::Ramp));
    QVERIFY(w.warnings.front().text.find("convention") != std::string::npos);
    QVERIFY(!calcWorkload(rule(), book, on + days(7), 14).has(WarningKind::Ramp)); // a week without
}

void PlanTest::monthsOff()
{
    Book book;
    for (int month = 0; month < 12; ++month) {
        BookDay day;
        day.date = std::chrono::sys_days(std::chrono::year(2026) / std::chrono::month(static_cast<unsigned>(month + 1)) / 10);
        day.counts["pitch"] = 10;
        book.days.push_back(day);
    }
    QVERIFY(calcWorkload(rule(), book, date("2026-12-20"), 12).has(WarningKind::MonthsOff));
    book.days.erase(book.days.begin() + 1);
    QVERIFY(calcWorkload(rule(), book, date("2026-12-20"), 12).has(WarningKind::MonthsOff)); // one month is not enough
    book.days.erase(book.days.begin() + 5);
    QVERIFY(!calcWorkload(rule(), book, date("2026-12-20"), 12).has(WarningKind::MonthsOff));
}

void PlanTest::pain_stopsUntilCleared()
{
    Book book = bookOf({{"2026-11-20", 10}}, "2014-03-02");
    book.days[0].pain = {{BodyRegion::Elbow, 3}};
    auto w = calcWorkload(rule(), book, date("2026-12-01"));
    QCOMPARE(kindsOf(w), QStringLiteral("pain"));
    QCOMPARE(*w.left, 0);
    QVERIFY(!w.nextAllowed);
    QVERIFY(w.warnings[0].text.find("clinician") != std::string::npos);
    book.cleared = {{date("2026-11-28"), BodyRegion::Shoulder}}; // another place
    QVERIFY(calcWorkload(rule(), book, date("2026-12-01")).has(WarningKind::Pain));
    book.cleared = {{date("2026-11-28"), BodyRegion::Elbow}};
    QVERIFY(calcWorkload(rule(), book, date("2026-11-27")).has(WarningKind::Pain));
    w = calcWorkload(rule(), book, date("2026-12-01"));
    QVERIFY(w.warnings.empty() && w.left == 85);
    book.days[0].pain = {{BodyRegion::Elbow, 0}};
    book.cleared.clear();
    QVERIFY(calcWorkload(rule(), book, date("2026-12-01")).warnings.empty());
}

void PlanTest::noBirthDate_strictest()
{
    const auto w = calcWorkload(rule(), bookOf({{"2026-11-20", 25}}), date("2026-11-20"));
    QCOMPARE(*w.limit, 50);
    QCOMPARE(textOrNone(w.restUntil), QStringLiteral("2026-11-21")); // as the youngest
    QVERIFY(w.rule.find("strictest") != std::string::npos);
    const auto grown = calcWorkload(rule(), bookOf({{"2026-11-20", 25}}), date("2026-11-20"), 30);
    QVERIFY(!grown.limit && !grown.left);
}

void PlanTest::book_roundTrip_andMistakes()
{
    const auto json = parseJson(R"({"format":"jolly-kestrel/book","version":1,"birthDate":"2014-03-02","days":[
      {"date":"2026-11-21","counts":{"serve":40}},
      {"date":"2026-11-20","counts":{"pitch":52,"serve":0},"catcher":false,"pain":[{"where":"elbow","level":3}],
       "drills":[{"id":"weight_rock","sets":2,"reps":8}],"effort":6,"shots":{"attempted":20,"made":11},"mood":"good"},
      {"date":"2026-11-20","counts":{"pitch":8},"effort":8}]})",
                                "b.json");
    const auto book = parseBook(*json, "b.json");
    QVERIFY(book.has_value());
    QCOMPARE(book->days.size(), std::size_t{2});
    QCOMPARE(book->days[0].counts.at("pitch"), 60); // two entries of one day
    QCOMPARE(*book->days[0].effort, 8);
    QCOMPARE(*parseBook(toJson(*book), "c.json"), *book);
    const std::pair<const char*, const char*> broken[] = {
        {R"({"date":"2026-02-30"})", "/days/0/date"},
        {R"({"date":"2026-02-03","counts":{"pitch":-1}})", "/days/0/counts/pitch"},
        {R"({"date":"2026-02-03","effort":11})", "/days/0/effort"},
        {R"({"date":"2026-02-03","pain":[{"where":"ear","level":1}]})", "/days/0/pain/0/where"},
        {R"({"date":"2026-02-03","shots":{"attempted":2,"made":3}})", "/days/0/shots"},
        {R"({"counts":{}})", "/days/0/date"}};
    for (const auto& [day, place] : broken) {
        const auto root = parseJson(std::string(R"({"format":"jolly-kestrel/book","version":1,"days":[)") + day + "]}", "b.json");
        const auto read = parseBook(*root, "b.json");
        QVERIFY2(!read, day);
        QCOMPARE(read.error().place, std::string(place));
    }
    // a long life
    nlohmann::json many{{"format", "jolly-kestrel/book"}, {"version", 1}, {"days", nlohmann::json::array()}};
    for (int n = 0; n < 10000; ++n)
        many["days"].push_back({{"date", textOf(date("2000-01-01") + days(n))}, {"counts", {{"pitch", 10}}}});
    QCOMPARE(parseBook(many, "m.json")->days.size(), std::size_t{10000});
}

void PlanTest::plan_properties_data()
{
    QTest::addColumn<QString>("pack");
    QTest::addColumn<double>("minutes");
    QTest::addColumn<int>("weeks");
    for (const char* pack : {"overhand-pitch", "overhead-serve", "jump-shot", "snap-shot", "table-tennis-topspin"})
        for (const double minutes : {6.0, 12.0, 25.0})
            for (const int weeks : {1, 2, 3, 6})
                QTest::addRow("%s %g min %d weeks", pack, minutes, weeks) << pack << minutes << weeks;
}

void PlanTest::plan_properties()
{
    QFETCH(QString, pack);
    QFETCH(double, minutes);
    QFETCH(int, weeks);
    const Pack p = *findPack(pack.toStdString());
    PlanWish wish = wishFor(p);
    wish.intake.minutes = minutes;
    wish.weeks = weeks;
    BookDay thrown; // resting in the first days
    thrown.date = date("2026-11-29");
    thrown.counts["pitch"] = 80;
    wish.book.days = {thrown};
    const auto plan = makePlan(p, rule(), wish);
    QVERIFY2(plan.has_value(), plan ? "" : plan.error().message.c_str());
    QCOMPARE(plan->sessions.size(), std::size_t(3 * weeks));
    std::set<std::string> served, uids;
    for (const auto& s : plan->sessions) {
        QVERIFY(s.minutes() <= minutes + 1e-9);
        QVERIFY(wish.intake.weekdays.count(std::chrono::weekday(s.date).c_encoding()));
        QVERIFY(uids.insert(s.uid).second);
        QVERIFY(!s.why.empty() && !s.items.empty());
        bool wasLoaded = false;
        const auto load = calcWorkload(rule(), wish.book, s.date, 12);
        for (const auto& item : s.items) {
            const Drill& d = *p.findDrill(item.drill);
            QVERIFY(d.isForAge(wish.age));
            QVERIFY(!wasLoaded || loadsTheArm(p, d)); // without a ball first
            wasLoaded = loadsTheArm(p, d);
            QVERIFY(!(load.restUntil && wasLoaded));
            served.insert(item.fault);
            QVERIFY(!item.why.empty());
        }
    }
    const bool isRoomForAll = 3 * weeks >= 6 || minutes >= 25;
    if (isRoomForAll)
        for (const auto& task : wish.faults)
            QVERIFY2(served.count(task) || (!plan->notes.empty() && plan->notes.front().starts_with("For ")), task.c_str());
    QVERIFY(served.count(wish.faults.front()));
    QVERIFY(plan->refilm >= wish.start + days(7 * weeks));
    if (weeks >= 3) {
        QVERIFY(plan->sessions.front().items.front().level != DrillLevel::Harder);
        QVERIFY(plan->sessions.back().items.front().level != DrillLevel::Easier);
    }
    QCOMPARE(*makePlan(p, rule(), wish), *plan); // the same wish, the same plan
}

void PlanTest::plan_restDay_noBall()
{
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    wish.intake.minutes = 60;
    const auto throws = [&](const Plan& plan) {
        int n = 0;
        for (const auto& s : plan.sessions)
            for (const auto& i : s.items)
                n += loadsTheArm(p, *p.findDrill(i.drill));
        return n;
    };
    for (const auto& f : p.faults) // a fault with a drill that throws
        for (const auto& d : f.drills)
            if (loadsTheArm(p, *p.findDrill(d)))
                wish.faults = {f.id};
    QVERIFY(throws(*makePlan(p, rule(), wish)) > 0);
    BookDay hurt;
    hurt.date = date("2026-11-29");
    hurt.pain = {{BodyRegion::Shoulder, 4}};
    wish.book.days = {hurt};
    const auto plan = makePlan(p, rule(), wish);
    QCOMPARE(plan ? throws(*plan) : 0, 0);
}

void PlanTest::plan_kit_nearestIsSaid()
{
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    wish.intake.kit = std::set<std::string>{};
    const auto plan = makePlan(p, rule(), wish);
    QVERIFY(plan.has_value());
    for (const auto& s : plan->sessions)
        for (const auto& i : s.items)
            if (!p.findDrill(i.drill)->kit.empty()) {
                QVERIFY(!plan->notes.empty() && plan->notes.front().find("no drill fits") != std::string::npos);
                return;
            }
}

void PlanTest::plan_again_keepsPastAndLocked_dropsTheRest()
{
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    Plan first = *makePlan(p, rule(), wish);
    first.sessions[4].isLocked = true;
    first.sessions[4].items.front().sets = 9; // the coach's own dose
    first.coachNotes = {"Film the backhand."};
    wish.intake.weekdays = {1, 5}; // no Wednesday and no Saturday any more
    const auto again = makePlan(p, rule(), wish, &first, first.sessions[2].date);
    QVERIFY(again.has_value());
    QCOMPARE(again->sequence, 1);
    const auto find = [&](const std::string& uid) {
        return std::find_if(again->sessions.begin(), again->sessions.end(), [&](const PlanSession& s) { return s.uid == uid; });
    };
    for (const std::size_t n : {std::size_t{0}, std::size_t{1}, std::size_t{4}}) { // past, past, locked
        QVERIFY(find(first.sessions[n].uid) != again->sessions.end());
        QCOMPARE(*find(first.sessions[n].uid), first.sessions[n]);
    }
    QVERIFY(find(first.sessions[3].uid) != again->sessions.end()); // a Monday keeps its name
    for (const auto& s : first.sessions) {
        const bool isThere = find(s.uid) != again->sessions.end();
        const bool isDropped =
            std::any_of(again->dropped.begin(), again->dropped.end(), [&](const auto& d) { return d.uid == s.uid; });
        QVERIFY(isThere != isDropped);
    }
    QCOMPARE(again->refilmUid, first.refilmUid);
    QCOMPARE(again->coachNotes, first.coachNotes);
}

void PlanTest::plan_badWishes_data()
{
    QTest::addColumn<int>("which");
    QTest::addColumn<QString>("says");
    QTest::newRow("no day") << 0 << "No day of the week";
    QTest::newRow("no task") << 1 << "nothing to practise";
    QTest::newRow("no weeks") << 2 << "one to six weeks";
    QTest::newRow("no minutes") << 3 << "5 to 180";
    QTest::newRow("unknown fault") << 4 << "no fault";
    QTest::newRow("every day taken") << 5 << "No day is left";
}

void PlanTest::plan_badWishes()
{
    QFETCH(int, which);
    QFETCH(QString, says);
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    if (which == 0)
        wish.intake.weekdays.clear();
    if (which == 1)
        wish.faults.clear();
    if (which == 2)
        wish.weeks = 0;
    if (which == 3)
        wish.intake.minutes = std::nan("");
    if (which == 4)
        wish.faults = {"no_such"};
    if (which == 5)
        for (int d = 0; d < 30; ++d)
            wish.intake.notOn.insert(wish.start + days(d));
    const auto plan = makePlan(p, rule(), wish);
    QVERIFY(!plan);
    QVERIFY2(plan.error().message.find(says.toStdString()) != std::string::npos, plan.error().message.c_str());
}

void PlanTest::plan_oneTask_fillsTheMinutes()
{
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    wish.faults = {p.faults[0].id}; // more than two drills
    wish.intake.minutes = 30;
    const auto plan = makePlan(p, rule(), wish);
    QCOMPARE(plan->sessions.size(), std::size_t{9});
    for (const auto& s : plan->sessions) {
        std::set<std::string> drills;
        for (const auto& i : s.items)
            QVERIFY(drills.insert(i.drill).second); // none twice in a session
        QVERIFY(s.items.size() >= 2);
    }
    std::map<std::pair<std::string, int>, int> uses;
    for (const auto& s : plan->sessions)
        for (const auto& i : s.items) {
            const int used = ++uses[std::pair(i.drill, daysBetween(wish.start, s.date) / 7)];
            QVERIFY(used <= p.findDrill(i.drill)->daysAWeek);
        }
}

void PlanTest::plan_shortSessions_areSaid()
{
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    wish.faults = {p.faults[0].id};
    const auto isSaid = [&](int minutes) {
        wish.intake.minutes = minutes;
        const auto plan = makePlan(p, rule(), wish);
        const std::string minutesAsked = " of the " + std::to_string(minutes) + " minutes";
        return plan && std::any_of(plan->notes.begin(), plan->notes.end(),
                                   [&](const std::string& note) { return note.find(minutesAsked) != std::string::npos; });
    };
    QVERIFY(isSaid(90)); // three drills of some five minutes
    QVERIFY(!isSaid(10));
}

void PlanTest::plan_roundTrip()
{
    const Pack p = *findPack("overhead-serve");
    const Plan plan = *makePlan(p, rule(), wishFor(p));
    QCOMPARE(*parsePlan(toJson(plan), "p.json"), plan);
    auto other = plan;
    other.madeFor = PlanIntake{{1, 5}, 25, std::set<std::string>{"a ball", "a wall"}, "garden", {date("2026-12-05")}};
    other.intake = "mon, fri; a ball";
    other.coachNotes = {"From the match: film the backhand."};
    QCOMPARE(*parsePlan(toJson(other), "p.json"), other);
    QCOMPARE(differenceWords(*other.madeFor, *other.madeFor), std::string());
    PlanIntake changed = *other.madeFor;
    changed.kit.reset();
    changed.notOn.clear();
    QCOMPARE(differenceWords(*other.madeFor, changed), std::string("kit, days that are not free"));
    auto broken = toJson(plan);
    broken["sessions"][0]["items"][0]["level"] = "hardest";
    QCOMPARE(parsePlan(broken, "p.json").error().place, std::string("/sessions/0/items/0/level"));
}

/// As a ratio to something of known size: three tasks over six weeks are planned while a pack is read once.
void PlanTest::plan_sixWeeksThreeTasks_isQuick()
{
    const Pack p = *findPack("overhand-pitch");
    PlanWish wish = wishFor(p);
    wish.weeks = 6;
    wish.intake.weekdays = {0, 1, 2, 3, 4, 5, 6};
    QElapsedTimer timer;
    timer.start();
    for (int i = 0; i < 10; ++i)
        QVERIFY(findPack("overhand-pitch").has_value());
    const auto reading = timer.restart();
    for (int i = 0; i < 10; ++i)
        QVERIFY(makePlan(p, rule(), wish).has_value());
    const auto planning = timer.elapsed();
    QVERIFY2(planning <= 4 * reading + 10, qPrintable(QStringLiteral("%1 ms against %2").arg(planning).arg(reading)));
}

void PlanTest::bookTable_byHand()
{
    const auto table = bookFromCsv("\xEF\xBB\xBF"
                                   "date\tPitches\tpain\tpain level\tnote\n2026-03-01\t12\telbow\t3\t\"a\ttab\"\n"
                                   "2026-03-01\t8\t\t\t\n03/02/2026\t4\t\t\t\n2026-03-03\t-1\t\t\t\n\t5\t\t\t\n");
    QCOMPARE(table.days.size(), std::size_t{2});
    QCOMPARE(table.days[0].counts.at("pitch"), 20); // two lines of one day
    QCOMPARE(table.days[0].pain, (std::vector<BookPain>{{BodyRegion::Elbow, 3}}));
    QCOMPARE(table.days[0].note, std::string("a\ttab"));
    QCOMPARE(table.days[1].date, date("2026-03-02"));
    QCOMPARE(table.problems.size(), std::size_t{2});
    QVERIFY(bookFromCsv("a,b\n1,2\n").days.empty());
    QVERIFY(bookFromCsv("").problems.size() == 1);
    Book book;
    book.days = table.days;
    QCOMPARE(bookFromCsv(toCsv(book)).days, book.days);
    std::string many = "date,pitch\n";
    for (int n = 0; n < 10000; ++n)
        many += textOf(date("2000-01-01") + days(n)) + ",5\n";
    QCOMPARE(bookFromCsv(many).days.size(), std::size_t{10000});
}

void PlanTest::due_byHand()
{
    const Date today = date("2026-11-20");
    const auto kinds = [&](const DueFacts& facts) {
        QStringList all;
        for (const auto& d : dueOf(facts, rule(), today))
            all << QString::fromStdString(std::string(wordOf(d.kind)));
        return all.join(QLatin1Char(' '));
    };
    QCOMPARE(kinds({}), QString());
    Book book = bookOf({{"2026-11-18", 40}}, "2014-11-25"); // rests two days, turns twelve in five
    DueFacts facts;
    facts.book = &book;
    QCOMPARE(kinds(facts), QStringLiteral("rest_ends"));
    book.birthDate = date("2013-11-25"); // turns thirteen: 85 becomes 95
    QCOMPARE(kinds(facts), QStringLiteral("rest_ends age_band"));
    facts.lastFilmed = date("2026-11-10");
    facts.isConsentMissing = true;
    QCOMPARE(kinds(facts), QStringLiteral("rest_ends not_sent consent age_band"));
    facts.lastSent = facts.lastFilmed;
    Plan plan;
    plan.refilm = date("2026-11-19");
    facts.plan = &plan;
    book.days[0].pain = {{BodyRegion::Knee, 2}};
    QCOMPARE(kinds(facts), QStringLiteral("pain rest_ends film_again consent age_band"));
    facts.plan = nullptr;
    facts.lastFilmed = facts.lastSent = date("2026-10-01");
    QVERIFY(kinds(facts).contains(QStringLiteral("film_again")));
}

void PlanTest::progress_realSince_andGrowth()
{
    const Pack pack = packOfOne("joint_angle", {"shoulder.dom", "elbow.dom", "wrist.dom"}, Unit::Degree, false, View::Side,
                                {80, 100, Evidence::Taught, {}, {}, {}}, 5);
    const auto dayOf = [](const char* on, std::initializer_list<double> values) {
        ProgressDay day{date(on), {}};
        for (const double v : values) {
            Reading r;
            r.measure = "m";
            r.value = v;
            r.uncertainty = 0.1;
            r.low = 80;
            r.high = 100;
            judgeAgainstBand(r, 5);
            r.errors = {0.1F, -0.1F, 0.1F, -0.1F};
            day.readings.push_back({r});
        }
        return day;
    };
    const auto p = calcProgress(pack, "m",
                                {dayOf("2026-09-01", {58, 60, 62}), dayOf("2026-09-20", {59, 61, 63}), dayOf("2026-10-03", {}),
                                 dayOf("2026-10-10", {70, 72, 74}), dayOf("2026-11-01", {76, 78, 80})});
    QCOMPARE(p.points.size(), std::size_t{4}); // nothing was read on one day
    QCOMPARE(p.points.back().mean, 78.0);
    QVERIFY(std::abs(p.points.front().uncertainty - 2 / std::sqrt(3.0)) < 0.02);
    QCOMPARE(*p.realSince, date("2026-10-10"));
    QVERIFY2(p.words.find("4 days, from 60") == 0 && p.words.find("better for real since 2026-10-10") != std::string::npos,
             p.words.c_str());
    QVERIFY(calcProgress(pack, "m", {}).words.find("Not read") == 0);
    QVERIFY(calcProgress(pack, "m", {dayOf("2026-09-01", {58}), dayOf("2026-09-09", {90})}).words.find("too few") !=
            std::string::npos);

    QCOMPARE(growthWords({}), std::string());
    const auto fast = growthWords({{date("2026-01-01"), 1.50}, {date("2026-07-02"), 1.54}});
    QVERIFY2(fast.find("8.0 cm a year") != std::string::npos && fast.find("fast growth") != std::string::npos, fast.c_str());
    QVERIFY(growthWords({{date("2026-01-01"), 1.50}, {date("2026-07-02"), 1.51}}).find("fast") == std::string::npos);
    QVERIFY(growthWords({{date("2026-06-20"), 1.50}, {date("2026-07-02"), 1.51}}).find("a year") == std::string::npos);
    QVERIFY(cameOff("Strike") == true && cameOff("wide") == false && !cameOff("off the rim"));
    Book book = bookOf({{"2026-11-02", 5}});
    QCOMPARE(adherenceWords({date("2026-11-01"), date("2026-11-02"), date("2026-12-01")}, book, date("2026-11-20")),
             std::string("1 of 2 planned days were practised"));
}

KESTREL_TEST(PlanTest)
#include "plan_test.moc"
