#include "app/bench/draw_column.h"

#include "app/shell/theme.h"

#include <QMenu>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

constexpr int kIcon = 17, kButton = 25; // pixels: sixteen of them stand beside the film of a window of 800 pixels

QString livesWords(const Bench& bench, const Drawing& d)
{
    switch (d.lives.on) {
    case Lives::On::Repetition:
        return DrawingEditor::tr("whole repetition");
    case Lives::On::KeyPosition: {
        const Pack* pack = bench.context.pack();
        const KeyPosition* k = pack ? pack->findKeyPosition(d.lives.keyPosition) : nullptr;
        return DrawingEditor::tr("at %1").arg(QString::fromStdString(k ? k->name : d.lives.keyPosition));
    }
    case Lives::On::Stretch:
        break;
    }
    const auto [first, last] = d.lives.stretch;
    return first == last ? DrawingEditor::tr("picture %1").arg(first.value)
                         : DrawingEditor::tr("pictures %1 to %2").arg(first.value).arg(last.value);
}

} // namespace

DrawColumn::DrawColumn(Bench& bench, const Commands& commands, QWidget* parent) : QWidget(parent), m_bench(bench)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(1);
    for (const auto& b : BenchTools::drawButtons()) {
        auto* button = makeButton(b.icon, commands.tip(b.icon, b.words));
        button->setCheckable(b.kind != DrawingKind::Strobe);
        connect(button, &QToolButton::clicked, this, [this, kind = b.kind](bool on) {
            if (kind == DrawingKind::Strobe)
                m_bench.drawings.addStrobe();
            else if (on)
                m_bench.tools.setDrawing(kind);
            else
                m_bench.tools.setTool(Tool::Look);
        });
        m_kinds.emplace_back(b.kind, button);
        column->addWidget(button);
    }
    column->addSpacing(4);
    m_list = makeButton(QStringLiteral("draw-list"), tr("What is drawn on this repetition"));
    m_list->setPopupMode(QToolButton::InstantPopup);
    m_list->setStyleSheet(QStringLiteral("QToolButton::menu-indicator{image:none}"));
    auto* menu = new QMenu(m_list);
    menu->setObjectName(QStringLiteral("drawingList"));
    connect(menu, &QMenu::aboutToShow, this, &DrawColumn::fillList);
    m_list->setMenu(menu);
    m_hide = makeButton(QStringLiteral("draw-hide"), commands.tip(QStringLiteral("hideDrawings"), tr("Hide all drawings")));
    m_hide->setCheckable(true);
    connect(m_hide, &QToolButton::clicked, this, [this](bool on) { m_bench.drawings.setHidden(on); });
    column->addWidget(m_list);
    column->addWidget(m_hide);
    column->addStretch();
    connect(&bench.tools, &ToolBox::toolChanged, this, &DrawColumn::refresh);
    connect(&bench.drawings, &DrawingEditor::changed, this, &DrawColumn::refresh);
    connect(&bench.context, &ClipContext::clipChanged, this, &DrawColumn::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &DrawColumn::refresh);
    refresh();
}

QToolButton* DrawColumn::makeButton(const QString& icon, const QString& tip)
{
    auto* button = new QToolButton(this);
    button->setObjectName(icon);
    button->setProperty("slim", true);
    button->setProperty("iconName", icon);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setIconSize({kIcon, kIcon});
    button->setFixedSize(kButton, kButton);
    button->setFocusPolicy(Qt::NoFocus);
    return button;
}

void DrawColumn::refresh()
{
    for (auto* button : findChildren<QToolButton*>()) {
        button->setIcon(Theme::icon(button->property("iconName").toString(), colours().ink));
        button->setEnabled(m_bench.context.isOpen());
    }
    for (const auto& [kind, button] : m_kinds)
        button->setChecked(m_bench.tools.tool() == Tool::Draw && m_bench.tools.drawing() == kind);
    m_hide->setChecked(m_bench.drawings.areHidden());
}

/// Each with when it is seen, what it says, and why it is missing here.
void DrawColumn::fillList()
{
    QMenu* const menu = m_list->menu();
    menu->clear();
    const FrameIndex here = m_bench.player.frame();
    for (const auto& row : m_bench.drawings.all()) {
        QStringList words{nameOf(row.drawing.kind)};
        if (!row.drawing.text.empty())
            words.front() += QStringLiteral(" “%1”").arg(QString::fromStdString(row.drawing.text));
        words << livesWords(m_bench, row.drawing);
        const auto range = m_bench.drawings.rangeOf(row.drawing);
        if (const QString why = m_bench.drawings.whyMissing(row.drawing, here); !why.isEmpty())
            words << why;
        else if (range)
            if (const QString said = m_bench.drawings.wordsOn(row.drawing, range->contains(here) ? here : range->last);
                !said.isEmpty())
                words << said;
        auto* action = menu->addAction(words.join(QStringLiteral(" · ")), this, [this, id = row.id, range] {
            if (range && !range->contains(m_bench.player.frame()))
                m_bench.player.setFrame(range->first);
            m_bench.drawings.setHidden(false);
            m_bench.drawings.choose(id);
        });
        action->setCheckable(true);
        action->setChecked(row.id == m_bench.drawings.chosen());
    }
    if (menu->isEmpty())
        menu->addAction(tr("Nothing is drawn on this repetition yet."))->setEnabled(false);
}

} // namespace kestrel::app
