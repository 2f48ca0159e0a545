#include "app/bench/repetition_editor.h"

#include "app/workspace/row_edits.h"

#include <algorithm>

namespace kestrel::app {

void RepetitionEditor::add()
{
    if (!m_context.isOpen() || m_player.frames() < 1)
        return;
    store::RepetitionRow added;
    added.clip = m_context.clip().id;
    added.first = m_player.loop() ? m_player.loop()->first : m_player.frame();
    added.last = m_player.loop() ? m_player.loop()->last : FrameIndex(m_player.frames() - 1);
    added.variant = m_context.repetition().variant;
    if (const auto id = addRow(m_workspace, tr("add a repetition"), added); id.isValid())
        m_context.setRepetition(id);
}

void RepetitionEditor::change(const QString& text, const store::RepetitionRow& after)
{
    if (after == m_context.repetition() || after.last < after.first)
        return;
    changeRow(m_workspace, text, m_context.repetition(), after);
}

void RepetitionEditor::remove()
{
    removeRow(m_workspace, tr("remove the repetition"), m_context.repetition().id);
}

std::vector<SecondCameraChoice> RepetitionEditor::secondCameraChoices() const
{
    return app::secondCameraChoices(m_workspace, m_context.clip(), m_context.repetition().id);
}

std::optional<store::RepetitionId> RepetitionEditor::secondCamera() const
{
    return m_workspace.valueOr(m_workspace.library().repetitions().secondCamera(m_context.repetition().id));
}

void RepetitionEditor::setSecondCamera(std::optional<store::RepetitionId> other)
{
    app::setSecondCamera(m_workspace, m_context.repetition().id, other);
}

} // namespace kestrel::app
