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
    /// Onto the page of the day on the bench, in place of one that is there.
    void putPicture(const QImage&, const std::string& words);

protected:
    Maker maker() override;
    QString whatItIs() const override { return tr("one side of A4, as it will be printed"); }

private:
    void setPicture(const QString& words, store::DayId, const std::optional<store::PagePicture>& after);

    std::optional<report::Page> m_page;
    QPushButton* m_takeOff;
    VoiceBox* m_voice;
};

} // namespace kestrel::app
