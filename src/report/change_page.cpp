#include "report/change_page.h"

#include "report/paper.h"
#include "report/reading_still.h"

#include <algorithm>
#include <cctype>
#include <set>

namespace kestrel::report {

namespace {

constexpr std::size_t kMostRows = 3; // with pictures: what a family looks at
constexpr double kStillUnit = 4.5;   // thin lines on small stills

class ChangeMaker {
public:
    ChangeMaker(const Pack& pack, const ChangeDay& before, const ChangeDay& after, const std::vector<PractisedTask>& practised,
                Voice voice)
        : m_pack(pack), m_before(before), m_after(after), m_practised(practised), m_voice(voice),
          m_change(calcChange(pack, before.readings, after.readings, practised.empty() ? "" : practised.front().measure)),
          m_typicalBefore(calcTypical(pack, before.readings)), m_typicalAfter(calcTypical(pack, after.readings))
    {
    }

    ChangePage make(const std::string& player, const std::vector<std::string>& unfair)
    {
        m_page.title = player.empty() ? "What has changed" : "What has changed for " + player;
        m_page.subtitle = m_pack.name + " · " + m_before.date + " and " + m_after.date;
        m_page.unfair = unfair;
        m_page.caution = m_pack.caution;
        chooseRows();
        addOthers();
        addNext();
        m_page.sentence = sentence();
        const auto n1 = m_before.readings.size(), n2 = m_after.readings.size();
        m_page.honesty = "This rests on " + std::to_string(n1) + (n1 == 1 ? " repetition" : " repetitions") +
                         " of the first day and " + std::to_string(n2) +
                         " of the second. A change is called real when chance and the camera explain it less than once in twenty "
                         "times.";
        return std::move(m_page);
    }

private:
    bool isPractised(const MeasureChange& m) const
    {
        return std::any_of(m_practised.begin(), m_practised.end(), [&](const auto& t) { return t.measure == m.measure; });
    }

    /// The task first, then earlier tasks (did the gain hold?), then what else changed for real.
    void chooseRows()
    {
        const auto add = [this](const MeasureChange& m) {
            if (m_page.rows.size() < kMostRows && m_rows.insert(m.measure).second)
                m_page.rows.push_back(rowOf(m));
        };
        for (const auto& task : m_practised)
            if (const MeasureChange* m = m_change.find(task.measure))
                add(*m);
        for (const auto& m : m_change.measures)
            if (m.verdict == ChangeVerdict::Better || m.verdict == ChangeVerdict::Worse)
                add(m);
    }

    ChangeRow rowOf(const MeasureChange& m)
    {
        ChangeRow row{nameOf(m), m.verdict, isPractised(m), m.why, {}, {}};
        row.before = stillOf(m, m_typicalBefore, m_before, m.before, m.meanBefore);
        row.after = stillOf(m, m_typicalAfter, m_after, m.after, m.meanAfter);
        return row;
    }

    Still stillOf(const MeasureChange& m, const std::vector<Reading>& typical, const ChangeDay& day, int count, double mean)
    {
        const auto r = std::find_if(typical.begin(), typical.end(), [&](const Reading& x) { return x.measure == m.measure; });
        Still still;
        if (r != typical.end() && r->value)
            still = readingStill(m_pack, *r, day.frames, false, m_page.warnings, kStillUnit);
        still.caption = day.date + (count > 0 ? ": " + withUnit(mean, m.unit) : ": not read");
        return still;
    }

    void addOthers()
    {
        const struct {
            ChangeVerdict verdict;
            const char* words;
        } kinds[] = {{ChangeVerdict::Better, "Better for real: "},
                     {ChangeVerdict::Worse, "Worse for real: "},
                     {ChangeVerdict::Changed, "Changed for real, within what is right: "},
                     {ChangeVerdict::NoChange, "No change that can be told from noise: "},
                     {ChangeVerdict::NeedMore, "More repetitions would tell: "}};
        for (const auto& kind : kinds) {
            std::string names;
            for (const auto& m : m_change.measures)
                if (m.verdict == kind.verdict && !m_rows.count(m.measure))
                    names += (names.empty() ? "" : ", ") + lower(nameOf(m)) +
                             (m.needed ? " (" + std::to_string(*m.needed) + " a day)" : "");
            if (!names.empty())
                m_page.others.push_back(kind.words + names + ".");
        }
    }

    void addNext()
    {
        if (m_practised.empty())
            return;
        const auto from = parseDate(m_before.date), to = parseDate(m_after.date);
        const auto next = calcFollowUp(m_pack, m_practised.front().fault, m_practised.front().measure, m_change, m_after.readings,
                                       from && to ? daysBetween(*from, *to) : kDipDays);
        if (!next)
            return;
        m_step = next->step;
        m_page.next = std::string(plainWordsOf(next->step)) + ". " + next->reason;
        m_page.next[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(m_page.next[0])));
    }

    /// To the player, without a number.
    std::string sentence() const
    {
        if (m_practised.empty()) {
            const auto better = std::find_if(m_page.rows.begin(), m_page.rows.end(),
                                             [](const ChangeRow& r) { return r.verdict == ChangeVerdict::Better; });
            return better == m_page.rows.end() ? "Nothing has changed yet that the film can prove."
                                               : better->name + ": better than it was, and the film proves it.";
        }
        const MeasureChange* m = m_change.find(m_practised.front().measure);
        const Fault* fault = m_pack.findFault(m_practised.front().fault);
        const std::string cue = fault ? "“" + inVoice(fault->cue, m_voice) + "” " : std::string("What you practised ");
        switch (m ? m->verdict : ChangeVerdict::NotComparable) {
        case ChangeVerdict::Better:
            return cue + (m_step == NextStep::Keep ? "is working: it is better than it was. Keep at it."
                                                   : "worked: it changed for real.");
        case ChangeVerdict::Worse:
            return cue + "is not there yet. That happens when something is new.";
        case ChangeVerdict::Changed:
        case ChangeVerdict::NoChange:
            return cue + (m_step == NextStep::Keep ? "has not shown on the film yet. Stay with it." : "is where it should be.");
        case ChangeVerdict::NeedMore:
            return cue + "may be coming. More films will tell.";
        case ChangeVerdict::NotComparable:
            return cue + "could not be looked at on both days.";
        }
        return {};
    }

    std::string nameOf(const MeasureChange& m) const
    {
        const Measure* measure = m_pack.findMeasure(m.measure);
        return measure ? measure->name : m.measure;
    }

    static std::string lower(std::string s)
    {
        if (!s.empty())
            s[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(s[0])));
        return s;
    }

    const Pack& m_pack;
    const ChangeDay &m_before, &m_after;
    const std::vector<PractisedTask>& m_practised;
    Voice m_voice;
    DayChange m_change;
    std::vector<Reading> m_typicalBefore, m_typicalAfter;
    NextStep m_step = NextStep::Keep;
    std::set<std::string> m_rows;
    ChangePage m_page;
};

QColor toneOf(ChangeVerdict v, const look::Palette& colours)
{
    return v == ChangeVerdict::Better ? colours.slate : v == ChangeVerdict::Worse ? colours.chestnut : colours.muted;
}

QString headOf(const ChangeRow& row)
{
    return QString::fromStdString(row.name + ": " + std::string(plainWordsOf(row.verdict)));
}

void paintChange(QPainter& painter, const ChangePage& page, const QRectF& a4)
{
    constexpr double kMargin = 14, kGap = 6, kShape = 0.75; // millimetres; of a still: height over width
    Paper paper(painter, a4, kUpright);
    const auto& colours = paper.colours();
    const double width = kUpright.width() - 2 * kMargin;
    double y = kMargin;
    const auto line = [&](const std::string& words, double size, const QColor& colour, QFont::Weight weight = QFont::Normal) {
        if (!words.empty())
            y += paper.write(QString::fromStdString(words), {kMargin, y, width, kUpright.height()}, size, colour, weight);
    };
    line(page.title, 7.2, colours.ink, QFont::DemiBold);
    line(page.subtitle, 3.5, colours.muted);
    y += 3;
    for (const auto& sentence : page.unfair)
        line(sentence, 3.4, colours.alert, QFont::DemiBold);
    y += 1;
    line(page.sentence, 6, colours.ink, QFont::DemiBold);
    y += 2;
    line(page.next, 3.8, colours.chestnut, QFont::DemiBold);
    y += 4;
    // the pictures share what the words leave
    const auto write = [&](const QString& words, double top, double size, const QColor& colour, bool dry) {
        return paper.write(words, {kMargin, top, width, kUpright.height()}, size, colour, QFont::Normal, dry);
    };
    double words = 0;
    for (const auto& row : page.rows)
        words += 6 + write(QString::fromStdString(row.why), 0, 3.2, colours.ink, true) + 12;
    for (const auto& sentence : page.others)
        words += write(QString::fromStdString(sentence), 0, 3.2, colours.muted, true) + 1;
    words += write(QString::fromStdString(page.honesty), 0, 3, colours.muted, true) + 4;
    const double foot = write(QString::fromStdString(page.caution), 0, 3.2, colours.ink, true) + 6;
    const double room = kUpright.height() - kMargin - foot - y - words;
    const double most = (width - kGap) / 2 * kShape;
    const double high = page.rows.empty() ? 0 : std::clamp(room / static_cast<double>(page.rows.size()), 20.0, most);
    for (const auto& row : page.rows) {
        y += paper.write(headOf(row), {kMargin, y, width, 20}, 4, toneOf(row.verdict, colours), QFont::DemiBold) + 1;
        double x = kMargin;
        for (const Still* still : {&row.before, &row.after}) {
            paper.picture(still->image, {x, y, high / kShape, high});
            paper.write(QString::fromStdString(still->caption), {x, y + high + 1, high / kShape, 8}, 3.2, colours.ink,
                        QFont::DemiBold);
            x += high / kShape + kGap;
        }
        y += high + 6;
        line(row.why, 3.2, colours.ink);
        y += 4;
    }
    for (const auto& sentence : page.others) {
        line(sentence, 3.2, colours.muted);
        y += 1;
    }
    y += 1;
    line(page.honesty, 3, colours.muted);
    y = kUpright.height() - kMargin - foot + 6;
    paper.fill({kMargin, y - 2.5, width, 0.25}, colours.rule);
    line(page.caution, 3.2, colours.ink, QFont::DemiBold);
}

QString htmlOf(const ChangePage& page)
{
    QString body = QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p>\n").arg(escaped(page.title), escaped(page.subtitle));
    for (const auto& sentence : page.unfair)
        body += QStringLiteral("<p class=\"warn\">%1</p>\n").arg(escaped(sentence));
    body += QStringLiteral("<p class=\"say\">%1</p>\n").arg(escaped(page.sentence));
    if (!page.next.empty())
        body += QStringLiteral("<p class=\"next\">%1</p>\n").arg(escaped(page.next));
    for (const auto& row : page.rows) {
        body += QStringLiteral("<h2>%1</h2><div class=\"two\">").arg(headOf(row).toHtmlEscaped());
        for (const Still* still : {&row.before, &row.after})
            body += QStringLiteral("<figure>%1<figcaption>%2</figcaption></figure>")
                        .arg(pictureTag(still->image, still->caption), escaped(still->caption));
        body += QStringLiteral("</div><p>%1</p>\n").arg(escaped(row.why));
    }
    for (const auto& sentence : page.others)
        body += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(sentence));
    body +=
        QStringLiteral("<p class=\"note\">%1</p><p class=\"foot\">%2</p>\n").arg(escaped(page.honesty), escaped(page.caution));
    return htmlPage(page.title,
                    QStringLiteral(".say{font-size:24px;font-weight:600}.next{color:#A6532A;font-weight:600}"
                                   ".two{display:flex;gap:12px;flex-wrap:wrap}figure{margin:0;flex:1 1 260px}"
                                   "figure img{width:100%;border-radius:4px}figcaption{font-weight:600}"),
                    body);
}

} // namespace

ChangePage makeChangePage(const Pack& pack, const std::string& player, const ChangeDay& before, const ChangeDay& after,
                          const std::vector<PractisedTask>& practised, const std::vector<std::string>& unfair, Voice voice)
{
    return ChangeMaker(pack, before, after, practised, voice).make(player, unfair);
}

Document documentOf(const ChangePage& page)
{
    return {page.title, kUpright, [page](QPainter& painter, const QRectF& a4) { paintChange(painter, page, a4); },
            [page] { return htmlOf(page); }};
}

} // namespace kestrel::report
