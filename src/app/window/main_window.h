#pragma once

#include "app/bench/bench.h"
#include "app/shell/commands.h"
#include "app/shell/message_line.h"
#include "app/workspace/workspace.h"

#include <QMainWindow>
#include <QStackedWidget>
#include <QToolButton>

#include <vector>

namespace kestrel::app {

class BenchView;
class LiveView;
class MatchView;
class PacksView;
class PairView;
class PlanView;
class RosterView;
class ShowView;
class SumsView;
struct RemovedAthlete;

/// The window: the working views along the order of work, a rail to change between them, one line for messages.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    MainWindow(store::Library library, const std::string& shippedPacks);

    enum class Place { Roster, Bench, Pair, Show, Plan, Live, Match, Sums, Packs };
    void goTo(Place);
    void openClip(store::ClipId);

    Workspace& workspace() { return m_workspace; }
    Bench& bench() { return m_bench; }
    RosterView* roster() const { return m_roster; }
    BenchView* benchView() const { return m_benchView; }
    PairView* pair() const { return m_pair; }
    ShowView* showView() const { return m_show; }
    PlanView* plan() const { return m_plan; }
    MatchView* match() const { return m_match; }
    SumsView* sums() const { return m_sums; }
    LiveView* live() const { return m_live; }
    PacksView* packs() const { return m_packs; }
    const Commands& commands() const { return m_commands; }
    /// \param stays  how things are, rather than what happened: until the coach has read it
    void tell(const QString& text, bool stays);
    QString messageText() const { return m_message->text(); }

signals:
    void demoWanted(); ///< to look at the made-up club

private:
    /// One place on the rail, said once.
    struct PlaceRow {
        Place place;
        QString icon, name, tip;
        Qt::Key key; ///< with Ctrl
        QWidget* view;
        QToolButton* button = nullptr;
    };
    void makeViews();
    QWidget* makeRail();
    void addCommands();
    QToolButton* addRailButton(QLayout*, QWidget* rail, const QString& icon, const QString& text, const QString& tip);
    void connectViews();
    void showSheet();
    void compare();
    void showPage();
    void refreshRail();
    void refreshUndo();
    void offerToDeleteFilms(const RemovedAthlete&);
    void sayWhatIsWrong();

    Workspace m_workspace;
    Bench m_bench;
    Commands m_commands;
    RosterView* m_roster;
    BenchView* m_benchView;
    PairView* m_pair;
    ShowView* m_show;
    PlanView* m_plan;
    MatchView* m_match;
    SumsView* m_sums;
    LiveView* m_live;
    PacksView* m_packs;
    QStackedWidget* m_views;
    std::vector<PlaceRow> m_places; // in the order of the rail
    QToolButton *m_undo, *m_redo;
    MessageLine* m_message;
};

} // namespace kestrel::app
