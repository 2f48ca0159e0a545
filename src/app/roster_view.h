#pragma once

#include "app/clip_import.h"
#include "app/workspace.h"

#include <QLabel>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <QWidget>

namespace kestrel::app {

class AthleteForm;
class FilmCheckCard;

/// Athletes, their filming days as strips of poster frames, and the way in for new films.
class RosterView : public QWidget {
    Q_OBJECT
public:
    explicit RosterView(Workspace&, QWidget* parent = nullptr);

    store::AthleteId current() const { return m_current; }
    void select(store::AthleteId);
    /// To the day given, or to a filming day of today.
    void addClips(const QStringList& files, store::DayId day = {});
    /// Of the chosen athlete, made when there is none; invalid when nobody is chosen.
    store::DayId dayOfToday();

signals:
    void clipChosen(kestrel::store::ClipId clip);

protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    QWidget* makeList();
    QWidget* makeDetails();
    void refresh(); ///< now when it is seen, else when it is shown again
    void refreshDetails();
    QWidget* makeDay(const store::FilmingDay&);
    QWidget* makeTile(const store::FilmingDay&, const store::Clip&);
    void startNew();
    void startEdit();
    void take(const store::Athlete&);
    void removeCurrent();
    store::DayId addDay();
    void chooseFiles(store::DayId);

    Workspace& m_workspace;
    ClipImport m_import;
    Posters m_posters;
    store::AthleteId m_current;
    QListWidget* m_list;
    QLabel *m_emptyNote, *m_name, *m_facts, *m_consent;
    QStackedWidget* m_right;
    QWidget *m_nobody, *m_details;
    AthleteForm* m_form;
    QWidget* m_days;
    QVBoxLayout* m_dayList;
    QWidget* m_progressRow;
    FilmCheckCard* m_check;
    QLabel* m_progressText;
    QProgressBar* m_progress;
    bool m_stale = false;
};

} // namespace kestrel::app
