#include "app/roster_view.h"

#include "app/athlete_form.h"
#include "app/clip_tile.h"
#include "app/film_check_card.h"
#include "app/row_edits.h"
#include "app/theme.h"

#include <QComboBox>
#include <QDate>
#include <QDateEdit>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLocale>
#include <QMimeData>
#include <QScrollArea>
#include <QToolButton>
#include <cmath>

namespace kestrel::app {

namespace {

constexpr int kIdRole = Qt::UserRole;
constexpr int kTilesPerRow = 4;

QString today()
{
    return QDate::currentDate().toString(Qt::ISODate);
}

QPushButton* addButton(QLayout* layout, QWidget* parent, const QString& text, const QString& name)
{
    auto* button = new QPushButton(text, parent);
    button->setObjectName(name);
    layout->addWidget(button);
    return button;
}

QString viewName(View v)
{
    QString word = QString::fromUtf8(wordOf(v).data(), static_cast<qsizetype>(wordOf(v).size()));
    return word.replace(QLatin1Char('_'), QLatin1Char(' '));
}

void clear(QLayout* layout)
{
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget())
            item->widget()->deleteLater();
        delete item;
    }
}

} // namespace

RosterView::RosterView(Workspace& workspace, QWidget* parent) : QWidget(parent), m_workspace(workspace), m_import(workspace)
{
    setAcceptDrops(true);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 12, 16, 16);
    row->setSpacing(16);
    row->addWidget(makeList());
    m_right = new QStackedWidget(this);
    m_nobody = new QLabel(tr("Add an athlete to begin, or choose one at the left."), m_right);
    static_cast<QLabel*>(m_nobody)->setAlignment(Qt::AlignCenter);
    m_nobody->setProperty("muted", true);
    m_form = new AthleteForm(m_right);
    m_details = makeDetails();
    m_right->addWidget(m_nobody);
    m_right->addWidget(m_details);
    m_right->addWidget(m_form);
    row->addWidget(m_right, 1);
    connect(m_form, &AthleteForm::saved, this, &RosterView::take);
    connect(m_form, &AthleteForm::cancelled, this, &RosterView::refreshDetails);
    connect(&workspace, &Workspace::changed, this, &RosterView::refresh);
    connect(&m_posters, &Posters::ready, this, &RosterView::refreshDetails);
    connect(&m_import, &ClipImport::progress, this, [this](int done, int total, const QString& file) {
        m_progressRow->setVisible(total > 0);
        m_progress->setRange(0, total);
        m_progress->setValue(done);
        m_progressText->setText(tr("Adding %1 of %2: %3").arg(done + 1).arg(total).arg(file));
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
    m_list = new QListWidget(card);
    m_list->setObjectName(QStringLiteral("athletes"));
    m_list->setAccessibleName(tr("Athletes"));
    layout->addWidget(m_list, 1);
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
    m_facts = new QLabel(page);
    m_facts->setProperty("muted", true);
    top->addWidget(m_name);
    top->addWidget(m_facts);
    top->addStretch();
    connect(addButton(top, page, tr("Edit"), QStringLiteral("editAthlete")), &QPushButton::clicked, this, &RosterView::startEdit);
    connect(addButton(top, page, tr("Remove"), QStringLiteral("removeAthlete")), &QPushButton::clicked, this,
            &RosterView::removeCurrent);
    auto* day = addButton(top, page, tr("New filming day"), QStringLiteral("addDay"));
    day->setProperty("primary", true);
    connect(day, &QPushButton::clicked, this, [this] { addDay(); });
    layout->addLayout(top);
    m_consent = new QLabel(tr("No guardian has agreed to filming yet. Ask before you film, and note it under Edit."), page);
    m_consent->setWordWrap(true);
    layout->addWidget(m_consent);
    m_progressRow = new QWidget(page);
    auto* progress = new QHBoxLayout(m_progressRow);
    progress->setContentsMargins(0, 0, 0, 0);
    m_progressText = new QLabel(m_progressRow);
    m_progress = new QProgressBar(m_progressRow);
    m_progress->setTextVisible(false);
    m_progress->setFixedHeight(8);
    progress->addWidget(m_progressText);
    progress->addWidget(m_progress, 1);
    connect(addButton(progress, m_progressRow, tr("Cancel"), QStringLiteral("cancelImport")), &QPushButton::clicked, &m_import,
            &ClipImport::cancel);
    m_progressRow->hide();
    layout->addWidget(m_progressRow);
    m_check = new FilmCheckCard(m_workspace, page);
    m_check->hide();
    connect(&m_import, &ClipImport::added, m_check, &FilmCheckCard::show);
    layout->addWidget(m_check);
    auto* scroll = new QScrollArea(page);
    scroll->setWidgetResizable(true);
    m_days = new QWidget(scroll);
    m_dayList = new QVBoxLayout(m_days);
    m_dayList->setContentsMargins(0, 0, 8, 0);
    m_dayList->setSpacing(12);
    scroll->setWidget(m_days);
    layout->addWidget(scroll, 1);
    return page;
}

void RosterView::showEvent(QShowEvent*)
{
    if (m_stale)
        refresh();
}

void RosterView::refresh()
{
    m_stale = window()->isVisible() && !isVisible(); // before the first showing everything is made at once
    if (m_stale)
        return;
    const auto athletes = m_workspace.valueOr(m_workspace.library().athletes());
    const QSignalBlocker quiet(m_list);
    m_list->clear();
    int row = -1;
    for (const auto& a : athletes) {
        auto* item = new QListWidgetItem(QString::fromStdString(a.name), m_list);
        item->setData(kIdRole, static_cast<qlonglong>(a.id.value));
        if (a.id == m_current)
            row = m_list->count() - 1;
    }
    if (row < 0 && !athletes.empty())
        row = 0;
    m_list->setCurrentRow(row);
    m_current = row < 0 ? store::AthleteId() : athletes[static_cast<std::size_t>(row)].id;
    m_emptyNote->setVisible(athletes.empty());
    refreshDetails();
}

void RosterView::refreshDetails()
{
    const auto athlete = m_current.isValid() ? m_workspace.library().athlete(m_current) : tl::unexpected(Error{});
    if (!athlete) {
        m_right->setCurrentWidget(m_nobody);
        return;
    }
    m_right->setCurrentWidget(m_details);
    m_name->setText(QString::fromStdString(athlete->name));
    QStringList facts;
    if (const auto age = store::ageOn(athlete->birthDate, today().toStdString()))
        facts << tr("%1 years").arg(static_cast<int>(*age));
    facts << (athlete->hand == Hand::Right ? tr("right-handed") : tr("left-handed"));
    facts << (athlete->heightMetres ? tr("%1 m").arg(*athlete->heightMetres, 0, 'f', 2) : tr("height not known"));
    m_facts->setText(facts.join(QStringLiteral(" · ")));
    m_consent->setVisible(!athlete->guardianConsent);
    m_consent->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(tokens().alert.name()));
    clear(m_dayList);
    const auto days = m_workspace.valueOr(m_workspace.library().days(m_current));
    for (const auto& d : days)
        m_dayList->addWidget(makeDay(d));
    if (days.empty()) {
        auto* note = new QLabel(tr("No film yet. Drop films here, or add a filming day."), m_days);
        note->setProperty("muted", true);
        m_dayList->addWidget(note);
    }
    m_dayList->addStretch();
}

QWidget* RosterView::makeDay(const store::FilmingDay& day)
{
    auto* card = new QFrame(m_days);
    card->setProperty("card", true);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(14, 10, 14, 12);
    auto* top = new QHBoxLayout;
    const Pack* pack = m_workspace.findPack(day.skill);
    auto* head = new QDateEdit(QDate::fromString(QString::fromStdString(day.date), Qt::ISODate), card);
    head->setObjectName(QStringLiteral("date"));
    head->setProperty("flat", true);
    head->setLocale(QLocale(QLocale::English));
    head->setDisplayFormat(QStringLiteral("d MMMM yyyy"));
    head->setButtonSymbols(QAbstractSpinBox::NoButtons);
    head->setToolTip(tr("When it was filmed; the age follows from it"));
    connect(head, &QDateEdit::editingFinished, this, [this, head, day] {
        store::FilmingDay after = day;
        after.date = head->date().toString(Qt::ISODate).toStdString();
        if (!(after == day))
            changeRow(m_workspace, tr("change the date"), day, after);
    });
    auto* skill = new QLabel(
        pack ? QString::fromStdString(pack->name) : tr("%1 (pack missing)").arg(QString::fromStdString(day.skill)), card);
    skill->setProperty("muted", true);
    top->addWidget(head);
    top->addWidget(skill);
    top->addStretch();
    if (pack && pack->schools.size() > 1) {
        auto* school = new QComboBox(card);
        school->setToolTip(tr("The school this day is judged by"));
        for (const auto& s : pack->schools)
            school->addItem(tr("%1 school").arg(QString::fromStdString(s.name).toLower()), QString::fromStdString(s.id));
        school->setCurrentIndex(std::max(0, school->findData(QString::fromStdString(day.school))));
        connect(school, &QComboBox::activated, this, [this, school, day] {
            store::FilmingDay after = day;
            after.school = school->currentData().toString().toStdString();
            changeRow(m_workspace, tr("choose the school"), day, after);
        });
        top->addWidget(school);
    }
    connect(addButton(top, card, tr("Add clips…"), QStringLiteral("addClips")), &QPushButton::clicked, this,
            [this, id = day.id] { chooseFiles(id); });
    auto* remove = new QToolButton(card);
    remove->setProperty("flat", true);
    remove->setIcon(Theme::icon(QStringLiteral("remove"), tokens().muted));
    remove->setToolTip(tr("Remove this filming day (the films stay on the disk)"));
    connect(remove, &QToolButton::clicked, this,
            [this, id = day.id] { removeRow<store::DayRecord>(m_workspace, tr("remove the filming day"), id); });
    top->addWidget(remove);
    layout->addLayout(top);
    const auto clips = m_workspace.valueOr(m_workspace.library().clips(day.id));
    if (clips.empty()) {
        auto* note = new QLabel(tr("Drop films here, or press Add clips."), card);
        note->setProperty("muted", true);
        layout->addWidget(note);
        return card;
    }
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(10);
    int n = 0;
    for (const auto& c : clips) {
        grid->addWidget(makeTile(day, c), n / kTilesPerRow, n % kTilesPerRow);
        ++n;
    }
    grid->setColumnStretch(kTilesPerRow, 1);
    layout->addLayout(grid);
    return card;
}

QWidget* RosterView::makeTile(const store::FilmingDay& day, const store::Clip& clip)
{
    const auto marking = m_workspace.valueOr(m_workspace.library().marking(clip.id));
    const Pack* pack = m_workspace.findPack(day.skill);
    const auto repetitions = m_workspace.valueOr(m_workspace.library().repetitions(clip.id)).size();
    const auto placed = static_cast<int>(marking.events.size());
    const int all = pack ? static_cast<int>(pack->keyPositions.size()) : 0;
    const QString state = repetitions > 1 ? tr("%1 repetitions").arg(repetitions)
                          : placed == 0   ? tr("not marked yet")
                                          : tr("%1 of %2 key positions").arg(placed).arg(all);
    const QString variant = marking.variant == "windup" ? tr("wind-up") : QString::fromStdString(marking.variant);
    const Event* strike = findEvent(marking, "strike");
    const FrameIndex shown(strike ? std::llround(strike->frame.value) : clip.film.frames / 2);
    auto* tile = new ClipTile(variant + tr(", %1 view").arg(viewName(clip.scene.view)), state,
                              m_posters.poster(clip.id, m_workspace.library().filmPath(clip), shown), m_days);
    tile->setProperty("clip", static_cast<qlonglong>(clip.id.value));
    tile->installEventFilter(this);
    connect(tile, &ClipTile::clicked, this, [this, id = clip.id] { emit clipChosen(id); });
    return tile;
}

bool RosterView::eventFilter(QObject* object, QEvent* event)
{
    if (event->type() == QEvent::KeyPress) {
        const auto key = static_cast<QKeyEvent*>(event)->key();
        const store::ClipId id(object->property("clip").toLongLong());
        if (key == Qt::Key_Delete) {
            removeRow<store::ClipRecord>(m_workspace, tr("remove the clip"), id);
            return true;
        }
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            emit clipChosen(id);
            return true;
        }
    }
    return QWidget::eventFilter(object, event);
}

void RosterView::startNew()
{
    m_form->edit({});
    m_right->setCurrentWidget(m_form);
}

void RosterView::startEdit()
{
    if (const auto athlete = m_workspace.library().athlete(m_current)) {
        m_form->edit(*athlete);
        m_right->setCurrentWidget(m_form);
    }
}

void RosterView::take(const store::Athlete& athlete)
{
    if (athlete.id.isValid()) {
        if (const auto before = m_workspace.library().athlete(athlete.id))
            changeRow(m_workspace, tr("edit %1").arg(QString::fromStdString(athlete.name)), *before, athlete);
    } else if (const auto id =
                   addRow<store::AthleteRecord>(m_workspace, tr("add %1").arg(QString::fromStdString(athlete.name)), athlete);
               id.isValid()) {
        select(id);
    }
    refreshDetails();
}

void RosterView::removeCurrent()
{
    if (const auto athlete = m_workspace.library().athlete(m_current))
        removeRow<store::AthleteRecord>(m_workspace, tr("remove %1").arg(QString::fromStdString(athlete->name)), m_current);
}

void RosterView::select(store::AthleteId id)
{
    for (int i = 0; i < m_list->count(); ++i)
        if (m_list->item(i)->data(kIdRole).toLongLong() == id.value)
            m_list->setCurrentRow(i);
}

store::DayId RosterView::addDay()
{
    if (!m_current.isValid() || m_workspace.packs().empty())
        return {};
    const Pack& pack = m_workspace.packs().front();
    store::FilmingDay day;
    day.athlete = m_current;
    day.date = today().toStdString();
    day.skill = pack.id;
    day.school = pack.schools.empty() ? "" : pack.schools.front().id;
    return addRow<store::DayRecord>(m_workspace, tr("add a filming day"), day);
}

store::DayId RosterView::dayOfToday()
{
    if (m_current.isValid())
        for (const auto& d : m_workspace.valueOr(m_workspace.library().days(m_current)))
            if (d.date == today().toStdString())
                return d.id;
    return addDay();
}

void RosterView::chooseFiles(store::DayId day)
{
    const QStringList files = QFileDialog::getOpenFileNames(
        this, tr("Add clips"), {}, tr("Films (*.mp4 *.mov *.m4v *.avi *.webm *.mkv *.mpg *.3gp);;All files (*)"));
    if (!files.isEmpty())
        addClips(files, day);
}

void RosterView::addClips(const QStringList& files, store::DayId day)
{
    if (!m_current.isValid()) {
        emit m_workspace.failed({ErrorCode::BadArgument, "Choose or add the athlete first, then drop the films.", {}, {}});
        return;
    }
    if (!day.isValid())
        day = dayOfToday();
    if (day.isValid())
        m_import.add(day, files);
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
    if (!files.isEmpty())
        addClips(files);
    event->acceptProposedAction();
}

} // namespace kestrel::app
