#include "app/roster/day_card.h"

#include "app/roster/day_form.h"
#include "app/shell/date_field.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"
#include "app/workspace/day_edits.h"
#include "app/workspace/row_edits.h"

#include <QComboBox>
#include <QDateEdit>
#include <QDragEnterEvent>
#include <QHBoxLayout>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QToolButton>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kWidestSkill = 260;

} // namespace

std::vector<Chooser::Item> skillChoices(const Workspace& workspace, const std::string& first, const QString& note)
{
    std::vector<Chooser::Item> items;
    for (const auto& p : workspace.packs())
        items.push_back({text(p.name), text(p.id), workspace.isOwnPack(p.id) ? Chooser::tr("your own version") : QString()});
    std::stable_sort(items.begin(), items.end(),
                     [](const auto& a, const auto& b) { return a.text.localeAwareCompare(b.text) < 0; });
    const auto it = std::find_if(items.begin(), items.end(), [&](const auto& i) { return i.value.toString() == text(first); });
    if (it != items.end()) {
        it->note = note;
        std::rotate(items.begin(), it, it + 1);
    }
    return items;
}

DayCard::DayCard(Workspace& workspace, const store::FilmingDay& day, Posters& posters, QWidget* parent)
    : QFrame(parent), m_workspace(workspace), m_day(day)
{
    setProperty("card", true);
    setObjectName(QStringLiteral("day"));
    setAcceptDrops(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(14, 10, 14, 12);
    layout->addLayout(makeHead());
    if (auto* notes = makeNotes())
        layout->addWidget(notes);
    auto clips = m_workspace.valueOr(m_workspace.library().clips().summaries(day.id));
    if (clips.empty()) {
        auto* note = new QLabel(tr("Drop films here, or press Add clips."), this);
        note->setProperty("muted", true);
        layout->addWidget(note);
        return;
    }
    std::vector<std::string> files;
    for (const auto& c : clips)
        files.push_back(m_workspace.library().filmPath(c.clip));
    m_grid = new ClipGrid(std::move(clips), std::move(files), m_workspace.findPack(day.skill), posters, this);
    layout->addWidget(m_grid);
    connect(m_grid, &ClipGrid::chosen, this, &DayCard::clipChosen);
    connect(m_grid, &ClipGrid::menuWanted, this, &DayCard::clipMenuWanted);
    connect(m_grid, &ClipGrid::removeWanted, this,
            [this](store::ClipId id) { removeRow(m_workspace, tr("remove the clip"), id); });
}

QLayout* DayCard::makeHead()
{
    auto* top = new QHBoxLayout;
    const Pack* pack = m_workspace.findPack(m_day.skill);
    auto* head = new DateField(this, QDate::fromString(text(m_day.date), Qt::ISODate));
    head->setObjectName(QStringLiteral("date"));
    head->setProperty("flat", true);
    head->setDisplayFormat(QStringLiteral("d MMMM yyyy"));
    head->setButtonSymbols(QAbstractSpinBox::NoButtons);
    head->setToolTip(tr("When it was filmed; the age and the height follow from it"));
    connect(head, &QDateEdit::editingFinished, this, [this, head] {
        store::FilmingDay after = m_day;
        after.date = head->date().toString(Qt::ISODate).toStdString();
        if (!(after == m_day))
            changeRow(m_workspace, tr("change the date"), m_day, after);
    });
    auto* skill = new QToolButton(this);
    skill->setObjectName(QStringLiteral("skill"));
    skill->setProperty("flat", true);
    const QString name = pack ? text(pack->name) : tr("%1 (pack missing)").arg(text(m_day.skill));
    skill->setText(skill->fontMetrics().elidedText(name, Qt::ElideRight, kWidestSkill));
    skill->setIcon(Theme::icon(QStringLiteral("open-list"), colours().muted));
    skill->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    skill->setLayoutDirection(Qt::RightToLeft);
    skill->setToolTip(tr("The skill this day is read and judged by. Marks stay when it is changed."));
    connect(skill, &QToolButton::clicked, this, &DayCard::askForSkill);
    top->addWidget(head);
    top->addWidget(skill);
    top->addStretch();
    if (pack && pack->schools.size() > 1) {
        auto* school = new QComboBox(this);
        school->setToolTip(tr("The school this day is judged by"));
        for (const auto& s : pack->schools)
            school->addItem(tr("%1 school").arg(text(s.name).toLower()), text(s.id));
        school->setCurrentIndex(std::max(0, school->findData(text(m_day.school))));
        connect(school, &QComboBox::activated, this, [this, school] {
            store::FilmingDay after = m_day;
            after.school = school->currentData().toString().toStdString();
            changeRow(m_workspace, tr("choose the school"), m_day, after);
        });
        top->addWidget(school);
    }
    auto* notes = new QPushButton(tr("Notes…"), this);
    notes->setObjectName(QStringLiteral("dayNotes"));
    notes->setToolTip(tr("The kind of practice, a note, and whether something hurts"));
    connect(notes, &QPushButton::clicked, this, [this, notes] { new DayForm(m_workspace, m_day, notes); });
    top->addWidget(notes);
    auto* add = new QPushButton(tr("Add clips…"), this);
    add->setObjectName(QStringLiteral("addClips"));
    connect(add, &QPushButton::clicked, this, &DayCard::addClipsWanted);
    top->addWidget(add);
    auto* remove = new QToolButton(this);
    remove->setProperty("flat", true);
    remove->setIcon(Theme::icon(QStringLiteral("remove"), colours().muted));
    remove->setToolTip(tr("Remove this filming day (the films stay on the disk)"));
    connect(remove, &QToolButton::clicked, this, [this] { removeRow(m_workspace, tr("remove the filming day"), m_day.id); });
    top->addWidget(remove);
    return top;
}

/// Null: nothing is noted.
QWidget* DayCard::makeNotes()
{
    QStringList said;
    for (const auto* words : {&m_day.kind, &m_day.note})
        if (!words->empty())
            said << text(*words);
    if (said.isEmpty() && m_day.pain.empty())
        return nullptr;
    auto* label = new QLabel(this);
    label->setObjectName(QStringLiteral("daySaid"));
    label->setTextFormat(Qt::PlainText);
    label->setWordWrap(true);
    label->setMinimumWidth(1);
    if (m_day.pain.empty()) {
        label->setProperty("muted", true);
    } else {
        label->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
        said.prepend(text(sentenceAboutPain(m_day.pain)));
    }
    label->setText(said.join(QStringLiteral(" · ")));
    return label;
}

void DayCard::askForSkill()
{
    Chooser::ask(this, tr("Which skill was filmed?"), skillChoices(m_workspace, m_day.skill, tr("as it is now")),
                 [&workspace = m_workspace, day = m_day](const QVariant& id) {
                     if (const Pack* pack = workspace.findPack(id.toString().toStdString()))
                         setSkill(workspace, day, *pack);
                 });
}

void DayCard::showPart(const QRect& part)
{
    if (m_grid)
        m_grid->showPart(part.isEmpty() ? QRect() : part.translated(-m_grid->pos()));
}

void DayCard::dragEnterEvent(QDragEnterEvent* event)
{
    if (event->mimeData()->hasUrls() || event->mimeData()->hasFormat(ClipTile::mimeType()))
        event->acceptProposedAction();
}

void DayCard::dropEvent(QDropEvent* event)
{
    if (const QByteArray clip = event->mimeData()->data(ClipTile::mimeType()); !clip.isEmpty()) {
        event->setDropAction(Qt::MoveAction);
        event->accept();
        // once the drag is over: its tile goes away with the move
        QMetaObject::invokeMethod(
            &m_workspace, [&w = m_workspace, id = store::ClipId(clip.toLongLong()), to = m_day.id] { moveClip(w, id, to); },
            Qt::QueuedConnection);
        return;
    }
    QStringList files;
    for (const auto& url : event->mimeData()->urls())
        if (url.isLocalFile())
            files << url.toLocalFile();
    event->acceptProposedAction();
    if (!files.isEmpty())
        emit filmsDropped(files);
}

} // namespace kestrel::app
