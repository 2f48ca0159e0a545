#include "core/plan/book_csv.h"

#include "core/base/csv.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cstdio>

namespace kestrel {

namespace {

constexpr std::array kKinds{"pitch", "serve", "throw", "swing", "stroke", "smash", "shot"};

std::string lower(std::string s)
{
    std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    s.erase(0, s.find_first_not_of(" "));
    s.erase(s.find_last_not_of(" ") + 1);
    return s;
}

/// What a column's head stands for; empty: nothing that is known.
std::string fieldOf(const std::string& head)
{
    const std::string name = lower(head);
    for (const std::string kind : kKinds)
        if (name == kind || name == kind + "s" || name == kind + "es")
            return kind;
    for (const char* field : {"date", "attempted", "made", "minutes", "effort", "catcher", "mood", "note"})
        if (name == field)
            return field;
    if (name == "day")
        return "date";
    if (name == "notes" || name == "comment")
        return "note";
    if (name == "pain" || name == "pain where")
        return "pain";
    if (name == "pain level" || name == "level")
        return "level";
    return {};
}

std::optional<int> wholeNumber(const std::string& words)
{
    const std::string trimmed = lower(words);
    int value = 0;
    const auto [end, error] = std::from_chars(trimmed.data(), trimmed.data() + trimmed.size(), value);
    return error == std::errc{} && end == trimmed.data() + trimmed.size() && value >= 0 ? std::optional(value) : std::nullopt;
}

std::optional<Date> anyDate(const std::string& words)
{
    if (const auto date = parseDate(words))
        return date;
    int a = 0, b = 0, c = 0;
    char text[16];
    if (std::sscanf(words.c_str(), "%d.%d.%d", &a, &b, &c) == 3)
        std::snprintf(text, sizeof text, "%04d-%02d-%02d", c % 10000, b % 100, a % 100);
    else if (std::sscanf(words.c_str(), "%d/%d/%d", &a, &b, &c) == 3)
        std::snprintf(text, sizeof text, "%04d-%02d-%02d", c % 10000, a % 100, b % 100);
    else
        return std::nullopt;
    return a > 0 && b > 0 && c > 0 ? parseDate(text) : std::nullopt;
}

} // namespace

BookTable bookFromCsv(const std::string& text)
{
    BookTable table;
    const auto rows = parseCsv(text);
    if (rows.empty()) {
        table.problems.emplace_back("The table is empty.");
        return table;
    }
    bool hasDate = false;
    for (const auto& head : rows[0]) {
        table.columns.emplace_back(head, fieldOf(head));
        hasDate = hasDate || table.columns.back().second == "date";
    }
    if (!hasDate) {
        table.problems.emplace_back("No column is called date.");
        return table;
    }
    std::map<Date, BookDay> days;
    for (std::size_t n = 1; n < rows.size(); ++n) {
        BookDay day;
        std::optional<Date> date;
        BookPain pain;
        bool hasPain = false;
        std::string wrong;
        for (std::size_t c = 0; c < std::min(rows[n].size(), table.columns.size()); ++c) {
            const std::string &field = table.columns[c].second, &cell = rows[n][c];
            if (field.empty() || lower(cell).empty())
                continue;
            const auto number = [&]() -> int {
                const auto value = wholeNumber(cell);
                if (!value)
                    wrong = "\"" + cell + "\" is no number";
                return value.value_or(0);
            };
            if (field == "date") {
                date = anyDate(cell);
                if (!date)
                    wrong = "\"" + cell + "\" is no day";
            } else if (field == "attempted") {
                day.attempted = number();
            } else if (field == "made") {
                day.made = number();
            } else if (field == "minutes") {
                day.minutes = number();
            } else if (field == "effort") {
                day.effort = number();
                if (day.effort < 1 || day.effort > 10)
                    wrong = "effort is 1 to 10";
            } else if (field == "catcher") {
                day.isCatcher = lower(cell) == "yes" || lower(cell) == "1" || lower(cell) == "true";
            } else if (field == "pain") {
                hasPain = true;
                pain.where = findBodyRegion(lower(cell)).value_or(BodyRegion::Other);
                pain.level = std::max(pain.level, 1);
            } else if (field == "level") {
                pain.level = std::min(10, number());
            } else if (field == "mood") {
                day.mood = cell;
            } else if (field == "note") {
                day.note = cell;
            } else if (const int count = number(); count > 0) {
                day.counts[field] = count;
            }
        }
        if (wrong.empty() && !date)
            wrong = "no day";
        if (wrong.empty() && day.made > day.attempted)
            wrong = "more were made than attempted";
        if (!wrong.empty()) {
            table.problems.push_back("line " + std::to_string(n + 1) + ": " + wrong + ".");
            continue;
        }
        if (hasPain && pain.level > 0)
            day.pain.push_back(pain);
        day.date = *date;
        auto& kept = days[*date];
        if (kept.date != *date) {
            kept = std::move(day);
            continue;
        }
        for (const auto& [kind, count] : day.counts) // another line of the same day
            kept.counts[kind] += count;
        kept.attempted += day.attempted;
        kept.made += day.made;
        kept.pain.insert(kept.pain.end(), day.pain.begin(), day.pain.end());
    }
    for (auto& [date, day] : days)
        table.days.push_back(std::move(day));
    return table;
}

std::string toCsv(const Book& book)
{
    std::vector<std::string> head{"date"};
    head.insert(head.end(), kKinds.begin(), kKinds.end());
    for (const char* field : {"attempted", "made", "minutes", "effort", "catcher", "pain", "pain level", "mood", "note"})
        head.emplace_back(field);
    std::string csv = csvLine(head);
    for (const auto& d : book.days) {
        std::vector<std::string> row{textOf(d.date)};
        const auto number = [](int n) { return n > 0 ? std::to_string(n) : std::string(); };
        for (const char* kind : kKinds) {
            const auto it = d.counts.find(kind);
            row.push_back(it == d.counts.end() ? "" : number(it->second));
        }
        row.push_back(number(d.attempted));
        row.push_back(d.attempted > 0 ? std::to_string(d.made) : "");
        row.push_back(d.minutes ? std::to_string(static_cast<int>(*d.minutes)) : "");
        row.push_back(d.effort ? std::to_string(*d.effort) : "");
        row.emplace_back(d.isCatcher ? "yes" : "");
        row.emplace_back(d.pain.empty() ? std::string() : std::string(wordOf(d.pain.front().where)));
        row.push_back(d.pain.empty() ? "" : std::to_string(d.pain.front().level));
        row.push_back(d.mood);
        row.push_back(d.note);
        csv += csvLine(row);
    }
    return csv;
}

} // namespace kestrel
