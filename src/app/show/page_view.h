#pragma once

#include "app/show/document_leaf.h"
#include "app/show/voice_box.h"
#include "report/page_output.h"

namespace kestrel::app {

/// The page for the player, as it will be printed.
class PageView : public DocumentLeaf {
    Q_OBJECT
public:
    PageView(Workspace&, Bench&, QWidget* parent = nullptr);
    const std::optional<report::Page>& page() const { return m_page; } ///< the one that is shown

protected:
    Maker maker() override;
    QString whatItIs() const override { return tr("one side of A4, as it will be printed"); }

private:
    std::optional<report::Page> m_page;
    VoiceBox* m_voice;
};

} // namespace kestrel::app
