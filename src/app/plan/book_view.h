#pragma once

#include "app/plan/plan_context.h"
#include "core/plan/book_csv.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateEdit>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

#include <map>

namespace kestrel::app {

class NumberField;

/// What was done each day, in a few taps. Stored as it is typed.
class BookView : public QWidget {
    Q_OBJECT
public:
    BookView(PlanContext&, QWidget* parent);

    void choose(Date);
    Date chosen() const { return m_date; }
    void read(const QString& csvFile);  ///< shows what it would take
    void takeTable();                   ///< and takes it
    void write(const QString& csvFile); ///< all days

signals:
    void message(const QString& text);

private:
    QWidget* makeForm();
    void refresh();
    void refreshForm();
    void store();
    BookDay typed() const;

    PlanContext& m_context;
    Date m_date;
    QListWidget* m_days;
    QDateEdit* m_day;
    QWidget* m_form;
    std::map<std::string, NumberField*> m_counts;
    NumberField *m_attempted, *m_made, *m_minutes, *m_effort, *m_painLevel;
    QCheckBox* m_catcher;
    QComboBox* m_painWhere;
    QLineEdit *m_mood, *m_note;
    QListWidget* m_drills;
    QPushButton* m_filmed;
    QLabel *m_said, *m_offer;
    QFrame* m_offerBox;
    BookTable m_table; // that was read last
    bool m_refreshing = false;
};

} // namespace kestrel::app
