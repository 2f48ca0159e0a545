#include "app/roster/roster_view.h"

#include "app/film/film_check_card.h"
#include "app/roster/athlete_form.h"
#include "app/roster/day_card.h"
#include "app/shell/dates.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/theme.h"
#include "app/workspace/day_edits.h"
#include "app/workspace/row_edits.h"
#include "core/base/part_file.h"

#include <QDate>
#include <QDragEnterEvent>
#include <QHBoxLayout>
#include <QLocale>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QScrollBar>
#include <QShortcut>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kWidestName = 300, kWidestHead = 640; // pixels: the row has to fit the window

constexpr int kIdRole = Qt::UserRole, kTeamRole = Qt::UserRole + 1;

QString today()
{
    return QDate::currentDate().toString(Qt::ISODate);
}

/// A small diamond beside those for whom something is due.
QIcon dueSign()
{
    QPixmap sign(12, 12);
    sign.fill(Qt::transparent);
    QPainter painter(&sign);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colours().chestnut);
    painter.drawPolygon(QPolygonF{{6, 1}, {11, 6}, {6, 11}, {1, 6}});
    return sign;
}

QPushButton* addButton(QLayout* layout, QWidget* parent, const QString& text, const QString& name)
{
    auto* button = new QPushButton(text, parent);
    button->setObjectName(name);
    layout->addWidget(button);
    return button;
}

QString longDate(const std::string& date)
{
    return QLocale(QLocale::English)
        .toString(QDate::fromString(QString::fromStdString(date), Qt::ISODate), QStringLiteral("d MMMM yyyy"));
}

} // namespace

RosterView::RosterView(Workspace& workspace, QWidget* parent)
    : QWidget(parent), m_workspace(workspace), m_import(workspace), m_posters(workspace)
{
    setAcceptDrops(true);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 12, 16, 16);
    row->setSpacing(16);
    row->addWidget(makeList());
    m_right = new QStackedWidget(this);
    m_nobody = new QLabel(tr("Choose an athlete at the left."), m_right);
    m_nobody->setAlignment(Qt::AlignCenter);
    m_nobody->setProperty("muted", true);
    m_welcome = makeWelcome();
    m_form = new AthleteForm(m_right);
    auto* formScroll = new QScrollArea(m_right); // a small window or large text must not hide Save
    formScroll->setWidgetResizable(true);
    formScroll->setWidget(m_form);
    m_formPage = formScroll;
    m_details = makeDetails();
    for (QWidget* page : {static_cast<QWidget*>(m_nobody), m_welcome, m_details, m_formPage})
        m_right->addWidget(page);
    row->addWidget(m_right, 1);
    connect(m_form, &AthleteForm::saved, this, &RosterView::storeAthlete);
    connect(m_form, &AthleteForm::cancelled, this, &RosterView::refreshDetails);
    connect(&workspace, &Workspace::changed, this, &RosterView::onChanged);
    connect(&m_import, &ClipImport::progress, this, [this](int done, int total, const QString& file) {
        m_progressRow->setVisible(total > 0);
        m_progress->setRange(0, total);
        m_progress->setValue(done);
        m_progressText->setText(m_progressText->fontMetrics().elidedText(
            tr("Adding %1 of %2: %3").arg(done + 1).arg(total).arg(file), Qt::ElideMiddle, 420));
    });
    refresh();
    if (m_list->count() > 0)
        m_list->setCurrentRow(0);
}

QWidget* RosterView::makeList()
{
    auto* card = new QFrame(this);
    card->setProperty("card", true);
    card->setFixedWidth(252);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(12, 12, 12, 12);
    auto* head = new QLabel(tr("Roster"), card);
    head->setProperty("head", true);
    layout->addWidget(head);
    m_emptyNote = new QLabel(tr("Nobody here yet. Add the first athlete; films come after."), card);
    m_emptyNote->setWordWrap(true);
    m_emptyNote->setProperty("muted", true);
    layout->addWidget(m_emptyNote);
    m_search = new QLineEdit(card);
    m_search->setObjectName(QStringLiteral("searchAthletes"));
    m_search->setPlaceholderText(tr("type to find"));
    m_search->setClearButtonEnabled(true);
    connect(m_search, &QLineEdit::textChanged, this, &RosterView::filterAthletes);
    layout->addWidget(m_search);
    m_show = new QComboBox(card);
    m_show->setObjectName(QStringLiteral("showAthletes"));
    m_show->setToolTip(tr("Who is listed"));
    m_show->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    connect(m_show, &QComboBox::activated, this, [this] { filterAthletes(m_search->text()); });
    layout->addWidget(m_show);
    m_order = new QComboBox(card);
    m_order->setObjectName(QStringLiteral("orderAthletes"));
    m_order->addItems({tr("by name"), tr("what is due first"), tr("last filmed first")});
    m_order->setToolTip(tr("In which order"));
    connect(m_order, &QComboBox::activated, this, &RosterView::refresh);
    layout->addWidget(m_order);
    m_list = new QListWidget(card);
    m_list->setObjectName(QStringLiteral("athletes"));
    m_list->setAccessibleName(tr("Athletes"));
    m_list->setUniformItemSizes(true);
    m_list->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_list->setTextElideMode(Qt::ElideRight);
    m_list->viewport()->setAcceptDrops(true);
    m_list->viewport()->installEventFilter(this);
    layout->addWidget(m_list, 1);
    m_nextDue = addButton(layout, card, {}, QStringLiteral("nextDue"));
    auto* key = new QShortcut(QKeySequence(Qt::CTRL | Qt::Key_U), this); // a button's own is lost with its text
    connect(key, &QShortcut::activated, this, &RosterView::goToNextDue);
    connect(m_nextDue, &QPushButton::clicked, this, &RosterView::goToNextDue);
    auto* add = addButton(layout, card, tr("Add athlete"), QStringLiteral("addAthlete"));
    add->setProperty("primary", true);
    add->setToolTip(tr("Add an athlete (Ctrl+N)"));
    add->setShortcut(QKeySequence::New);
    connect(add, &QPushButton::clicked, this, &RosterView::startNew);
    connect(m_list, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        m_current = item ? store::AthleteId(item->data(kIdRole).toLongLong()) : store::AthleteId();
        m_check->hide(); // it belongs to another athlete's clip
        refreshDetails();
    });
    return card;
}

/// What an empty library offers.
QWidget* RosterView::makeWelcome()
{
    auto* page = new QWidget(this);
    auto* layout = new QVBoxLayout(page);
    layout->setSpacing(12);
    layout->addStretch();
    auto* head = new QLabel(tr("Nobody is in this library yet."), page);
    head->setProperty("head", true);
    auto* note = new QLabel(
        tr("Add the athlete you filmed: a name will do. Then make a filming day, choose the skill, and drop the films.\n"
           "Or look at a made-up club first: invented players, filmed by the program's own simulator."),
        page);
    note->setWordWrap(true);
    note->setAlignment(Qt::AlignHCenter);
    note->setProperty("muted", true);
    layout->addWidget(head, 0, Qt::AlignHCenter);
    layout->addWidget(note);
    auto* row = new QHBoxLayout;
    row->addStretch();
    auto* add = addButton(row, page, tr("Add an athlete"), QStringLiteral("welcomeAdd"));
    add->setProperty("primary", true);
    connect(add, &QPushButton::clicked, this, &RosterView::startNew);
    auto* demo = addButton(row, page, tr("Look at the made-up club"), QStringLiteral("welcomeDemo"));
    demo->setToolTip(tr("Opens in a window of its own; painting its films takes a few minutes, once"));
    connect(demo, &QPushButton::clicked, this, &RosterView::demoWanted);
    row->addStretch();
    layout->addLayout(row);
    layout->addStretch();
    return page;
}

QWidget* RosterView::makeProgress(QWidget* parent)
{
    auto* row = new QWidget(parent);
    auto* progress = new QHBoxLayout(row);
    progress->setContentsMargins(0, 0, 0, 0);
    m_progressText = new QLabel(row);
    m_progressText->setTextFormat(Qt::PlainText);
    m_progress = new QProgressBar(row);
    m_progress->setTextVisible(false);
    m_progress->setFixedHeight(8);
    progress->addWidget(m_progressText);
    progress->addWidget(m_progress, 1);
    connect(addButton(progress, row, tr("Cancel"), QStringLiteral("cancelImport")), &QPushButton::clicked, &m_import,
            &ClipImport::cancel);
    row->hide();
    return row;
}

/// Each gives a copy of what left.
void RosterView::fillSent()
{
    auto* menu = m_sent->menu();
    menu->clear();
    for (const auto& row : m_workspace.valueOr(m_workspace.library().sent().of(m_current)))
        menu->addAction(QStringLiteral("%1 · %2").arg(QString::fromStdString(row.date), QString::fromStdString(row.name)), this,
                        [this, id = row.id] {
                            const auto sent = m_workspace.library().sent().find(id);
                            if (!sent)
                                return emit m_workspace.failed(sent.error());
                            const bool isScript = sent->kind == "walk";
                            const QString name =
                                QString::fromStdString(sent->name) + (isScript ? QStringLiteral(".json") : QString());
                            const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save a copy as it was"), name);
                            if (file.isEmpty())
                                return;
                            if (auto saved = saveText(file.toStdString(), sent->content); !saved)
                                emit m_workspace.failed(saved.error());
                        });
    if (menu->isEmpty())
        menu->addAction(tr("Nothing has left for this athlete yet."))->setEnabled(false);
}

QWidget* RosterView::makeDetails()
{
    auto* page = new QWidget(this);
    auto* layout = new QVBoxLayout(page);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    auto* top = new QHBoxLayout;
    m_name = new QLabel(page);
    m_name->setProperty("head", true);
    m_name->setObjectName(QStringLiteral("athleteName"));
    m_name->setTextFormat(Qt::PlainText);
    m_facts = new QLabel(page);
    m_facts->setObjectName(QStringLiteral("athleteFacts"));
    m_facts->setTextFormat(Qt::PlainText);
    m_facts->setProperty("muted", true);
    top->addWidget(m_name);
    m_facts->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // long words must not widen the window
    top->addWidget(m_facts, 1);
    m_sent = new QToolButton(page);
    m_sent->setObjectName(QStringLiteral("sent"));
    m_sent->setText(tr("Sent"));
    m_sent->setPopupMode(QToolButton::InstantPopup);
    m_sent->setToolTip(tr("Pages, sheets, checklists and walk-throughs that left, as they were"));
    m_sent->setMenu(new QMenu(m_sent));
    connect(m_sent->menu(), &QMenu::aboutToShow, this, &RosterView::fillSent);
    top->addWidget(m_sent);
    auto* plan = addButton(top, page, tr("Plan"), QStringLiteral("planAthlete"));
    plan->setToolTip(tr("Practice, book, workload and progress"));
    connect(plan, &QPushButton::clicked, this, [this] { emit planWanted(m_current); });
    connect(addButton(top, page, tr("Edit"), QStringLiteral("editAthlete")), &QPushButton::clicked, this, &RosterView::startEdit);
    connect(addButton(top, page, tr("Remove"), QStringLiteral("removeAthlete")), &QPushButton::clicked, this,
            &RosterView::removeCurrent);
    m_addDay = addButton(top, page, tr("New filming day"), QStringLiteral("addDay"));
    m_addDay->setProperty("primary", true);
    connect(m_addDay, &QPushButton::clicked, this, [this] { addDay(m_addDay); });
    layout->addLayout(top);
    m_consent = new QLabel(tr("No guardian has agreed to filming yet. Ask before you film, and note it under Edit."), page);
    m_consent->setWordWrap(true);
    layout->addWidget(m_consent);
    m_dueWords = new QLabel(page);
    m_dueWords->setObjectName(QStringLiteral("dueWords"));
    m_dueWords->setWordWrap(true);
    m_dueWords->setTextFormat(Qt::PlainText);
    layout->addWidget(m_dueWords);
    m_progressRow = makeProgress(page);
    layout->addWidget(m_progressRow);
    m_check = new FilmCheckCard(m_workspace, page);
    m_check->hide();
    connect(&m_import, &ClipImport::added, m_check, &FilmCheckCard::show);
    layout->addWidget(m_check);
    m_scroll = new QScrollArea(page);
    m_scroll->setWidgetResizable(true);
    m_days = new QWidget(m_scroll);
    m_dayList = new QVBoxLayout(m_days);
    m_dayList->setContentsMargins(0, 0, 8, 0);
    m_dayList->setSpacing(12);
    m_scroll->setWidget(m_days);
    connect(m_scroll->verticalScrollBar(), &QScrollBar::valueChanged, this, &RosterView::showTiles);
    connect(m_scroll->verticalScrollBar(), &QScrollBar::rangeChanged, this, &RosterView::showTiles);
    layout->addWidget(m_scroll, 1);
    return page;
}

void RosterView::showEvent(QShowEvent*)
{
    if (m_stale)
        refresh();
    QMetaObject::invokeMethod(this, &RosterView::showTiles, Qt::QueuedConnection);
}

void RosterView::resizeEvent(QResizeEvent*)
{
    QMetaObject::invokeMethod(this, &RosterView::showTiles, Qt::QueuedConnection); // once the cards have their new places
}

/// Tiles are made where they are seen.
void RosterView::showTiles()
{
    m_days->layout()->activate();
    const QRect seen(0, m_scroll->verticalScrollBar()->value(), m_scroll->viewport()->width(), m_scroll->viewport()->height());
    for (auto* card : m_cards) {
        const bool isNear = card->geometry().intersects(seen.adjusted(0, -seen.height(), 0, seen.height()));
        card->showPart(isNear ? seen.translated(-card->pos()) : QRect());
    }
}

void RosterView::onChanged(const Change& change)
{
    if (change.subject != Change::Subject::Marks) // nothing here shows single marks
        refresh();
}

void RosterView::refresh()
{
    m_stale = window()->isVisible() && !isVisible(); // before the first showing everything is made at once
    if (m_stale)
        return;
    auto athletes = m_workspace.valueOr(m_workspace.library().athletes().all());
    m_due = m_workspace.valueOr(dueList(m_workspace.library(), athletes, dateOfToday()));
    order(athletes);
    const QSignalBlocker quiet(m_list);
    m_list->clear();
    int row = -1;
    for (const auto& a : athletes) {
        auto* item = new QListWidgetItem(QString::fromStdString(a.name), m_list);
        item->setData(kIdRole, static_cast<qlonglong>(a.id.value));
        item->setData(kTeamRole, QString::fromStdString(a.team));
        if (const auto due = m_due.find(a.id); due != m_due.end()) {
            QStringList words;
            for (const auto& d : due->second)
                words << QString::fromStdString(d.text);
            item->setIcon(dueSign());
            item->setToolTip(words.join(QLatin1Char('\n')));
        }
        if (a.id == m_current)
            row = m_list->count() - 1;
    }
    if (row < 0 && !athletes.empty())
        row = 0;
    m_list->setCurrentRow(row);
    m_current = row < 0 ? store::AthleteId() : athletes[static_cast<std::size_t>(row)].id;
    m_emptyNote->setVisible(athletes.empty());
    m_search->setVisible(athletes.size() > 10);
    m_show->setVisible(athletes.size() > 1);
    m_order->setVisible(athletes.size() > 1);
    fillShow(athletes);
    m_nextDue->setVisible(!m_due.empty());
    m_nextDue->setText(tr("Due: %1 of %2").arg(m_due.size()).arg(athletes.size()));
    m_nextDue->setToolTip(tr("To the next athlete for whom something is due (Ctrl+U)"));
    filterAthletes(m_search->isHidden() ? QString() : m_search->text());
    refreshDetails();
}

/// What is due, or who was filmed last, first; those that come alike by name.
void RosterView::order(std::vector<store::Athlete>& athletes) const
{
    if (m_order->currentIndex() == 1)
        std::stable_sort(athletes.begin(), athletes.end(), [this](const store::Athlete& a, const store::Athlete& b) {
            const auto rank = [this](const store::Athlete& x) {
                const auto it = m_due.find(x.id);
                return it == m_due.end() ? 99 : static_cast<int>(it->second.front().kind);
            };
            return rank(a) < rank(b);
        });
    if (m_order->currentIndex() == 2) {
        const auto last = m_workspace.library().days().lastDates().value_or(std::map<store::AthleteId, std::string>());
        const auto dateOf = [&](const store::Athlete& x) {
            const auto it = last.find(x.id);
            return it == last.end() ? std::string() : it->second;
        };
        std::stable_sort(athletes.begin(), athletes.end(),
                         [&](const store::Athlete& a, const store::Athlete& b) { return dateOf(a) > dateOf(b); });
    }
}

/// Everyone, what is due, each team, each skill that was filmed.
void RosterView::fillShow(const std::vector<store::Athlete>& athletes)
{
    const QVariant chosen = m_show->currentData();
    m_show->clear();
    m_show->addItem(tr("everyone"), QString());
    m_show->addItem(tr("for whom something is due"), QStringLiteral("due"));
    std::set<std::string> teams;
    for (const auto& a : athletes)
        if (!a.team.empty())
            teams.insert(a.team);
    for (const auto& team : teams)
        m_show->addItem(tr("team %1").arg(QString::fromStdString(team)), QStringLiteral("team:") + QString::fromStdString(team));
    m_withSkill.clear();
    for (const auto& pack : m_workspace.packs())
        if (auto who = m_workspace.library().days().withSkill(pack.id); who && !who->empty()) {
            m_withSkill[pack.id] = std::move(*who);
            m_show->addItem(QString::fromStdString(pack.name), QStringLiteral("skill:") + QString::fromStdString(pack.id));
        }
    m_show->setCurrentIndex(std::max(0, m_show->findData(chosen)));
}

bool RosterView::isShown(const QListWidgetItem& item) const
{
    const QString show = m_show->currentData().toString();
    const store::AthleteId id(item.data(kIdRole).toLongLong());
    if (show == QStringLiteral("due"))
        return m_due.count(id) > 0;
    if (show.startsWith(QStringLiteral("team:")))
        return item.data(kTeamRole).toString() == show.mid(5);
    if (show.startsWith(QStringLiteral("skill:"))) {
        const auto it = m_withSkill.find(show.mid(6).toStdString());
        return it != m_withSkill.end() && it->second.count(id) > 0;
    }
    return true;
}

void RosterView::goToNextDue()
{
    const int count = m_list->count();
    for (int step = 1; step <= count; ++step) {
        const int row = (std::max(0, m_list->currentRow()) + step) % count;
        if (!m_list->isRowHidden(row) && m_due.count(store::AthleteId(m_list->item(row)->data(kIdRole).toLongLong()))) {
            m_list->setCurrentRow(row);
            return;
        }
    }
}

void RosterView::filterAthletes(const QString& typed)
{
    const QString words = typed.trimmed();
    int first = -1;
    for (int i = 0; i < m_list->count(); ++i) {
        const auto* item = m_list->item(i);
        const bool fits = (words.isEmpty() || item->text().contains(words, Qt::CaseInsensitive)) && isShown(*item);
        m_list->setRowHidden(i, !fits);
        if (fits && first < 0)
            first = i;
    }
    if (first >= 0 && (m_list->currentRow() < 0 || m_list->isRowHidden(m_list->currentRow())))
        m_list->setCurrentRow(first);
}

void RosterView::refreshDetails()
{
    const auto athlete = m_current.isValid() ? m_workspace.library().athletes().find(m_current) : tl::unexpected(Error{});
    if (!athlete) {
        m_right->setCurrentWidget(m_list->count() == 0 ? m_welcome : m_nobody);
        return;
    }
    m_right->setCurrentWidget(m_details);
    m_name->setText(m_name->fontMetrics().elidedText(QString::fromStdString(athlete->name), Qt::ElideRight, kWidestName));
    m_name->setToolTip(QString::fromStdString(athlete->name));
    QStringList facts;
    if (const auto age = store::ageOn(athlete->birthDate, today().toStdString()))
        facts << tr("%1 years").arg(static_cast<int>(*age));
    const bool isRight = athlete->hand == Hand::Right;
    facts << (athlete->batHand == athlete->hand ? (isRight ? tr("right-handed") : tr("left-handed"))
              : isRight                         ? tr("throws right, bats left")
                                                : tr("throws left, bats right"));
    const auto height = store::heightOn(athlete->heights, today().toStdString());
    facts << (height ? tr("%1 m").arg(*height, 0, 'f', 2) : tr("height not known"));
    if (const auto left = leftWords(m_workspace.library(), m_current, dateOfToday()); !left.empty())
        facts << QString::fromStdString(left);
    if (!athlete->level.empty())
        facts << QString::fromStdString(athlete->level).left(40);
    const QString said = facts.join(QStringLiteral(" · "));
    m_facts->setText(m_facts->fontMetrics().elidedText(said, Qt::ElideRight, kWidestHead - m_name->sizeHint().width()));
    m_facts->setToolTip(said);
    QStringList due;
    if (const auto it = m_due.find(m_current); it != m_due.end())
        for (const auto& d : it->second)
            due << QString::fromStdString(d.text);
    m_dueWords->setText(due.isEmpty() ? QString() : tr("Due: %1.").arg(due.join(QStringLiteral(". "))));
    m_dueWords->setVisible(!due.isEmpty());
    m_dueWords->setStyleSheet(QStringLiteral("color:%1").arg(colours().chestnut.name()));
    m_consent->setVisible(!athlete->guardianConsent);
    m_consent->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
    m_cards.clear();
    while (QLayoutItem* item = m_dayList->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
    const auto days = m_workspace.valueOr(m_workspace.library().days().of(m_current));
    for (const auto& d : days) {
        auto* card = new DayCard(m_workspace, d, m_posters, m_days);
        connect(card, &DayCard::clipChosen, this, &RosterView::clipChosen);
        connect(card, &DayCard::clipMenuWanted, this, &RosterView::showClipMenu);
        connect(card, &DayCard::filmsDropped, this, [this, id = d.id](const QStringList& files) { addClips(files, id); });
        connect(card, &DayCard::addClipsWanted, this,
                [this, id = d.id] { addClips(askForFiles(this, FilePurpose::Films, tr("Add clips"), filmFilter()), id); });
        m_dayList->addWidget(card);
        m_cards.push_back(card);
    }
    if (days.empty()) {
        auto* note = new QLabel(tr("No film yet. Drop films here, or add a filming day."), m_days);
        note->setProperty("muted", true);
        m_dayList->addWidget(note);
    }
    m_dayList->addStretch();
    QMetaObject::invokeMethod(this, &RosterView::showTiles, Qt::QueuedConnection);
}

void RosterView::showClipMenu(store::ClipId clip, QPoint at)
{
    auto* menu = new QMenu(this);
    menu->setObjectName(QStringLiteral("clipMenu"));
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("Bring to the bench"), this, [this, clip] { emit clipChosen(clip); });
    menu->addAction(tr("Compare with…"), this, [this, clip] { emit comparisonWanted(clip); });
    menu->addAction(tr("Move to another day…"), this, [this, clip] {
        std::vector<Chooser::Item> days;
        const auto from = m_workspace.library().clips().find(clip);
        for (const auto& d : m_workspace.valueOr(m_workspace.library().days().of(m_current))) {
            const Pack* pack = m_workspace.findPack(d.skill);
            if (from && d.id != from->day)
                days.push_back(
                    {longDate(d.date), static_cast<qlonglong>(d.id.value), QString::fromStdString(pack ? pack->name : d.skill)});
        }
        if (days.empty())
            emit m_workspace.failed({ErrorCode::NotFound, "There is no other filming day; add one first.", {}, {}});
        else
            Chooser::ask(this, tr("To which day?"), days,
                         [this, clip](const QVariant& id) { moveClip(m_workspace, clip, store::DayId(id.toLongLong())); });
    });
    menu->addAction(tr("Move to another athlete…"), this, [this, clip] {
        std::vector<Chooser::Item> others;
        for (const auto& a : m_workspace.valueOr(m_workspace.library().athletes().all()))
            if (a.id != m_current)
                others.push_back({QString::fromStdString(a.name), static_cast<qlonglong>(a.id.value)});
        if (others.empty())
            emit m_workspace.failed({ErrorCode::NotFound, "There is no other athlete; add one first.", {}, {}});
        else
            Chooser::ask(this, tr("Whose clip is it?"), others,
                         [this, clip](const QVariant& id) { moveClip(m_workspace, clip, store::AthleteId(id.toLongLong())); });
    });
    menu->addSeparator();
    menu->addAction(tr("Remove the clip"), this, [this, clip] { removeRow(m_workspace, tr("remove the clip"), clip); });
    menu->popup(at);
}

/// A clip dragged onto a name in the list goes to that athlete.
bool RosterView::eventFilter(QObject* object, QEvent* event)
{
    if (event->type() != QEvent::DragEnter && event->type() != QEvent::DragMove && event->type() != QEvent::Drop)
        return QWidget::eventFilter(object, event);
    auto* drop = static_cast<QDropEvent*>(event);
    const QByteArray clip = drop->mimeData()->data(ClipTile::mimeType());
    if (clip.isEmpty())
        return QWidget::eventFilter(object, event);
    QListWidgetItem* item = m_list->itemAt(drop->position().toPoint());
    if (event->type() == QEvent::Drop && item) {
        const store::AthleteId to(item->data(kIdRole).toLongLong());
        QMetaObject::invokeMethod(
            this, [this, id = store::ClipId(clip.toLongLong()), to] { moveClip(m_workspace, id, to); }, Qt::QueuedConnection);
    }
    drop->setDropAction(Qt::MoveAction);
    drop->setAccepted(event->type() != QEvent::Drop || item);
    return true;
}

void RosterView::startNew()
{
    m_form->edit({});
    m_right->setCurrentWidget(m_formPage);
}

void RosterView::startEdit()
{
    if (const auto athlete = m_workspace.library().athletes().find(m_current)) {
        m_form->edit(*athlete);
        m_right->setCurrentWidget(m_formPage);
    }
}

void RosterView::storeAthlete(const store::Athlete& athlete)
{
    if (athlete.id.isValid()) {
        if (const auto before = m_workspace.library().athletes().find(athlete.id))
            changeRow(m_workspace, tr("edit %1").arg(QString::fromStdString(athlete.name)), *before, athlete);
    } else if (const auto id = addRow(m_workspace, tr("add %1").arg(QString::fromStdString(athlete.name)), athlete);
               id.isValid()) {
        select(id);
        refreshDetails();
        m_addDay->setFocus(); // what comes next
        return;
    }
    refreshDetails();
}

void RosterView::removeCurrent()
{
    if (const auto removed = removeAthlete(m_workspace, m_current))
        emit athleteRemoved(*removed);
}

void RosterView::select(store::AthleteId id)
{
    for (int i = 0; i < m_list->count(); ++i)
        if (m_list->item(i)->data(kIdRole).toLongLong() == id.value)
            m_list->setCurrentRow(i);
}

void RosterView::addDay(QWidget* over, std::function<void(store::DayId)> then, std::function<void()> otherwise)
{
    // somebody removed while this view was hidden is still chosen here
    if (!m_workspace.library().athletes().find(m_current) || m_workspace.packs().empty()) {
        if (otherwise)
            otherwise();
        return;
    }
    const auto last = m_workspace.valueOr(m_workspace.library().days().latest(m_current));
    auto* chooser = Chooser::ask(
        over, tr("Which skill was filmed?"), skillChoices(m_workspace, last ? last->skill : std::string(), tr("as last time")),
        [this, athlete = m_current, then](const QVariant& skill) {
            const Pack* pack = m_workspace.findPack(skill.toString().toStdString());
            if (!pack)
                return;
            const auto id = addRow(m_workspace, tr("add a filming day"), newDay(athlete, today().toStdString(), *pack));
            if (id.isValid() && then)
                then(id);
        });
    if (otherwise)
        connect(chooser, &Chooser::dismissed, this, otherwise);
}

void RosterView::withDayOfToday(QWidget* over, std::function<void(store::DayId)> then, std::function<void()> otherwise)
{
    if (m_current.isValid())
        for (const auto& d : m_workspace.valueOr(m_workspace.library().days().of(m_current)))
            if (d.date == today().toStdString())
                return then(d.id);
    addDay(over, std::move(then), std::move(otherwise));
}

void RosterView::addClips(const QStringList& files, store::DayId day)
{
    if (files.isEmpty())
        return;
    if (!m_current.isValid()) {
        emit m_workspace.failed({ErrorCode::BadArgument, "Choose or add the athlete first, then drop the films.", {}, {}});
        return;
    }
    if (day.isValid())
        m_import.add(day, files);
    else
        withDayOfToday(this, [this, files](store::DayId today) { m_import.add(today, files); });
}

void RosterView::dragEnterEvent(QDragEnterEvent* event)
{
    if (event->mimeData()->hasUrls())
        event->acceptProposedAction();
}

void RosterView::dropEvent(QDropEvent* event)
{
    QStringList files;
    for (const auto& url : event->mimeData()->urls())
        if (url.isLocalFile())
            files << url.toLocalFile();
    event->acceptProposedAction();
    addClips(files);
}

} // namespace kestrel::app
