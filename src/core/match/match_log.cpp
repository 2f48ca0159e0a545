#include "core/match/match_log.h"

#include "core/base/csv.h"
#include "core/base/json_reader.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <map>

namespace kestrel {

namespace {

using nlohmann::json;

constexpr const char* kFormat = "jolly-kestrel/match";
constexpr std::size_t kMostRallies = 200000;
constexpr const char* kColumns[] = {"won", "how", "serve", "strokes", "server", "attacking", "moved", "from", "to", "note"};

Rally readRally(const JsonNode& n)
{
    Rally r;
    r.won = n.textOr("won", "");
    r.how = n.textOr("how", "");
    r.serve = n.textOr("serve", "");
    r.strokes = n.textsOf("strokes");
    r.server = n.textOr("server", "");
    if (const auto x = n.find("attacking"))
        r.attacking = x->boolean();
    if (const auto x = n.find("moved"))
        r.moved = x->boolean();
    if (const auto x = n.find("from"))
        r.from = x->number();
    if (const auto x = n.find("to"))
        r.to = x->number();
    r.note = n.textOr("note", "");
    return r;
}

std::string text(const std::optional<double>& seconds)
{
    if (!seconds)
        return {};
    std::array<char, 32> words{};
    const auto end = std::to_chars(words.data(), words.data() + words.size(), *seconds).ptr;
    return {words.data(), end};
}

std::string text(const std::optional<bool>& is)
{
    return !is ? "" : *is ? "yes" : "no";
}

} // namespace

std::optional<PlayerIndex> MatchLog::find(const std::string& player) const
{
    for (PlayerIndex n = 0; n < 2; ++n)
        if (players[n] == player)
            return n;
    return std::nullopt;
}

Expected<MatchLog> parseMatchLog(const json& root, const std::string& file)
{
    if (auto e = checkFormat(root, kFormat, file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode n(root, "", problems);
    MatchLog log;
    log.sport = n.at("sport").words();
    if (const auto best = n.find("bestOf"))
        log.bestOf = static_cast<int>(best->integerIn(1, 99));
    if (log.bestOf > 0 && log.bestOf % 2 == 0)
        n.at("bestOf").wrong("best of an even number has no winner");
    const auto players = n.at("players").items(2);
    if (players.size() != 2)
        n.at("players").wrong("expected two players");
    for (std::size_t i = 0; i < std::min<std::size_t>(2, players.size()); ++i)
        log.players[i] = players[i].words();
    if (players.size() == 2 && log.players[0] == log.players[1])
        players[1].wrong("both players have the same name");
    log.firstServer = n.textOr("firstServer", log.players[0]);
    if (players.size() == 2 && !log.find(log.firstServer))
        n.at("firstServer").wrong("\"" + log.firstServer + "\" does not play");
    log.film = n.textOr("film", "");
    log.date = n.textOr("date", "");
    for (const auto& x : n.at("rallies").items(kMostRallies))
        log.rallies.push_back(readRally(x));
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return log;
}

Expected<MatchLog> loadMatchLog(const std::string& file)
{
    return loadJson(file).and_then([&](const json& root) { return parseMatchLog(root, file); });
}

json toJson(const MatchLog& log)
{
    json rallies = json::array();
    for (const auto& r : log.rallies) {
        json j{{"won", r.won}, {"how", r.how}};
        if (!r.serve.empty())
            j["serve"] = r.serve;
        if (!r.strokes.empty())
            j["strokes"] = r.strokes;
        if (!r.server.empty())
            j["server"] = r.server;
        if (r.attacking)
            j["attacking"] = *r.attacking;
        if (r.moved)
            j["moved"] = *r.moved;
        if (r.from)
            j["from"] = *r.from;
        if (r.to)
            j["to"] = *r.to;
        if (!r.note.empty())
            j["note"] = r.note;
        rallies.push_back(std::move(j));
    }
    json root{{"format", kFormat},
              {"version", 1},
              {"sport", log.sport},
              {"players", log.players},
              {"firstServer", log.firstServer},
              {"rallies", std::move(rallies)}};
    if (log.bestOf > 0)
        root["bestOf"] = log.bestOf;
    if (!log.film.empty())
        root["film"] = log.film;
    if (!log.date.empty())
        root["date"] = log.date;
    return root;
}

std::string toCsv(const MatchLog& log)
{
    std::string csv = csvLine({std::begin(kColumns), std::end(kColumns)});
    for (const auto& r : log.rallies) {
        std::string strokes;
        for (const auto& s : r.strokes)
            strokes += (strokes.empty() ? "" : " ") + s;
        csv += csvLine(
            {r.won, r.how, r.serve, strokes, r.server, text(r.attacking), text(r.moved), text(r.from), text(r.to), r.note});
    }
    return csv;
}

Expected<std::vector<Rally>> ralliesFromCsv(const std::string& textOfFile, const std::string& file)
{
    const auto rows = parseCsv(textOfFile);
    if (rows.empty())
        return fail(ErrorCode::WrongField, "The table is empty.", file);
    std::map<std::string, std::size_t> columns;
    for (std::size_t n = 0; n < rows[0].size(); ++n) {
        std::string name = rows[0][n];
        std::transform(name.begin(), name.end(), name.begin(),
                       [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        columns.emplace(name, n);
    }
    if (!columns.count("won"))
        return fail(ErrorCode::WrongField, "The table has no column \"won\" in its first line.", file, "line 1");
    std::vector<Rally> rallies;
    std::optional<Error> wrong;
    for (std::size_t n = 1; n < rows.size() && !wrong; ++n) {
        const auto cell = [&](const char* column) {
            const auto it = columns.find(column);
            return it != columns.end() && it->second < rows[n].size() ? rows[n][it->second] : std::string();
        };
        const auto complain = [&](const char* column) {
            wrong =
                Error{ErrorCode::WrongField, std::string("\"") + cell(column) + "\" is wrong in the column \"" + column + "\".",
                      file, "line " + std::to_string(n + 1)};
        };
        const auto number = [&](const char* column) -> std::optional<double> {
            const std::string words = cell(column);
            double value = 0;
            if (words.empty())
                return std::nullopt;
            if (std::from_chars(words.data(), words.data() + words.size(), value).ptr != words.data() + words.size())
                complain(column);
            return value;
        };
        const auto yesNo = [&](const char* column) -> std::optional<bool> {
            const std::string words = cell(column);
            if (words.empty())
                return std::nullopt;
            if (words != "yes" && words != "no")
                complain(column);
            return words == "yes";
        };
        Rally r{cell("won"),        cell("how"),    cell("serve"),  {},           cell("server"),
                yesNo("attacking"), yesNo("moved"), number("from"), number("to"), cell("note")};
        std::string stroke;
        for (const char c : cell("strokes") + " ") {
            if (c != ' ')
                stroke += c;
            else if (!stroke.empty())
                r.strokes.push_back(std::exchange(stroke, {}));
        }
        rallies.push_back(std::move(r));
    }
    if (wrong)
        return tl::unexpected(*wrong);
    return rallies;
}

std::optional<PlayerIndex> playerNamed(const MatchLog& log, const std::string& name)
{
    const auto small = [](std::string s) {
        std::transform(s.begin(), s.end(), s.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
        return s;
    };
    const std::string whole = small(name), first(whole.begin(), std::find(whole.begin(), whole.end(), ' '));
    for (PlayerIndex p = 0; p < 2; ++p)
        if (const std::string player = small(log.players[p]); !player.empty() && (player == whole || player == first))
            return p;
    return std::nullopt;
}

} // namespace kestrel
