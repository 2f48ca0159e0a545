#pragma once

#include "store/records.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QWidget>

namespace kestrel::app {

/// The fields of one athlete. Saving with a wrong field says what is wrong and keeps what was typed.
class AthleteForm : public QWidget {
    Q_OBJECT
public:
    explicit AthleteForm(QWidget* parent = nullptr);

    void edit(const store::Athlete&); ///< an athlete without id is a new one

signals:
    void saved(const kestrel::store::Athlete& athlete);
    void cancelled();

private:
    void trySave();

    store::Athlete m_athlete;
    QLabel *m_head, *m_wrong;
    QLineEdit *m_name, *m_birth;
    QComboBox* m_hand;
    QDoubleSpinBox* m_height;
    QCheckBox* m_consent;
};

} // namespace kestrel::app
