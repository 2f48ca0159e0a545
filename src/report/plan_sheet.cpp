#include "report/plan_sheet.h"

#include "report/paper.h"
#include "report/plan_words.h"

#include <QPainter>

#include <algorithm>
#include <set>

namespace kestrel::report {

namespace {

constexpr double kMargin = 14, kGap = 7, kBox = 3.2; // millimetres
constexpr double kLetters = 3.5, kSmallest = 2.3;

QString text(const std::string& s)
{
    return QString::fromStdString(s);
}

std::string titleOf(const Plan& plan)
{
    return plan.player.empty() ? "Practice plan" : "Practice plan for " + plan.player;
}

std::string subtitleOf(const Plan& plan, const Pack& pack)
{
    return pack.name + " · " + std::to_string(plan.weeks) + (plan.weeks == 1 ? " week" : " weeks") + " from " +
           wordsOf(plan.start);
}

std::string refilmOf(const Plan& plan)
{
    return "Film again on " + wordsOf(plan.refilm) + ". " + plan.refilmHow;
}

/// The drills of the plan, each once, in the order they come.
std::vector<const Drill*> drillsOf(const Plan& plan, const Pack& pack)
{
    std::vector<const Drill*> drills;
    std::set<std::string> seen;
    for (const auto& s : plan.sessions)
        for (const auto& i : s.items)
            if (const Drill* d = pack.findDrill(i.drill); d && seen.insert(d->id).second)
                drills.push_back(d);
    return drills;
}

class PlanPainter {
public:
    PlanPainter(QPainter& painter, const QRectF& target, const Plan& plan, const Pack& pack)
        : m_paper(painter, target, kUpright), m_plan(plan), m_pack(pack)
    {
    }

    void paint()
    {
        const auto& colours = m_paper.colours();
        const double width = kUpright.width() - 2 * kMargin;
        double y = kMargin;
        y += write(titleOf(m_plan), {kMargin, y, width, 30}, 7, colours.ink, QFont::DemiBold);
        y += write(subtitleOf(m_plan, m_pack), {kMargin, y, width, 20}, 3.4, colours.muted) + 1;
        for (const auto& task : m_plan.tasks)
            if (const Fault* f = m_pack.findFault(task))
                y += write("“" + f->cue.teen + "”", {kMargin, y, width, 20}, 4.6, colours.chestnut, QFont::DemiBold);
        for (const auto& note : m_plan.coachNotes)
            y += write(note, {kMargin, y, width, 30}, 3.4, colours.ink);
        for (const auto& note : m_plan.notes)
            y += write(note, {kMargin, y, width, 30}, 3, colours.muted);
        y += 3;
        const std::string foot = refilmOf(m_plan);
        const std::string caution = m_pack.caution;
        const double high = write(foot, {kMargin, 0, width, 60}, 3.4, colours.ink, QFont::DemiBold, true) +
                            write(caution, {kMargin, 0, width, 60}, 3, colours.ink, QFont::Normal, true) + 5;
        const double bottom = kUpright.height() - kMargin - high;
        m_letters = kLetters;
        while (m_letters > kSmallest && !layOut(y, bottom, true))
            m_letters -= 0.1;
        layOut(y, bottom, false);
        double at = bottom + 2;
        m_paper.fill({kMargin, at, width, 0.25}, colours.rule);
        at += 2 + write(foot, {kMargin, at + 2, width, 60}, 3.4, colours.ink, QFont::DemiBold);
        write(caution, {kMargin, at, width, 60}, 3, colours.ink);
    }

private:
    double write(const std::string& words, const QRectF& box, double size, const QColor& colour,
                 QFont::Weight weight = QFont::Normal, bool dry = false)
    {
        return m_paper.write(text(words), box, size, colour, weight, dry);
    }

    /// Two columns of days. Whether all of them found room.
    bool layOut(double top, double bottom, bool dry)
    {
        const double width = (kUpright.width() - 2 * kMargin - kGap) / 2;
        double x = kMargin, y = top;
        for (std::size_t n = 0; n < m_plan.sessions.size(); ++n) {
            const double high = paintSession(m_plan.sessions[n], x, y, width, true);
            if (y + high > bottom && y > top) {
                if (x > kMargin) { // no third column
                    if (!dry)
                        write("and " + std::to_string(m_plan.sessions.size() - n) + " more days: see the web page",
                              {x, y, width, 10}, m_letters, m_paper.colours().alert, QFont::DemiBold);
                    return false;
                }
                x += width + kGap;
                y = top;
            }
            if (!dry)
                paintSession(m_plan.sessions[n], x, y, width, false);
            y += high;
        }
        return true;
    }

    double paintSession(const PlanSession& s, double x, double top, double width, bool dry)
    {
        const auto& colours = m_paper.colours();
        double y = top;
        y += write(wordsOf(s.date) + " · " + minutesWords(s.minutes()), {x, y, width, 20}, m_letters + 0.4, colours.slate,
                   QFont::DemiBold, dry) +
             0.6;
        for (const auto& item : s.items) {
            if (!dry) {
                m_paper.painter().setPen(QPen(colours.ink, 0.25));
                m_paper.painter().setBrush(Qt::NoBrush);
                m_paper.painter().drawRect(QRectF(x, y + 0.3, kBox, kBox));
            }
            y += std::max(kBox, write(itemWords(item, m_pack), {x + kBox + 2, y, width - kBox - 2, 60}, m_letters, colours.ink,
                                      QFont::Normal, dry)) +
                 0.8;
        }
        return y + 2 - top;
    }

    Paper m_paper;
    const Plan& m_plan;
    const Pack& m_pack;
    double m_letters = kLetters;
};

QString htmlOf(const Plan& plan, const Pack& pack)
{
    QString body =
        QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p>\n").arg(escaped(titleOf(plan)), escaped(subtitleOf(plan, pack)));
    for (const auto& task : plan.tasks)
        if (const Fault* f = pack.findFault(task))
            body += QStringLiteral("<p class=\"cue\">“%1”</p>\n").arg(escaped(f->cue.teen));
    for (const auto& note : plan.coachNotes)
        body += QStringLiteral("<p>%1</p>\n").arg(escaped(note));
    for (const auto& note : plan.notes)
        body += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(note));
    for (const auto& s : plan.sessions) {
        body += QStringLiteral("<h2>%1 · %2</h2><ul>\n").arg(escaped(wordsOf(s.date)), escaped(minutesWords(s.minutes())));
        for (const auto& item : s.items)
            body += QStringLiteral("<li><label><input type=\"checkbox\"> %1</label></li>\n").arg(escaped(itemWords(item, pack)));
        body += QStringLiteral("</ul>\n");
    }
    body += QStringLiteral("<h2>How each drill goes</h2>\n");
    for (const Drill* d : drillsOf(plan, pack)) {
        body +=
            QStringLiteral("<h3>%1</h3><p class=\"note\">%2</p><p>%3</p><ol>\n")
                .arg(escaped(d->name), escaped("You need: " + d->kitWords() + ". Where: " + d->space + "."), escaped(d->setup));
        for (const auto& step : d->steps)
            body += QStringLiteral("<li>%1</li>\n").arg(escaped(step));
        body += QStringLiteral("</ol>\n");
        if (!d->caution.empty())
            body += QStringLiteral("<p class=\"warn\">%1</p>\n").arg(escaped(d->caution));
    }
    body += QStringLiteral("<p><b>%1</b></p><p class=\"foot\">%2</p>\n").arg(escaped(refilmOf(plan)), escaped(pack.caution));
    return htmlPage(
        titleOf(plan),
        QStringLiteral("ul{list-style:none;padding:0}li{padding:4px 0}input{width:20px;height:20px;vertical-align:-4px}"
                       ".cue{font-size:22px;font-weight:600;color:#A6532A;margin:6px 0}"),
        body);
}

} // namespace

Document documentOf(const Plan& plan, const Pack& pack)
{
    return {titleOf(plan), kUpright,
            [plan, pack](QPainter& painter, const QRectF& a4) { PlanPainter(painter, a4, plan, pack).paint(); },
            [plan, pack] { return htmlOf(plan, pack); }};
}

} // namespace kestrel::report
