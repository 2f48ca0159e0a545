#include "app/main_window.h"

#include "app/bench_view.h"
#include "app/live_view.h"
#include "app/packs_view.h"
#include "app/page_view.h"
#include "app/roster_view.h"
#include "app/settings_form.h"
#include "app/shortcut_sheet.h"
#include "app/theme.h"

#include <QHBoxLayout>
#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kRailWidth = 64, kMessageMs = 7000, kMsALetter = 60;
const QColor kRailInk(0xD8, 0xD2, 0xC6);

} // namespace

MainWindow::MainWindow(store::Library library, const std::string& shippedPacks)
    : m_workspace(std::move(library), shippedPacks), m_session(m_workspace)
{
    setWindowTitle(tr("Jolly Kestrel"));
    resize(1280, 800);
    auto* middle = new QWidget(this);
    auto* row = new QHBoxLayout(middle);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(makeRail());
    auto* column = new QVBoxLayout;
    column->setSpacing(0);
    m_views = new QStackedWidget(middle);
    m_roster = new RosterView(m_workspace, m_views);
    m_bench = new BenchView(m_workspace, m_session, m_views);
    m_page = new PageView(m_workspace, m_session, m_views);
    m_views->addWidget(m_roster);
    m_views->addWidget(m_bench);
    m_live = new LiveView(
        m_workspace, [this] { return m_roster->dayOfToday(); }, m_views);
    m_views->addWidget(m_page);
    m_views->addWidget(m_live);
    m_packs = new PacksView(m_workspace, m_views);
    m_views->addWidget(m_packs);
    column->addWidget(m_views, 1);
    column->addWidget(makeMessageLine());
    row->addLayout(column, 1);
    setCentralWidget(middle);

    connect(m_roster, &RosterView::clipChosen, this, &MainWindow::openClip);
    connect(m_bench, &BenchView::pageWanted, this, [this] { goTo(Place::Page); });
    connect(m_live, &LiveView::clipSaved, this, &MainWindow::openClip);
    connect(m_live, &LiveView::message, this, [this](const QString& text) { say(text, false); });
    connect(m_page, &PageView::message, this, [this](const QString& text) { say(text, false); });
    connect(m_packs, &PacksView::message, this, [this](const QString& text) { say(text, false); });
    connect(&m_session, &BenchSession::message, this, [this](const QString& text) { say(text, false); });
    connect(&m_session, &BenchSession::filmChanged, this, [this] {
        if (!m_session.filmWarnings().empty())
            say(QString::fromStdString(m_session.filmWarnings().front()), false);
    });
    connect(&m_workspace, &Workspace::failed, this, [this](const Error& e) { say(QString::fromStdString(e.text()), true); });
    connect(&m_workspace.undoStack(), &QUndoStack::indexChanged, this, &MainWindow::refreshUndo);
    connect(&Theme::instance(), &Theme::changed, this, &MainWindow::refreshRail);
    m_messageTime.setSingleShot(true);
    connect(&m_messageTime, &QTimer::timeout, this, [this] { m_line->hide(); });

    addAction(QKeySequence(Qt::CTRL | Qt::Key_Z), [this] { m_workspace.undoStack().undo(); });
    // the platform's own redo key differs from desktop to desktop: both that are in use
    for (const auto keys : {Qt::CTRL | Qt::SHIFT | Qt::Key_Z, Qt::CTRL | Qt::Key_Y})
        addAction(QKeySequence(keys), [this] { m_workspace.undoStack().redo(); });
    addAction(QKeySequence(Qt::Key_F1), [this] { new ShortcutSheet(this); });
    addAction(QKeySequence(Qt::Key_F11), [this] { setWindowState(windowState() ^ Qt::WindowFullScreen); });
    addAction(QKeySequence(Qt::CTRL | Qt::Key_1), [this] { goTo(Place::Roster); });
    addAction(QKeySequence(Qt::CTRL | Qt::Key_2), [this] { goTo(Place::Bench); });
    addAction(QKeySequence(Qt::CTRL | Qt::Key_3), [this] { goTo(Place::Page); });
    addAction(QKeySequence(Qt::CTRL | Qt::Key_4), [this] { goTo(Place::Live); });
    addAction(QKeySequence(Qt::CTRL | Qt::Key_5), [this] { goTo(Place::Packs); });
    addAction(QKeySequence(Qt::CTRL | Qt::Key_P), [this] { goTo(Place::Page); });
    goTo(Place::Roster);
    refreshUndo();
    if (m_workspace.library().isReadOnly())
        say(tr("This library is read-only: you can look, but nothing can be changed."), true);
    if (m_workspace.packs().empty())
        say(tr("No skill pack was found beside the program; readings need one. Install the program again."), true);
    if (!m_workspace.packProblems().empty())
        say(tr("A pack is left out: %1 The others work.").arg(QString::fromStdString(m_workspace.packProblems().front().text())),
            true);
}

QWidget* MainWindow::makeRail()
{
    auto* rail = new QFrame(this);
    rail->setFixedWidth(kRailWidth);
    rail->setStyleSheet(
        QStringLiteral(
            "QFrame{background:%1} QToolButton{border:none;border-radius:0;color:%2;padding:8px 0;background:transparent}"
            "QToolButton:checked{background:#2C3841;color:#FFFFFF;border-left:4px solid #E0A100}"
            "QToolButton:hover{background:#2C3841} QToolButton:disabled{color:#5F6A72}")
            .arg(railColour().name(), kRailInk.name()));
    auto* layout = new QVBoxLayout(rail);
    layout->setContentsMargins(0, 16, 0, 12);
    layout->setSpacing(6);
    const auto add = [&](const QString& icon, const QString& text, const QString& tip) {
        auto* button = new QToolButton(rail);
        button->setProperty("iconName", icon);
        button->setText(text);
        button->setToolTip(tip);
        button->setToolButtonStyle(text.isEmpty() ? Qt::ToolButtonIconOnly : Qt::ToolButtonTextUnderIcon);
        button->setIconSize({22, 22});
        button->setFixedWidth(kRailWidth);
        button->setFocusPolicy(Qt::NoFocus);
        button->setIcon(Theme::icon(icon, kRailInk));
        layout->addWidget(button);
        return button;
    };
    const std::tuple<const char*, QString, QString, Place> places[] = {
        {"roster", tr("Roster"), tr("Athletes and their films (Ctrl+1)"), Place::Roster},
        {"bench", tr("Bench"), tr("The film and its readings (Ctrl+2)"), Place::Bench},
        {"page", tr("Page"), tr("The page for the player (Ctrl+3)"), Place::Page},
        {"live", tr("Live"), tr("Film at the court (Ctrl+4)"), Place::Live},
        {"packs", tr("Packs"), tr("Bands, wording, schools and drills (Ctrl+5)"), Place::Packs},
    };
    for (const auto& [icon, text, tip, place] : places) {
        auto* button = add(QLatin1String(icon), text, tip);
        button->setCheckable(true);
        connect(button, &QToolButton::clicked, this, [this, p = place] { goTo(p); });
        m_rail.push_back(button);
    }
    layout->addStretch();
    m_undo = add(QStringLiteral("undo"), {}, {});
    m_redo = add(QStringLiteral("redo"), {}, {});
    connect(m_undo, &QToolButton::clicked, this, [this] { m_workspace.undoStack().undo(); });
    connect(m_redo, &QToolButton::clicked, this, [this] { m_workspace.undoStack().redo(); });
    auto* settings = add(QStringLiteral("settings"), {}, tr("Settings"));
    settings->setObjectName(QStringLiteral("showSettings"));
    connect(settings, &QToolButton::clicked, this, [this, settings] { new SettingsForm(m_session, settings); });
    auto* light = add(QStringLiteral("light"), {}, tr("Light or dark"));
    connect(light, &QToolButton::clicked, this, [] { Theme::instance().setDark(!Theme::instance().isDark()); });
    auto* help = add(QStringLiteral("help"), {}, tr("Every key on one sheet (F1)"));
    connect(help, &QToolButton::clicked, this, [this] { new ShortcutSheet(this); });
    return rail;
}

QWidget* MainWindow::makeMessageLine()
{
    m_line = new QFrame(this);
    auto* layout = new QHBoxLayout(m_line);
    layout->setContentsMargins(16, 6, 12, 6);
    m_message = new QLabel(m_line);
    m_message->setWordWrap(true);
    m_message->setObjectName(QStringLiteral("message"));
    auto* close = new QToolButton(m_line);
    close->setText(tr("Close"));
    close->setProperty("flat", true);
    layout->addWidget(m_message, 1);
    layout->addWidget(close);
    connect(close, &QToolButton::clicked, m_line, &QWidget::hide);
    m_line->hide();
    return m_line;
}

void MainWindow::addAction(const QKeySequence& keys, std::function<void()> act)
{
    connect(new QShortcut(keys, this), &QShortcut::activated, this, std::move(act));
}

void MainWindow::goTo(Place place)
{
    if (place != Place::Bench)
        m_session.setPlaying(false);
    if (place != Place::Live && m_live->camera().isRunning())
        m_live->stop();
    if (static_cast<int>(place) != m_views->currentIndex() && m_messageTime.isActive()) { // it was about what was seen there
        m_messageTime.stop();
        m_line->hide();
    }
    m_views->setCurrentIndex(static_cast<int>(place));
    refreshRail();
    m_views->currentWidget()->setFocus();
}

void MainWindow::openClip(store::ClipId id)
{
    goTo(Place::Bench);
    m_session.open(id);
}

void MainWindow::refreshRail()
{
    for (std::size_t i = 0; i < m_rail.size(); ++i) {
        const bool isHere = static_cast<int>(i) == m_views->currentIndex();
        m_rail[i]->setChecked(isHere);
        m_rail[i]->setIcon(Theme::icon(m_rail[i]->property("iconName").toString(), isHere ? Qt::white : kRailInk));
    }
}

void MainWindow::refreshUndo()
{
    const auto& stack = m_workspace.undoStack();
    m_undo->setEnabled(stack.canUndo());
    m_redo->setEnabled(stack.canRedo());
    m_undo->setToolTip(stack.canUndo() ? tr("Undo: %1 (Ctrl+Z)").arg(stack.undoText()) : tr("Nothing to undo (Ctrl+Z)"));
    m_redo->setToolTip(stack.canRedo() ? tr("Redo: %1 (Ctrl+Shift+Z)").arg(stack.redoText())
                                       : tr("Nothing to redo (Ctrl+Shift+Z)"));
    if (stack.canUndo() && stack.undoText().startsWith(QStringLiteral("remove")))
        say(tr("Done: %1. Ctrl+Z brings it back.").arg(stack.undoText()), false);
}

void MainWindow::say(const QString& text, bool isError)
{
    const auto& t = tokens();
    m_line->setStyleSheet(QStringLiteral("QFrame{background:%1;border-top:2px solid %2}")
                              .arg(t.panel.name(), (isError ? t.alert : t.slate).name()));
    m_message->setStyleSheet(isError ? QStringLiteral("color:%1;font-weight:600;border:none").arg(t.alert.name())
                                     : QStringLiteral("border:none"));
    m_message->setText(isError ? tr("Not done: %1").arg(text) : text);
    m_line->show();
    if (isError)
        m_messageTime.stop(); // errors stay until they are closed
    else
        m_messageTime.start(std::max(kMessageMs, kMsALetter * static_cast<int>(text.size())));
}

} // namespace kestrel::app
