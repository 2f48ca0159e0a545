#include "app/window/main_window.h"

#include "app/bench/bench_view.h"
#include "app/flight/sums_view.h"
#include "app/live/live_view.h"
#include "app/match/match_view.h"
#include "app/packs/packs_view.h"
#include "app/pair/pair_view.h"
#include "app/plan/plan_view.h"
#include "app/roster/roster_view.h"
#include "app/shell/dates.h"
#include "app/shell/plain_text.h"
#include "app/shell/settings.h"
#include "app/shell/shortcut_sheet.h"
#include "app/shell/theme.h"
#include "app/show/page_view.h"
#include "app/show/show_view.h"
#include "app/show/walk_view.h"
#include "app/window/settings_form.h"
#include "app/workspace/due_list.h"

#include <QDate>
#include <QHBoxLayout>
#include <QShortcut>
#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kRailWidth = 64;
const QColor kRailInk(0xD8, 0xD2, 0xC6);

} // namespace

MainWindow::MainWindow(store::Library library, const std::string& shippedPacks)
    : m_workspace(std::move(library), shippedPacks), m_bench(m_workspace)
{
    PlainText::install();
    setWindowTitle(tr("Jolly Kestrel"));
    resize(1280, 800);
    FilmPlayer::setMemory(Settings::filmMemory());
    auto* middle = new QWidget(this);
    auto* row = new QHBoxLayout(middle);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    m_views = new QStackedWidget(middle);
    makeViews();
    row->addWidget(makeRail());
    row->addWidget(m_views, 1);
    setCentralWidget(middle);
    m_message = new MessageLine(m_views);
    connectViews();
    addCommands();
    goTo(Place::Roster);
    refreshUndo();
    sayWhatIsWrong();
}

void MainWindow::makeViews()
{
    m_roster = new RosterView(m_workspace, m_views);
    m_benchView = new BenchView(m_workspace, m_bench, m_views);
    m_pair = new PairView(m_workspace, m_bench, m_views);
    m_show = new ShowView(m_workspace, m_bench, m_views);
    m_plan = new PlanView(m_workspace, m_bench, m_views);
    m_match = new MatchView(m_workspace, m_views);
    m_sums = new SumsView(m_workspace, m_bench, m_views);
    m_live = new LiveView(
        m_workspace,
        [this](std::function<void(store::DayId)> then, std::function<void()> otherwise) {
            m_roster->withDayOfToday(m_live, std::move(then), std::move(otherwise));
        },
        m_views);
    m_live->setLoadWords(
        [this] { return QString::fromStdString(leftWords(m_workspace.library(), m_roster->current(), dateOfToday())); });
    m_packs = new PacksView(m_workspace, m_views);
    m_places = {
        {Place::Roster, QStringLiteral("roster"), tr("Roster"), tr("Athletes and their films"), Qt::Key_1, m_roster},
        {Place::Bench, QStringLiteral("bench"), tr("Bench"), tr("The film and its readings"), Qt::Key_2, m_benchView},
        {Place::Pair, QStringLiteral("pair"), tr("Pair"), tr("Two films together, and what differs"), Qt::Key_3, m_pair},
        {Place::Show, QStringLiteral("page"), tr("Show"),
         tr("For players and families: page, photo sheet, checklist, walk-through"), Qt::Key_4, m_show},
        {Place::Plan, QStringLiteral("plan"), tr("Plan"), tr("Practice, book, workload, progress"), Qt::Key_5, m_plan},
        {Place::Live, QStringLiteral("live"), tr("Live"), tr("Film at the court"), Qt::Key_6, m_live},
        {Place::Match, QStringLiteral("match"), tr("Match"), tr("Rallies, score, and what to train next"), Qt::Key_7, m_match},
        {Place::Sums, QStringLiteral("sums"), tr("Sums"), tr("Flight, time and spin, and what people say about them"), Qt::Key_8,
         m_sums},
        {Place::Packs, QStringLiteral("packs"), tr("Packs"), tr("Bands, wording, schools and drills"), Qt::Key_9, m_packs},
    };
    for (const auto& p : m_places)
        m_views->addWidget(p.view);
}

void MainWindow::connectViews()
{
    const auto say = [this](const QString& text) { m_message->say(text, false); };
    connect(m_roster, &RosterView::clipChosen, this, &MainWindow::openClip);
    connect(m_roster, &RosterView::comparisonWanted, this, [this](store::ClipId id) {
        openClip(id);
        compare();
    });
    connect(m_roster, &RosterView::planWanted, this, [this](store::AthleteId id) {
        m_plan->open(id);
        goTo(Place::Plan);
    });
    connect(m_roster, &RosterView::demoWanted, this, &MainWindow::demoWanted);
    connect(m_roster, &RosterView::athleteRemoved, this, &MainWindow::offerToDeleteFilms);
    connect(m_benchView, &BenchView::pageWanted, this, &MainWindow::showPage);
    connect(m_live, &LiveView::clipSaved, this, &MainWindow::openClip);
    connect(m_live, &LiveView::message, this, say);
    connect(m_pair, &PairView::message, this, say);
    connect(m_show, &ShowView::message, this, say);
    connect(m_show, &ShowView::benchWanted, this, [this] { goTo(Place::Bench); });
    const auto ontoPage = [this](const QImage& image, const std::string& words) { m_show->page()->putPicture(image, words); };
    const auto intoTalk = [this](const QImage& image, const std::string& words) {
        m_show->walk()->editor().addPicture(image, words);
    };
    connect(m_pair, &PairView::pageWanted, this, ontoPage);
    connect(m_pair, &PairView::talkWanted, this, intoTalk);
    connect(m_sums, &SumsView::pageWanted, this, ontoPage);
    connect(m_sums, &SumsView::talkWanted, this, intoTalk);
    connect(m_packs, &PacksView::message, this, say);
    connect(m_plan, &PlanView::message, this, say);
    connect(m_match, &MatchView::message, this, say);
    connect(m_sums, &SumsView::message, this, say);
    connect(&m_bench, &Bench::message, this, say);
    connect(&m_bench.player, &FilmPlayer::filmChanged, this, [this, say] {
        if (!m_bench.player.warnings().empty())
            say(QString::fromStdString(m_bench.player.warnings().front()));
    });
    connect(&m_workspace, &Workspace::failed, this,
            [this](const Error& e) { m_message->say(QString::fromStdString(e.text()), true); });
    connect(&m_workspace, &Workspace::changed, m_message, &MessageLine::succeed);
    connect(&m_workspace.undoStack(), &QUndoStack::indexChanged, this, &MainWindow::refreshUndo);
    connect(&Theme::instance(), &Theme::changed, this, &MainWindow::refreshRail);
}

void MainWindow::addCommands()
{
    const QString window = tr("Window");
    const auto ctrl = [](Qt::Key key) { return QKeySequence(Qt::CTRL | key); };
    const auto add = [&](const char* id, const QString& words, std::vector<QKeySequence> keys, auto act,
                         const QString& shown = {}) {
        m_commands.add({QLatin1String(id), window, words, std::move(keys), act, shown});
    };
    QStringList names;
    for (const auto& p : m_places)
        names << p.name;
    for (const auto& p : m_places)
        add(
            "place", names.join(QStringLiteral(", ")), {ctrl(p.key)}, [this, place = p.place] { goTo(place); },
            tr("Ctrl 1 … %1").arg(m_places.size()));
    add("page", tr("the page for the player"), {ctrl(Qt::Key_P)}, [this] { showPage(); });
    add("compare", tr("the repetition on the Bench beside another"), {ctrl(Qt::Key_K)}, [this] { compare(); });
    add("undo", tr("undo"), {ctrl(Qt::Key_Z)}, [this] { m_workspace.undoStack().undo(); });
    // the platform's own redo key differs from desktop to desktop: both that are in use
    add("redo", tr("redo"), {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), ctrl(Qt::Key_Y)},
        [this] { m_workspace.undoStack().redo(); });
    add("fullScreen", tr("full screen"), {QKeySequence(Qt::Key_F11)},
        [this] { setWindowState(windowState() ^ Qt::WindowFullScreen); });
    add("sheet", tr("this sheet"), {QKeySequence(Qt::Key_F1)}, [this] { showSheet(); });
    for (const auto& c : m_commands.all())
        for (const auto& keys : c.keys)
            connect(new QShortcut(keys, this), &QShortcut::activated, this, c.act);
    // these two are their views' own; the sheet names them as well
    add("nextDue", tr("in the Roster: the next athlete for whom something is due"), {ctrl(Qt::Key_U)}, [] {});
    add("newAthlete", tr("new athlete"), {ctrl(Qt::Key_N)}, [] {});
    add("saveSeen", tr("in Live: save what was just seen"), {QKeySequence(Qt::Key_Return)}, [] {});
}

void MainWindow::showSheet()
{
    new ShortcutSheet({&m_benchView->commands(), &m_pair->commands(), &m_match->commands(), &m_commands}, this);
}

QToolButton* MainWindow::addRailButton(QLayout* layout, QWidget* rail, const QString& icon, const QString& text,
                                       const QString& tip)
{
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
}

QWidget* MainWindow::makeRail()
{
    auto* rail = new QFrame(this);
    rail->setFixedWidth(kRailWidth);
    rail->setStyleSheet(
        QStringLiteral(
            "QFrame{background:%1} QToolButton{border:none;border-radius:0;color:%2;padding:5px 0;background:transparent}"
            "QToolButton:checked{background:#2C3841;color:#FFFFFF;border-left:4px solid #E0A100}"
            "QToolButton:hover{background:#2C3841} QToolButton:disabled{color:#5F6A72}")
            .arg(railColour().name(), kRailInk.name()));
    auto* layout = new QVBoxLayout(rail);
    layout->setContentsMargins(0, 10, 0, 8);
    layout->setSpacing(2);
    for (auto& p : m_places) {
        p.button = addRailButton(layout, rail, p.icon, p.name, QStringLiteral("%1 (%2)").arg(p.tip, textOf(Qt::CTRL | p.key)));
        p.button->setCheckable(true);
        connect(p.button, &QToolButton::clicked, this, [this, place = p.place] { goTo(place); });
    }
    layout->addStretch();
    m_undo = addRailButton(layout, rail, QStringLiteral("undo"), {}, {});
    m_redo = addRailButton(layout, rail, QStringLiteral("redo"), {}, {});
    connect(m_undo, &QToolButton::clicked, this, [this] { m_workspace.undoStack().undo(); });
    connect(m_redo, &QToolButton::clicked, this, [this] { m_workspace.undoStack().redo(); });
    auto* settings = addRailButton(layout, rail, QStringLiteral("settings"), {}, tr("Settings"));
    settings->setObjectName(QStringLiteral("showSettings"));
    connect(settings, &QToolButton::clicked, this, [this, settings] { new SettingsForm(m_bench, settings); });
    auto* light = addRailButton(layout, rail, QStringLiteral("light"), {}, tr("Light or dark"));
    connect(light, &QToolButton::clicked, this, [] { Theme::instance().setDark(!Theme::instance().isDark()); });
    auto* help = addRailButton(layout, rail, QStringLiteral("help"), {}, tr("Every key on one sheet (F1)"));
    connect(help, &QToolButton::clicked, this, &MainWindow::showSheet);
    return rail;
}

void MainWindow::goTo(Place place)
{
    if (place != Place::Bench)
        m_bench.player.setPlaying(false);
    if (place != Place::Pair)
        m_pair->model().setPlaying(false);
    if (place != Place::Live && m_live->camera().isRunning())
        m_live->stop();
    const auto row = std::find_if(m_places.begin(), m_places.end(), [place](const PlaceRow& p) { return p.place == place; });
    if (row->view != m_views->currentWidget())
        m_message->leave(); // it was about what was seen there
    m_views->setCurrentWidget(row->view);
    refreshRail();
    row->view->setFocus();
}

void MainWindow::showPage()
{
    m_show->turnTo(ShowView::Leaf::Page);
    goTo(Place::Show);
}

void MainWindow::openClip(store::ClipId id)
{
    goTo(Place::Bench);
    m_bench.context.open(id);
}

void MainWindow::compare()
{
    goTo(Place::Pair);
    m_pair->askForOther();
}

void MainWindow::refreshRail()
{
    for (const auto& p : m_places) {
        const bool isHere = p.view == m_views->currentWidget();
        p.button->setChecked(isHere);
        p.button->setIcon(Theme::icon(p.icon, isHere ? Qt::white : kRailInk));
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
        m_message->say(tr("Done: %1. Ctrl+Z brings it back.").arg(stack.undoText()), false);
}

void MainWindow::offerToDeleteFilms(const RemovedAthlete& removed)
{
    const QString said =
        tr("%1 is removed, with every trace in the library and its copies. Ctrl+Z brings it back until you close the program.")
            .arg(removed.name);
    if (removed.films.isEmpty())
        return m_message->say(said, false);
    const int count = static_cast<int>(removed.films.size());
    const QString stays = count == 1 ? tr("One film stays on the disk: %1.").arg(removed.films.front())
                                     : tr("%1 films stay on the disk, such as %2.").arg(count).arg(removed.films.front());
    m_message->say(said + QLatin1Char(' ') + stays, false,
                   {count == 1 ? tr("Delete the film for good") : tr("Delete the films for good"), [this, films = removed.films] {
                        if (const auto done = deleteFilms(films); !done)
                            emit m_workspace.failed(done.error());
                        else
                            m_message->say(tr("The films are deleted."), false);
                    }});
}

void MainWindow::tell(const QString& text, bool stays)
{
    m_message->say(text, false, stays ? MessageLine::Offer{tr("All right"), [] {}} : MessageLine::Offer{});
}

void MainWindow::sayWhatIsWrong()
{
    if (m_workspace.library().isReadOnly())
        tell(tr("This library is read-only: you can look, but nothing can be changed."), true);
    if (m_workspace.packs().empty())
        tell(tr("No skill pack was found beside the program; readings need one. Install the program again."), true);
    if (!m_workspace.packProblems().empty())
        tell(tr("A pack is left out: %1 The others work.").arg(QString::fromStdString(m_workspace.packProblems().front().text())),
             true);
}

} // namespace kestrel::app
