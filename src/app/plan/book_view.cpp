#include "app/plan/book_view.h"

#include "app/shell/date_field.h"
#include "app/shell/dates.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/number_field.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"
#include "core/base/part_file.h"
#include "core/plan/book_csv.h"

#include <QFile>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace kestrel::app {

namespace {

constexpr int kDaysShown = 60;

/// "52 pitches, effort 6, pain: elbow"
QString summaryOf(const BookDay& day)
{
    QStringList parts;
    for (const auto& [kind, count] : day.counts)
        parts << BookView::tr("%1 x %2").arg(count).arg(text(kind));
    if (day.attempted > 0)
        parts << BookView::tr("%1 of %2 made").arg(day.made).arg(day.attempted);
    if (!day.drills.empty())
        parts << BookView::tr("%1 drills").arg(day.drills.size());
    if (day.effort)
        parts << BookView::tr("effort %1").arg(*day.effort);
    for (const auto& p : day.pain)
        parts << BookView::tr("pain: %1").arg(text(std::string(wordOf(p.where))));
    if (!day.note.empty())
        parts << text(day.note);
    return parts.join(QStringLiteral(", "));
}

} // namespace

BookView::BookView(PlanContext& context, QWidget* parent) : QWidget(parent), m_context(context), m_date(context.today())
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(16);
    auto* left = new QVBoxLayout;
    m_days = new QListWidget(this);
    m_days->setObjectName(QStringLiteral("bookDays"));
    m_days->setAccessibleName(tr("Days of the book"));
    left->addWidget(m_days, 1);
    m_offerBox = new QFrame(this);
    m_offerBox->setProperty("card", true);
    auto* offer = new QVBoxLayout(m_offerBox);
    m_offer = new QLabel(m_offerBox);
    m_offer->setObjectName(QStringLiteral("tableOffer"));
    m_offer->setWordWrap(true);
    m_offer->setTextFormat(Qt::PlainText);
    offer->addWidget(m_offer);
    auto* answers = new QHBoxLayout;
    auto* take = new QPushButton(tr("Take them"), m_offerBox);
    take->setObjectName(QStringLiteral("takeTable"));
    take->setProperty("primary", true);
    auto* leave = new QPushButton(tr("Leave it"), m_offerBox);
    answers->addWidget(take);
    answers->addWidget(leave);
    answers->addStretch();
    offer->addLayout(answers);
    connect(take, &QPushButton::clicked, this, &BookView::takeTable);
    connect(leave, &QPushButton::clicked, m_offerBox, &QWidget::hide);
    m_offerBox->hide();
    left->addWidget(m_offerBox);
    auto* files = new QHBoxLayout;
    auto* in = new QPushButton(tr("Read a table…"), this);
    in->setToolTip(tr("CSV: what each column is taken for is shown before anything is stored"));
    auto* out = new QPushButton(tr("Write a table…"), this);
    files->addWidget(in);
    files->addWidget(out);
    left->addLayout(files);
    row->addLayout(left, 1);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFixedWidth(430);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_form = makeForm();
    scroll->setWidget(m_form);
    row->addWidget(scroll);
    connect(in, &QPushButton::clicked, this, [this] {
        const QString file =
            askForFile(this, FilePurpose::Documents, tr("Read a table into the book"), tr("Tables (*.csv *.tsv *.txt)"));
        if (!file.isEmpty())
            read(file);
    });
    connect(out, &QPushButton::clicked, this, [this] {
        const QString file = app::askWhereToSave(this, FilePurpose::Documents, tr("Write the book as a table"),
                                                 tr("%1 book.csv").arg(text(m_context.athlete().name)), tr("Tables (*.csv)"));
        if (!file.isEmpty())
            write(file);
    });
    connect(m_days, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (item && !m_refreshing)
            choose(*parseDate(item->data(Qt::UserRole).toString().toStdString()));
    });
    connect(&context, &PlanContext::changed, this, &BookView::refresh);
    refresh();
}

QWidget* BookView::makeForm()
{
    auto* box = new QWidget(this);
    auto* form = new QFormLayout(box);
    m_day = new DateField(box);
    m_day->setObjectName(QStringLiteral("bookDay"));
    form->addRow(tr("Day"), m_day);
    connect(m_day, &QDateEdit::dateChanged, this, [this](const QDate& d) {
        if (!m_refreshing)
            choose(dateOf(d));
    });
    const auto number = [&](const char* name, double most, const QString& tip = {}) {
        auto* field = new NumberField(box);
        field->setObjectName(QLatin1String(name));
        field->setRange(0, most);
        field->setDecimals(0);
        field->setSpecialValueText(QStringLiteral("–"));
        field->setToolTip(tip);
        connect(field, &QDoubleSpinBox::valueChanged, this, &BookView::store);
        return field;
    };
    const std::pair<const char*, QString> kinds[] = {{"pitch", tr("Pitches")},
                                                     {"serve", tr("Serves")},
                                                     {"throw", tr("Throws")},
                                                     {"swing", tr("Swings")},
                                                     {"stroke", tr("Strokes")}};
    for (const auto& [kind, words] : kinds) {
        m_counts[kind] = number(kind, 1000);
        form->addRow(words, m_counts[kind]);
    }
    m_filmed = new QPushButton(box);
    m_filmed->setObjectName(QStringLiteral("takeFilmed"));
    form->addRow(QString(), m_filmed);
    connect(m_filmed, &QPushButton::clicked, this, [this] {
        if (!m_context.pack())
            return;
        BookDay day = m_context.dayOf(m_date);
        int& count = day.counts[m_context.pack()->counts];
        // never doubled: a match may have been filmed
        count = std::max({count, m_context.filmedOn(m_date), m_context.countedInMatches(m_date)});
        m_context.setDay(tr("take over what was filmed"), day);
    });
    auto* shots = new QHBoxLayout;
    m_made = number("made", 1000);
    m_attempted = number("attempted", 1000);
    shots->addWidget(m_made);
    shots->addWidget(new QLabel(tr("of"), box));
    shots->addWidget(m_attempted);
    form->addRow(tr("Shots made"), shots);
    m_drills = new QListWidget(box);
    m_drills->setObjectName(QStringLiteral("bookDrills"));
    m_drills->setMaximumHeight(110);
    m_drills->setToolTip(tr("Tick what was done of the plan"));
    connect(m_drills, &QListWidget::itemChanged, this, &BookView::store);
    form->addRow(tr("Drills"), m_drills);
    m_minutes = number("minutes", 1000);
    m_effort = number("effort", 10, tr("1 easy to 10 all out"));
    form->addRow(tr("Minutes"), m_minutes);
    form->addRow(tr("Effort"), m_effort);
    m_catcher = new QCheckBox(tr("caught in a game that day"), box);
    m_catcher->setObjectName(QStringLiteral("catcher"));
    connect(m_catcher, &QCheckBox::toggled, this, &BookView::store);
    form->addRow(QString(), m_catcher);
    auto* pain = new QHBoxLayout;
    m_painWhere = new QComboBox(box);
    m_painWhere->setObjectName(QStringLiteral("painWhere"));
    m_painWhere->addItem(tr("none"), QString());
    for (const auto region : kBodyRegions)
        m_painWhere->addItem(text(std::string(wordOf(region))), text(std::string(wordOf(region))));
    m_painLevel = number("painLevel", 10, tr("1 a little to 10"));
    connect(m_painWhere, &QComboBox::activated, this, [this] {
        m_painLevel->setValue(m_painWhere->currentIndex() == 0 ? 0 : std::max(1.0, m_painLevel->value()));
        store();
    });
    pain->addWidget(m_painWhere, 1);
    pain->addWidget(m_painLevel);
    form->addRow(tr("Pain"), pain);
    m_mood = new QLineEdit(box);
    m_note = new QLineEdit(box);
    m_mood->setObjectName(QStringLiteral("mood"));
    m_note->setObjectName(QStringLiteral("bookNote"));
    for (auto* edit : {m_mood, m_note})
        connect(edit, &QLineEdit::editingFinished, this, &BookView::store);
    form->addRow(tr("Mood"), m_mood);
    form->addRow(tr("Note"), m_note);
    m_said = new QLabel(box);
    m_said->setObjectName(QStringLiteral("bookSaid"));
    m_said->setWordWrap(true);
    m_said->setTextFormat(Qt::PlainText);
    form->addRow(m_said);
    return box;
}

void BookView::choose(Date date)
{
    m_date = date;
    refresh();
}

void BookView::refresh()
{
    m_refreshing = true;
    m_days->clear();
    m_form->setEnabled(m_context.isOpen());
    // every day with something in it, and the last weeks
    std::vector<Date> days;
    for (int n = 0; n < kDaysShown; ++n)
        days.push_back(m_context.today() - std::chrono::days(n));
    for (const auto& d : m_context.book().days)
        days.push_back(d.date);
    days.push_back(m_date);
    std::sort(days.begin(), days.end(), std::greater<>());
    days.erase(std::unique(days.begin(), days.end()), days.end());
    for (const Date day : days) {
        const QString words = summaryOf(m_context.dayOf(day));
        auto* item =
            new QListWidgetItem(text(wordsOf(day)) + (words.isEmpty() ? QString() : QStringLiteral("   ") + words), m_days);
        item->setData(Qt::UserRole, text(textOf(day)));
        if (day == m_date)
            m_days->setCurrentItem(item);
    }
    refreshForm();
    m_refreshing = false;
}

void BookView::refreshForm()
{
    const BookDay day = m_context.dayOf(m_date);
    m_day->setDate(dateOf(m_date));
    for (const auto& [kind, field] : m_counts) {
        const auto it = day.counts.find(kind);
        field->setValue(it == day.counts.end() ? 0 : it->second);
    }
    m_attempted->setValue(day.attempted);
    m_made->setValue(day.made);
    m_minutes->setValue(day.minutes.value_or(0));
    m_effort->setValue(day.effort.value_or(0));
    m_catcher->setChecked(day.isCatcher);
    m_painWhere->setCurrentIndex(day.pain.empty() ? 0 : m_painWhere->findData(text(std::string(wordOf(day.pain.front().where)))));
    m_painLevel->setValue(day.pain.empty() ? 0 : day.pain.front().level);
    m_mood->setText(text(day.mood));
    m_note->setText(text(day.note));
    m_drills->clear();
    const auto addDrill = [&](const std::string& id, int sets, int reps, bool isDone) {
        const Drill* d = m_context.pack() ? m_context.pack()->findDrill(id) : nullptr;
        auto* item = new QListWidgetItem(d ? text(d->name) : text(id), m_drills);
        item->setData(Qt::UserRole, text(id));
        item->setData(Qt::UserRole + 1, QPoint(sets, reps));
        item->setFlags(item->flags() | Qt::ItemIsUserCheckable);
        item->setCheckState(isDone ? Qt::Checked : Qt::Unchecked);
    };
    for (const auto& d : day.drills)
        addDrill(d.id, d.sets, d.reps, true);
    if (m_context.plan())
        for (const auto& s : m_context.plan()->sessions)
            if (s.date == m_date)
                for (const auto& i : s.items)
                    if (std::none_of(day.drills.begin(), day.drills.end(), [&](const BookDrill& d) { return d.id == i.drill; }))
                        addDrill(i.drill, i.sets, i.reps, false);
    const int filmed = m_context.filmedOn(m_date), inMatches = m_context.countedInMatches(m_date);
    const auto counted = m_context.pack() ? day.counts.find(m_context.pack()->counts) : day.counts.end();
    const bool isOffered = m_context.pack() && !m_context.pack()->counts.empty() && m_counts.count(m_context.pack()->counts) &&
                           std::max(filmed, inMatches) > (counted == day.counts.end() ? 0 : counted->second);
    m_filmed->setVisible(isOffered);
    m_filmed->setText(filmed >= inMatches ? tr("%1 were filmed: take them over").arg(filmed)
                                          : tr("At least %1 were counted in a match: take them over").arg(inMatches));
    const Workload load = m_context.workloadOn(m_date);
    QStringList said;
    for (const auto& w : load.warnings)
        said << text(w.text);
    if (load.left && said.isEmpty())
        said << tr("%1 pitches left on this day.").arg(*load.left);
    m_said->setText(said.join(QLatin1Char('\n')));
    m_said->setStyleSheet(
        QStringLiteral("color:%1;font-weight:600").arg((load.warnings.empty() ? colours().muted : colours().alert).name()));
}

BookDay BookView::typed() const
{
    BookDay day = m_context.dayOf(m_date);
    for (const auto& [kind, field] : m_counts) {
        if (const int count = static_cast<int>(field->value()); count > 0)
            day.counts[kind] = count;
        else
            day.counts.erase(kind);
    }
    day.attempted = static_cast<int>(std::max(m_attempted->value(), m_made->value()));
    day.made = static_cast<int>(m_made->value());
    day.minutes = m_minutes->value() > 0 ? std::optional(m_minutes->value()) : std::nullopt;
    day.effort = m_effort->value() > 0 ? std::optional(static_cast<int>(m_effort->value())) : std::nullopt;
    day.isCatcher = m_catcher->isChecked();
    const auto region = findBodyRegion(m_painWhere->currentData().toString().toStdString());
    std::vector<BookPain> others(day.pain.empty() ? day.pain.begin() : day.pain.begin() + 1, day.pain.end());
    day.pain.clear();
    if (region && m_painLevel->value() > 0)
        day.pain.push_back({*region, static_cast<int>(m_painLevel->value())});
    day.pain.insert(day.pain.end(), others.begin(), others.end());
    day.mood = m_mood->text().trimmed().toStdString();
    day.note = m_note->text().trimmed().toStdString();
    day.drills.clear();
    for (int n = 0; n < m_drills->count(); ++n)
        if (const auto* item = m_drills->item(n); item->checkState() == Qt::Checked) {
            const QPoint dose = item->data(Qt::UserRole + 1).toPoint();
            day.drills.push_back({item->data(Qt::UserRole).toString().toStdString(), dose.x(), dose.y()});
        }
    return day;
}

void BookView::store()
{
    if (!m_refreshing && m_context.isOpen())
        m_context.setDay(tr("the book of %1").arg(text(textOf(m_date))), typed());
}

void BookView::read(const QString& file)
{
    QFile in(file);
    if (!in.open(QIODevice::ReadOnly))
        return emit message(tr("%1 cannot be read.").arg(file));
    const BookTable table = bookFromCsv(in.readAll().toStdString());
    if (table.days.empty())
        return emit message(
            tr("%1: nothing can be taken. %2").arg(file, text(table.problems.empty() ? "" : table.problems.front())));
    QStringList columns;
    for (const auto& [head, field] : table.columns)
        columns << (field.empty() ? tr("%1: left out").arg(text(head)) : tr("%1: %2").arg(text(head), text(field)));
    m_table = table;
    m_offer->setText(
        tr("%1 days from %2 to %3 would be taken; they take the place of what is noted for those days.\nColumns: %4\n%5 "
           "lines cannot be read%6")
            .arg(table.days.size())
            .arg(text(textOf(table.days.front().date)), text(textOf(table.days.back().date)), columns.join(QStringLiteral("; ")))
            .arg(table.problems.size())
            .arg(table.problems.empty() ? QStringLiteral(".") : QStringLiteral(": ") + text(table.problems.front())));
    m_offerBox->show();
}

void BookView::takeTable()
{
    m_offerBox->hide();
    m_context.setDays(tr("read a table into the book"), m_table.days);
    emit message(tr("%1 days were taken.").arg(m_table.days.size()));
}

void BookView::write(const QString& file)
{
    if (const auto saved = saveText(file.toStdString(), toCsv(m_context.book())); !saved)
        return emit m_context.workspace().failed(saved.error());
    emit message(tr("Saved %1").arg(file));
}

} // namespace kestrel::app
