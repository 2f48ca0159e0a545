#include "app/shell/shortcut_sheet.h"

#include <QGridLayout>
#include <QLabel>

namespace kestrel::app {

namespace {

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
    grid->setContentsMargins(32, 24, 32, 24);
    grid->setHorizontalSpacing(20);
    grid->setVerticalSpacing(7);
    const auto rows = rowsOf(places);
    std::size_t half = (rows.size() + 1) / 2;
    for (std::size_t near = 0; near < 6 && half + near < rows.size(); ++near) // a column begins with a head where one is near
        if (rows[half + near].keys.isEmpty()) {
            half += near;
            break;
        }
    for (std::size_t i = 0; i < rows.size(); ++i) {
        const int line = static_cast<int>(i < half ? i : i - half), column = i < half ? 0 : 3;
        auto* words = new QLabel(rows[i].words, this);
        words->setTextFormat(Qt::PlainText);
        if (rows[i].keys.isEmpty()) {
            words->setProperty("subhead", true);
            grid->addWidget(words, line, column, 1, 2);
            continue;
        }
        auto* keys = new QLabel(rows[i].keys, this);
        keys->setTextFormat(Qt::PlainText);
        keys->setStyleSheet(QStringLiteral("font-weight:600"));
        grid->addWidget(keys, line, column);
        grid->addWidget(words, line, column + 1);
    }
    grid->setColumnMinimumWidth(2, 28);
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
