// How a photo sheet is laid out, on paper and as a web page.

#include "report/paper.h"
#include "report/photo_sheet.h"

#include <algorithm>

namespace kestrel::report {

namespace {

constexpr double kMargin = 10, kGap = 3; // millimetres
constexpr double kWords = 11;            // below each picture
constexpr double kRowTitle = 6, kHead = 16, kFoot = 8;
constexpr std::size_t kMostInOneLine = 4; // of a single row; more stand in two lines and larger

/// A line of pictures on the paper.
struct Line {
    std::string title;
    std::vector<const SheetCell*> cells;
};

std::vector<Line> linesOf(const PhotoSheet& sheet)
{
    std::vector<Line> lines;
    const bool isBroken = sheet.rows.size() == 1 && sheet.rows.front().cells.size() > kMostInOneLine;
    for (const auto& row : sheet.rows) {
        const std::size_t inLine = isBroken ? (row.cells.size() + 1) / 2 : std::max<std::size_t>(row.cells.size(), 1);
        for (std::size_t first = 0; first < row.cells.size(); first += inLine) {
            Line line{first == 0 ? row.title : std::string(), {}};
            for (std::size_t i = first; i < std::min(first + inLine, row.cells.size()); ++i)
                line.cells.push_back(&row.cells[i]);
            lines.push_back(std::move(line));
        }
    }
    return lines;
}

void paintCell(Paper& paper, const SheetCell& cell, QPointF at, QSizeF picture)
{
    const auto& colours = paper.colours();
    const QRectF box(at, picture);
    if (cell.image.isNull()) {
        paper.fill(box, colours.ground);
        paper.write(cell.time.empty() ? QStringLiteral("not placed") : QStringLiteral("no picture"), box.adjusted(2, 2, -2, -2),
                    3, colours.muted);
    }
    paper.picture(cell.image, box);
    const QRectF words(at.x(), at.y() + picture.height() + 1, picture.width(), kWords);
    const double used = paper.write(QString::fromStdString(cell.name), words, 3.2, colours.ink, QFont::DemiBold);
    std::string below = cell.time;
    if (!cell.reading.empty())
        below += (below.empty() ? "" : " · ") + cell.reading;
    paper.write(QString::fromStdString(below), words.adjusted(0, used, 0, 0), 2.7, colours.muted);
}

void paintSheet(QPainter& painter, const QRectF& target, const PhotoSheet& sheet)
{
    Paper paper(painter, target, kLying);
    const auto& colours = paper.colours();
    const double width = kLying.width() - 2 * kMargin;
    double y = kMargin;
    y += paper.write(QString::fromStdString(sheet.title), {kMargin, y, width, kHead}, 6, colours.ink, QFont::DemiBold);
    paper.write(QString::fromStdString(sheet.subtitle), {kMargin, y, width, kHead}, 3.2, colours.muted);
    y = kMargin + kHead;
    const auto lines = linesOf(sheet);
    const bool hasTitles = std::any_of(lines.begin(), lines.end(), [](const Line& l) { return !l.title.empty(); });
    std::size_t columns = 1;
    for (const auto& line : lines)
        columns = std::max(columns, line.cells.size());
    const double titles = hasTitles ? kRowTitle : 0;
    const double room = (kLying.height() - kMargin - kFoot - y) / std::max<std::size_t>(lines.size(), 1) - kWords - titles - kGap;
    const double byWidth = (width - kGap * static_cast<double>(columns - 1)) / static_cast<double>(columns);
    const QSizeF picture(std::min(byWidth, room * sheet.shape), std::min(room, byWidth / sheet.shape));
    for (const auto& line : lines) {
        if (!line.title.empty())
            paper.write(QString::fromStdString(line.title), {kMargin, y, width, kRowTitle}, 3.6, colours.slate, QFont::DemiBold);
        double x = kMargin;
        for (const SheetCell* cell : line.cells) {
            paintCell(paper, *cell, {x, y + titles}, picture);
            x += picture.width() + kGap;
        }
        y += titles + picture.height() + kWords + kGap;
    }
    std::string notes;
    for (const auto& note : sheet.notes)
        notes += (notes.empty() ? "" : " ") + note;
    paper.write(QString::fromStdString(notes), {kMargin, kLying.height() - kFoot - 2, width, kFoot}, 2.8, colours.muted);
}

QString htmlOf(const PhotoSheet& sheet)
{
    QString body = QStringLiteral("<h1>%1</h1><p class=\"sub\">%2</p>\n").arg(escaped(sheet.title), escaped(sheet.subtitle));
    for (const auto& row : sheet.rows) {
        if (!row.title.empty())
            body += QStringLiteral("<h2>%1</h2>\n").arg(escaped(row.title));
        body += QStringLiteral("<div class=\"cells\">\n");
        for (const auto& cell : row.cells)
            body += QStringLiteral("<figure>%1<figcaption>%2</figcaption><span class=\"note\">%3</span></figure>\n")
                        .arg(pictureTag(cell.image, cell.name), escaped(cell.name),
                             escaped(cell.time.empty()      ? "not placed"
                                     : cell.reading.empty() ? cell.time
                                                            : cell.time + " · " + cell.reading));
        body += QStringLiteral("</div>\n");
    }
    for (const auto& note : sheet.notes)
        body += QStringLiteral("<p class=\"note\">%1</p>\n").arg(escaped(note));
    return htmlPage(sheet.title,
                    QStringLiteral("body{max-width:1100px}.cells{display:grid;gap:12px;"
                                   "grid-template-columns:repeat(auto-fill,minmax(150px,1fr))}figure{margin:0}"
                                   "figure img{width:100%;border-radius:4px}figcaption{font-weight:600}"),
                    body);
}

} // namespace

Document documentOf(const PhotoSheet& sheet)
{
    return {sheet.title, kLying, [sheet](QPainter& painter, const QRectF& target) { paintSheet(painter, target, sheet); },
            [sheet] { return htmlOf(sheet); }};
}

} // namespace kestrel::report
