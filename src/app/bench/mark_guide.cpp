#include "app/bench/mark_guide.h"

#include "app/shell/theme.h"
#include "look/body_figure.h"

#include <QPainter>
#include <QVBoxLayout>

namespace kestrel::app {

MarkGuide::MarkGuide(Bench& bench, QWidget* parent) : QFrame(parent), m_bench(bench)
{
    setProperty("card", true);
    setFixedSize(166, 240);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 8, 10, 8);
    layout->setSpacing(2);
    m_name = new QLabel(this);
    m_name->setWordWrap(true);
    m_name->setObjectName(QStringLiteral("nextPoint"));
    m_name->setStyleSheet(QStringLiteral("font-weight:600"));
    m_count = new QLabel(this);
    m_count->setProperty("muted", true);
    m_skip = new QToolButton(this);
    m_skip->setText(tr("Cannot be seen (X)"));
    m_skip->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    m_whole = new QCheckBox(tr("whole body"), this);
    m_whole->setToolTip(tr("Ask for every joint, not only for those that are measured: the ribbon then shows the whole figure"));
    m_whole->setFocusPolicy(Qt::NoFocus);
    m_skip->setToolTip(tr("Leave this point out (X)"));
    m_skip->setFocusPolicy(Qt::NoFocus);
    layout->addWidget(m_name);
    layout->addWidget(m_count);
    layout->addStretch();
    layout->addWidget(m_whole);
    layout->addWidget(m_skip);
    connect(m_whole, &QCheckBox::toggled, &bench,
            [this](bool on) { m_bench.marks.setExtent(on ? MarkExtent::WholeBody : MarkExtent::Measured); });
    connect(m_skip, &QToolButton::clicked, &bench.marks, &MarkingEditor::skipLandmark);
    connect(&bench.context, &ClipContext::markingChanged, this, &MarkGuide::refresh);
    connect(&bench.player, &FilmPlayer::frameChanged, this, &MarkGuide::refresh);
    connect(&bench.tools, &ToolBox::toolChanged, this, &MarkGuide::refresh);
    refresh();
}

void MarkGuide::refresh()
{
    setVisible(m_bench.context.isOpen() && m_bench.tools.tool() == Tool::Mark);
    const auto next = m_bench.marks.nextLandmark();
    const auto [marked, asked] = m_bench.marks.guideCount();
    m_name->setText(next    ? tr("Next: %1").arg(plainName(*next, m_bench.context.marking().athlete.hand, m_bench.context.pack()))
                    : asked ? tr("All marked here")
                            : tr("Stand at a key position"));
    m_count->setText(asked ? tr("%1 of %2 here").arg(marked).arg(asked) : tr("press its number, or ↓"));
    m_skip->setEnabled(next.has_value());
    update();
}

void MarkGuide::paintEvent(QPaintEvent* event)
{
    QFrame::paintEvent(event);
    QPainter painter(this);
    look::BodyFigure::standing(m_bench.context.marking().athlete.hand)
        .paint(painter, QRectF(20, 66, width() - 40, 104), 0, colours(), m_bench.marks.nextLandmark());
}

} // namespace kestrel::app
