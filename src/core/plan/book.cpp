#include "core/plan/book.h"

#include "core/base/json_reader.h"

#include <algorithm>

namespace kestrel {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "jolly-kestrel/book";
constexpr std::size_t kMostDays = 40000; // a century
constexpr int kMostCount = 100000;

Date readDate(const JsonNode& n)
{
    const auto date = parseDate(n.text());
    if (!date && n.raw().is_string())
        n.wrong("found \"" + n.text() + "\", expected a day such as 2026-04-11");
    return date.value_or(Date{});
}

int readCount(const JsonNode& n)
{
    return static_cast<int>(n.integerIn(0, kMostCount));
}

BodyRegion readRegion(const JsonNode& n)
{
    return n.choice(findBodyRegion, "neck, shoulder, elbow, wrist, back, hip, knee, ankle or other").value_or(BodyRegion::Other);
}

template <class Value> Expected<Value> checked(Value value, const JsonProblems& problems)
{
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return value;
}

void add(BookDay& into, const BookDay& day)
{
    for (const auto& [kind, count] : day.counts)
        into.counts[kind] += count;
    into.attempted += day.attempted;
    into.made += day.made;
    into.isCatcher = into.isCatcher || day.isCatcher;
    into.pain.insert(into.pain.end(), day.pain.begin(), day.pain.end());
    into.drills.insert(into.drills.end(), day.drills.begin(), day.drills.end());
    if (day.minutes)
        into.minutes = into.minutes.value_or(0) + *day.minutes;
    if (day.effort)
        into.effort = std::max(into.effort.value_or(0), *day.effort);
    for (auto [text, more] : {std::pair(&into.mood, &day.mood), std::pair(&into.note, &day.note)})
        if (!more->empty())
            *text += (text->empty() ? "" : "; ") + *more;
}

} // namespace

BookDay readBookDay(const JsonNode& n)
{
    BookDay day;
    day.date = readDate(n.at("date"));
    if (const auto counts = n.find("counts"))
        for (const auto& [kind, number] : counts->members())
            if (const int count = readCount(number); count > 0)
                day.counts[kind] = count;
    if (const auto shots = n.find("shots")) {
        day.attempted = readCount(shots->at("attempted"));
        day.made = readCount(shots->at("made"));
        if (day.made > day.attempted)
            shots->wrong("more were made than attempted");
    }
    day.isCatcher = n.booleanOr("catcher", false);
    if (const auto pain = n.find("pain"))
        for (const auto& x : pain->items())
            day.pain.push_back({readRegion(x.at("where")), static_cast<int>(x.at("level").integerIn(0, 10))});
    if (const auto drills = n.find("drills"))
        for (const auto& x : drills->items())
            day.drills.push_back({x.at("id").words(), readCount(x.at("sets")), readCount(x.at("reps"))});
    if (const auto minutes = n.find("minutes"))
        day.minutes = minutes->numberIn(0, 24 * 60);
    if (const auto effort = n.find("effort"))
        day.effort = static_cast<int>(effort->integerIn(1, 10));
    day.mood = n.textOr("mood", "");
    day.note = n.textOr("note", "");
    return day;
}

int BookDay::count(const std::vector<std::string>& kinds) const
{
    int sum = 0;
    for (const auto& kind : kinds)
        if (const auto it = counts.find(kind); it != counts.end())
            sum += it->second;
    return sum;
}

bool BookDay::isEmpty() const
{
    BookDay empty;
    empty.date = date;
    return *this == empty;
}

const BookDay* Book::find(Date date) const
{
    const auto it =
        std::lower_bound(days.begin(), days.end(), date, [](const BookDay& d, Date wanted) { return d.date < wanted; });
    return it != days.end() && it->date == date ? &*it : nullptr;
}

std::set<BodyRegion> Book::openPain(Date on) const
{
    std::set<BodyRegion> open;
    for (const auto& day : days)
        for (const auto& pain : day.pain) {
            const bool isCleared = std::any_of(cleared.begin(), cleared.end(), [&](const Cleared& c) {
                return c.where == pain.where && c.date >= day.date && c.date <= on;
            });
            if (day.date <= on && pain.level > 0 && !isCleared)
                open.insert(pain.where);
        }
    return open;
}

Expected<Book> parseBook(const json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode n(root, "", problems);
    Book book;
    if (const auto birth = n.find("birthDate"))
        book.birthDate = readDate(*birth);
    for (const auto& x : n.at("days").items(kMostDays))
        book.days.push_back(readBookDay(x));
    if (const auto cleared = n.find("cleared"))
        for (const auto& x : cleared->items())
            book.cleared.push_back({readDate(x.at("date")), readRegion(x.at("where"))});
    std::stable_sort(book.days.begin(), book.days.end(), [](const BookDay& a, const BookDay& b) { return a.date < b.date; });
    std::vector<BookDay> once;
    for (const auto& day : book.days) {
        if (!once.empty() && once.back().date == day.date)
            add(once.back(), day);
        else
            once.push_back(day);
    }
    book.days = std::move(once);
    return checked(std::move(book), problems);
}

Expected<Book> loadBook(const std::string& file)
{
    return loadJson(file).and_then([&](const json& root) { return parseBook(root, file); });
}

json toJson(const BookDay& day)
{
    json j{{"date", textOf(day.date)}, {"counts", day.counts}, {"catcher", day.isCatcher}};
    if (day.attempted > 0)
        j["shots"] = {{"attempted", day.attempted}, {"made", day.made}};
    j["pain"] = json::array();
    for (const auto& p : day.pain)
        j["pain"].push_back({{"where", wordOf(p.where)}, {"level", p.level}});
    j["drills"] = json::array();
    for (const auto& d : day.drills)
        j["drills"].push_back({{"id", d.id}, {"sets", d.sets}, {"reps", d.reps}});
    if (day.minutes)
        j["minutes"] = *day.minutes;
    if (day.effort)
        j["effort"] = *day.effort;
    if (!day.mood.empty())
        j["mood"] = day.mood;
    if (!day.note.empty())
        j["note"] = day.note;
    return j;
}

Expected<BookDay> parseBookDay(const json& root, const std::string& file)
{
    JsonProblems problems(file);
    return checked(readBookDay(JsonNode(root, "", problems)), problems);
}

json toJson(const Book& book)
{
    json days = json::array(), cleared = json::array();
    for (const auto& day : book.days)
        days.push_back(toJson(day));
    for (const auto& c : book.cleared)
        cleared.push_back({{"date", textOf(c.date)}, {"where", wordOf(c.where)}});
    return {{"format", kFormat},
            {"version", 1},
            {"birthDate", book.birthDate ? json(textOf(*book.birthDate)) : json()},
            {"days", days},
            {"cleared", cleared}};
}

} // namespace kestrel
