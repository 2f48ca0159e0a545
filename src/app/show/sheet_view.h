#pragma once

#include "app/show/document_leaf.h"
#include "report/photo_sheet.h"

#include <QCheckBox>
#include <QComboBox>

namespace kestrel::app {

/// The key positions side by side: of one repetition, of all of the day's, or of two days under each other.
class SheetView : public DocumentLeaf {
    Q_OBJECT
public:
    SheetView(Workspace&, Bench&, QWidget* parent = nullptr);
    const std::optional<report::PhotoSheet>& sheet() const { return m_sheet; } ///< the one that is shown

protected:
    Maker maker() override;
    QString whatItIs() const override { return tr("one side of A4, lying"); }

private:
    void fillRows();

    std::optional<report::PhotoSheet> m_sheet;
    QComboBox* m_rows;
    QCheckBox *m_readings, *m_drawings;
    store::DayId m_day; // beside which the others are listed
};

} // namespace kestrel::app
