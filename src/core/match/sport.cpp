#include "core/match/sport.h"

#include "core/base/json_reader.h"
#include "core/base/word_table.h"
#include "core/pack/pack_folder.h"

#include <algorithm>
#include <filesystem>
#include <set>

namespace kestrel {

namespace {

constexpr WordRow<MatchEnding::By> kBy[] = {
    {MatchEnding::By::Winner, "winner"}, {MatchEnding::By::Loser, "loser"}, {MatchEnding::By::Nobody, "none"}};
constexpr WordRow<MatchScoring::Kind> kKinds[] = {
    {MatchScoring::Kind::Games, "games"}, {MatchScoring::Kind::Sets, "sets"}, {MatchScoring::Kind::Attempts, "attempts"}};
constexpr WordRow<ServeOrder> kServes[] = {
    {ServeOrder::Alternate, "alternate"}, {ServeOrder::Winner, "winner"}, {ServeOrder::Game, "game"}};

template <class E, std::size_t N> E readWord(const JsonNode& n, const WordRow<E> (&rows)[N], E fallback)
{
    return n.choice([&](std::string_view w) { return findIn(rows, w); }, choicesOf(rows)).value_or(fallback);
}

int count(const JsonNode& n, const std::string& key, int fallback, int least = 1)
{
    const auto found = n.find(key);
    return found ? static_cast<int>(found->integerIn(least, 1000)) : fallback;
}

MatchScoring readScoring(const JsonNode& n)
{
    MatchScoring s;
    s.kind = readWord(n.at("kind"), kKinds, MatchScoring::Kind::Games);
    if (s.kind == MatchScoring::Kind::Attempts)
        return s;
    s.to = count(n, "to", s.to);
    s.by = count(n, "by", s.by);
    s.gamesTo = count(n, "gamesTo", s.gamesTo);
    s.gamesBy = count(n, "gamesBy", s.gamesBy);
    s.tieBreakTo = count(n, "tieBreakTo", s.tieBreakTo);
    s.finalTieBreakTo = count(n, "finalTieBreakTo", s.tieBreakTo);
    for (const auto& x : n.at("bestOf").items()) {
        s.bestOf.push_back(static_cast<int>(x.integerIn(1, 99)));
        if (s.bestOf.back() % 2 == 0)
            x.wrong("best of an even number has no winner");
    }
    s.usualBestOf = count(n, "usual", s.bestOf.empty() ? 1 : s.bestOf.front());
    const JsonNode serve = n.at("serve");
    s.serve = readWord(serve.at("kind"), kServes, ServeOrder::Alternate);
    s.servesEach = count(serve, "each", s.servesEach);
    s.servesEachAtDeuce = count(serve, "eachAtDeuce", s.servesEachAtDeuce);
    if (const auto ends = n.find("ends")) {
        s.changesEndsEachGame = ends->booleanOr("eachGame", false);
        s.changesEndsOddGames = ends->booleanOr("oddGames", false);
        s.lastGameEndsAt = count(*ends, "lastGameAt", 0, 0);
        s.tieBreakEndsEvery = count(*ends, "tieBreakEvery", 0, 0);
    }
    return s;
}

MatchWord readMatchWord(const JsonNode& n, std::set<std::string>& ids, std::set<std::string>& keys)
{
    MatchWord w{n.at("id").words(), n.at("name").words(), n.at("key").words(), n.textOr("counts", "")};
    if (const auto times = n.find("times"))
        w.times = static_cast<int>(times->integerIn(1, 10));
    if (!ids.insert(w.id).second)
        n.wrong("\"" + w.id + "\" is there twice");
    if (w.key.size() != 1 || !keys.insert(w.key).second)
        n.wrong("the key \"" + w.key + "\" has to be one letter or digit that nothing else has");
    return w;
}

template <class Word> const Word* findWord(const std::vector<Word>& words, std::string_view id)
{
    const auto it = std::find_if(words.begin(), words.end(), [&](const Word& w) { return w.id == id; });
    return it == words.end() ? nullptr : &*it;
}

} // namespace

const MatchWord* MatchSport::findStroke(std::string_view word) const
{
    return findWord(strokes, word);
}
const MatchWord* MatchSport::findServe(std::string_view word) const
{
    return findWord(serves, word);
}
const MatchEnding* MatchSport::findEnding(std::string_view word) const
{
    return findWord(endings, word);
}

Expected<MatchSport> loadMatchSport(const std::string& file)
{
    const auto root = loadJson(file);
    if (!root)
        return tl::unexpected(root.error());
    if (auto e = checkFormat(*root, "jolly-kestrel/match-rules", file))
        return tl::unexpected(*e);
    JsonProblems problems(file);
    const JsonNode n(*root, "", problems);
    MatchSport sport;
    sport.id = n.at("id").words();
    sport.name = n.at("name").words();
    sport.scoring = readScoring(n.at("scoring"));
    std::set<std::string> keys, strokes, serves, endings;
    for (const auto& x : n.at("strokes").items())
        sport.strokes.push_back(readMatchWord(x, strokes, keys));
    for (const auto& x : n.at("serves").items())
        sport.serves.push_back(readMatchWord(x, serves, keys));
    for (const auto& x : n.at("endings").items()) {
        MatchEnding e;
        static_cast<MatchWord&>(e) = readMatchWord(x, endings, keys);
        e.by = readWord(x.at("by"), kBy, MatchEnding::By::Winner);
        sport.endings.push_back(std::move(e));
    }
    if (const auto next = n.find("next"))
        for (const auto& x : next->items())
            sport.advice.push_back({x.at("what").words(), x.at("say").words(), x.textOr("pack", "")});
    if (!problems.list().empty())
        return tl::unexpected(problems.list().front());
    return sport;
}

std::vector<MatchSport> shippedMatchSports()
{
    std::vector<std::string> files;
    std::error_code ec;
    for (const auto& entry : std::filesystem::directory_iterator(shippedFolder("matches"), ec))
        if (entry.path().extension() == ".json")
            files.push_back(entry.path().string());
    std::sort(files.begin(), files.end());
    std::vector<MatchSport> sports;
    for (const auto& file : files)
        if (auto sport = loadMatchSport(file))
            sports.push_back(std::move(*sport));
    return sports;
}

Expected<MatchSport> findMatchSport(const std::string& id)
{
    std::string known;
    for (auto& sport : shippedMatchSports()) {
        if (sport.id == id)
            return std::move(sport);
        known += (known.empty() ? "" : ", ") + sport.id;
    }
    return fail(ErrorCode::NotFound, "There is no sport \"" + id + "\"; there are " + known + ".");
}

} // namespace kestrel
