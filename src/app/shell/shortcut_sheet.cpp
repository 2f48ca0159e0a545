#include "app/shell/shortcut_sheet.h"

#include <QGridLayout>
#include <QLabel>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kLine = 23, kAround = 60; // pixels: a row, and what is around all of them
constexpr std::size_t kNear = 5;        // rows

struct Row {
    QString keys, words; ///< without keys: the head of a group
};

/// In the order of the commands, a head before each group.
std::vector<Row> rowsOf(const std::vector<const Commands*>& places)
{
    std::vector<Row> rows;
    QString group, shown;
    for (const auto* commands : places)
        for (const auto& c : commands->all()) {
            if (c.group != group)
                rows.push_back({{}, group = c.group});
            if (!c.shown.isEmpty() && c.shown == shown)
                continue;
            shown = c.shown;
            rows.push_back({c.shown.isEmpty() ? textOf(c.keys.front()) : c.shown, c.words});
        }
    return rows;
}

} // namespace

ShortcutSheet::ShortcutSheet(const std::vector<const Commands*>& places, QWidget* over) : QFrame(over)
{
    setProperty("card", true);
    setAttribute(Qt::WA_DeleteOnClose);
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(24, 16, 24, 16);
    grid->setHorizontalSpacing(14);
    grid->setVerticalSpacing(5);
    const auto rows = rowsOf(places);
    // as many columns as the window's height asks for; each begins with a head where one is near
    const auto inColumn = static_cast<std::size_t>(std::max(10, (over->height() - kAround) / kLine));
    const std::size_t columns = (rows.size() + inColumn - 1) / inColumn, even = (rows.size() + columns - 1) / columns;
    std::size_t column = 0, first = 0;
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const std::size_t line = i - first;
        const bool isHead = rows[i].keys.isEmpty();
        if (line >= inColumn || (isHead && line + kNear >= even && column + 1 < columns)) {
            ++column;
            first = i;
        }
        const int at = static_cast<int>(i - first), left = static_cast<int>(3 * column);
        auto* words = new QLabel(rows[i].words, this);
        words->setTextFormat(Qt::PlainText);
        if (isHead) {
            words->setProperty("subhead", true);
            grid->addWidget(words, at, left, 1, 2);
            continue;
        }
        auto* keys = new QLabel(rows[i].keys, this);
        keys->setTextFormat(Qt::PlainText);
        keys->setStyleSheet(QStringLiteral("font-weight:600"));
        grid->addWidget(keys, at, left);
        grid->addWidget(words, at, left + 1);
    }
    for (std::size_t c = 1; c <= column; ++c)
        grid->setColumnMinimumWidth(static_cast<int>(3 * c) - 1, 16);
    adjustSize();
    move((over->width() - width()) / 2, (over->height() - height()) / 2);
    setFocusPolicy(Qt::StrongFocus);
    show();
    raise();
    setFocus();
}

void ShortcutSheet::keyPressEvent(QKeyEvent*)
{
    close();
}
void ShortcutSheet::mousePressEvent(QMouseEvent*)
{
    close();
}

} // namespace kestrel::app
