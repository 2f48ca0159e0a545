#include "app/plan/weeks_view.h"

#include "app/plan/session_card.h"
#include "app/shell/date_field.h"
#include "app/shell/dates.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/number_field.h"
#include "app/shell/theme.h"
#include "app/shell/words.h"
#include "app/workspace/document_saver.h"
#include "core/base/json_reader.h"
#include "core/base/part_file.h"
#include "core/pack/pack_folder.h"
#include "report/plan_calendar.h"
#include "report/plan_sheet.h"
#include "report/plan_words.h"

#include <QCheckBox>
#include <QDateTime>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMenu>
#include <QScrollArea>
#include <QVBoxLayout>
#include <QWidgetAction>

#include <algorithm>

namespace kestrel::app {

namespace {

/// The words drills use for what has to be there.
const std::vector<std::string>& kitWords()
{
    static const std::vector<std::string> words = [] {
        const auto root = loadJson(shippedFolder("packs") + "/drills.json");
        return root ? root->at("kit").get<std::vector<std::string>>() : std::vector<std::string>();
    }();
    return words;
}

void empty(QLayout* layout)
{
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->hide();
            w->deleteLater();
        }
        delete item;
    }
}

PlanSession* sessionOn(Plan& plan, Date date)
{
    const auto it =
        std::find_if(plan.sessions.begin(), plan.sessions.end(), [&](const PlanSession& s) { return s.date == date; });
    return it == plan.sessions.end() ? nullptr : &*it;
}

} // namespace

WeeksView::WeeksView(PlanContext& context, QWidget* parent) : QWidget(parent), m_context(context)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->addWidget(makeForm());
    m_notice = new QLabel(this);
    m_notice->setObjectName(QStringLiteral("planNotice"));
    m_notice->setWordWrap(true);
    m_notice->setTextFormat(Qt::PlainText);
    column->addWidget(m_notice);
    auto* row = new QHBoxLayout;
    row->setSpacing(12);
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    m_sheet = new QWidget(scroll);
    m_grid = new QGridLayout(m_sheet);
    m_grid->setContentsMargins(0, 0, 8, 0);
    m_grid->setSpacing(6);
    scroll->setWidget(m_sheet);
    row->addWidget(scroll, 1);
    row->addWidget(makeDetails());
    column->addLayout(row, 1);
    connect(&context, &PlanContext::changed, this, &WeeksView::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &WeeksView::refresh);
    refresh();
}

QWidget* WeeksView::makeForm()
{
    auto* box = new QWidget(this);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    m_task = new QLabel(box);
    m_task->setObjectName(QStringLiteral("planTask"));
    m_task->setWordWrap(true);
    m_task->setTextFormat(Qt::PlainText);
    column->addWidget(m_task);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    m_start = new DateField(box);
    m_start->setObjectName(QStringLiteral("planStart"));
    m_start->setDate(dateOf(m_context.today()));
    m_start->setToolTip(tr("First day of the plan"));
    m_weeks = new NumberField(box);
    m_weeks->setObjectName(QStringLiteral("planWeeks"));
    m_weeks->setRange(1, 6);
    m_weeks->setDecimals(0);
    m_weeks->setValue(2);
    m_weeks->setSuffix(tr(" weeks"));
    m_minutes = new NumberField(box);
    m_minutes->setObjectName(QStringLiteral("planMinutes"));
    m_minutes->setRange(5, 180);
    m_minutes->setDecimals(0);
    m_minutes->setSingleStep(5);
    m_minutes->setValue(20);
    m_minutes->setSuffix(tr(" min a day"));
    row->addWidget(new QLabel(tr("From"), box));
    row->addWidget(m_start);
    row->addWidget(m_weeks);
    const QString names[] = {tr("Sun"), tr("Mon"), tr("Tue"), tr("Wed"), tr("Thu"), tr("Fri"), tr("Sat")};
    for (const int day : {1, 2, 3, 4, 5, 6, 0}) {
        auto* button = m_days[static_cast<std::size_t>(day)] = new QToolButton(box);
        button->setObjectName(QStringLiteral("planDay%1").arg(day));
        button->setText(names[day]);
        button->setCheckable(true);
        button->setToolTip(tr("Practice on this day of the week"));
        connect(button, &QToolButton::clicked, this, &WeeksView::refreshForm);
        row->addWidget(button);
    }
    connect(m_minutes, &NumberField::valueChanged, this, &WeeksView::refreshForm);
    row->addWidget(m_minutes);
    row->addStretch();
    column->addLayout(row);
    row = new QHBoxLayout;
    row->setSpacing(6);
    m_kit = new QToolButton(box);
    m_kit->setObjectName(QStringLiteral("planKit"));
    m_kit->setPopupMode(QToolButton::InstantPopup);
    m_kit->setToolTip(tr("What is there to practise with; nothing ticked: everything"));
    auto* menu = new QMenu(m_kit);
    for (const auto& word : kitWords()) {
        auto* tick = new QCheckBox(text(word), menu);
        tick->setObjectName(QStringLiteral("kit-") + text(word));
        connect(tick, &QCheckBox::toggled, this, &WeeksView::refreshForm);
        auto* action = new QWidgetAction(menu);
        action->setDefaultWidget(tick);
        menu->addAction(action);
    }
    m_kit->setMenu(menu);
    row->addWidget(m_kit);
    m_space = new QComboBox(box);
    m_space->setObjectName(QStringLiteral("planSpace"));
    m_space->addItem(tr("any place"), QString());
    m_space->addItem(tr("indoors"), QStringLiteral("indoors"));
    m_space->addItem(tr("garden"), QStringLiteral("garden"));
    m_space->addItem(tr("court"), QStringLiteral("court"));
    connect(m_space, &QComboBox::activated, this, &WeeksView::refreshForm);
    row->addWidget(m_space);
    m_notFree = new QToolButton(box);
    m_notFree->setObjectName(QStringLiteral("planNotFree"));
    m_notFree->setPopupMode(QToolButton::InstantPopup);
    m_notFree->setToolTip(tr("Matches, holidays: press a day to say that it is not free, again to free it"));
    m_notFree->setMenu(makeNotFreeMenu());
    row->addWidget(m_notFree);
    row->addStretch();
    m_out = new QToolButton(box);
    m_out->setObjectName(QStringLiteral("planOut"));
    m_out->setText(tr("Take along…"));
    m_out->setToolTip(tr("A sheet to print, a page for a telephone, or a file for the calendar"));
    connect(m_out, &QToolButton::clicked, this, &WeeksView::askWhereToSave);
    row->addWidget(m_out);
    m_make = new QPushButton(box);
    m_make->setObjectName(QStringLiteral("makePlan"));
    m_make->setProperty("primary", true);
    connect(m_make, &QPushButton::clicked, this, &WeeksView::make);
    row->addWidget(m_make);
    column->addLayout(row);
    return box;
}

QWidget* WeeksView::makeDetails()
{
    auto* scroll = new QScrollArea(this);
    scroll->setFixedWidth(320);
    scroll->setWidgetResizable(true);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_details = new QWidget(scroll);
    m_details->setObjectName(QStringLiteral("planDetails"));
    new QVBoxLayout(m_details);
    scroll->setWidget(m_details);
    return scroll;
}

void WeeksView::refresh()
{
    if (m_formOf != m_context.athlete().id || m_formIntake != statedIntake())
        fillForm();
    refreshForm();
    refreshSheet();
    refreshDetails();
}

std::string WeeksView::statedIntake() const
{
    return m_context.athlete().practiceDays + "; " + m_context.athlete().kit;
}

/// From the plan as it was made, as long as the athlete says the same of days and kit; else from what the athlete says now.
void WeeksView::fillForm()
{
    if (m_formOf != m_context.athlete().id)
        m_chosen.reset();
    m_formOf = m_context.athlete().id;
    m_formIntake = statedIntake();
    const auto& plan = m_context.plan();
    const auto made = plan ? plan->madeFor : std::nullopt;
    const bool isSame = made && plan->intake == m_formIntake;
    const auto days =
        isSame ? made->weekdays : parseWeekdays(m_context.athlete().practiceDays).value_or(std::set<unsigned>{1, 3, 6});
    for (unsigned n = 0; n < 7; ++n)
        m_days[n]->setChecked(days.count(n) > 0);
    const QString kit = text(m_context.athlete().kit).toLower();
    for (const auto& word : kitWords())
        if (auto* tick = m_kit->menu()->findChild<QCheckBox*>(QStringLiteral("kit-") + text(word))) {
            const QSignalBlocker quiet(tick);
            tick->setChecked(isSame ? made->kit && made->kit->count(word) > 0 : kit.contains(text(word)));
        }
    m_start->setDate(dateOf(plan ? plan->start : m_context.today()));
    m_weeks->setValue(plan ? plan->weeks : 2);
    const QSignalBlocker quiet(m_minutes);
    m_minutes->setValue(made ? made->minutes : 20);
    m_space->setCurrentIndex(std::max(0, m_space->findData(text(made ? made->space : std::string()))));
    m_notOn = made ? made->notOn : std::set<Date>();
}

QMenu* WeeksView::makeNotFreeMenu()
{
    auto* menu = new QMenu(this);
    m_calendar = new QCalendarWidget(menu);
    m_calendar->setObjectName(QStringLiteral("notFreeCalendar"));
    m_calendar->setFirstDayOfWeek(Qt::Monday);
    m_calendar->setVerticalHeaderFormat(QCalendarWidget::NoVerticalHeader);
    for (const auto day : {Qt::Saturday, Qt::Sunday})
        m_calendar->setWeekdayTextFormat(day, {}); // days like the others
    connect(m_calendar, &QCalendarWidget::clicked, this, [this](QDate day) {
        const Date date = dateOf(day);
        setNotFree(date, m_notOn.count(date) == 0);
    });
    auto* action = new QWidgetAction(menu);
    action->setDefaultWidget(m_calendar);
    menu->addAction(action);
    return menu;
}

void WeeksView::setNotFree(Date date, bool is)
{
    is ? (void)m_notOn.insert(date) : (void)m_notOn.erase(date);
    refreshForm();
}

void WeeksView::refreshForm()
{
    int ticked = 0;
    for (auto* tick : m_kit->menu()->findChildren<QCheckBox*>())
        ticked += tick->isChecked();
    m_kit->setText(ticked == 0 ? tr("kit: everything") : tr("kit: %1 things").arg(ticked));
    m_notFree->setText(m_notOn.empty() ? tr("every day is free")
                                       : tr("not free: %n day(s)", nullptr, static_cast<int>(m_notOn.size())));
    for (const auto& [button, icon] : {std::pair{"qt_calendar_prevmonth", "step-back"}, {"qt_calendar_nextmonth", "step-on"}})
        if (auto* turn = m_calendar->findChild<QToolButton*>(QLatin1String(button)))
            turn->setIcon(Theme::icon(QLatin1String(icon), colours().ink));
    m_calendar->setDateTextFormat({}, {});
    QTextCharFormat taken;
    taken.setFontStrikeOut(true);
    taken.setForeground(colours().chestnut);
    for (const auto date : m_notOn)
        m_calendar->setDateTextFormat(dateOf(date), taken);
    const auto review = m_context.review();
    QString task;
    if (!m_context.isOpen())
        task = tr("Choose an athlete above: the weeks of practice are planned here.");
    else if (!m_context.pack())
        task = tr("Nothing of %1 is filmed yet: film, judge on the Bench, then plan here.").arg(text(m_context.athlete().name));
    else if (!review)
        task = tr("There is no task yet: bring a clip of %1 to the Bench and judge it, or send a page.")
                   .arg(text(m_context.athlete().name));
    else if (!review->stop.empty())
        task = text(review->stop);
    else
        for (const auto& id : tasksOf(*review)) {
            const Pack* pack = m_context.workspace().findPack(review->pack);
            const Fault* f = pack ? pack->findFault(id) : nullptr;
            task += (task.isEmpty() ? tr("To practise: ") : QStringLiteral(", then ")) + (f ? text(f->name).toLower() : text(id));
        }
    m_task->setText(task);
    m_task->setStyleSheet(QStringLiteral("color:%1;font-weight:600")
                              .arg((review && !review->stop.empty() ? colours().alert : colours().ink).name()));
    m_make->setEnabled(review && review->stop.empty());
    m_make->setText(m_context.plan() ? tr("Plan anew") : tr("Make the plan"));
    m_make->setToolTip(m_context.plan() ? tr("What is past or locked stays as it is") : QString());
    m_out->setEnabled(m_context.plan().has_value());
    m_notice->setText(notice());
    m_notice->setVisible(!m_notice->text().isEmpty());
    m_notice->setStyleSheet(QStringLiteral("color:%1").arg(colours().chestnut.name()));
}

QString WeeksView::notice() const
{
    if (!m_context.plan() || !m_context.pack())
        return {};
    QStringList said;
    if (const auto& made = m_context.plan()->madeFor)
        if (const auto words = differenceWords(*made, intake()); !words.empty())
            said << tr("This plan was made for other %1. Plan anew? What is past or locked stays.").arg(text(words));
    for (const auto& s : m_context.plan()->sessions) {
        if (s.date < m_context.today())
            continue;
        const bool isLoaded = std::any_of(s.items.begin(), s.items.end(), [&](const PlanItem& i) {
            const Drill* d = m_context.pack()->findDrill(i.drill);
            return d && loadsTheArm(*m_context.pack(), *d);
        });
        const Workload load = m_context.workloadOn(s.date);
        if (isLoaded && (load.restUntil || load.has(WarningKind::Pain)))
            said << tr("The book asks for rest on %1, and something is thrown or served there: plan anew, or move it.")
                        .arg(text(wordsOf(s.date)));
        if (said.size() >= 2)
            break;
    }
    for (const auto* notes : {&m_context.plan()->coachNotes, &m_context.plan()->notes})
        for (const auto& note : *notes)
            if (said.size() < 3)
                said << text(note);
    return said.join(QLatin1Char('\n'));
}

void WeeksView::refreshSheet()
{
    empty(m_grid);
    const auto& plan = m_context.plan();
    if (!plan) {
        auto* label =
            new QLabel(tr("No plan yet. It spreads the drills over the chosen days, keeps rest days, begins easier, and ends "
                          "with the day to film again."),
                       m_sheet);
        label->setWordWrap(true);
        label->setProperty("muted", true);
        m_grid->addWidget(label, 0, 0, Qt::AlignTop);
        return;
    }
    // Monday of the first week to Sunday of the last
    const auto monday = [](Date d) { return d - std::chrono::days((std::chrono::weekday(d).c_encoding() + 6) % 7); };
    const Date first = monday(plan->start);
    const Date last = std::max(plan->refilm, plan->sessions.empty() ? plan->start : plan->sessions.back().date);
    for (Date day = first; day <= monday(last) + std::chrono::days(6); day += std::chrono::days(1)) {
        const int n = daysBetween(first, day);
        QStringList words;
        bool isLocked = false;
        for (const auto& s : plan->sessions)
            if (s.date == day) {
                words << text(report::minutesWords(s.minutes()));
                for (const auto& i : s.items) {
                    const Drill* d = m_context.workspace().findPack(plan->pack)
                                         ? m_context.workspace().findPack(plan->pack)->findDrill(i.drill)
                                         : nullptr;
                    words << (d ? text(d->name) : text(i.drill));
                }
                isLocked = s.isLocked;
            }
        if (plan->refilm == day)
            words << tr("Film again");
        auto* cell = new DayCell(day, words, day == m_context.today(), m_chosen == day, isLocked, m_sheet);
        connect(cell, &DayCell::pressed, this, &WeeksView::choose, Qt::QueuedConnection);
        connect(cell, &DayCell::dropped, this, &WeeksView::move, Qt::QueuedConnection);
        m_grid->addWidget(cell, n / 7, n % 7);
    }
    m_grid->setRowStretch(m_grid->rowCount(), 1);
    for (int n = 0; n < 7; ++n)
        m_grid->setColumnStretch(n, 1);
}

void WeeksView::choose(Date date)
{
    m_chosen = date;
    refreshSheet();
    refreshDetails();
}

void WeeksView::refreshDetails()
{
    auto* column = qobject_cast<QVBoxLayout*>(m_details->layout());
    empty(column);
    const auto say = [&](const QString& words, const char* property) {
        auto* label = new QLabel(words, m_details);
        label->setWordWrap(true);
        label->setTextFormat(Qt::PlainText);
        label->setProperty(property, true);
        column->addWidget(label);
    };
    if (!m_context.plan()) {
        column->addStretch();
        return;
    }
    Plan plan = *m_context.plan();
    PlanSession* s = m_chosen ? sessionOn(plan, *m_chosen) : nullptr;
    if (m_chosen)
        say(text(wordsOf(*m_chosen)), "subhead");
    if (!s) {
        say(m_chosen && plan.refilm == *m_chosen
                ? text(plan.refilmHow)
                : tr("Press a day of the sheet to look at it. Drag a day's practice to move it."),
            "muted");
        if (m_chosen && *m_chosen >= m_context.today())
            column->addWidget(makeNotFreeTick(*m_chosen));
        if (m_chosen) {
            auto* book = new QPushButton(tr("What was done"), m_details);
            connect(book, &QPushButton::clicked, this, [this] { emit bookWanted(*m_chosen); });
            column->addWidget(book);
        }
        column->addStretch();
        return;
    }
    say(text(s->why), "muted");
    for (std::size_t n = 0; n < s->items.size(); ++n)
        column->addWidget(makeItem(*s, n));
    auto* lock = new QCheckBox(tr("stays as it is when planned anew"), m_details);
    lock->setObjectName(QStringLiteral("lockSession"));
    lock->setChecked(s->isLocked);
    connect(lock, &QCheckBox::toggled, this, [this](bool is) {
        edit(is ? tr("lock a day") : tr("unlock a day"), [is](PlanSession& session, Plan&) { session.isLocked = is; });
    });
    column->addWidget(lock);
    column->addWidget(makeNotFreeTick(*m_chosen));
    auto* moveTo = new DateField(m_details, dateOf(*m_chosen));
    moveTo->setObjectName(QStringLiteral("moveSession"));
    moveTo->setDisplayFormat(QStringLiteral("'move to' d MMM yyyy"));
    connect(moveTo, &QDateEdit::editingFinished, this, [this, moveTo] {
        if (m_chosen && dateOf(moveTo->date()) != *m_chosen)
            move(*m_chosen, dateOf(moveTo->date()));
    });
    column->addWidget(moveTo);
    auto* drop = new QPushButton(tr("Drop this day"), m_details);
    drop->setObjectName(QStringLiteral("dropSession"));
    connect(drop, &QPushButton::clicked, this, [this] {
        edit(tr("drop a day of practice"), [](PlanSession& session, Plan& whole) {
            whole.dropped.push_back({session.date, session.uid});
            std::erase_if(whole.sessions, [uid = session.uid](const PlanSession& x) { return x.uid == uid; });
        });
    });
    column->addWidget(drop);
    auto* book = new QPushButton(tr("What was done"), m_details);
    book->setObjectName(QStringLiteral("bookOfSession"));
    connect(book, &QPushButton::clicked, this, [this] { emit bookWanted(*m_chosen); });
    column->addWidget(book);
    column->addStretch();
}

QWidget* WeeksView::makeNotFreeTick(Date date)
{
    auto* tick = new QCheckBox(tr("this day is not free"), m_details);
    tick->setObjectName(QStringLiteral("dayNotFree"));
    tick->setChecked(m_notOn.count(date) > 0);
    connect(tick, &QCheckBox::toggled, this, [this, date](bool is) { setNotFree(date, is); });
    return tick;
}

QWidget* WeeksView::makeItem(const PlanSession& session, std::size_t n)
{
    const PlanItem& item = session.items[n];
    const Pack* pack = m_context.workspace().findPack(m_context.plan()->pack);
    const Drill* drill = pack ? pack->findDrill(item.drill) : nullptr;
    auto* card = new QFrame(m_details);
    card->setProperty("card", true);
    auto* column = new QVBoxLayout(card);
    column->setContentsMargins(8, 6, 8, 6);
    column->setSpacing(3);
    auto* name = new QLabel(drill ? text(drill->name) : text(item.drill), card);
    name->setStyleSheet(QStringLiteral("font-weight:600"));
    name->setWordWrap(true);
    column->addWidget(name);
    auto* why = new QLabel(text(item.why), card);
    why->setWordWrap(true);
    why->setTextFormat(Qt::PlainText);
    why->setProperty("muted", true);
    column->addWidget(why);
    auto* row = new QHBoxLayout;
    const auto field = [&](const char* object, const QString& suffix, int value, int most, auto set) {
        auto* number = new NumberField(card);
        number->setObjectName(QLatin1String(object) + QString::number(n));
        number->setRange(1, most);
        number->setDecimals(0);
        number->setSuffix(suffix);
        number->setValue(value);
        number->setKeyboardTracking(false);
        number->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // the column is narrow
        number->setMinimumWidth(84);
        connect(number, &QDoubleSpinBox::valueChanged, this, [this, set, n](double v) {
            edit(tr("change a dose"), [set, n, v](PlanSession& s, Plan&) { set(s.items[n], static_cast<int>(v)); });
        });
        row->addWidget(number);
    };
    field("sets", tr(" sets"), item.sets, 100, [](PlanItem& i, int v) { i.sets = v; });
    field("reps", tr(" times"), item.reps, 1000, [](PlanItem& i, int v) { i.reps = v; });
    auto* swap = new QToolButton(card);
    swap->setObjectName(QStringLiteral("swap%1").arg(n));
    swap->setText(tr("swap"));
    swap->setToolTip(tr("Another drill for the same"));
    swap->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(swap);
    if (const Fault* fault = pack ? pack->findFault(item.fault) : nullptr)
        for (const auto& id : fault->drills)
            if (const Drill* other = pack->findDrill(id); other && id != item.drill && other->isForAge(m_context.age()))
                menu->addAction(QStringLiteral("%1, %2").arg(text(other->name), text(other->kitWords())), this,
                                [this, n, d = *other] {
                                    edit(tr("swap a drill"), [n, &d](PlanSession& s, Plan&) {
                                        PlanItem& i = s.items[n];
                                        i.drill = d.id;
                                        i.minutes = d.minutes;
                                        i.level = DrillLevel::AsWritten;
                                        i.why = "Chosen by the coach.";
                                    });
                                });
    menu->addAction(tr("take it out"), this, [this, n] {
        edit(tr("take a drill out"),
             [n](PlanSession& s, Plan&) { s.items.erase(s.items.begin() + static_cast<std::ptrdiff_t>(n)); });
    });
    swap->setMenu(menu);
    row->addWidget(swap);
    column->addLayout(row);
    return card;
}

void WeeksView::edit(const QString& words, const std::function<void(PlanSession&, Plan&)>& change)
{
    if (!m_context.plan() || !m_chosen)
        return;
    Plan plan = *m_context.plan();
    PlanSession* s = sessionOn(plan, *m_chosen);
    if (!s)
        return;
    change(*s, plan);
    if (plan == *m_context.plan())
        return;
    ++plan.sequence;
    m_context.setPlan(words, std::move(plan));
}

void WeeksView::move(Date from, Date to)
{
    if (!m_context.plan() || from == to)
        return;
    Plan plan = *m_context.plan();
    PlanSession* s = sessionOn(plan, from);
    if (!s)
        return;
    if (sessionOn(plan, to))
        return emit message(tr("There is practice on %1 already.").arg(text(wordsOf(to))));
    s->date = to;
    s->why = "Moved here by the coach.";
    std::sort(plan.sessions.begin(), plan.sessions.end(),
              [](const PlanSession& a, const PlanSession& b) { return a.date < b.date; });
    ++plan.sequence;
    m_chosen = to;
    m_context.setPlan(tr("move a day of practice"), std::move(plan));
}

PlanIntake WeeksView::intake() const
{
    PlanIntake in;
    for (unsigned n = 0; n < 7; ++n)
        if (m_days[n]->isChecked())
            in.weekdays.insert(n);
    in.minutes = m_minutes->value();
    std::set<std::string> kit;
    for (const auto& word : kitWords())
        if (auto* tick = m_kit->menu()->findChild<QCheckBox*>(QStringLiteral("kit-") + text(word)); tick && tick->isChecked())
            kit.insert(word);
    if (!kit.empty())
        in.kit = kit;
    in.space = m_space->currentData().toString().toStdString();
    in.notOn = m_notOn;
    return in;
}

PlanWish WeeksView::wish() const
{
    PlanWish w;
    w.player = m_context.athlete().name;
    if (const auto review = m_context.review())
        w.faults = tasksOf(*review);
    w.age = m_context.age();
    w.start = dateOf(m_start->date());
    w.weeks = static_cast<int>(m_weeks->value());
    w.intake = intake();
    w.book = m_context.book();
    return w;
}

void WeeksView::make()
{
    const auto review = m_context.review();
    const Pack* pack = review ? m_context.workspace().findPack(review->pack) : nullptr;
    if (!pack)
        return emit message(tr("There is no task yet: judge a clip on the Bench first."));
    const auto& before = m_context.plan();
    const bool isSame = before && before->pack == pack->id;
    auto plan = makePlan(*pack, m_context.rule(), wish(), isSame ? &*before : nullptr, m_context.today());
    if (!plan)
        return emit message(text(plan.error().text()));
    m_chosen.reset();
    plan->intake = statedIntake();
    if (before && !isSame) // what the coach wrote outlives the skill that is practised
        plan->coachNotes = before->coachNotes;
    m_context.setPlan(before ? tr("plan anew") : tr("make the plan"), std::move(*plan));
}

void WeeksView::askWhereToSave()
{
    const QString file = app::askWhereToSave(this, FilePurpose::Documents, tr("Take the plan along"),
                                             tr("%1 practice plan.pdf").arg(text(m_context.athlete().name)),
                                             tr("A sheet to print (*.pdf);;A page for a telephone (*.html);;For the calendar "
                                                "(*.ics);;A picture (*.png);;The plan itself (*.json)"));
    if (!file.isEmpty())
        save(file);
}

void WeeksView::save(const QString& file)
{
    if (!m_context.plan())
        return;
    const Pack* pack = m_context.workspace().findPack(m_context.plan()->pack);
    if (!pack)
        return emit message(tr("The pack of this plan is gone."));
    const Plan& plan = *m_context.plan();
    Expected<void> saved;
    if (file.endsWith(QStringLiteral(".ics"), Qt::CaseInsensitive))
        saved = saveText(
            file.toStdString(),
            report::toCalendar(plan, *pack,
                               QDateTime::currentDateTimeUtc().toString(QStringLiteral("yyyyMMdd'T'HHmmss'Z'")).toStdString()));
    else if (file.endsWith(QStringLiteral(".json"), Qt::CaseInsensitive))
        saved = saveText(file.toStdString(), printed(toJson(plan), 1));
    else
        return saveDocument(this, m_context.workspace(), report::documentOf(plan, *pack), file,
                            [this, file] { emit message(tr("Saved %1").arg(file)); });
    if (!saved)
        return emit m_context.workspace().failed(saved.error());
    emit message(tr("Saved %1").arg(file));
}

} // namespace kestrel::app
