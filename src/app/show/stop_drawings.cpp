#include "app/show/stop_drawings.h"

#include "app/bench/drawing_editor.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

constexpr int kListHeight = 74; // pixels: three drawings

} // namespace

StopDrawings::StopDrawings(WalkEditor& editor, QWidget* parent) : QWidget(parent), m_editor(editor)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* head = new QLabel(tr("Drawn here"), this);
    head->setProperty("subhead", true);
    m_list = new QListWidget(this);
    m_list->setObjectName(QStringLiteral("stopDrawings"));
    m_list->setAccessibleName(head->text());
    m_list->setFixedHeight(kListHeight);
    const auto button = [this](const char* name, const QString& words, const QString& tip) {
        auto* b = new QPushButton(words, this);
        b->setObjectName(QLatin1String(name));
        b->setToolTip(tip);
        return b;
    };
    m_draw = button("drawOnStop", tr("Draw…"), tr("Stand on this picture on the Bench, with its tools; come back with Ctrl+4"));
    m_move = button("moveDrawing", {}, {});
    m_remove =
        button("removeDrawing", tr("Remove"), tr("Off this stop; can be undone. What is on the film is removed on the Bench."));
    auto* row = new QHBoxLayout;
    row->addWidget(m_draw);
    row->addWidget(m_move, 1);
    row->addWidget(m_remove);
    column->addWidget(head);
    column->addWidget(m_list);
    column->addLayout(row);
    connect(m_list, &QListWidget::currentRowChanged, this, &StopDrawings::refreshButtons);
    connect(m_draw, &QPushButton::clicked, this, &StopDrawings::drawWanted);
    connect(m_move, &QPushButton::clicked, this, &StopDrawings::move);
    connect(m_remove, &QPushButton::clicked, this, &StopDrawings::remove);
}

void StopDrawings::showStop(std::size_t stop)
{
    const int row = stop == m_stop ? m_list->currentRow() : 0;
    m_stop = stop;
    m_onFilm = m_editor.filmDrawingsOn(stop);
    m_list->clear();
    for (const auto& r : m_onFilm)
        m_list->addItem(tr("%1, on the film").arg(nameOf(r.drawing.kind)));
    const auto& stops = m_editor.script().stops;
    if (stop < stops.size())
        for (const auto& d : stops[stop].drawings)
            m_list->addItem(tr("%1, on this stop only").arg(nameOf(d.kind)));
    m_list->setCurrentRow(std::min(std::max(row, 0), m_list->count() - 1)); // none of none
    refreshButtons();
}

void StopDrawings::refreshButtons()
{
    const int row = m_list->currentRow();
    const bool isOnFilm = row >= 0 && row < static_cast<int>(m_onFilm.size());
    const bool stays = isOnFilm && !WalkEditor::canLeaveTheFilm(m_onFilm[static_cast<std::size_t>(row)].drawing);
    m_draw->setEnabled(m_editor.repetitionOf(m_stop).isValid());
    m_move->setText(row < 0 || isOnFilm ? tr("Only here") : tr("Onto the film"));
    m_move->setToolTip(stays      ? tr("A strobe, or what hides a face, stays on the film")
                       : isOnFilm ? tr("Off the film, so that only this stop of the talk shows it")
                                  : tr("Back onto the film, where the Bench's tools can change it"));
    m_move->setEnabled(row >= 0 && !stays);
    m_remove->setEnabled(row >= 0 && !isOnFilm);
}

void StopDrawings::move()
{
    const auto row = static_cast<std::size_t>(m_list->currentRow());
    if (row < m_onFilm.size())
        m_editor.keepOnStopOnly(m_stop, store::DrawingRow(m_onFilm[row]));
    else
        m_editor.putOnFilm(m_stop, row - m_onFilm.size());
}

void StopDrawings::remove()
{
    m_editor.removeDrawing(m_stop, static_cast<std::size_t>(m_list->currentRow()) - m_onFilm.size());
}

} // namespace kestrel::app
