#pragma once

#include "app/roster/posters.h"
#include "app/roster/removed_athlete.h"
#include "app/workspace/clip_import.h"
#include "app/workspace/due_list.h"
#include "app/workspace/workspace.h"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QScrollArea>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>
#include <QWidget>

#include <functional>
#include <map>
#include <set>
#include <vector>

namespace kestrel::app {

class AthleteForm;
class DayCard;
class FilmCheckCard;

/// Athletes, their filming days as strips of poster frames, and the way in for new films.
class RosterView : public QWidget {
    Q_OBJECT
public:
    explicit RosterView(Workspace&, QWidget* parent = nullptr);

    store::AthleteId current() const { return m_current; }
    void select(store::AthleteId);
    /// To the day given, or to a filming day of today; where there is none the skill is asked for, once.
    void addClips(const QStringList& files, store::DayId day = {});
    /// The chosen athlete's filming day of today. Where there is none, \p over asks for the skill and the day is made. Not called
    /// when nobody is chosen or the question is left; then \p otherwise is.
    void withDayOfToday(QWidget* over, std::function<void(store::DayId)> then, std::function<void()> otherwise = {});
    /// Asks for the skill and makes a filming day of today.
    void addDay(QWidget* over, std::function<void(store::DayId)> then = {}, std::function<void()> otherwise = {});

signals:
    void clipChosen(kestrel::store::ClipId clip);
    void comparisonWanted(store::ClipId); ///< with what is asked in Pair
    void planWanted(store::AthleteId);
    void demoWanted(); ///< to look at the made-up club
    void athleteRemoved(const kestrel::app::RemovedAthlete& removed);

protected:
    void dragEnterEvent(QDragEnterEvent*) override;
    void dropEvent(QDropEvent*) override;
    bool eventFilter(QObject*, QEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void showEvent(QShowEvent*) override;

private:
    QWidget* makeList();
    QWidget* makeDetails();
    QWidget* makeProgress(QWidget* parent);
    QWidget* makeWelcome();
    void onChanged(const Change&);
    void refresh(); ///< now when it is seen, else when it is shown again
    void refreshDetails();
    void filterAthletes(const QString&);
    void order(std::vector<store::Athlete>&) const;
    void fillShow(const std::vector<store::Athlete>&);
    bool isShown(const QListWidgetItem&) const;
    void goToNextDue();
    void showTiles();
    void showClipMenu(store::ClipId, QPoint at);
    void startNew();
    void startEdit();
    void storeAthlete(const store::Athlete&);
    void removeCurrent();
    void fillSent();

    Workspace& m_workspace;
    ClipImport m_import;
    Posters m_posters;
    store::AthleteId m_current;
    QListWidget* m_list;
    QLineEdit* m_search;
    QComboBox *m_show, *m_order;
    QPushButton* m_nextDue;
    std::map<store::AthleteId, std::vector<DueItem>> m_due;
    std::map<std::string, std::set<store::AthleteId>> m_withSkill; // by pack
    QLabel *m_emptyNote, *m_name, *m_facts, *m_consent, *m_dueWords;
    QStackedWidget* m_right;
    QWidget *m_welcome, *m_details, *m_formPage;
    QLabel* m_nobody;
    QToolButton* m_sent;
    QPushButton* m_addDay = nullptr;
    AthleteForm* m_form;
    QScrollArea* m_scroll;
    QWidget* m_days;
    QVBoxLayout* m_dayList;
    std::vector<DayCard*> m_cards;
    QWidget* m_progressRow;
    FilmCheckCard* m_check;
    QLabel* m_progressText;
    QProgressBar* m_progress;
    bool m_stale = false;
};

} // namespace kestrel::app
