#pragma once

#include "app/show/document_leaf.h"
#include "app/show/voice_box.h"
#include "report/checklist.h"

#include <QCheckBox>

namespace kestrel::app {

/// The points of the movement in its order: right, to work on, not seen.
class ChecklistView : public DocumentLeaf {
    Q_OBJECT
public:
    ChecklistView(Workspace&, Bench&, QWidget* parent = nullptr);
    const std::optional<report::Checklist>& checklist() const { return m_list; } ///< the one that is shown

protected:
    Maker maker() override;
    QString whatItIs() const override { return tr("one side of A4, in the order of the movement"); }

private:
    std::optional<report::Checklist> m_list;
    VoiceBox* m_voice;
    QCheckBox* m_unseen;
};

} // namespace kestrel::app
