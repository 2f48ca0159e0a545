#include "core/plan/plan.h"

#include "core/base/json_reader.h"
#include "core/base/word_table.h"

#include <numeric>

namespace kestrel {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "jolly-kestrel/plan";
constexpr std::size_t kMostNotOn = 1000;
constexpr WordRow<DrillLevel> kLevels[] = {
    {DrillLevel::Easier, "easier"}, {DrillLevel::AsWritten, "as_written"}, {DrillLevel::Harder, "harder"}};

Date readDate(const JsonNode& n)
{
    const auto date = parseDate(n.text());
    if (!date && n.raw().is_string())
        n.wrong("found \"" + n.text() + "\", expected a day such as 2026-04-11");
    return date.value_or(Date{});
}

PlanSession readSession(const JsonNode& n)
{
    PlanSession s;
    s.date = readDate(n.at("date"));
    s.uid = n.at("uid").words();
    s.why = n.textOr("why", "");
    s.isLocked = n.booleanOr("locked", false);
    for (const auto& x : n.at("items").items()) {
        PlanItem item;
        item.drill = x.at("drill").words();
        item.fault = x.textOr("fault", "");
        item.sets = static_cast<int>(x.at("sets").integerIn(1, 100));
        item.reps = static_cast<int>(x.at("reps").integerIn(1, 1000));
        item.minutes = x.at("minutes").numberIn(0, 600);
        item.why = x.textOr("why", "");
        item.level = x.at("level").choice(findDrillLevel, choicesOf(kLevels)).value_or(DrillLevel::AsWritten);
        s.items.push_back(std::move(item));
    }
    return s;
}

PlanIntake readIntake(const JsonNode& n)
{
    PlanIntake intake;
    for (const auto& x : n.at("weekdays").items(7))
        intake.weekdays.insert(static_cast<unsigned>(x.integerIn(0, 6)));
    intake.minutes = n.at("minutes").numberIn(0, 600);
    if (n.find("kit")) {
        const auto kit = n.textsOf("kit");
        intake.kit = std::set<std::string>(kit.begin(), kit.end());
    }
    intake.space = n.textOr("space", "");
    if (const auto days = n.find("notOn"))
        for (const auto& x : days->items(kMostNotOn))
            intake.notOn.insert(readDate(x));
    return intake;
}

json toJson(const PlanIntake& intake)
{
    json notOn = json::array();
    for (const auto date : intake.notOn)
        notOn.push_back(textOf(date));
    json j{{"weekdays", intake.weekdays}, {"minutes", intake.minutes}, {"space", intake.space}, {"notOn", notOn}};
    if (intake.kit)
        j["kit"] = *intake.kit;
    return j;
}

} // namespace

std::string differenceWords(const PlanIntake& a, const PlanIntake& b)
{
    std::string words;
    const auto add = [&words](bool differs, const char* what) {
        if (differs)
            words += (words.empty() ? "" : ", ") + std::string(what);
    };
    add(a.weekdays != b.weekdays, "days of the week");
    add(a.minutes != b.minutes, "minutes");
    add(a.kit != b.kit, "kit");
    add(a.space != b.space, "place");
    add(a.notOn != b.notOn, "days that are not free");
    return words;
}

std::string_view wordOf(DrillLevel l)
{
    return wordIn(kLevels, l);
}
std::optional<DrillLevel> findDrillLevel(std::string_view word)
{
    return findIn(kLevels, word);
}

double PlanSession::minutes() const
{
    return std::accumulate(items.begin(), items.end(), 0.0, [](double sum, const PlanItem& i) { return sum + i.minutes; });
}

Expected<Plan> parsePlan(const json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode n(root, "", problems);
    Plan plan;
    plan.pack = n.textOr("pack", "");
    plan.player = n.textOr("player", "");
    plan.tasks = n.textsOf("tasks");
    plan.start = readDate(n.at("start"));
    plan.weeks = static_cast<int>(n.at("weeks").integerIn(1, 52));
    plan.sequence = n.find("sequence") ? static_cast<int>(n.at("sequence").integerIn(0, 1000000)) : 0;
    for (const auto& x : n.at("sessions").items())
        plan.sessions.push_back(readSession(x));
    const JsonNode refilm = n.at("refilm");
    plan.refilm = readDate(refilm.at("date"));
    plan.refilmHow = refilm.textOr("how", "");
    plan.refilmUid = refilm.textOr("uid", "");
    plan.notes = n.textsOf("notes");
    plan.coachNotes = n.textsOf("coachNotes");
    if (const auto dropped = n.find("dropped"))
        for (const auto& x : dropped->items())
            plan.dropped.push_back({readDate(x.at("date")), x.at("uid").words()});
    if (const auto made = n.find("madeFor"))
        plan.madeFor = readIntake(*made);
    plan.intake = n.textOr("intake", "");
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return plan;
}

Expected<Plan> loadPlan(const std::string& file)
{
    return loadJson(file).and_then([&](const json& root) { return parsePlan(root, file); });
}

json toJson(const Plan& plan)
{
    json sessions = json::array(), dropped = json::array();
    for (const auto& s : plan.sessions) {
        json items = json::array();
        for (const auto& i : s.items)
            items.push_back({{"drill", i.drill},
                             {"fault", i.fault},
                             {"sets", i.sets},
                             {"reps", i.reps},
                             {"minutes", i.minutes},
                             {"why", i.why},
                             {"level", wordOf(i.level)}});
        sessions.push_back({{"date", textOf(s.date)},
                            {"uid", s.uid},
                            {"minutes", s.minutes()},
                            {"why", s.why},
                            {"locked", s.isLocked},
                            {"items", items}});
    }
    for (const auto& d : plan.dropped)
        dropped.push_back({{"date", textOf(d.date)}, {"uid", d.uid}});
    json root{
        {"format", kFormat},    {"version", 1},
        {"pack", plan.pack},    {"player", plan.player},
        {"tasks", plan.tasks},  {"start", textOf(plan.start)},
        {"weeks", plan.weeks},  {"sequence", plan.sequence},
        {"sessions", sessions}, {"refilm", {{"date", textOf(plan.refilm)}, {"how", plan.refilmHow}, {"uid", plan.refilmUid}}},
        {"notes", plan.notes},  {"dropped", dropped}};
    if (!plan.coachNotes.empty())
        root["coachNotes"] = plan.coachNotes;
    if (plan.madeFor)
        root["madeFor"] = toJson(*plan.madeFor);
    if (!plan.intake.empty())
        root["intake"] = plan.intake;
    return root;
}

} // namespace kestrel
