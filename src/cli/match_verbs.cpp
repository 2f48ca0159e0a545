#include "cli/arguments.h"
#include "cli/verbs.h"
#include "core/base/json_reader.h"
#include "core/match/tally.h"
#include "report/match_page.h"
#include "sim/match_film.h"
#include "vision/movement.h"

#include <nlohmann/json.hpp>

namespace kestrel::cli {

namespace {

using nlohmann::json;

struct Given {
    MatchLog log;
    MatchSport sport;
    MatchScore score;
};

Expected<Given> load(const std::string& file)
{
    auto log = loadMatchLog(file);
    if (!log)
        return tl::unexpected(log.error());
    auto sport = findMatchSport(log->sport);
    if (!sport) {
        Error e = sport.error();
        e.file = file;
        e.place = "/sport";
        return tl::unexpected(e);
    }
    MatchScore score = scoreOf(*log, *sport);
    return Given{std::move(*log), std::move(*sport), std::move(score)};
}

json byPlayer(const MatchLog& log, const std::array<int, 2>& pair)
{
    return {{log.players[0], pair[0]}, {log.players[1], pair[1]}};
}

json playerOrNull(const MatchLog& log, const std::optional<PlayerIndex>& p)
{
    return p ? json(log.players[*p]) : json();
}

json shareJson(const Share& s)
{
    return {{"won", s.won}, {"n", s.n}, {"low", s.low}, {"high", s.high}, {"few", s.isFew()}};
}

} // namespace

VerbResult matchScore(const Words& words, Streams io)
{
    Arguments args(words, {"log"});
    args.noPlain();
    const std::string file = args.required("log");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto given = load(file);
    if (!given)
        return tl::unexpected(given.error());
    const auto& [log, sport, score] = *given;
    json games = json::array(), problems = json::array();
    for (const auto& g : score.games)
        games.push_back(byPlayer(log, g));
    for (const auto& p : score.problems)
        problems.push_back({{"rally", p.rally}, {"text", p.text}});
    json root{{"games", std::move(games)},
              {"won", byPlayer(log, score.now.games)},
              {"current", byPlayer(log, score.now.points)},
              {"currentWords", pointsWords(score.now, sport, log.players)},
              {"server", log.players[score.now.server]},
              {"gamePoint", playerOrNull(log, score.now.gamePoint)},
              {"matchPoint", playerOrNull(log, score.now.matchPoint)},
              {"changeEnds", score.now.changesEnds},
              {"over", score.now.winner.has_value()},
              {"winner", playerOrNull(log, score.now.winner)},
              {"problems", std::move(problems)}};
    if (sport.scoring.kind == MatchScoring::Kind::Sets) {
        json sets = json::array();
        for (const auto& s : score.sets)
            sets.push_back(byPlayer(log, s));
        root["sets"] = std::move(sets);
        root["setsWon"] = byPlayer(log, score.now.sets);
        root["tieBreak"] = score.now.isTieBreak;
    }
    io.out << printed(root, 2);
    return Done;
}

VerbResult matchTally(const Words& words, Streams io)
{
    Arguments args(words, {"log", "other"});
    args.noPlain();
    const std::string file = args.required("log");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto given = load(file);
    if (!given)
        return tl::unexpected(given.error());
    const auto& log = given->log;
    const MatchTallies done = talliesOf(log, given->sport, given->score);
    std::optional<MatchTallies> other;
    std::array<std::optional<PlayerIndex>, 2> there;
    if (const auto otherFile = args.text("other")) {
        const auto second = load(*otherFile);
        if (!second)
            return tl::unexpected(second.error());
        other = talliesOf(second->log, second->sport, second->score);
        for (PlayerIndex p = 0; p < 2; ++p)
            there[p] = second->log.find(log.players[p]);
    }
    json tallies = json::array(), serves = json::object(), close = json::object(), next = json::array(), runs = json::object();
    for (const auto& t : done.tallies) {
        json j = shareJson(t.share);
        j["player"] = log.players[t.player];
        j["what"] = t.what;
        j["words"] = t.words;
        if (const Tally* same = other && there[t.player] ? other->find(*there[t.player], t.what) : nullptr) {
            const auto d = differenceOf(t.share, same->share);
            j["other"] = shareJson(same->share);
            j["change"] = {{"difference", d.difference}, {"low", d.low}, {"high", d.high}, {"real", d.isReal()}};
        }
        tallies.push_back(std::move(j));
    }
    for (PlayerIndex p = 0; p < 2; ++p) {
        const ServeMix& mix = done.serves[p];
        serves[log.players[p]] = {
            {"shares", mix.shares}, {"n", mix.n}, {"entropyBits", mix.entropyBits}, {"evenBits", mix.evenBits}};
        const Tally* t = done.find(p, "close");
        close[log.players[p]] = shareJson(t ? t->share : shareOf(0, 0));
        runs[log.players[p]] = done.longestRun[p];
    }
    for (const auto& n : done.next)
        next.push_back({{"text", n.text}, {"because", n.because}, {"pack", n.pack.empty() ? json() : json(n.pack)}});
    io.out << printed(json{{"tallies", std::move(tallies)},
                           {"serves", std::move(serves)},
                           {"close", std::move(close)},
                           {"longestRun", std::move(runs)},
                           {"next", std::move(next)}},
                      2);
    return Done;
}

VerbResult matchPage(const Words& words, Streams io)
{
    Arguments args(words, {"log", "out"});
    args.noPlain();
    const std::string file = args.required("log"), out = args.required("out");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto given = load(file);
    if (!given)
        return tl::unexpected(given.error());
    if (auto saved = report::saveDocument(report::matchDocument(given->log, given->sport), out); !saved)
        return tl::unexpected(saved.error());
    for (const auto& p : given->score.problems)
        io.err << "Rally " << p.rally + 1 << ": " << p.text << "\n";
    return given->score.problems.empty() ? Done : PartlyDone;
}

VerbResult matchSimulate(const Words& words, Streams io)
{
    Arguments args(words, {"rallies", "seed", "out"});
    args.noPlain();
    const std::string out = args.required("out");
    sim::MatchFilmOptions options;
    options.rallies = static_cast<int>(args.integer("rallies", 1, 500).value_or(options.rallies));
    options.seed = static_cast<std::uint32_t>(args.integer("seed", 0, 1000000).value_or(1));
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto log = sim::saveMatchFilm(options, out);
    if (!log)
        return tl::unexpected(log.error());
    io.out << printed(toJson(*log), 2);
    return Done;
}

VerbResult matchFind(const Words& words, Streams io)
{
    Arguments args(words, {});
    const std::string file = args.onlyPlain("the film");
    if (args.mistake())
        return tl::unexpected(*args.mistake());
    const auto samples = vision::movementOf(file);
    if (!samples)
        return tl::unexpected(samples.error());
    json rallies = json::array();
    for (const auto& r : findRallies(*samples))
        rallies.push_back({{"from", r.from}, {"to", r.to}});
    io.out << printed(json{{"rallies", std::move(rallies)}}, 2);
    return Done;
}

} // namespace kestrel::cli
