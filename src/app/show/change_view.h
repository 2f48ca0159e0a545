#pragma once

#include "app/show/document_leaf.h"
#include "app/show/voice_box.h"
#include "report/change_page.h"

#include <QComboBox>

namespace kestrel::app {

/// What has changed since another filming day of the same skill.
class ChangeView : public DocumentLeaf {
    Q_OBJECT
public:
    ChangeView(Workspace&, Bench&, QWidget* parent = nullptr);
    const std::optional<report::ChangePage>& page() const { return m_page; } ///< the one that is shown

protected:
    Maker maker() override;
    QString whatItIs() const override { return tr("before and after, one side of A4"); }

private:
    void fillDays();

    QComboBox* m_since;
    VoiceBox* m_voice;
    store::DayId m_day; // the days are those beside this one
    std::optional<report::ChangePage> m_page;
};

} // namespace kestrel::app
