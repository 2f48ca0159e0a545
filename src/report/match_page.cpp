#include "report/match_page.h"

#include "report/paper.h"

#include <QPainter>

#include <algorithm>
#include <cmath>

namespace kestrel::report {

namespace {

constexpr double kMargin = 14; // millimetres
constexpr std::size_t kMostBars = 22;

struct MatchFacts {
    MatchLog log;
    MatchSport sport;
    MatchScore score;
    MatchTallies tallies;

    std::string title() const
    {
        return sport.scoring.kind == MatchScoring::Kind::Attempts ? sport.name + ": " + log.players[0]
                                                                  : log.players[0] + " and " + log.players[1];
    }
    std::string subtitle() const
    {
        return sport.name + (log.date.empty() ? "" : " · " + log.date) + " · " + std::to_string(log.rallies.size()) +
               (sport.scoring.kind == MatchScoring::Kind::Attempts ? " attempts" : " rallies");
    }
    std::string result() const
    {
        const std::string words = scoreWords(score, sport);
        return score.now.winner ? log.players[*score.now.winner] + " wins: " + words : words;
    }
    /// Of the first player, those that say something first.
    std::vector<const Tally*> own() const
    {
        std::vector<const Tally*> list;
        for (const auto& t : tallies.tallies)
            if (t.player == 0)
                list.push_back(&t);
        std::stable_sort(list.begin(), list.end(),
                         [](const Tally* a, const Tally* b) { return a->share.isFew() < b->share.isFew(); });
        if (list.size() > kMostBars)
            list.resize(kMostBars);
        return list;
    }
    std::string serves() const
    {
        const ServeMix& mix = tallies.serves[0];
        if (mix.n < 10 || mix.shares.size() < 2)
            return {};
        const auto one = [](double v) { return QString::number(v, 'f', 1).toStdString(); };
        return "Serves: " + one(mix.entropyBits) + " bits of surprise, an even mix of the same kinds would have " +
               one(mix.evenBits) + ".";
    }
};

std::string numbersOf(const Share& s)
{
    const auto percent = [](double v) { return std::to_string(std::lround(100 * v)); };
    return std::to_string(s.won) + " of " + std::to_string(s.n) +
           (s.isFew() ? ", too few to say" : ", " + percent(s.low) + " to " + percent(s.high) + " %");
}

void paintMatch(QPainter& painter, const MatchFacts& m, const QRectF& a4)
{
    Paper paper(painter, a4, kUpright);
    const auto& colours = paper.colours();
    const double width = kUpright.width() - 2 * kMargin;
    double y = kMargin;
    const auto line = [&](const std::string& words, double size, const QColor& colour, QFont::Weight weight = QFont::Normal) {
        if (!words.empty())
            y += paper.write(QString::fromStdString(words), {kMargin, y, width, 60}, size, colour, weight);
    };
    line(m.title(), 7, colours.ink, QFont::DemiBold);
    line(m.subtitle(), 3.5, colours.muted);
    y += 2;
    line(m.result(), 5.5, colours.slate, QFont::DemiBold);
    y += 3;
    line(m.tallies.next.empty() ? "Too little is sure to say what to train next." : "What to train next", 4.2, colours.chestnut,
         QFont::DemiBold);
    for (const auto& next : m.tallies.next) {
        line(next.text, 4, colours.ink, QFont::DemiBold);
        line(next.because, 3.2, colours.muted);
    }
    y += 3;
    line("Points won by " + m.log.players[0] + ", with the interval chance leaves open", 3.8, colours.slate, QFont::DemiBold);
    y += 1;
    constexpr double kName = 62, kBar = 70, kHigh = 6.4;
    QPainter& p = paper.painter();
    for (const Tally* t : m.own()) {
        paper.write(QString::fromStdString(t->words), {kMargin, y, kName, kHigh}, 3.2, colours.ink);
        const QRectF bar(kMargin + kName, y + 1, kBar, 2.6);
        p.fillRect(bar, colours.rule);
        if (!t->share.isFew()) {
            p.fillRect(QRectF(bar.left() + kBar * t->share.low, bar.top(), kBar * (t->share.high - t->share.low), bar.height()),
                       colours.slatePale);
            p.fillRect(QRectF(bar.left() + kBar * t->share.value() - 0.4, bar.top() - 0.6, 0.8, bar.height() + 1.2),
                       colours.slate);
        }
        p.fillRect(QRectF(bar.left() + kBar / 2 - 0.1, bar.top() - 0.6, 0.2, bar.height() + 1.2), colours.muted);
        paper.write(QString::fromStdString(numbersOf(t->share)), {kMargin + kName + kBar + 3, y, width - kName - kBar - 3, kHigh},
                    3, colours.muted);
        y += kHigh;
    }
    y += 2;
    line(m.serves(), 3.4, colours.ink);
    line("Longest run: " + std::to_string(m.tallies.longestRun[0]) +
             " points; of the other: " + std::to_string(m.tallies.longestRun[1]) + ".",
         3.4, colours.ink);
    for (const auto& problem : m.score.problems) {
        if (y > kUpright.height() - kMargin - 6)
            break;
        line("Rally " + std::to_string(problem.rally + 1) + ": " + problem.text, 3, colours.alert);
    }
}

QString htmlOf(const MatchFacts& m)
{
    QString body = QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p><p><b>%3</b></p>\n")
                       .arg(escaped(m.title()), escaped(m.subtitle()), escaped(m.result()));
    body += QStringLiteral("<h2>What to train next</h2>\n");
    if (m.tallies.next.empty())
        body += QStringLiteral("<p>Too little is sure to say what to train next.</p>\n");
    for (const auto& next : m.tallies.next)
        body +=
            QStringLiteral("<p><b>%1</b><br><span class=\"note\">%2</span></p>\n").arg(escaped(next.text), escaped(next.because));
    body += QStringLiteral("<h2>Points won</h2><table>\n");
    for (const Tally* t : m.own())
        body += QStringLiteral("<tr><td>%1</td><td class=\"note\">%2</td></tr>\n")
                    .arg(escaped(t->words), escaped(numbersOf(t->share)));
    body += QStringLiteral("</table><p>%1</p>\n").arg(escaped(m.serves()));
    for (const auto& problem : m.score.problems)
        body += QStringLiteral("<p class=\"warn\">Rally %1: %2</p>\n").arg(problem.rally + 1).arg(escaped(problem.text));
    return htmlPage(m.title(), QStringLiteral("td{padding:2px 16px 2px 0}"), body);
}

} // namespace

Document matchDocument(const MatchLog& log, const MatchSport& sport)
{
    MatchScore score = scoreOf(log, sport);
    MatchTallies tallies = talliesOf(log, sport, score);
    const MatchFacts facts{log, sport, std::move(score), std::move(tallies)};
    return {facts.title(), kUpright, [facts](QPainter& painter, const QRectF& a4) { paintMatch(painter, facts, a4); },
            [facts] { return htmlOf(facts); }};
}

} // namespace kestrel::report
