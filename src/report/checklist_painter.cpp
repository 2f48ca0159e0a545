// How a checklist is laid out, on paper and as a web page.

#include "report/checklist.h"
#include "report/paper.h"

#include <QPainterPath>

#include <algorithm>
#include <numeric>
#include <string_view>

namespace kestrel::report {

namespace {

constexpr double kMargin = 14, kGap = 7, kMark = 4.4; // millimetres
constexpr double kStillWidth = 30, kStillHeight = 22.5;
constexpr double kLetters = 3.7, kSmallest = 2.4;

/// Shapes besides words: a tick, a diamond to work on, an empty line for what was not seen.
void paintMark(Paper& paper, CheckState state, QPointF at)
{
    const auto& colours = paper.colours();
    QPainter& p = paper.painter();
    p.save();
    p.setPen(
        QPen(state == CheckState::WorkOnIt ? colours.chestnut : colours.slate, 0.7, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
    switch (state) {
    case CheckState::Right:
        p.drawPolyline(QPolygonF{{at.x() + 0.2, at.y() + 2.2}, {at.x() + 1.5, at.y() + 3.5}, {at.x() + 3.6, at.y() + 0.5}});
        break;
    case CheckState::WorkOnIt:
        p.setBrush(colours.chestnut);
        p.drawPolygon(QPolygonF{{at.x() + 1.9, at.y() + 0.2},
                                {at.x() + 3.6, at.y() + 1.9},
                                {at.x() + 1.9, at.y() + 3.6},
                                {at.x() + 0.2, at.y() + 1.9}});
        break;
    case CheckState::NotSeen:
        p.setPen(QPen(colours.muted, 0.5));
        p.drawLine(QPointF(at.x() + 0.2, at.y() + 2), QPointF(at.x() + 3.6, at.y() + 2));
        break;
    }
    p.restore();
}

class ChecklistPainter {
public:
    ChecklistPainter(QPainter& painter, const QRectF& target, const Checklist& list)
        : m_paper(painter, target, kUpright), m_list(list)
    {
    }

    bool paint()
    {
        const auto& colours = m_paper.colours();
        const double width = kUpright.width() - 2 * kMargin;
        double y = kMargin;
        y += write(m_list.title, {kMargin, y, width, 20}, 7, colours.ink, QFont::DemiBold);
        y += write(m_list.subtitle, {kMargin, y, width, 20}, 3.5, colours.muted) + 2;
        if (!m_list.stop.empty())
            y += write(m_list.stop, {kMargin, y, width, 60}, 4.6, colours.alert, QFont::DemiBold) + 2;
        y += paintLegend(y) + 3;
        const double foot = write(m_list.caution, {kMargin, 0, width, 60}, 3, colours.ink, QFont::DemiBold, true);
        const double bottom = kUpright.height() - kMargin - foot - 4;
        // smaller letters until all of it stands on one side
        m_letters = kLetters;
        while (m_letters > kSmallest && !layOut(y, bottom, true))
            m_letters -= 0.1;
        const bool fits = layOut(y, bottom, false);
        m_paper.fill({kMargin, bottom + 1, width, 0.25}, colours.rule);
        write(m_list.caution, {kMargin, bottom + 3, width, 60}, 3, colours.ink, QFont::DemiBold);
        return fits;
    }

private:
    double write(const std::string& words, const QRectF& box, double size, const QColor& colour,
                 QFont::Weight weight = QFont::Normal, bool dry = false)
    {
        return m_paper.write(QString::fromStdString(words), box, size, colour, weight, dry);
    }

    double paintLegend(double y)
    {
        double x = kMargin;
        for (const auto state : {CheckState::Right, CheckState::WorkOnIt, CheckState::NotSeen}) {
            paintMark(m_paper, state, {x, y});
            write(wordsOf(state), {x + kMark + 1, y - 0.4, 60, 6}, 3.2, m_paper.colours().muted);
            x += 24 + 1.4 * static_cast<double>(std::string_view(wordsOf(state)).size());
        }
        return kMark;
    }

    /// Two columns, about as long as each other, groups unbroken. Whether there was room.
    bool layOut(double top, double bottom, bool dry)
    {
        const double width = (kUpright.width() - 2 * kMargin - kGap) / 2;
        std::vector<double> heights;
        for (const auto& group : m_list.groups)
            heights.push_back(groupHeight(group, width));
        const double all = std::accumulate(heights.begin(), heights.end(), 0.0);
        std::size_t inFirst = 0;
        double first = 0, longest = all;
        for (double sum = 0; const double height : heights) {
            sum += height;
            if (std::max(sum, all - sum) < longest) {
                longest = std::max(sum, all - sum);
                first = sum;
                ++inFirst;
            }
        }
        if (!dry) {
            double y = top;
            for (std::size_t n = 0; n < m_list.groups.size(); ++n) {
                if (n == inFirst)
                    y = top;
                paintGroup(m_list.groups[n], n < inFirst ? kMargin : kMargin + width + kGap, y, width, false);
                y += heights[n];
            }
        }
        return top + std::max(first, all - first) <= bottom;
    }

    double groupHeight(const CheckGroup& group, double width) { return paintGroup(group, 0, 0, width, true); }

    double paintGroup(const CheckGroup& group, double x, double top, double width, bool dry)
    {
        const auto& colours = m_paper.colours();
        double y = top;
        y += write(group.keyPosition, {x, y, width, 20}, m_letters + 0.5, colours.slate, QFont::DemiBold, dry) + 1;
        for (const auto& point : group.points) {
            const bool hasStill = !point.still.image.isNull();
            const double words = width - kMark - 2 - (hasStill ? kStillWidth + 2 : 0);
            if (!dry)
                paintMark(m_paper, point.state, {x, y + 0.3});
            const double used = write(point.text, {x + kMark + 2, y, words, 200}, m_letters,
                                      point.state == CheckState::NotSeen ? colours.muted : colours.ink,
                                      point.state == CheckState::WorkOnIt ? QFont::DemiBold : QFont::Normal, dry);
            double first = 0;
            if (point.isTheOne)
                first =
                    write("first", {x + kMark + 2, y + used, words, 20}, m_letters - 0.6, colours.chestnut, QFont::DemiBold, dry);
            if (hasStill && !dry)
                m_paper.picture(point.still.image, {x + width - kStillWidth, y, kStillWidth, kStillHeight});
            y += std::max(used + first, hasStill ? kStillHeight : 0.0) + 1.6;
        }
        return y + 1.6 - top;
    }

    Paper m_paper;
    const Checklist& m_list;
    double m_letters = kLetters;
};

QString htmlOf(const Checklist& list)
{
    QString body = QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p>\n").arg(escaped(list.title), escaped(list.subtitle));
    if (!list.stop.empty())
        body += QStringLiteral("<p class=\"warn\">%1</p>\n").arg(escaped(list.stop));
    for (const auto& group : list.groups) {
        body += QStringLiteral("<h2>%1</h2><ul>\n").arg(escaped(group.keyPosition));
        for (const auto& point : group.points) {
            const bool isOff = point.state == CheckState::WorkOnIt;
            const QString text = isOff ? QStringLiteral("<b>%1</b>").arg(escaped(point.text)) : escaped(point.text);
            body += QStringLiteral("<li class=\"%1\">%2 <span class=\"note\">%3%4</span>%5</li>\n")
                        .arg(QLatin1String(isOff                              ? "work"
                                           : point.state == CheckState::Right ? "right"
                                                                              : "unseen"),
                             text, QLatin1String(wordsOf(point.state)), point.isTheOne ? QStringLiteral(", first") : QString(),
                             pictureTag(point.still.image, point.still.caption));
        }
        body += QStringLiteral("</ul>\n");
    }
    body += QStringLiteral("<p class=\"foot\">%1</p>\n").arg(escaped(list.caution));
    return htmlPage(
        list.title,
        QStringLiteral("ul{list-style:none;padding:0}li{padding:4px 0 4px 28px;position:relative}"
                       "li:before{position:absolute;left:4px}li.right:before{content:'\\2713';color:#35597A}"
                       "li.work:before{content:'\\25C6';color:#A6532A}li.unseen:before{content:'\\2014';color:#62676F}"
                       "li img{display:block;max-width:320px;width:100%;border-radius:4px;margin-top:6px}"),
        body);
}

} // namespace

bool paintChecklist(QPainter& painter, const Checklist& list, const QRectF& a4)
{
    return ChecklistPainter(painter, a4, list).paint();
}

Document documentOf(const Checklist& list)
{
    return {list.title, kUpright, [list](QPainter& painter, const QRectF& a4) { paintChecklist(painter, list, a4); },
            [list] { return htmlOf(list); }};
}

} // namespace kestrel::report
