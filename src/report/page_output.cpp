#include "report/page_output.h"

#include "report/page_words.h"

namespace kestrel::report {

namespace {

const char* const kStyle = R"(
.row{display:flex;gap:20px;flex-wrap:wrap}.row figure{flex:1 1 260px;margin:0}figure img{width:100%;border-radius:4px}
figcaption{font-weight:600}.one{background:#F1E2D8;border-left:6px solid #A6532A;padding:16px 20px;margin:20px 0}
.one h2{color:#A6532A;margin-top:0}.cue{font-size:28px;font-weight:600;margin:4px 0 12px}.one img{width:100%;border-radius:4px}
)";

} // namespace

std::string toHtml(const Page& page)
{
    QString html = QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p>\n").arg(escaped(page.title), escaped(page.subtitle));
    if (!page.strengths.empty()) {
        html += QStringLiteral("<h2>%1</h2><div class=\"row\">\n").arg(QLatin1String(kAlreadyGood));
        for (const auto& s : page.strengths)
            html += QStringLiteral("<figure>%1<figcaption>%2</figcaption><span class=\"note\">%3</span></figure>\n")
                        .arg(pictureTag(s.still.image, s.still.caption), escaped(s.text), escaped(s.still.caption));
        html += QStringLiteral("</div>\n");
    }
    if (!page.since.empty())
        html += QStringLiteral("<h2>%1</h2><p>%2</p>\n").arg(QLatin1String(kSinceLastPage), escaped(page.since));
    if (!page.stop.empty()) {
        html += QStringLiteral("<p class=\"cue warn\">%1</p>\n").arg(escaped(page.stop));
    } else if (page.task) {
        const PageTask& t = *page.task;
        html += QStringLiteral("<section class=\"one\"><h2>%4</h2><p class=\"cue\">“%1”</p>%2<p>%3</p>\n")
                    .arg(escaped(t.cue), pictureTag(t.still.image, t.still.caption), escaped(t.because), escaped(headOf(t)));
        if (!t.caution.empty())
            html += QStringLiteral("<p class=\"warn\">%1</p>\n").arg(escaped(t.caution));
        if (!t.drill.id.empty()) {
            html += QStringLiteral("<h2>%1</h2><p><b>%2</b></p><p class=\"note\">%3</p><p>%4</p><ol>\n")
                        .arg(escaped(practiceOf(t.drill)), escaped(t.drill.doseWords()), escaped(needsOf(t.drill)),
                             escaped(t.drill.setup));
            for (const auto& step : t.drill.steps)
                html += QStringLiteral("<li>%1</li>\n").arg(escaped(step));
            html += QStringLiteral("</ol><p>%1</p>\n").arg(escaped(feelOf(t.drill)));
            if (!t.otherDrill.empty())
                html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(t.otherDrill));
        }
        html += QStringLiteral("</section>\n");
    } else {
        html += QStringLiteral("<p class=\"cue\">%1</p>\n").arg(escaped(page.noTask));
    }
    if (!page.extra.image.isNull())
        html += QStringLiteral("<div class=\"row\"><figure>%1<figcaption>%2</figcaption></figure></div>\n")
                    .arg(pictureTag(page.extra.image, page.extra.caption), escaped(page.extra.caption));
    for (const auto& also : page.also)
        html += QStringLiteral("<p>%1</p>\n").arg(escaped(thenOf(also)));
    if (!page.later.empty())
        html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(laterOf(page)));
    html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(page.honesty));
    for (const auto& note : page.notes)
        html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(note));
    html += QStringLiteral("<p>%1</p><p class=\"foot\">%2</p>\n").arg(escaped(filmNextOf(page)), escaped(page.caution));
    return htmlPage(page.title, QLatin1String(kStyle), html).toStdString();
}

Document documentOf(const Page& page)
{
    return {page.title, kUpright, [page](QPainter& painter, const QRectF& a4) { paintPage(painter, page, a4); },
            [page] { return QString::fromStdString(toHtml(page)); }};
}

} // namespace kestrel::report
