// Match rules, against rules written a second time in another way; tallies, tables, and rallies found.

#include "support/runner.h"

#include "core/base/json_reader.h"
#include "core/match/find_rallies.h"
#include "core/match/rally_keeper.h"
#include "core/match/tally.h"

#include <QtTest>

#include <cmath>
#include <random>

using namespace kestrel;

namespace {

const MatchSport& sport(const char* id)
{
    static std::map<std::string, MatchSport> known;
    if (!known.count(id)) {
        auto found = findMatchSport(id);
        if (!found)
            qFatal("%s", found.error().text().c_str());
        known.emplace(id, std::move(*found));
    }
    return known.at(id);
}

/// "AABAB": who won each rally.
MatchLog logOf(const char* id, const std::string& winners, int bestOf = 0)
{
    MatchLog log;
    log.sport = id;
    log.bestOf = bestOf;
    log.players = {"Ada", "Bo"};
    log.firstServer = "Ada";
    for (const char c : winners)
        log.rallies.push_back({c == 'A' ? "Ada" : "Bo", {}, {}, {}, {}, {}, {}, {}, {}, {}});
    return log;
}

std::string repeated(const std::string& part, int times)
{
    std::string all;
    for (int n = 0; n < times; ++n)
        all += part;
    return all;
}

/// Table tennis told from the whole string of rallies at once: the server from the number of points, with no state carried on.
struct TableTennisByHand {
    std::vector<std::array<int, 2>> games;
    std::array<int, 2> won{}, points{};
    int server = 0;
    int winner = -1;
};
TableTennisByHand tableTennisByHand(const std::string& winners, int bestOf)
{
    TableTennisByHand t;
    std::size_t begin = 0;
    for (std::size_t end = 1; end <= winners.size() && t.winner < 0; ++end) {
        const std::string game = winners.substr(begin, end - begin);
        const int a = static_cast<int>(std::count(game.begin(), game.end(), 'A')), b = static_cast<int>(game.size()) - a;
        if (std::max(a, b) >= 11 && std::abs(a - b) >= 2) {
            t.games.push_back({a, b});
            ++t.won[a > b ? 0 : 1];
            begin = end;
            if (t.won[0] > bestOf / 2 || t.won[1] > bestOf / 2)
                t.winner = t.won[0] > t.won[1] ? 0 : 1;
        }
    }
    const std::string game = t.winner < 0 ? winners.substr(begin) : std::string();
    t.points[0] = static_cast<int>(std::count(game.begin(), game.end(), 'A'));
    t.points[1] = static_cast<int>(game.size()) - t.points[0];
    const int sum = static_cast<int>(game.size());
    const bool isDeuce = t.points[0] >= 10 && t.points[1] >= 10;
    const int turn = isDeuce ? 10 + (sum - 20) : sum / 2;
    t.server = (static_cast<int>(t.games.size()) + turn) % 2;
    return t;
}

/// Games of tennis, cut out of the string of points.
std::array<int, 2> tennisGamesByHand(const std::string& winners)
{
    std::array<int, 2> games{};
    std::size_t begin = 0;
    for (std::size_t end = 1; end <= winners.size(); ++end) {
        const std::string part = winners.substr(begin, end - begin);
        const auto a = std::count(part.begin(), part.end(), 'A'), b = static_cast<std::ptrdiff_t>(part.size()) - a;
        if (std::max(a, b) >= 4 && std::abs(a - b) >= 2) {
            ++games[a > b ? 0 : 1];
            begin = end;
        }
    }
    return games;
}

} // namespace

class MatchTest : public QObject {
    Q_OBJECT
private slots:
    void sports_allRead_keysUnique();
    void tableTennis_asByHand();
    void tableTennis_deuce_pointsAndServer();
    void tennis_gameSetTieBreak();
    void tennis_serverThroughATieBreak();
    void tennis_randomGames_asByHand();
    void squash_winnerServes();
    void free_countsOnly();
    void let_retirement_penalty_server();
    void correctedInTheMiddle_theRestFollows();
    void impossible_isSaidWithItsRally();
    void log_roundTrip_andMistakes();
    void csv_roundTrip_otherSeparators_mistakes();
    void wilson_byHand();
    void difference_isReal();
    void tallies_byHand();
    void entropy_byHand();
    void countedForTheBook_byHand();
    void advice_onlyWhenSure();
    void keeper_keysToRally();
    void manyRallies_areQuick();
    void findRallies_byMovement();
};

void MatchTest::sports_allRead_keysUnique()
{
    QCOMPARE(shippedMatchSports().size(), std::size_t{4});
    for (const auto& s : shippedMatchSports())
        for (const auto& a : s.advice)
            QVERIFY(a.say.find("{won}") != std::string::npos);
    QVERIFY(!findMatchSport("curling"));
}

void MatchTest::tableTennis_asByHand()
{
    std::mt19937 random(7);
    for (int match = 0; match < 200; ++match) {
        std::string winners;
        const double share = 0.35 + 0.3 * (match % 10) / 10;
        for (int n = 0; n < 40 + match; ++n)
            winners += std::uniform_real_distribution<>(0, 1)(random) < share ? 'A' : 'B';
        const auto score = scoreOf(logOf("table-tennis", winners, 5), sport("table-tennis"));
        const auto byHand = tableTennisByHand(winners, 5);
        QCOMPARE(score.games, byHand.games);
        QCOMPARE(score.now.games, byHand.won);
        QCOMPARE(score.now.winner.has_value(), byHand.winner >= 0);
        if (byHand.winner < 0) {
            QCOMPARE(score.now.points, byHand.points);
            QCOMPARE(static_cast<int>(score.now.server), byHand.server);
        }
    }
}

void MatchTest::tableTennis_deuce_pointsAndServer()
{
    auto score = scoreOf(logOf("table-tennis", repeated("AB", 10), 3), sport("table-tennis"));
    QCOMPARE(score.now.points, (std::array<int, 2>{10, 10}));
    QVERIFY(!score.now.gamePoint);
    QCOMPARE(score.now.server, PlayerIndex{0});
    score = scoreOf(logOf("table-tennis", repeated("AB", 10) + "A", 3), sport("table-tennis"));
    QCOMPARE(*score.now.gamePoint, PlayerIndex{0});
    QVERIFY(!score.now.matchPoint);
    QCOMPARE(score.now.server, PlayerIndex{1}); // one each from here
    QVERIFY(score.now.isClose);
    score = scoreOf(logOf("table-tennis", repeated("A", 11) + repeated("A", 10), 3), sport("table-tennis"));
    QCOMPARE(*score.now.matchPoint, PlayerIndex{0});
    score = scoreOf(logOf("table-tennis", repeated("A", 22), 3), sport("table-tennis"));
    QCOMPARE(*score.now.winner, PlayerIndex{0});
}

void MatchTest::tennis_gameSetTieBreak()
{
    const auto& tennis = sport("tennis");
    const auto at = [&](const std::string& winners) { return scoreOf(logOf("tennis", winners, 3), tennis); };
    QCOMPARE(QString::fromStdString(pointsWords(at("AAB").now, tennis, {"Ada", "Bo"})), QStringLiteral("30-15"));
    QCOMPARE(QString::fromStdString(pointsWords(at("ABABAB").now, tennis, {"Ada", "Bo"})), QStringLiteral("deuce"));
    QCOMPARE(QString::fromStdString(pointsWords(at("ABABABB").now, tennis, {"Ada", "Bo"})), QStringLiteral("advantage Bo"));
    const std::string a = "AAAA", b = "BBBB";
    auto score = at(repeated(a, 6));
    QCOMPARE(score.sets, (std::vector<std::array<int, 2>>{{6, 0}}));
    score = at(repeated(a + b, 5) + a); // 6-5 is no set
    QVERIFY(score.sets.empty() && score.now.games[0] == 6);
    score = at(repeated(a + b, 5) + a + a);
    QCOMPARE(score.sets.back(), (std::array<int, 2>{7, 5}));
    score = at(repeated(a + b, 6));
    QVERIFY(score.now.isTieBreak);
    score = at(repeated(a + b, 6) + "AAAAAA");
    QCOMPARE(*score.now.gamePoint, PlayerIndex{0});
    QVERIFY(!score.now.matchPoint);
    score = at(repeated(a + b, 6) + "AAAAAAA");
    QCOMPARE(score.sets.back(), (std::array<int, 2>{7, 6}));
    score = at(repeated(a, 6) + repeated(a, 5) + "AAA");
    QCOMPARE(*score.now.matchPoint, PlayerIndex{0});
    score = at(repeated(a, 12));
    QCOMPARE(*score.now.winner, PlayerIndex{0});
    QCOMPARE(QString::fromStdString(scoreWords(score, tennis)), QStringLiteral("6-0, 6-0"));
}

void MatchTest::tennis_serverThroughATieBreak()
{
    const std::string even = repeated("AAAABBBB", 6); // twelve games: Ada serves the tie-break first
    const char* order = "ABBAABBAABBA";               // by point, as the rules say
    for (int n = 0; n < 12; ++n) {
        const auto score =
            scoreOf(logOf("tennis", even + repeated("AB", 6).substr(0, static_cast<std::size_t>(n)), 3), sport("tennis"));
        QCOMPARE(score.now.server, PlayerIndex(order[n] == 'A' ? 0 : 1));
    }
    // who received first in it serves first after it
    const auto after = scoreOf(logOf("tennis", even + "AAAAAAA", 3), sport("tennis"));
    QCOMPARE(after.now.server, PlayerIndex{1});
}

void MatchTest::tennis_randomGames_asByHand()
{
    std::mt19937 random(3);
    for (int match = 0; match < 100; ++match) {
        std::string winners;
        for (int n = 0; n < 30; ++n) // too few for a set
            winners += random() % 2 ? 'A' : 'B';
        const auto games = tennisGamesByHand(winners);
        if (std::max(games[0], games[1]) < 6)
            QCOMPARE(scoreOf(logOf("tennis", winners, 3), sport("tennis")).now.games, games);
    }
}

void MatchTest::squash_winnerServes()
{
    const auto score = scoreOf(logOf("squash", "ABBAB", 5), sport("squash"));
    const PlayerIndex servers[] = {0, 0, 1, 1, 0}; // before each rally
    for (std::size_t n = 0; n < 5; ++n)
        QCOMPARE(score.before[n].server, servers[n]);
    QCOMPARE(score.now.server, PlayerIndex{1});
    const auto game = scoreOf(logOf("squash", repeated("B", 11), 5), sport("squash"));
    QCOMPARE(game.now.server, PlayerIndex{1});
}

void MatchTest::free_countsOnly()
{
    MatchLog log = logOf("free", "ABABA");
    log.players = {"Ada", "missed"};
    log.firstServer = "Ada";
    for (auto& r : log.rallies) {
        r.won = r.won == "Ada" ? "Ada" : "missed";
        r.strokes = {"jump_shot"};
    }
    const auto score = scoreOf(log, sport("free"));
    QCOMPARE(score.now.points, (std::array<int, 2>{3, 2}));
    QVERIFY(!score.now.winner);
    const auto t = talliesOf(log, sport("free"), score);
    QCOMPARE(t.find(0, "stroke:jump_shot")->share.n, 5);
    QCOMPARE(t.find(0, "stroke:jump_shot")->share.won, 3);
}

void MatchTest::let_retirement_penalty_server()
{
    MatchLog log = logOf("table-tennis", "AA");
    log.rallies[1].how = "let";
    log.rallies[1].won = "";
    auto score = scoreOf(log, sport("table-tennis"));
    QCOMPARE(score.now.points[0], 1);
    QVERIFY(score.problems.empty());
    log.rallies.push_back({"Bo", "penalty", {}, {}, {}, {}, {}, {}, {}, {}});
    score = scoreOf(log, sport("table-tennis"));
    QCOMPARE(score.now.points[1], 1);
    log.rallies.push_back({"Bo", "retired", {}, {}, {}, {}, {}, {}, {}, {}});
    QCOMPARE(*scoreOf(log, sport("table-tennis")).now.winner, PlayerIndex{1});
    // the wrong one served from the first point on
    MatchLog wrong = logOf("table-tennis", "ABAB");
    wrong.rallies[0].server = "Bo";
    const auto served = scoreOf(wrong, sport("table-tennis"));
    QCOMPARE(served.before[0].server, PlayerIndex{1});
    QCOMPARE(served.before[1].server, PlayerIndex{1});
    QCOMPARE(served.before[2].server, PlayerIndex{0});
}

void MatchTest::correctedInTheMiddle_theRestFollows()
{
    MatchLog log = logOf("table-tennis", repeated("A", 10) + repeated("B", 12), 3);
    QCOMPARE(scoreOf(log, sport("table-tennis")).now.games, (std::array<int, 2>{0, 1})); // 10-12
    log.rallies[3].won = "Bo";
    const auto score = scoreOf(log, sport("table-tennis"));
    QCOMPARE(score.games.front(), (std::array<int, 2>{9, 11}));
    QCOMPARE(score.now.points, (std::array<int, 2>{0, 2}));
    log.rallies.erase(log.rallies.begin() + 3);
    QCOMPARE(scoreOf(log, sport("table-tennis")).games.front(), (std::array<int, 2>{9, 11}));
}

void MatchTest::impossible_isSaidWithItsRally()
{
    MatchLog log = logOf("table-tennis", repeated("A", 35), 3);
    log.rallies[2].strokes = {"forehand", "moonwalk"};
    log.rallies[4].from = 20;
    log.rallies[4].to = 10;
    log.rallies[5].from = 5;
    log.rallies[6].won = "Nobody";
    const auto score = scoreOf(log, sport("table-tennis"));
    const auto said = [&](std::size_t rally, const char* words) {
        return std::any_of(score.problems.begin(), score.problems.end(),
                           [&](const MatchProblem& p) { return p.rally == rally && p.text.find(words) != std::string::npos; });
    };
    QVERIFY(said(2, "moonwalk"));
    QVERIFY(said(4, "ends before it begins"));
    QVERIFY(said(5, "before the rally before it"));
    QVERIFY(said(6, "does not play"));
    QVERIFY(said(34, "over before it"));
    QCOMPARE(score.won.size(), std::size_t{35});
    QCOMPARE(*score.now.winner, PlayerIndex{0});
}

void MatchTest::log_roundTrip_andMistakes()
{
    const auto json =
        parseJson(R"({"format":"jolly-kestrel/match","version":1,"sport":"table-tennis","bestOf":5,"players":["Ada","Bo"],
      "firstServer":"Ada","rallies":[{"won":"Bo","how":"error_net","serve":"backspin_short","strokes":["serve","push","backhand"],
      "attacking":false,"moved":true,"from":12.4,"to":17.9,"note":""}]})",
                  "m.json");
    const auto log = parseMatchLog(*json, "m.json");
    QVERIFY(log.has_value());
    QCOMPARE(log->rallies[0].strokes.size(), std::size_t{3});
    QCOMPARE(*parseMatchLog(toJson(*log), "n.json"), *log);
    const std::pair<const char*, const char*> broken[] = {{R"("players":["Ada","Ada"])", "/players/1"},
                                                          {R"("players":["Ada"])", "/players"},
                                                          {R"("players":["Ada","Bo"],"firstServer":"Cy")", "/firstServer"},
                                                          {R"("players":["Ada","Bo"],"bestOf":4)", "/bestOf"}};
    for (const auto& [members, place] : broken) {
        const auto root = parseJson(
            std::string(R"({"format":"jolly-kestrel/match","version":1,"sport":"tennis","rallies":[],)") + members + "}", "m");
        const auto read = parseMatchLog(*root, "m");
        QVERIFY2(!read, members);
        QCOMPARE(read.error().place, std::string(place));
    }
}

void MatchTest::csv_roundTrip_otherSeparators_mistakes()
{
    MatchLog log = logOf("table-tennis", "AB");
    log.rallies[0] = {"Ada", "winner", "topspin", {"serve", "forehand"}, "", true, false, 1.25, 4.5, "said, \"good\""};
    const auto again = ralliesFromCsv(toCsv(log), "t.csv");
    QVERIFY2(again.has_value(), again ? "" : again.error().text().c_str());
    QCOMPARE(*again, log.rallies);
    const auto semicolons = ralliesFromCsv("\xEF\xBB\xBFwon;from\r\nAda;1.5\r\n\r\nBo;2\r\n", "s.csv");
    QCOMPARE(semicolons->size(), std::size_t{2});
    QCOMPARE(*(*semicolons)[0].from, 1.5);
    QCOMPARE(ralliesFromCsv("who\nAda\n", "x.csv").error().place, std::string("line 1"));
    QCOMPARE(ralliesFromCsv("won,from\nAda,soon\n", "x.csv").error().place, std::string("line 2"));
    QVERIFY(!ralliesFromCsv("", "x.csv"));
}

void MatchTest::wilson_byHand()
{
    const auto s = shareOf(8, 10); // (0.8 + 0.1921) / 1.3841 -+ ...
    QVERIFY(std::abs(s.low - 0.4902) < 1e-4);
    QVERIFY(std::abs(s.high - 0.9433) < 1e-4);
    QCOMPARE(shareOf(0, 12).low, 0.0);
    QCOMPARE(shareOf(12, 12).high, 1.0);
    QVERIFY(shareOf(0, 0).low == 0 && shareOf(0, 0).high == 1);
    QVERIFY(shareOf(4, 9).isFew() && !shareOf(4, 10).isFew());
}

void MatchTest::difference_isReal()
{
    QVERIFY(differenceOf(shareOf(10, 40), shareOf(30, 40)).isReal());
    QVERIFY(!differenceOf(shareOf(5, 10), shareOf(6, 10)).isReal());
    // Newcombe's own example: 56/70 and 48/80, 0.20 from 0.0524 to 0.3339
    const auto d = differenceOf(shareOf(48, 80), shareOf(56, 70));
    QVERIFY(std::abs(d.difference - 0.2) < 1e-9 && std::abs(d.low - 0.0524) < 1e-3 && std::abs(d.high - 0.3339) < 1e-3);
}

void MatchTest::tallies_byHand()
{
    MatchLog log = logOf("table-tennis", "AABBAB");
    const auto set = [&](std::size_t n, const char* how, std::vector<std::string> strokes) {
        log.rallies[n].how = how;
        log.rallies[n].strokes = std::move(strokes);
    };
    set(0, "winner", {"serve", "push", "forehand"});
    set(1, "error_net", {"serve", "backhand"}); // Bo's backhand goes into the net
    set(2, "error_long", {"backhand"});         // Ada's
    set(3, "winner", {"backhand"});             // Bo's
    log.rallies[0].attacking = true;
    log.rallies[2].attacking = false;
    const auto score = scoreOf(log, sport("table-tennis"));
    const auto t = talliesOf(log, sport("table-tennis"), score);
    const auto share = [&](PlayerIndex p, const char* what) {
        const Tally* found = t.find(p, what);
        return found ? std::pair(found->share.won, found->share.n) : std::pair(-1, -1);
    };
    QCOMPARE(share(0, "stroke:forehand"), std::pair(1, 1));
    QCOMPARE(share(0, "stroke:backhand"), std::pair(0, 1));
    QCOMPARE(share(1, "stroke:backhand"), std::pair(1, 2));
    QCOMPARE(share(0, "serving"), std::pair(3, 4)); // Ada serves rallies 1, 2, 5, 6
    QCOMPARE(share(0, "receiving"), std::pair(0, 2));
    QCOMPARE(share(0, "attacking"), std::pair(1, 1));
    QCOMPARE(share(0, "passive"), std::pair(0, 1));
    QCOMPARE(share(0, "lost_by:error_long"), std::pair(1, 3));
    QVERIFY(!t.find(0, "answer::push")); // the serve was not named
    log.rallies[0].serve = log.rallies[1].serve = log.rallies[4].serve = "topspin";
    log.rallies[4].strokes = {"forehand"}; // only the last stroke is noted: what the answer was is not known
    const auto named = talliesOf(log, sport("table-tennis"), score);
    QCOMPARE(named.find(0, "serve:topspin")->share.n, 3);
    QCOMPARE(named.find(0, "answer:topspin:push")->rallies, (std::vector<std::size_t>{0}));
    QCOMPARE(named.find(0, "answer:topspin:backhand")->words, std::string("serve, fast topspin, answered by backhand topspin"));
    QVERIFY(!named.find(0, "answer:topspin:forehand") && !named.find(1, "answer:topspin:push"));
    QCOMPARE(t.longestRun, (std::array<int, 2>{2, 2}));
    QCOMPARE(t.find(1, "stroke:backhand")->rallies, (std::vector<std::size_t>{1, 3}));
}

void MatchTest::countedForTheBook_byHand()
{
    const auto counted = [](const MatchLog& log, PlayerIndex p, const char* counts) {
        const auto s = sport(log.sport.c_str());
        return countIn(log, s, scoreOf(log, s), p, counts);
    };
    MatchLog tennis = logOf("tennis", "AABBAB"); // the first game is Ada's to serve, all six of it
    QCOMPARE(counted(tennis, 0, "serve"), 6);
    tennis.rallies[2].serve = "second"; // after a first one that was out
    QCOMPARE(counted(tennis, 0, "serve"), 7);
    QCOMPARE(counted(tennis, 1, "serve"), 0);
    QCOMPARE(counted(tennis, 0, "pitch"), 0);
    QCOMPARE(counted(logOf("table-tennis", "AAAA"), 0, "serve"), 0); // no overhead serve
    MatchLog pitches = logOf("free", "AABA");
    const char* kinds[] = {"straight", "breaking", "ground_ball", "straight"};
    for (std::size_t n = 0; n < 4; ++n)
        pitches.rallies[n].strokes = {kinds[n]};
    QCOMPARE(counted(pitches, 0, "pitch"), 3);
    QCOMPARE(counted(pitches, 0, "throw"), 1);
    MatchLog named;
    named.players = {"mira", "Joost Vale"};
    QCOMPARE(playerNamed(named, "Mira Oak"), std::optional<PlayerIndex>(0));
    QCOMPARE(playerNamed(named, "Joost Vale"), std::optional<PlayerIndex>(1));
    QVERIFY(!playerNamed(named, "Joost Oak") && !playerNamed(named, ""));
}

void MatchTest::entropy_byHand()
{
    MatchLog log = logOf("table-tennis", "AAAAAAAA", 5);
    const char* serves[] = {"topspin", "topspin", "", "", "topspin", "no_spin"}; // Ada serves 1, 2, 5, 6
    for (std::size_t n = 0; n < 6; ++n)
        log.rallies[n].serve = serves[n];
    const auto t = talliesOf(log, sport("table-tennis"), scoreOf(log, sport("table-tennis")));
    QCOMPARE(t.serves[0].n, 4);
    QVERIFY(std::abs(t.serves[0].shares.at("topspin") - 0.75) < 1e-12);
    QVERIFY(std::abs(t.serves[0].entropyBits - (0.75 * std::log2(4.0 / 3) + 0.25 * 2)) < 1e-12);
    QVERIFY(std::abs(t.serves[0].evenBits - 1) < 1e-12);
}

void MatchTest::advice_onlyWhenSure()
{
    MatchLog log = logOf("table-tennis", repeated("B", 9), 7);
    for (auto& r : log.rallies) {
        r.how = "error_net";
        r.strokes = {"backhand"};
    }
    const auto& rules = sport("table-tennis");
    QVERIFY(talliesOf(log, rules, scoreOf(log, rules)).next.empty()); // nine are too few
    log.rallies.push_back(log.rallies.back());
    const auto next = talliesOf(log, rules, scoreOf(log, rules)).next;
    QVERIFY(!next.empty() && next.size() <= 3);
    QVERIFY(next.front().text.find("0 of 10") != std::string::npos);
    QCOMPARE(next.front().pack, std::string("table-tennis-topspin"));
    // even: nothing is surely lost
    MatchLog even = logOf("table-tennis", repeated("AB", 15), 7);
    for (auto& r : even.rallies)
        r.strokes = {"backhand"};
    QVERIFY(talliesOf(even, rules, scoreOf(even, rules)).next.empty());
}

void MatchTest::keeper_keysToRally()
{
    RallyKeeper keeper(sport("table-tennis"));
    QVERIFY(keeper.press("A", 10));
    QVERIFY(keeper.press("2", 11));
    QVERIFY(keeper.press("4", 12));
    QVERIFY(keeper.press("N", 13));
    QVERIFY(!keeper.press("=", 13));
    QVERIFY(keeper.takeBack()); // the ending
    QVERIFY(keeper.press("L", 13.5));
    const Rally r = keeper.finish("Bo", 14);
    QCOMPARE(r.serve, std::string("backspin_short"));
    QCOMPARE(r.strokes, (std::vector<std::string>{"push", "backhand"}));
    QCOMPARE(r.how, std::string("error_long"));
    QCOMPARE(*r.from, 8.5); // a lead before the first key
    QCOMPARE(*r.to, 14.0);
    QVERIFY(!keeper.takeBack());
    keeper.correct(3, r);
    QVERIFY(keeper.press("W", 99));
    const Rally corrected = keeper.finish("Ada", 99);
    QCOMPARE(corrected.how, std::string("winner"));
    QCOMPARE(*corrected.to, 14.0); // its place on the film stays
}

/// As a ratio to something of known size: fifty matches' tallies take no longer than reading their logs a few times.
void MatchTest::manyRallies_areQuick()
{
    std::vector<MatchLog> logs;
    std::mt19937 random(5);
    for (int n = 0; n < 50; ++n) {
        std::string winners;
        for (int k = 0; k < 100; ++k)
            winners += random() % 2 ? 'A' : 'B';
        logs.push_back(logOf("table-tennis", winners, 7));
        for (auto& r : logs.back().rallies)
            r.strokes = {"serve", "push", "backhand"};
    }
    QElapsedTimer timer;
    timer.start();
    for (const auto& log : logs)
        (void)toJson(log).dump();
    const auto writing = timer.restart();
    for (const auto& log : logs)
        (void)talliesOf(log, sport("table-tennis"), scoreOf(log, sport("table-tennis")));
    QVERIFY2(timer.elapsed() <= 4 * writing + 20, qPrintable(QStringLiteral("%1 against %2").arg(timer.elapsed()).arg(writing)));
    // a log of a lifetime is read and scored
    const auto lifetime = scoreOf(logOf("free", repeated("AB", 50000)), sport("free"));
    QCOMPARE(lifetime.won.size(), std::size_t{100000});
}

void MatchTest::findRallies_byMovement()
{
    std::mt19937 random(11);
    std::vector<MovementSample> samples;
    const std::pair<double, double> truth[] = {{5, 9}, {14, 22}, {30, 33}, {41, 47}};
    for (double t = 0; t < 55; t += 1.0 / 6) {
        const bool plays =
            std::any_of(std::begin(truth), std::end(truth), [t](const auto& r) { return t >= r.first && t <= r.second; });
        samples.push_back({t, (plays ? 0.03 : 0.002) * std::exp(std::normal_distribution<>(0, 0.4)(random))});
    }
    const auto found = findRallies(samples);
    QCOMPARE(found.size(), std::size_t{4});
    for (std::size_t n = 0; n < 4; ++n) {
        QVERIFY(std::abs(found[n].from - truth[n].first) < 0.5);
        QVERIFY(std::abs(found[n].to - truth[n].second) < 0.5);
    }
    for (auto& s : samples)
        s.share = 0.01;
    QVERIFY(findRallies(samples).empty()); // all alike
    QVERIFY(findRallies({}).empty());
}

KESTREL_TEST(MatchTest)
#include "match_test.moc"
