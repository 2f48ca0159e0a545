#include "report/plan_calendar.h"

#include "report/plan_words.h"

#include <libical/ical.h>

#include <memory>

namespace kestrel::report {

namespace {

constexpr int kRemindAt = 16; // o'clock on the day

icaltimetype allDay(Date date)
{
    const std::chrono::year_month_day d(date);
    icaltimetype t = icaltime_null_time();
    t.year = static_cast<int>(d.year());
    t.month = static_cast<int>(static_cast<unsigned>(d.month()));
    t.day = static_cast<int>(static_cast<unsigned>(d.day()));
    t.is_date = 1;
    return t;
}

struct EventFacts {
    Date date;
    std::string uid, summary, description;
    bool isCancelled = false;
};

icalcomponent* eventOf(const EventFacts& facts, int sequence, const icaltimetype& made)
{
    icalcomponent* event =
        icalcomponent_vanew(ICAL_VEVENT_COMPONENT, icalproperty_new_uid(facts.uid.c_str()), icalproperty_new_dtstamp(made),
                            icalproperty_new_sequence(sequence), icalproperty_new_summary(facts.summary.c_str()), nullptr);
    for (const bool isEnd : {false, true}) {
        icalproperty* p = isEnd ? icalproperty_new_dtend(allDay(facts.date + std::chrono::days(1)))
                                : icalproperty_new_dtstart(allDay(facts.date));
        icalproperty_set_parameter(p, icalparameter_new_value(ICAL_VALUE_DATE));
        icalcomponent_add_property(event, p);
    }
    icalcomponent_add_property(event, icalproperty_new_status(facts.isCancelled ? ICAL_STATUS_CANCELLED : ICAL_STATUS_CONFIRMED));
    icalcomponent_add_property(event, icalproperty_new_transp(ICAL_TRANSP_TRANSPARENT));
    if (!facts.description.empty())
        icalcomponent_add_property(event, icalproperty_new_description(facts.description.c_str()));
    if (facts.isCancelled)
        return event;
    icaltriggertype trigger{};
    trigger.time = icaltime_null_time();
    trigger.duration = icaldurationtype_from_int(kRemindAt * 3600);
    icalcomponent_add_component(event, icalcomponent_vanew(ICAL_VALARM_COMPONENT, icalproperty_new_action(ICAL_ACTION_DISPLAY),
                                                           icalproperty_new_description(facts.summary.c_str()),
                                                           icalproperty_new_trigger(trigger), nullptr));
    return event;
}

} // namespace

std::string toCalendar(const Plan& plan, const Pack& pack, const std::string& made)
{
    const std::unique_ptr<icalcomponent, decltype(&icalcomponent_free)> calendar(
        icalcomponent_vanew(ICAL_VCALENDAR_COMPONENT, icalproperty_new_version("2.0"),
                            icalproperty_new_prodid("-//Jolly Kestrel//Plan//EN"), icalproperty_new_method(ICAL_METHOD_PUBLISH),
                            nullptr),
        &icalcomponent_free);
    const icaltimetype stamp = icaltime_from_string(made.c_str());
    const std::string whose = plan.player.empty() ? std::string() : " for " + plan.player;
    const auto add = [&](const EventFacts& facts) {
        icalcomponent_add_component(calendar.get(), eventOf(facts, plan.sequence, stamp));
    };
    for (const auto& s : plan.sessions) {
        std::string drills;
        for (const auto& item : s.items)
            drills += (drills.empty() ? "" : "\n") + itemWords(item, pack);
        add({s.date, s.uid, "Practice" + whose + ": " + minutesWords(s.minutes()), drills});
    }
    add({plan.refilm, plan.refilmUid, "Film again" + whose, plan.refilmHow});
    for (const auto& d : plan.dropped)
        add({d.date, d.uid, "Practice" + whose + " (dropped)", {}, true});
    char* text = icalcomponent_as_ical_string_r(calendar.get());
    std::string done(text ? text : "");
    icalmemory_free_buffer(text);
    return done;
}

} // namespace kestrel::report
