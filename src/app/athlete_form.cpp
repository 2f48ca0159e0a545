#include "app/athlete_form.h"

#include "app/theme.h"

#include <QDate>
#include <QFormLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace kestrel::app {

AthleteForm::AthleteForm(QWidget* parent) : QWidget(parent)
{
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(24, 20, 24, 20);
    layout->setSpacing(12);
    m_head = new QLabel(this);
    m_head->setProperty("head", true);
    layout->addWidget(m_head);
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(16);
    form->setVerticalSpacing(10);
    m_name = new QLineEdit(this);
    m_name->setObjectName(QStringLiteral("name"));
    m_birth = new QLineEdit(this);
    m_birth->setObjectName(QStringLiteral("birthDate"));
    m_birth->setPlaceholderText(tr("year-month-day, such as 2012-05-30"));
    m_hand = new QComboBox(this);
    m_hand->setObjectName(QStringLiteral("hand"));
    m_hand->addItem(tr("right"), static_cast<int>(Hand::Right));
    m_hand->addItem(tr("left"), static_cast<int>(Hand::Left));
    m_height = new QDoubleSpinBox(this);
    m_height->setObjectName(QStringLiteral("height"));
    m_height->setRange(0, 2.5);
    m_height->setSingleStep(0.01);
    m_height->setSuffix(tr(" m"));
    m_height->setSpecialValueText(tr("not known"));
    m_consent = new QCheckBox(tr("A guardian has agreed to filming and to keeping the films here"), this);
    m_consent->setObjectName(QStringLiteral("consent"));
    form->addRow(tr("&Name"), m_name);
    form->addRow(tr("&Born"), m_birth);
    form->addRow(tr("&Throws with"), m_hand);
    form->addRow(tr("Standing &height"), m_height);
    form->addRow(QString(), m_consent);
    layout->addLayout(form);
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
    setMaximumWidth(620);
    connect(save, &QPushButton::clicked, this, &AthleteForm::trySave);
    connect(cancel, &QPushButton::clicked, this, &AthleteForm::cancelled);
    for (auto* edit : {m_name, m_birth})
        connect(edit, &QLineEdit::returnPressed, this, &AthleteForm::trySave);
}

void AthleteForm::edit(const store::Athlete& athlete)
{
    m_athlete = athlete;
    m_head->setText(athlete.id.isValid() ? tr("Edit athlete") : tr("New athlete"));
    m_name->setText(QString::fromStdString(athlete.name));
    m_birth->setText(QString::fromStdString(athlete.birthDate));
    m_hand->setCurrentIndex(m_hand->findData(static_cast<int>(athlete.hand)));
    m_height->setValue(athlete.heightMetres.value_or(0));
    m_consent->setChecked(athlete.guardianConsent);
    m_wrong->clear();
    m_name->setFocus();
}

void AthleteForm::trySave()
{
    m_wrong->setStyleSheet(QStringLiteral("color:%1; font-weight:600").arg(tokens().alert.name()));
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
    if (m_height->value() > 0 && m_height->value() < 0.8) {
        m_wrong->setText(tr("A height below 0.8 m is not likely; write it in metres, or 0 for not known."));
        return;
    }
    m_athlete.name = m_name->text().trimmed().toStdString();
    m_athlete.birthDate = birth.toStdString();
    m_athlete.hand = static_cast<Hand>(m_hand->currentData().toInt());
    m_athlete.heightMetres = m_height->value() > 0 ? std::optional(m_height->value()) : std::nullopt;
    m_athlete.guardianConsent = m_consent->isChecked();
    emit saved(m_athlete);
}

} // namespace kestrel::app
