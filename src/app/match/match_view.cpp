#include "app/match/match_view.h"

#include "app/film/film_canvas.h"
#include "app/film/picture_bits.h"
#include "app/match/rally_list.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/labels.h"
#include "app/shell/settings.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"
#include "app/workspace/document_saver.h"
#include "app/workspace/progress_teller.h"
#include "core/base/json_reader.h"
#include "core/base/part_file.h"
#include "core/pack/pack_folder.h"
#include "report/match_film.h"
#include "report/match_page.h"
#include "vision/face_hider.h"

#include <QCompleter>
#include <QDate>
#include <QFile>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMenu>
#include <QScrollArea>
#include <QStringListModel>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr std::size_t kKeysAcross = 3;
const QString kFirstWins = QStringLiteral("Z"), kSecondWins = QStringLiteral("M");

} // namespace

MatchView::MatchView(Workspace& workspace, QWidget* parent) : QWidget(parent), m_workspace(workspace), m_model(workspace)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    auto* row = new QHBoxLayout;
    auto* head = new QLabel(tr("Match"), this);
    head->setProperty("head", true);
    row->addWidget(head);
    row->addSpacing(12);
    m_matches = new QComboBox(this);
    m_matches->setObjectName(QStringLiteral("matches"));
    m_matches->setFocusPolicy(Qt::TabFocus);
    m_matches->setMinimumContentsLength(24);
    m_matches->setToolTip(tr("Which match"));
    row->addWidget(m_matches);
    row->addStretch();
    m_filmChoice = new QPushButton(tr("Film…"), this);
    m_filmChoice->setObjectName(QStringLiteral("matchFilm"));
    m_filmChoice->setToolTip(tr("The film of this match: every rally finds its place on it"));
    m_filmChoice->setFocusPolicy(Qt::TabFocus);
    m_find = new QPushButton(this);
    m_find->setObjectName(QStringLiteral("findRallies"));
    m_find->setFocusPolicy(Qt::TabFocus);
    m_out = new QToolButton(this);
    m_out->setObjectName(QStringLiteral("matchOut"));
    m_out->setText(tr("Take along"));
    m_out->setFocusPolicy(Qt::TabFocus);
    m_out->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(m_out);
    menu->addAction(tr("A page…"), this, [this] { askAndSave(QStringLiteral("page")); });
    menu->addAction(tr("A table, or all of it…"), this, [this] { askAndSave(QStringLiteral("table")); });
    menu->addAction(tr("A film of the chosen rallies…"), this, [this] { askAndSave(QStringLiteral("film")); });
    menu->addSeparator();
    menu->addAction(tr("Read a table…"), this, [this] { askAndSave(QStringLiteral("read")); });
    menu->addAction(tr("Remove this match"), this, [this] { m_model.remove(); });
    m_out->setMenu(menu);
    row->addWidget(m_filmChoice);
    row->addWidget(m_find);
    row->addWidget(m_out);
    layout->addLayout(row);
    m_pages = new QStackedWidget(this);
    m_pages->addWidget(makeChoice());
    m_pages->addWidget(makeLog());
    layout->addWidget(m_pages, 1);
    addCommands();
    setFocusPolicy(Qt::StrongFocus);
    connect(m_matches, &QComboBox::activated, this, [this] {
        const store::MatchId id(m_matches->currentData().toLongLong());
        id.isValid() ? m_model.open(id) : m_model.close();
        setFocus();
    });
    connect(m_filmChoice, &QPushButton::clicked, this, [this] {
        const QString file = askForFile(this, FilePurpose::Films, tr("The film of this match"), filmFilter());
        if (!file.isEmpty())
            m_model.setFilm(file);
        setFocus();
    });
    connect(m_find, &QPushButton::clicked, this, [this] {
        m_model.isFinding() ? m_model.stopFinding() : m_model.findRallies();
        refresh();
        setFocus();
    });
    connect(&m_model, &MatchModel::changed, this, &MatchView::refresh);
    connect(&m_model, &MatchModel::typed, this, &MatchView::refreshInHand);
    connect(&m_model, &MatchModel::message, this, &MatchView::message);
    connect(&m_model, &MatchModel::rallyPlayed, this, [this](int n) { m_table->selectRow(n); });
    connect(&m_model, &MatchModel::findingProgress, this,
            [this](int percent) { m_find->setText(tr("Stop looking (%1 %)").arg(percent)); });
    connect(&m_model, &MatchModel::found, this, [this](const std::vector<Rally>& rallies) {
        refresh();
        if (rallies.empty())
            return emit message(tr("No rallies can be told from the pauses on this film: log them by keys."));
        if (!m_model.log().rallies.empty())
            return emit message(
                tr("%1 rallies are on the film; the log has some already, and nothing was changed. Undo or remove "
                   "those first.")
                    .arg(rallies.size()));
        m_model.setRallies(tr("take over the rallies found"), rallies);
        emit message(tr("%1 rallies were found: press each, and say who won it.").arg(rallies.size()));
    });
    connect(&m_model.player(), &FilmPlayer::frameChanged, this, &MatchView::refreshPlace);
    connect(&m_model.player(), &FilmPlayer::filmChanged, this, &MatchView::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &MatchView::refresh);
    connect(&workspace, &Workspace::changed, this, [this](const Change& change) {
        const bool isOfOpen = m_model.isOpen() && change.id == m_model.id().value; // its players stay who they are
        if (change.subject == Change::Subject::Anything || (change.subject == Change::Subject::Match && !isOfOpen))
            refreshMatches();
    });
    refreshMatches();
    refresh();
}

QWidget* MatchView::makeChoice()
{
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->addStretch(1);
    auto* hint = addLabel(column, box, "matchHint");
    hint->setText(
        tr("Log a match by keys, with a film or while it is played. The score follows from the rallies, and so does what to "
           "train next."));
    hint->setProperty("muted", true);
    auto* row = new QHBoxLayout;
    m_sport = new QComboBox(box);
    m_sport->setObjectName(QStringLiteral("matchSport"));
    for (const auto& sport : shippedMatchSports())
        m_sport->addItem(text(sport.name), text(sport.id));
    m_sport->setCurrentIndex(std::max(0, m_sport->findData(QStringLiteral("table-tennis"))));
    m_best = new QComboBox(box);
    m_best->setObjectName(QStringLiteral("matchBest"));
    m_first = new QLineEdit(box);
    m_first->setObjectName(QStringLiteral("firstPlayer"));
    m_first->setPlaceholderText(tr("who serves first"));
    m_second = new QLineEdit(box);
    m_second->setObjectName(QStringLiteral("secondPlayer"));
    m_second->setPlaceholderText(tr("the other player"));
    m_names = new QStringListModel(this);
    for (auto* field : {m_first, m_second}) {
        auto* known = new QCompleter(m_names, field);
        known->setCaseSensitivity(Qt::CaseInsensitive);
        field->setCompleter(known);
    }
    auto* make = new QPushButton(tr("Log a match"), box);
    make->setObjectName(QStringLiteral("makeMatch"));
    make->setProperty("primary", true);
    for (QWidget* w : std::initializer_list<QWidget*>{m_sport, m_best, m_first, m_second, make})
        row->addWidget(w);
    column->addLayout(row);
    column->addStretch(3);
    const auto fillBest = [this] {
        m_best->clear();
        if (const auto sport = findMatchSport(m_sport->currentData().toString().toStdString())) {
            for (const int n : sport->scoring.bestOf)
                m_best->addItem(tr("best of %1").arg(n), n);
            m_best->setCurrentIndex(std::max(0, m_best->findData(sport->scoring.usualBestOf)));
            m_best->setVisible(!sport->scoring.bestOf.empty());
            const bool isAttempts = sport->scoring.kind == MatchScoring::Kind::Attempts;
            m_first->setPlaceholderText(isAttempts ? tr("the player") : tr("who serves first"));
            m_second->setPlaceholderText(isAttempts ? tr("missed counts for") : tr("the other player"));
        }
    };
    connect(m_sport, &QComboBox::currentIndexChanged, this, fillBest);
    connect(make, &QPushButton::clicked, this, &MatchView::makeMatch);
    // once the key is done with, as it means something else in a match that is open
    connect(m_second, &QLineEdit::returnPressed, this, &MatchView::makeMatch, Qt::QueuedConnection);
    fillBest();
    return box;
}

QWidget* MatchView::makeFilm()
{
    m_filmBox = new QWidget(this);
    auto* column = new QVBoxLayout(m_filmBox);
    column->setContentsMargins(0, 0, 0, 0);
    m_film = new FilmCanvas(m_model.player(), m_filmBox);
    m_place = new QSlider(Qt::Horizontal, m_filmBox);
    m_place->setObjectName(QStringLiteral("matchPlace"));
    m_place->setAccessibleName(tr("Place in the film"));
    m_place->setFocusPolicy(Qt::NoFocus);
    column->addWidget(m_film, 1);
    column->addWidget(m_place);
    connect(m_place, &QSlider::valueChanged, this, [this](int frame) {
        if (!m_refreshing)
            m_model.player().setFrame(FrameIndex(frame));
    });
    return m_filmBox;
}

QWidget* MatchView::makeLog()
{
    auto* box = new QWidget(this);
    auto* row = new QHBoxLayout(box);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    auto* left = new QVBoxLayout;
    left->addWidget(makeFilm(), 3);
    m_table = new QTableView(box);
    m_table->setObjectName(QStringLiteral("rallies"));
    m_rallies = new RallyList(m_model, this);
    m_table->setModel(m_rallies);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->verticalHeader()->hide();
    m_table->verticalHeader()->setDefaultSectionSize(24);
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->setFocusPolicy(Qt::NoFocus);
    m_table->setWordWrap(false);
    m_table->setAccessibleName(tr("Rallies"));
    m_table->setToolTip(tr("Press a rally to correct it; press it twice to see it"));
    left->addWidget(m_table, 2);
    row->addLayout(left, 3);
    auto* scroll = new QScrollArea(box); // a low screen has no room for all keys
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setFocusPolicy(Qt::NoFocus);
    auto* side = new QWidget(scroll);
    scroll->setWidget(side);
    auto* right = new QVBoxLayout(side);
    m_score = addLabel(right, side, "matchScore");
    m_points = addLabel(right, side, "matchPoints");
    m_points->setAlignment(Qt::AlignHCenter);
    m_inHand = addLabel(right, side, "inHand");
    m_note = new QLineEdit(side);
    m_note->setObjectName(QStringLiteral("rallyNote"));
    m_note->setPlaceholderText(tr("a note on this rally (Enter, and Enter again)"));
    m_note->setFocusPolicy(Qt::ClickFocus);
    right->addWidget(m_note);
    connect(m_note, &QLineEdit::editingFinished, this, [this] { m_model.setNote(m_note->text().trimmed().toStdString()); });
    // once the key is done with: it reaches the keys of the match as well, where it means the note
    connect(
        m_note, &QLineEdit::returnPressed, this, [this] { setFocus(); }, Qt::QueuedConnection);
    right->addWidget(makeKeys());
    m_next = addLabel(right, side, "trainNext");
    m_toPlan = new QPushButton(side);
    m_toPlan->setObjectName(QStringLiteral("nextToPlan"));
    m_toPlan->setFocusPolicy(Qt::TabFocus);
    m_toPlan->setToolTip(tr("As notes of the practice plan, with its numbers; can be undone"));
    right->addWidget(m_toPlan);
    connect(m_toPlan, &QPushButton::clicked, this, [this] {
        m_model.addNextToPlan();
        setFocus();
    });
    m_other = new QComboBox(box);
    m_other->setObjectName(QStringLiteral("otherMatch"));
    m_other->setFocusPolicy(Qt::TabFocus);
    m_other->setToolTip(tr("Beside each number, the same of another match, and whether the difference is more than chance"));
    connect(m_other, &QComboBox::activated, this, [this] {
        m_model.compareWith(store::MatchId(m_other->currentData().toLongLong()));
        setFocus();
    });
    right->addWidget(m_other);
    m_tallies = new QListWidget(box);
    m_tallies->setObjectName(QStringLiteral("tallies"));
    m_tallies->setFocusPolicy(Qt::NoFocus);
    m_tallies->setAccessibleName(tr("Points won by kind"));
    m_tallies->setToolTip(tr("Press one to see its rallies, one after another"));
    right->addWidget(m_tallies, 1);
    m_tallies->setMinimumHeight(120);
    row->addWidget(scroll, 2);
    connect(m_table, &QTableView::clicked, this,
            [this](const QModelIndex& i) { m_model.correct(static_cast<std::size_t>(i.row())); });
    connect(m_table, &QTableView::doubleClicked, this,
            [this](const QModelIndex& i) { m_model.playRallies({static_cast<std::size_t>(i.row())}); });
    connect(m_tallies, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        const auto n = static_cast<std::size_t>(item->data(Qt::UserRole).toInt());
        m_model.playRallies(m_model.tallies().tallies[n].rallies);
    });
    return box;
}

QWidget* MatchView::makeKeys()
{
    m_keys = new QWidget(this);
    new QVBoxLayout(m_keys);
    m_keys->layout()->setContentsMargins(0, 0, 0, 0);
    return m_keys;
}

void MatchView::addCommands()
{
    const QString match = tr("Match");
    const auto add = [&](const char* id, const QString& words, std::vector<QKeySequence> keys, auto act,
                         const QString& shown = {}) {
        m_commands.add({QLatin1String(id), match, words, std::move(keys), act, shown});
    };
    const auto wins = [this](PlayerIndex p) {
        return [this, p] {
            if (m_model.isOpen())
                m_model.finish(m_model.log().players[p]);
        };
    };
    add("matchFirst", tr("the first player won the rally"), {QKeySequence(Qt::Key_Z)}, wins(0));
    add("matchSecond", tr("the second player won it"), {QKeySequence(Qt::Key_M)}, wins(1));
    add("matchBack", tr("take back what was typed; else correct the last rally"), {QKeySequence(Qt::Key_Backspace)},
        [this] { m_model.takeBack(); });
    add("matchAttack", tr("attacked, waited"), {QKeySequence(Qt::Key_Y)}, [this] {
        if (m_model.isOpen()) {
            m_model.keeper().toggleAttacking();
            refreshInHand();
        }
    });
    add("matchMoved", tr("moved the feet, leaned"), {QKeySequence(Qt::Key_U)}, [this] {
        if (m_model.isOpen()) {
            m_model.keeper().toggleMoved();
            refreshInHand();
        }
    });
    add("matchNote", tr("write a note on the rally"), {QKeySequence(Qt::Key_Return)}, [this] {
        if (m_model.isOpen())
            m_note->setFocus();
    });
    add("matchServer", tr("the other one served"), {QKeySequence(Qt::Key_O)}, [this] { m_model.correctServer(); });
    add("matchRemove", tr("remove the rally that is corrected"), {QKeySequence(Qt::Key_Delete)}, [this] {
        if (m_model.isOpen() && m_model.keeper().corrected())
            m_model.removeRally(*m_model.keeper().corrected());
    });
    add("matchLetGo", tr("log on: nothing is corrected any more"), {QKeySequence(Qt::Key_Escape)}, [this] {
        if (m_model.isOpen()) {
            m_model.keeper().letGo();
            refreshInHand();
        }
    });
    add("matchPlay", tr("play, pause the film"), {QKeySequence(Qt::Key_Space)},
        [this] { m_model.player().setPlaying(!m_model.player().isPlaying()); });
    const auto jump = [this](double seconds) {
        return [this, seconds] {
            if (m_model.player().isOpen())
                m_model.player().setFrame(m_model.player().clock().frameAt(RealTime{std::max(0.0, m_model.seconds() + seconds)}));
        };
    };
    add("matchBackFew", tr("three seconds back, on"), {QKeySequence(Qt::Key_Left)}, jump(-3), QStringLiteral("← →"));
    add("matchOnFew", tr("three seconds back, on"), {QKeySequence(Qt::Key_Right)}, jump(3), QStringLiteral("← →"));
    const auto rally = [this](int step) {
        return [this, step] {
            if (!m_model.isOpen() || m_model.log().rallies.empty())
                return;
            const int count = static_cast<int>(m_model.log().rallies.size());
            const int now = m_model.keeper().corrected() ? static_cast<int>(*m_model.keeper().corrected()) : count;
            const auto n = static_cast<std::size_t>(std::clamp(now + step, 0, count - 1));
            m_model.correct(n);
            if (m_model.player().isOpen() && m_model.log().rallies[n].from)
                m_model.player().setFrame(m_model.player().clock().frameAt(RealTime{*m_model.log().rallies[n].from}));
        };
    };
    add("matchUp", tr("the rally before, after: to see and to correct it"), {QKeySequence(Qt::Key_Up)}, rally(-1),
        QStringLiteral("↑ ↓"));
    add("matchDown", tr("the rally before, after: to see and to correct it"), {QKeySequence(Qt::Key_Down)}, rally(1),
        QStringLiteral("↑ ↓"));
}

void MatchView::keyPressEvent(QKeyEvent* event)
{
    if (!event->modifiers() && m_model.isOpen() && m_model.press(QKeySequence(event->key()).toString())) {
        // a let is over with its key
        const auto* ending = m_model.sport().findEnding(m_model.keeper().inHand().how);
        if (ending && ending->by == MatchEnding::By::Nobody)
            m_model.finish({});
        return;
    }
    if (!m_commands.run(*event))
        QWidget::keyPressEvent(event);
}

void MatchView::showEvent(QShowEvent*)
{
    refreshMatches();
    setFocus();
}

void MatchView::makeMatch()
{
    MatchLog log;
    log.sport = m_sport->currentData().toString().toStdString();
    log.players = {m_first->text().trimmed().toStdString(), m_second->text().trimmed().toStdString()};
    const auto sport = findMatchSport(log.sport);
    if (sport && sport->scoring.kind == MatchScoring::Kind::Attempts && log.players[1].empty())
        log.players[1] = tr("missed").toStdString();
    if (log.players[0].empty() || log.players[1].empty())
        return emit message(tr("Who plays? Type both names."));
    if (log.players[0] == log.players[1])
        return emit message(tr("Both players have the same name: give one of them another."));
    log.firstServer = log.players[0];
    log.bestOf = m_best->currentData().toInt();
    log.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    m_model.make(std::move(log));
    m_first->clear(); // of this match, not of the next one
    m_second->clear();
    setFocus();
}

void MatchView::refreshMatches()
{
    m_all = m_workspace.valueOr(m_workspace.library().matches().all());
    QStringList names;
    for (const auto& athlete : m_workspace.valueOr(m_workspace.library().athletes().all()))
        names << text(athlete.name);
    for (const auto& row : m_all)
        for (const auto& player : row.log.players)
            if (text(player) != tr("missed")) // no person: see makeMatch()
                names << text(player);
    names.removeDuplicates();
    m_names->setStringList(names);
    for (auto& row : m_all)
        row.log.rallies.clear();
    m_matches->clear();
    m_matches->addItem(tr("a new match"), qlonglong(0));
    for (const auto& row : m_all)
        m_matches->addItem(tr("%1 and %2").arg(text(row.log.players[0]), text(row.log.players[1])) +
                               (row.log.date.empty() ? QString() : QStringLiteral(", ") + text(row.log.date)),
                           qlonglong(row.id.value));
    m_matches->setCurrentIndex(std::max(0, m_matches->findData(qlonglong(m_model.id().value))));
}

void MatchView::refresh()
{
    const bool open = m_model.isOpen();
    m_pages->setCurrentIndex(open ? 1 : 0);
    m_filmChoice->setVisible(open);
    m_find->setVisible(open && m_model.hasFilm());
    m_find->setText(m_model.isFinding() ? tr("Stop looking") : tr("Find the rallies"));
    m_find->setToolTip(tr("By what moves on the film; they are proposals"));
    m_out->setEnabled(open);
    m_filmBox->setVisible(open && m_model.hasFilm());
    m_matches->setCurrentIndex(std::max(0, m_matches->findData(qlonglong(m_model.id().value))));
    if (!open)
        return;
    m_refreshing = true;
    m_place->setRange(0, static_cast<int>(std::max<std::int64_t>(0, m_model.player().frames() - 1)));
    m_refreshing = false;
    refreshKeys();
    refreshInHand();
    refreshOthers();
    refreshTallies();
    m_table->scrollToBottom();
    for (int column = 0; column < 4; ++column)
        m_table->setColumnWidth(column, column == 0 ? 40 : column == 1 ? 90 : 110);
}

void MatchView::refreshPlace()
{
    m_refreshing = true;
    m_place->setValue(static_cast<int>(m_model.player().frame().value));
    m_refreshing = false;
}

/// The keys of the sport as labelled rows.
void MatchView::refreshKeys()
{
    const QString made = m_keys->property("of").toString();
    const QString wanted = text(m_model.sport().id) + text(m_model.log().players[0]) + text(m_model.log().players[1]);
    if (made == wanted)
        return;
    m_keys->setProperty("of", wanted);
    m_keyLabels.clear();
    auto* column = qobject_cast<QVBoxLayout*>(m_keys->layout());
    while (QLayoutItem* item = column->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const auto addRow = [&](const QString& head, const std::vector<std::pair<QString, QString>>& keys) {
        auto* box = new QWidget(m_keys);
        auto* grid = new QGridLayout(box);
        grid->setContentsMargins(0, 0, 0, 2);
        grid->setSpacing(4);
        auto* name = new QLabel(head, box);
        name->setProperty("muted", true);
        grid->addWidget(name, 0, 0, 1, static_cast<int>(kKeysAcross));
        for (std::size_t n = 0; n < keys.size(); ++n) {
            auto* key = new QLabel(QStringLiteral("%1  %2").arg(keys[n].first, keys[n].second), box);
            key->setTextFormat(Qt::PlainText);
            key->setToolTip(key->text());
            key->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // long words must not widen the window
            grid->addWidget(key, static_cast<int>(1 + n / kKeysAcross), static_cast<int>(n % kKeysAcross));
            m_keyLabels.emplace_back(keys[n].first, key);
        }
        column->addWidget(box);
    };
    const auto pairs = [](const auto& words) {
        std::vector<std::pair<QString, QString>> keys;
        for (const auto& w : words)
            keys.emplace_back(text(w.key), text(w.name));
        return keys;
    };
    const bool isAttempts = m_model.sport().scoring.kind == MatchScoring::Kind::Attempts;
    addRow(isAttempts ? tr("From where") : tr("Serve"), pairs(m_model.sport().serves));
    addRow(tr("Strokes, the last one decides"), pairs(m_model.sport().strokes));
    addRow(tr("How it ended"), pairs(m_model.sport().endings));
    addRow(tr("Who won it, and the rally is stored"), {{kFirstWins, text(m_model.log().players[0])},
                                                       {kSecondWins, text(m_model.log().players[1])},
                                                       {QStringLiteral("Y"), tr("attacking")},
                                                       {QStringLiteral("U"), tr("moved")}});
}

void MatchView::refreshInHand()
{
    if (!m_model.isOpen())
        return;
    const auto& log = m_model.log();
    const auto& score = m_model.score();
    const MatchState& now = score.now;
    const bool isAttempts = m_model.sport().scoring.kind == MatchScoring::Kind::Attempts;
    m_score->setStyleSheet(QStringLiteral("font-size:15px;font-weight:600"));
    m_score->setText(isAttempts
                         ? tr("%1: %2 of %3 made").arg(text(log.players[0])).arg(now.points[0]).arg(now.points[0] + now.points[1])
                         : QStringLiteral("%1 – %2   %3")
                               .arg(text(log.players[0]), text(log.players[1]), text(scoreWords(score, m_model.sport()))));
    m_points->setStyleSheet(QStringLiteral("font-size:44px;font-weight:600;color:%1").arg(colours().slate.name()));
    m_points->setText(now.winner   ? tr("%1 wins").arg(text(log.players[*now.winner]))
                      : isAttempts ? QStringLiteral("%1 / %2").arg(now.points[0]).arg(now.points[0] + now.points[1])
                                   : text(pointsWords(now, m_model.sport(), log.players)));
    QStringList said;
    const auto& corrected = m_model.keeper().corrected();
    if (corrected)
        said << tr("Correcting rally %1: Z or M stores it, Delete removes it, Esc lets go.").arg(*corrected + 1);
    else if (!isAttempts && !now.winner)
        said << tr("%1 serves").arg(text(log.players[now.server]));
    if (!corrected && now.matchPoint)
        said << tr("match point for %1").arg(text(log.players[*now.matchPoint]));
    else if (!corrected && now.gamePoint)
        said << tr("game point for %1").arg(text(log.players[*now.gamePoint]));
    if (!corrected && now.changesEnds && !now.winner)
        said << tr("change ends");
    if (!m_note->hasFocus())
        m_note->setText(text(m_model.keeper().inHand().note));
    const QString typed = rallyWords(m_model.keeper().inHand(), m_model.sport());
    m_inHand->setText(said.join(QStringLiteral(", ")) + QLatin1Char('\n') + (typed.isEmpty() ? tr("…") : typed));
    m_inHand->setStyleSheet(QStringLiteral("color:%1").arg((corrected ? colours().chestnut : colours().ink).name()));
    // what was typed is lit
    const Rally& r = m_model.keeper().inHand();
    for (const auto& [key, shown] : m_keyLabels) {
        const std::string k = key.toStdString();
        const auto holds = [&](const auto& words, const std::string& id) {
            return std::any_of(words.begin(), words.end(), [&](const auto& w) { return w.key == k && w.id == id; });
        };
        const bool isLit = holds(m_model.sport().serves, r.serve) || holds(m_model.sport().endings, r.how) ||
                           (!r.strokes.empty() && holds(m_model.sport().strokes, r.strokes.back())) ||
                           (k == "Y" && r.attacking.value_or(false)) || (k == "U" && r.moved.value_or(false));
        shown->setStyleSheet(QStringLiteral("padding:2px 5px;border-radius:3px;background:%1;color:%2")
                                 .arg((isLit ? colours().eyeRing : colours().panel).name(),
                                      (isLit ? QColor(0x24, 0x29, 0x2E) : colours().ink).name()));
    }
    if (corrected)
        m_table->selectRow(static_cast<int>(*corrected));
    else
        m_table->clearSelection();
}

/// The matches this one can be compared with.
void MatchView::refreshOthers()
{
    const auto& now = m_model.log();
    m_other->clear();
    m_other->addItem(tr("compared with no other match"), qlonglong(0));
    for (const auto& row : m_all) {
        const auto& players = row.log.players;
        if (row.id != m_model.id() && row.log.sport == now.sport &&
            std::find(players.begin(), players.end(), now.players[0]) != players.end())
            m_other->addItem(tr("beside: %1 and %2, %3").arg(text(players[0]), text(players[1]), text(row.log.date)),
                             qlonglong(row.id.value));
    }
    m_other->setCurrentIndex(std::max(0, m_other->findData(qlonglong(m_model.other() ? m_model.other()->id.value : 0))));
    m_other->setVisible(m_other->count() > 1);
}

/// A tally with its interval, and beside it the other match's.
QString MatchView::tallyWords(const Tally& t) const
{
    const auto words = [](const Share& s) {
        return s.isFew()
                   ? tr("%1 of %2, too few to say").arg(s.won).arg(s.n)
                   : tr("%1 of %2, %3 to %4 %").arg(s.won).arg(s.n).arg(std::lround(100 * s.low)).arg(std::lround(100 * s.high));
    };
    QString said = tr("%1: %2").arg(text(t.words), words(t.share));
    const auto& other = m_model.other();
    const Tally* there = other ? other->tallies.find(other->player, t.what) : nullptr;
    if (other && !there)
        said += tr("\n    there: never");
    if (!there)
        return said;
    said += tr("\n    there: %1").arg(words(there->share));
    if (t.share.isFew() || there->share.isFew())
        return said;
    const ShareDifference d = differenceOf(there->share, t.share);
    const QString interval = tr("%1 to %2 points of a hundred").arg(std::lround(100 * d.low)).arg(std::lround(100 * d.high));
    return said + (d.isReal() ? tr("; differs for real, by %1").arg(interval)
                              : tr("; no difference that can be told from chance (%1)").arg(interval));
}

void MatchView::refreshTallies()
{
    m_tallies->clear();
    const auto& done = m_model.tallies();
    QStringList next;
    for (const auto& n : done.next)
        next << text(n.text);
    m_next->setText(next.isEmpty() ? tr("What to train next is said once ten cases or more are surely lost.")
                                   : tr("Train next: %1").arg(next.join(QLatin1Char(' '))));
    m_next->setStyleSheet(QStringLiteral("color:%1").arg((next.isEmpty() ? colours().muted : colours().chestnut).name()));
    const auto who = next.isEmpty() ? std::nullopt : m_model.athlete();
    m_toPlan->setVisible(who.has_value());
    if (who)
        m_toPlan->setText(tr("Put it on the plan of %1").arg(text(who->name)));
    std::vector<std::size_t> order;
    for (std::size_t n = 0; n < done.tallies.size(); ++n)
        if (done.tallies[n].player == 0)
            order.push_back(n);
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return done.tallies[a].share.isFew() < done.tallies[b].share.isFew(); });
    for (const std::size_t n : order) {
        const Tally& t = done.tallies[n];
        auto* item = new QListWidgetItem(tallyWords(t), m_tallies);
        item->setData(Qt::UserRole, static_cast<int>(n));
        if (t.share.isFew())
            item->setForeground(colours().muted);
    }
}

std::vector<std::size_t> MatchView::chosenRallies() const
{
    std::vector<std::size_t> rallies;
    for (const auto& i : m_table->selectionModel()->selectedRows())
        rallies.push_back(static_cast<std::size_t>(i.row()));
    if (rallies.empty())
        for (std::size_t n = 0; n < m_model.log().rallies.size(); ++n)
            rallies.push_back(n);
    std::sort(rallies.begin(), rallies.end());
    return rallies;
}

void MatchView::askAndSave(const QString& what)
{
    const QString name = tr("%1 and %2").arg(text(m_model.log().players[0]), text(m_model.log().players[1]));
    if (what == QStringLiteral("read")) {
        const QString file =
            askForFile(this, FilePurpose::Documents, tr("Read rallies"), tr("Tables and matches (*.csv *.json)"));
        if (!file.isEmpty())
            readTable(file);
        return;
    }
    const bool isFilm = what == QStringLiteral("film"), isPage = what == QStringLiteral("page");
    const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Take the match along"),
                                        name + (isFilm   ? QStringLiteral(".mp4")
                                                : isPage ? QStringLiteral(".pdf")
                                                         : QStringLiteral(".csv")),
                                        isFilm   ? tr("Films (*.mp4 *.webm)")
                                        : isPage ? tr("Sheets (*.pdf *.png *.html)")
                                                 : tr("Tables and matches (*.csv *.json)"));
    if (file.isEmpty())
        return;
    isFilm ? saveFilm(file, chosenRallies()) : isPage ? savePage(file) : saveTable(file);
}

void MatchView::savePage(const QString& file)
{
    if (!m_model.isOpen())
        return;
    saveDocument(this, m_workspace, report::matchDocument(m_model.log(), m_model.sport()), file,
                 [this, file] { emit message(tr("Saved %1").arg(file)); });
}

void MatchView::saveTable(const QString& file)
{
    if (!m_model.isOpen())
        return;
    const bool isJson = file.endsWith(QStringLiteral(".json"), Qt::CaseInsensitive);
    if (const auto saved = saveText(file.toStdString(), isJson ? printed(toJson(m_model.log()), 1) : toCsv(m_model.log()));
        !saved)
        return emit m_workspace.failed(saved.error());
    emit message(tr("Saved %1").arg(file));
}

void MatchView::readTable(const QString& file)
{
    if (!m_model.isOpen())
        return;
    Expected<std::vector<Rally>> rallies;
    if (file.endsWith(QStringLiteral(".json"), Qt::CaseInsensitive)) {
        rallies = loadMatchLog(file.toStdString()).map([](MatchLog log) { return std::move(log.rallies); });
    } else {
        QFile in(file);
        if (!in.open(QIODevice::ReadOnly))
            return emit message(tr("%1 cannot be read.").arg(file));
        rallies = ralliesFromCsv(in.readAll().toStdString(), file.toStdString());
    }
    if (!rallies)
        return emit m_workspace.failed(rallies.error());
    const auto count = rallies->size();
    m_model.setRallies(tr("read rallies"), std::move(*rallies));
    emit message(tr("%1 rallies were read; undo brings the others back.").arg(count));
}

void MatchView::saveFilm(const QString& file, std::vector<std::size_t> rallies)
{
    if (m_isWriting) {
        m_writing.stop();
        m_isWriting = false;
        return emit message(tr("Stopped; nothing was written."));
    }
    if (!m_model.hasFilm())
        return emit message(tr("There is no film of this match."));
    m_isWriting = true;
    MatchLog log = m_model.log();
    log.film = m_model.filmPath();
    const auto progress = tellProgress(this, 5, [this](int percent) {
        if (m_isWriting)
            emit message(tr("Writing the film: %1 %.").arg(percent));
    });
    // nobody's consent is noted with a match: faces stay only where the coach leaves all of them
    const bool hidesFaces = Settings::faceHiding() != FaceHiding::Never;
    m_writing = Background::run(
        this,
        [log = std::move(log), sport = m_model.sport(), score = m_model.score(), rallies = std::move(rallies), file, progress,
         hidesFaces](std::stop_token stop) -> Expected<std::string> {
            auto hider = vision::FaceHider::load(shippedFolder("models"), hidesFaces);
            if (!hider)
                return tl::unexpected(hider.error());
            const auto hide = [&](FrameIndex frame, QImage& image) {
                Marking nobody; // nobody is marked on it
                nobody.film.width = image.width();
                nobody.film.height = image.height();
                hider->hide(bitsOf(image), log.film, nobody, {frame, frame}, frame);
            };
            return report::writeMatchFilm(log, sport, score, rallies, file.toStdString(), hide, progress, stop).map([&] {
                return hider->unsure() > 0 ? hider->warning() : std::string();
            });
        },
        [this, file](const Expected<std::string>& warning) {
            m_isWriting = false;
            if (!warning)
                return emit m_workspace.failed(warning.error());
            emit message(warning->empty() ? tr("Saved %1").arg(file) : tr("Saved %1. %2").arg(file, text(*warning)));
        });
}

} // namespace kestrel::app
