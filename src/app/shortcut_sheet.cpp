#include "app/shortcut_sheet.h"

#include <QGridLayout>
#include <QLabel>

namespace kestrel::app {

namespace {

struct Row {
    const char *keys, *meaning; ///< without keys: the head of a group
};

constexpr Row kLeft[] = {
    {"", "Move through the film"},
    {"← →", "one frame back, on"},
    {"Shift ← →", "ten frames"},
    {"↑ ↓", "key position before, next"},
    {"Home  End", "first, last frame"},
    {"Space", "play, pause (Shift: backward)"},
    {"[  ]", "slower, faster"},
    {"L", "loop around here"},
    {"I  O", "the loop begins, ends here"},
    {"N", "the loop becomes a repetition"},
    {"PgUp  PgDn", "repetition before, next"},
    {"R", "describe the repetition"},
    {"F", "what this film can show"},
    {"+  −  0", "zoom in, out, whole picture"},
    {"right drag", "pan when zoomed in"},
};
constexpr Row kRight[] = {
    {"", "Mark"},
    {"1 … 9", "place the key position here"},
    {"M", "mark the body, in the guided order"},
    {"G", "let the program mark: body and key positions"},
    {"K", "follow the chosen point through the film"},
    {"W", "to the least sure mark of the program's"},
    {"X", "leave out a point that cannot be seen"},
    {"arrows", "nudge the chosen point (Shift: a quarter pixel)"},
    {"Delete", "remove the chosen point or clip"},
    {"S  U  T", "draw the scale, up, the target direction"},
    {"Esc", "let go of tool and point"},
    {"", "Window"},
    {"Ctrl 1  2  3  4  5", "Roster, Bench, Page, Live, Packs"},
    {"Enter", "in Live: save what was just seen"},
    {"Ctrl Z   Ctrl Shift Z", "undo, redo"},
    {"Ctrl N", "new athlete"},
    {"F11", "full screen"},
    {"F1", "this sheet"},
};

template <std::size_t N> void addRows(QGridLayout* grid, QWidget* parent, const Row (&rows)[N], int column)
{
    int line = 0;
    for (const auto& r : rows) {
        auto* meaning = new QLabel(QObject::tr(r.meaning), parent);
        if (*r.keys == 0) {
            meaning->setProperty("subhead", true);
            grid->addWidget(meaning, line++, column, 1, 2);
            continue;
        }
        auto* keys = new QLabel(QString::fromUtf8(r.keys), parent);
        keys->setStyleSheet(QStringLiteral("font-weight:600"));
        grid->addWidget(keys, line, column);
        grid->addWidget(meaning, line++, column + 1);
    }
}

} // namespace

ShortcutSheet::ShortcutSheet(QWidget* over) : QFrame(over)
{
    setProperty("card", true);
    setAttribute(Qt::WA_DeleteOnClose);
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(32, 24, 32, 24);
    grid->setHorizontalSpacing(20);
    grid->setVerticalSpacing(7);
    addRows(grid, this, kLeft, 0);
    addRows(grid, this, kRight, 3);
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
