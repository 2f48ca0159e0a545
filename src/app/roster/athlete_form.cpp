#include "app/roster/athlete_form.h"

#include "app/shell/date_field.h"
#include "app/shell/theme.h"

#include <QDate>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace kestrel::app {

namespace {

constexpr int kLongestAnswer = 200;  // letters
constexpr double kLeastHeight = 0.8; // metres; less is a slip of the unit
constexpr const char* kDayWords[] = {"mon", "tue", "wed", "thu", "fri", "sat", "sun"};

QComboBox* makeHand(QWidget* parent, const QString& name)
{
    auto* box = new QComboBox(parent);
    box->setObjectName(name);
    box->addItem(AthleteForm::tr("right"), static_cast<int>(Hand::Right));
    box->addItem(AthleteForm::tr("left"), static_cast<int>(Hand::Left));
    return box;
}

Hand handOf(const QComboBox* box)
{
    return static_cast<Hand>(box->currentData().toInt());
}

QFormLayout* makeFields()
{
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(10);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    return form;
}

} // namespace

AthleteForm::AthleteForm(QWidget* parent) : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(24, 20, 24, 20);
    layout->setSpacing(12);
    m_head = new QLabel(this);
    m_head->setProperty("head", true);
    layout->addWidget(m_head);
    auto* note =
        new QLabel(tr("Only the name is needed. The rest makes readings, cues and drills fit, and can come later."), this);
    note->setProperty("muted", true);
    layout->addWidget(note);
    auto* columns = new QHBoxLayout;
    columns->setSpacing(32);
    columns->addLayout(makePerson(), 1);
    columns->addLayout(makeAims(), 1);
    layout->addLayout(columns);
    m_wrong = new QLabel(this);
    m_wrong->setObjectName(QStringLiteral("wrong"));
    m_wrong->setWordWrap(true);
    layout->addWidget(m_wrong);
    auto* row = new QHBoxLayout;
    auto* save = new QPushButton(tr("Save"), this);
    save->setObjectName(QStringLiteral("save"));
    save->setProperty("primary", true);
    auto* cancel = new QPushButton(tr("Cancel"), this);
    row->addWidget(save);
    row->addWidget(cancel);
    row->addStretch();
    layout->addLayout(row);
    layout->addStretch();
    setMaximumWidth(980);
    connect(save, &QPushButton::clicked, this, &AthleteForm::trySave);
    connect(cancel, &QPushButton::clicked, this, &AthleteForm::cancelled);
    for (auto* edit : {m_name, m_birth, m_team, m_level, m_goal, m_kit, m_space})
        connect(edit, &QLineEdit::returnPressed, this, &AthleteForm::trySave);
}

QLineEdit* AthleteForm::makeText(const QString& name, const QString& hint)
{
    auto* edit = new QLineEdit(this);
    edit->setMaxLength(kLongestAnswer);
    edit->setObjectName(name);
    edit->setPlaceholderText(hint);
    return edit;
}

QLayout* AthleteForm::makePerson()
{
    auto* form = makeFields();
    m_name = makeText(QStringLiteral("name"), {});
    m_birth = makeText(QStringLiteral("birthDate"), tr("year-month-day, such as 2012-05-30"));
    m_hand = makeHand(this, QStringLiteral("hand"));
    m_batHand = makeHand(this, QStringLiteral("batHand"));
    // most use one side for both: what was not chosen by itself follows
    connect(m_hand, &QComboBox::activated, this, [this](int index) { m_batHand->setCurrentIndex(index); });
    m_heights = new HeightList(this);
    m_consent = new QCheckBox(tr("A guardian has agreed to filming\nand to keeping the films here"), this);
    m_consent->setObjectName(QStringLiteral("consent"));
    m_consentDate = new DateField(this);
    m_consentDate->setObjectName(QStringLiteral("consentDate"));
    m_consentDate->setMaximumDate(QDate::currentDate());
    m_consentDate->setButtonSymbols(QAbstractSpinBox::NoButtons);
    connect(m_consent, &QCheckBox::toggled, m_consentDate, &QWidget::setEnabled);
    form->addRow(tr("&Name"), m_name);
    form->addRow(tr("&Born"), m_birth);
    form->addRow(tr("&Throws with"), m_hand);
    form->addRow(tr("B&ats, racket side"), m_batHand);
    form->addRow(tr("Standing &height"), m_heights);
    form->addRow(tr("Consent"), m_consent);
    form->addRow(tr("given on"), m_consentDate);
    return form;
}

QLayout* AthleteForm::makeAims()
{
    auto* form = makeFields();
    m_team = makeText(QStringLiteral("team"), tr("such as U12, Tuesday group"));
    m_level = makeText(QStringLiteral("level"), tr("such as first season, club team"));
    m_goal = makeText(QStringLiteral("goal"), tr("what the player wants"));
    m_kit = makeText(QStringLiteral("kit"), tr("at home, such as tee, net, soft balls"));
    m_space = makeText(QStringLiteral("space"), tr("at home, such as garden, wall, hallway"));
    form->addRow(tr("Tea&m"), m_team);
    form->addRow(tr("&Level"), m_level);
    form->addRow(tr("&Goal"), m_goal);
    form->addRow(tr("&Kit"), m_kit);
    form->addRow(tr("S&pace"), m_space);
    auto* week = new QHBoxLayout;
    week->setSpacing(6);
    const QString names[] = {tr("Mo"), tr("Tu"), tr("We"), tr("Th"), tr("Fr"), tr("Sa"), tr("Su")};
    for (std::size_t i = 0; i < m_days.size(); ++i) {
        m_days[i] = new QCheckBox(names[i], this);
        m_days[i]->setObjectName(QStringLiteral("day-") + QLatin1String(kDayWords[i]));
        week->addWidget(m_days[i]);
    }
    week->addStretch();
    form->addRow(tr("Can practise"), week);
    return form;
}

void AthleteForm::edit(const store::Athlete& athlete)
{
    m_athlete = athlete;
    m_head->setText(athlete.id.isValid() ? tr("Edit athlete") : tr("New athlete"));
    m_name->setText(QString::fromStdString(athlete.name));
    m_birth->setText(QString::fromStdString(athlete.birthDate));
    m_hand->setCurrentIndex(m_hand->findData(static_cast<int>(athlete.hand)));
    m_batHand->setCurrentIndex(m_batHand->findData(static_cast<int>(athlete.batHand)));
    m_heights->setHeights(athlete.heights);
    m_team->setText(QString::fromStdString(athlete.team));
    m_level->setText(QString::fromStdString(athlete.level));
    m_goal->setText(QString::fromStdString(athlete.goal));
    m_kit->setText(QString::fromStdString(athlete.kit));
    m_space->setText(QString::fromStdString(athlete.space));
    const QStringList days = QString::fromStdString(athlete.practiceDays).split(QLatin1Char(','));
    for (std::size_t i = 0; i < m_days.size(); ++i)
        m_days[i]->setChecked(days.contains(QLatin1String(kDayWords[i])));
    m_consent->setChecked(athlete.guardianConsent);
    const QDate agreed = QDate::fromString(QString::fromStdString(athlete.consentDate), Qt::ISODate);
    m_consentDate->setDate(agreed.isValid() ? agreed : QDate::currentDate());
    m_consentDate->setEnabled(athlete.guardianConsent);
    m_wrong->clear();
    m_name->setFocus();
}

void AthleteForm::trySave()
{
    m_wrong->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(colours().alert.name()));
    const QString birth = m_birth->text().trimmed();
    if (m_name->text().trimmed().isEmpty()) {
        m_wrong->setText(tr("A name is needed; a nickname will do."));
        return;
    }
    const QDate date = QDate::fromString(birth, Qt::ISODate);
    if (!birth.isEmpty() && (!date.isValid() || date > QDate::currentDate() || date.year() < 1900)) {
        m_wrong->setText(tr("“%1” is not a past date; write it as 2012-05-30, or leave it empty.").arg(birth));
        return;
    }
    const auto heights = m_heights->heights();
    for (const auto& h : heights)
        if (h.metres < kLeastHeight) {
            m_wrong->setText(tr("A height below 0.8 m is not likely; write it in metres, or 0 for not known."));
            return;
        }
    m_athlete.name = m_name->text().trimmed().toStdString();
    m_athlete.birthDate = birth.toStdString();
    m_athlete.hand = handOf(m_hand);
    m_athlete.batHand = handOf(m_batHand);
    m_athlete.heights = heights;
    m_athlete.team = m_team->text().trimmed().toStdString();
    m_athlete.level = m_level->text().trimmed().toStdString();
    m_athlete.goal = m_goal->text().trimmed().toStdString();
    m_athlete.kit = m_kit->text().trimmed().toStdString();
    m_athlete.space = m_space->text().trimmed().toStdString();
    QStringList days;
    for (std::size_t i = 0; i < m_days.size(); ++i)
        if (m_days[i]->isChecked())
            days << QLatin1String(kDayWords[i]);
    m_athlete.practiceDays = days.join(QLatin1Char(',')).toStdString();
    m_athlete.guardianConsent = m_consent->isChecked();
    m_athlete.consentDate = m_athlete.guardianConsent ? m_consentDate->date().toString(Qt::ISODate).toStdString() : std::string();
    emit saved(m_athlete);
}

} // namespace kestrel::app
