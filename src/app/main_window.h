#pragma once

#include "app/bench_session.h"
#include "app/workspace.h"

#include <QLabel>
#include <QMainWindow>
#include <QStackedWidget>
#include <QTimer>
#include <QToolButton>

namespace kestrel::app {

class BenchView;
class LiveView;
class PacksView;
class PageView;
class RosterView;

/// The window: the working views along the order of work, a rail to change between them, one line for messages.
class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    MainWindow(store::Library library, const std::string& shippedPacks);

    enum class Place { Roster, Bench, Page, Live, Packs };
    void goTo(Place);
    void openClip(store::ClipId);

    Workspace& workspace() { return m_workspace; }
    BenchSession& session() { return m_session; }
    RosterView* roster() const { return m_roster; }
    BenchView* bench() const { return m_bench; }
    PageView* page() const { return m_page; }
    LiveView* live() const { return m_live; }
    PacksView* packs() const { return m_packs; }
    QString messageText() const { return m_message->text(); }

private:
    QWidget* makeRail();
    QWidget* makeMessageLine();
    void addAction(const QKeySequence&, std::function<void()>);
    void say(const QString& text, bool isError);
    void refreshRail();
    void refreshUndo();

    Workspace m_workspace;
    BenchSession m_session;
    RosterView* m_roster;
    BenchView* m_bench;
    PageView* m_page;
    LiveView* m_live;
    PacksView* m_packs;
    QStackedWidget* m_views;
    std::vector<QToolButton*> m_rail; // in the order of Place
    QToolButton *m_undo, *m_redo;
    QFrame* m_line;
    QLabel* m_message;
    QTimer m_messageTime;
};

} // namespace kestrel::app
