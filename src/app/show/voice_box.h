#pragma once

#include "report/page.h"

#include <QComboBox>

namespace kestrel::app {

/// Who a document speaks to.
class VoiceBox : public QComboBox {
    Q_OBJECT
public:
    explicit VoiceBox(QWidget* parent) : QComboBox(parent)
    {
        setToolTip(tr("Who it speaks to"));
        addItem(tr("words by age"), -1);
        addItem(tr("for a child"), static_cast<int>(report::Voice::Child));
        addItem(tr("for a teenager"), static_cast<int>(report::Voice::Teen));
        addItem(tr("for an adult"), static_cast<int>(report::Voice::Adult));
    }
    /// Empty: by the player's age.
    std::optional<report::Voice> voice() const
    {
        const int chosen = currentData().toInt();
        return chosen < 0 ? std::nullopt : std::optional(static_cast<report::Voice>(chosen));
    }
};

} // namespace kestrel::app
