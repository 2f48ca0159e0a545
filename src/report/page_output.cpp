#include "report/page_output.h"

#include "core/base/json_reader.h"
#include "report/page_words.h"

#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>

namespace kestrel::report {

namespace {

QString escaped(const std::string& s)
{
    return QString::fromStdString(s).toHtmlEscaped();
}

QString pictureTag(const Still& still)
{
    if (still.image.isNull())
        return {};
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    still.image.save(&buffer, "JPEG", 85);
    return QStringLiteral("<img alt=\"%1\" src=\"data:image/jpeg;base64,%2\">")
        .arg(escaped(still.caption), QString::fromLatin1(bytes.toBase64()));
}

const char* const kStyle = R"(
body{margin:0 auto;max-width:820px;padding:24px;background:#FFFDF8;color:#24292E;font:16px/1.45 Inter,system-ui,sans-serif}
h1{margin:0;font-size:30px}h2{font-size:18px;color:#35597A;margin:24px 0 8px}.sub,.note{color:#62676F}
.row{display:flex;gap:20px;flex-wrap:wrap}.row figure{flex:1 1 260px;margin:0}figure img{width:100%;border-radius:4px}
figcaption{font-weight:600}.one{background:#F1E2D8;border-left:6px solid #A6532A;padding:16px 20px;margin:20px 0}
.one h2{color:#A6532A;margin-top:0}.cue{font-size:28px;font-weight:600;margin:4px 0 12px}.one img{width:100%;border-radius:4px}
.warn{color:#B3261E;font-weight:600}.foot{border-top:1px solid #DCD4C6;margin-top:20px;padding-top:10px;font-weight:600}
)";

} // namespace

Expected<void> savePdf(const Page& page, const std::string& file)
{
    QByteArray bytes;
    QBuffer buffer(&bytes);
    buffer.open(QIODevice::WriteOnly);
    {
        QPdfWriter writer(&buffer);
        writer.setPageSize(QPageSize(QPageSize::A4));
        writer.setPageMargins(QMarginsF(0, 0, 0, 0));
        writer.setResolution(300);
        writer.setTitle(QString::fromStdString(page.title));
        writer.setCreator(QStringLiteral("Jolly Kestrel"));
        QPainter painter(&writer);
        paintPage(painter, page, QRectF(0, 0, writer.width(), writer.height()));
    }
    return saveText(file, bytes.toStdString());
}

std::string toHtml(const Page& page)
{
    QString html =
        QStringLiteral("<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" "
                       "content=\"width=device-width,initial-scale=1\"><title>%1</title><style>%2</style></head><body>\n")
            .arg(escaped(page.title), QLatin1String(kStyle));
    html += QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p>\n").arg(escaped(page.title), escaped(page.subtitle));
    if (!page.strengths.empty()) {
        html += QStringLiteral("<h2>%1</h2><div class=\"row\">\n").arg(QLatin1String(kAlreadyGood));
        for (const auto& s : page.strengths)
            html += QStringLiteral("<figure>%1<figcaption>%2</figcaption><span class=\"note\">%3</span></figure>\n")
                        .arg(pictureTag(s.still), escaped(s.text), escaped(s.still.caption));
        html += QStringLiteral("</div>\n");
    }
    if (!page.stop.empty()) {
        html += QStringLiteral("<p class=\"cue warn\">%1</p>\n").arg(escaped(page.stop));
    } else if (page.task) {
        const PageTask& t = *page.task;
        html += QStringLiteral("<section class=\"one\"><h2>%4</h2><p class=\"cue\">“%1”</p>%2<p>%3</p>\n")
                    .arg(escaped(t.cue), pictureTag(t.still), escaped(t.because), escaped(headOf(t)));
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
    for (const auto& also : page.also)
        html += QStringLiteral("<p>%1</p>\n").arg(escaped(thenOf(also)));
    if (!page.later.empty())
        html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(laterOf(page)));
    html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(page.honesty));
    for (const auto& note : page.notes)
        html += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(note));
    html += QStringLiteral("<p>%1</p><p class=\"foot\">%2</p>\n</body></html>\n")
                .arg(escaped(filmNextOf(page)), escaped(page.caution));
    return html.toStdString();
}

Expected<void> savePage(const Page& page, const std::string& file)
{
    const QString name = QString::fromStdString(file).toLower();
    if (name.endsWith(QStringLiteral(".pdf")))
        return savePdf(page, file);
    if (name.endsWith(QStringLiteral(".html")) || name.endsWith(QStringLiteral(".htm")))
        return saveText(file, toHtml(page));
    return fail(ErrorCode::BadArgument, "The page's name has to end in .pdf or .html.", file);
}

} // namespace kestrel::report
