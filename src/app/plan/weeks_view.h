#pragma once

#include "app/plan/plan_context.h"

#include <QCalendarWidget>
#include <QComboBox>
#include <QDateEdit>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QToolButton>

#include <array>

namespace kestrel::app {

class NumberField;

/// The plan: what it is made for, and the weeks as a sheet, days across.
class WeeksView : public QWidget {
    Q_OBJECT
public:
    WeeksView(PlanContext&, QWidget* parent);

    void make();                    ///< a plan, or the plan anew: what is past or locked stays
    void choose(Date);              ///< the session of that day
    void move(Date from, Date to);  ///< a session to a day that is free
    void save(const QString& file); ///< .pdf, .png, .html, .ics or .json, by its ending

signals:
    void message(const QString& text);
    void bookWanted(Date);

private:
    QWidget* makeForm();
    QWidget* makeDetails();
    void refresh();
    void refreshForm();
    void refreshSheet();
    void refreshDetails();
    void askWhereToSave();
    PlanIntake intake() const;        ///< as the form stands
    std::string statedIntake() const; ///< what the athlete says of days and kit
    void fillForm();
    QMenu* makeNotFreeMenu();
    void setNotFree(Date, bool);
    QWidget* makeNotFreeTick(Date);
    PlanWish wish() const;
    QString notice() const; ///< what the plan does not know yet
    /// Changes the chosen session.
    void edit(const QString& text, const std::function<void(PlanSession&, Plan&)>& change);
    QWidget* makeItem(const PlanSession&, std::size_t n);

    PlanContext& m_context;
    QDateEdit* m_start;
    NumberField *m_weeks, *m_minutes;
    std::array<QToolButton*, 7> m_days{};
    QToolButton *m_kit, *m_notFree;
    QCalendarWidget* m_calendar;
    std::set<Date> m_notOn; // matches and other days that are not free
    QComboBox* m_space;
    QPushButton* m_make;
    QLabel *m_task, *m_notice;
    QWidget* m_sheet;
    QGridLayout* m_grid;
    QWidget* m_details;
    QToolButton* m_out;
    std::optional<Date> m_chosen;
    store::AthleteId m_formOf; // whose intake the form shows, and what it was
    std::string m_formIntake;
};

} // namespace kestrel::app
