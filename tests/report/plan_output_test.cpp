// The plan as a calendar, read back by libical and by a reader written here; the plan's and the match's sheets.

#include "support/markings.h"
#include "support/runner.h"

#include "core/pack/pack_folder.h"
#include "core/plan/planner.h"
#include "report/match_page.h"
#include "report/plan_calendar.h"
#include "report/plan_sheet.h"

#include <QTemporaryDir>
#include <QtTest>

#include <libical/ical.h>

using namespace kestrel;
using namespace kestrel::test;

namespace {

struct CalendarEvent {
    std::string uid, start, end, status, summary, description;
    int sequence = -1;
    bool hasAlarm = false;
    auto operator<=>(const CalendarEvent&) const = default;
};

std::vector<CalendarEvent> readByLibical(const std::string& text)
{
    std::vector<CalendarEvent> events;
    icalcomponent* calendar = icalparser_parse_string(text.c_str());
    for (auto* e = icalcomponent_get_first_component(calendar, ICAL_VEVENT_COMPONENT); e;
         e = icalcomponent_get_next_component(calendar, ICAL_VEVENT_COMPONENT)) {
        CalendarEvent event;
        event.uid = icalcomponent_get_uid(e);
        event.start = icaltime_as_ical_string(icalcomponent_get_dtstart(e));
        event.end = icaltime_as_ical_string(icalcomponent_get_dtend(e));
        event.status = icalcomponent_get_status(e) == ICAL_STATUS_CANCELLED ? "CANCELLED" : "CONFIRMED";
        event.summary = icalcomponent_get_summary(e);
        event.description = icalcomponent_get_description(e) ? icalcomponent_get_description(e) : "";
        event.sequence = icalcomponent_get_sequence(e);
        event.hasAlarm = icalcomponent_get_first_component(e, ICAL_VALARM_COMPONENT) != nullptr;
        events.push_back(event);
    }
    icalcomponent_free(calendar);
    return events;
}

/// By the letter of RFC 5545: lines unfolded, text unescaped.
std::vector<CalendarEvent> readByHand(std::string text)
{
    for (std::size_t at; (at = text.find("\r\n ")) != std::string::npos;)
        text.erase(at, 3);
    std::vector<CalendarEvent> events;
    bool isInAlarm = false;
    for (std::size_t begin = 0; begin < text.size();) {
        const std::size_t end = text.find("\r\n", begin);
        const std::string line = text.substr(begin, end - begin);
        begin = end == std::string::npos ? text.size() : end + 2;
        const std::string name = line.substr(0, line.find_first_of(":;"));
        const std::string raw = line.substr(line.find(':') + 1);
        std::string value;
        for (std::size_t i = 0; i < raw.size(); ++i)
            if (raw[i] == '\\' && i + 1 < raw.size()) {
                ++i;
                value += raw[i] == 'n' || raw[i] == 'N' ? '\n' : raw[i];
            } else {
                value += raw[i];
            }
        if (line == "BEGIN:VEVENT")
            events.emplace_back();
        else if (line == "BEGIN:VALARM")
            events.back().hasAlarm = isInAlarm = true;
        else if (line == "END:VALARM")
            isInAlarm = false;
        else if (!events.empty() && !isInAlarm) {
            CalendarEvent& e = events.back();
            if (name == "UID")
                e.uid = value;
            else if (name == "DTSTART")
                e.start = value;
            else if (name == "DTEND")
                e.end = value;
            else if (name == "STATUS")
                e.status = value;
            else if (name == "SUMMARY")
                e.summary = value;
            else if (name == "DESCRIPTION")
                e.description = value;
            else if (name == "SEQUENCE")
                e.sequence = std::stoi(value);
        }
    }
    return events;
}

Plan madePlan(const Pack& pack, const Plan* before = nullptr)
{
    PlanWish wish;
    wish.player = "Zoë, \"the arm\"; of Group B\\C";
    wish.faults = {pack.faults[0].id, pack.faults[1].id};
    wish.start = *parseDate("2028-02-21");
    wish.intake.weekdays = before ? std::set<unsigned>{1} : std::set<unsigned>{1, 2};
    wish.weeks = 2;
    wish.age = 12;
    return *makePlan(pack, *shippedWorkloadRule(), wish, before, wish.start);
}

} // namespace

class PlanOutputTest : public QObject {
    Q_OBJECT
private slots:
    void calendar_bothReadersAgree();
    void calendar_again_updatesAndCancels();
    void sheets_everyEnding();
    void matchSheet_everyEnding();
};

void PlanOutputTest::calendar_bothReadersAgree()
{
    const Pack pack = *findPack("overhand-pitch");
    const Plan plan = madePlan(pack);
    const std::string text = report::toCalendar(plan, pack, "20280220T080000Z");
    const auto events = readByLibical(text);
    QVERIFY(events == readByHand(text));
    QCOMPARE(events.size(), plan.sessions.size() + 1); // and the day of filming again
    QCOMPARE(events[0].start, std::string("20280221"));
    QCOMPARE(events[0].end, std::string("20280222"));
    const auto leap = std::find_if(events.begin(), events.end(), [](const CalendarEvent& e) { return e.start == "20280228"; });
    QVERIFY(leap != events.end());
    QCOMPARE(leap->end, std::string("20280229")); // a day there is every four years
    for (std::size_t n = 0; n < plan.sessions.size(); ++n) {
        QCOMPARE(events[n].uid, plan.sessions[n].uid);
        QVERIFY(events[n].hasAlarm);
        QVERIFY(events[n].summary.find(plan.player) != std::string::npos);
    }
    for (std::size_t begin = 0; begin < text.size(); begin = text.find("\r\n", begin) + 2)
        QVERIFY(text.find("\r\n", begin) - begin <= 75);
}

void PlanOutputTest::calendar_again_updatesAndCancels()
{
    const Pack pack = *findPack("overhand-pitch");
    const Plan first = madePlan(pack);
    const Plan again = madePlan(pack, &first);
    std::map<std::string, CalendarEvent> calendar; // as a program keeps it: by uid, the highest sequence wins
    for (const Plan* plan : {&first, &again})
        for (const auto& e : readByLibical(report::toCalendar(*plan, pack, "20280220T080000Z")))
            if (auto& kept = calendar[e.uid]; e.sequence > kept.sequence)
                kept = e;
    std::size_t confirmed = 0;
    for (const auto& [uid, e] : calendar)
        confirmed += e.status == "CONFIRMED";
    QCOMPARE(confirmed, again.sessions.size() + 1); // nothing is there twice
    QVERIFY(again.dropped.size() == calendar.size() - confirmed && !again.dropped.empty());
}

void PlanOutputTest::sheets_everyEnding()
{
    const Pack pack = *findPack("overhand-pitch");
    QTemporaryDir folder;
    for (const char* name : {"p.pdf", "p.png", "p.html"}) {
        const auto file = folder.filePath(QLatin1String(name)).toStdString();
        QVERIFY(report::saveDocument(report::documentOf(madePlan(pack), pack), file).has_value());
        QVERIFY(contentOf(file).size() > 2000);
    }
    const auto html = contentOf(folder.filePath(QStringLiteral("p.html")).toStdString());
    QVERIFY(html.find("type=\"checkbox\"") != std::string::npos);
    QVERIFY(html.find("&quot;the arm&quot;") != std::string::npos);
    QVERIFY(html.find("http") == std::string::npos); // nothing is fetched
    QVERIFY(html.find("Film again on") != std::string::npos);
}

void PlanOutputTest::matchSheet_everyEnding()
{
    MatchLog log;
    log.sport = "table-tennis";
    log.players = {"Mira", "Joost"};
    log.firstServer = "Mira";
    for (int n = 0; n < 30; ++n) {
        Rally r;
        r.won = n % 4 ? "Joost" : "Mira";
        r.strokes = {"backhand"};
        r.how = n % 4 ? "error_net" : "winner";
        log.rallies.push_back(r);
    }
    QTemporaryDir folder;
    for (const char* name : {"m.pdf", "m.png", "m.html"}) {
        const auto file = folder.filePath(QLatin1String(name)).toStdString();
        QVERIFY(report::saveDocument(report::matchDocument(log, *findMatchSport("table-tennis")), file).has_value());
        QVERIFY(contentOf(file).size() > 900);
    }
    const auto html = contentOf(folder.filePath(QStringLiteral("m.html")).toStdString());
    QVERIFY(html.find("What to train next") != std::string::npos &&
            html.find("Film the backhand topspin: 8 of 30") != std::string::npos);
}

KESTREL_TEST(PlanOutputTest)
#include "plan_output_test.moc"
