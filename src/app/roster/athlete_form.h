#pragma once

#include "app/roster/height_list.h"
#include "store/records.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QLabel>
#include <QLineEdit>
#include <QWidget>

#include <array>

namespace kestrel::app {

/// The intake: what is asked about an athlete once, and can be changed at any time. Only the name has to be given. Saving with
/// a wrong field says what is wrong and keeps what was typed.
class AthleteForm : public QWidget {
    Q_OBJECT
public:
    explicit AthleteForm(QWidget* parent = nullptr);

    void edit(const store::Athlete&); ///< an athlete without id is a new one

signals:
    void saved(const kestrel::store::Athlete& athlete);
    void cancelled();

private:
    QLayout* makePerson();
    QLayout* makeAims();
    QLineEdit* makeText(const QString& name, const QString& hint);
    void trySave();

    store::Athlete m_athlete;
    QLabel *m_head, *m_wrong;
    QLineEdit *m_name, *m_birth, *m_team, *m_level, *m_goal, *m_kit, *m_space;
    QComboBox *m_hand, *m_batHand;
    HeightList* m_heights;
    std::array<QCheckBox*, 7> m_days; // from Monday
    QCheckBox* m_consent;
    QDateEdit* m_consentDate;
};

} // namespace kestrel::app
