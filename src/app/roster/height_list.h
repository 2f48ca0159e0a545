#pragma once

#include "store/records.h"

#include <QDateEdit>
#include <QDoubleSpinBox>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

#include <vector>

namespace kestrel::app {

/// Standing heights by date, newest first: growing shows. The first row is always there.
class HeightList : public QWidget {
    Q_OBJECT
public:
    explicit HeightList(QWidget* parent = nullptr);

    void setHeights(const std::vector<store::Height>& byDate);
    std::vector<store::Height> heights() const; ///< by date; rows without a height are left out

private:
    struct Row {
        QWidget* widget;
        QDoubleSpinBox* metres;
        QDateEdit* date;
    };
    void addRow(const store::Height&);
    void clear();
    void orderForTab();

    QVBoxLayout* m_layout;
    QToolButton* m_add;
    std::vector<Row> m_rows;
};

} // namespace kestrel::app
