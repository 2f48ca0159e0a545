#include "app/roster/day_form.h"

#include "app/workspace/row_edits.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFormLayout>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>

namespace kestrel::app {

DayForm::DayForm(Workspace& workspace, const store::FilmingDay& day, QWidget* beside)
    : QFrame(beside->window(), Qt::Popup), m_workspace(workspace), m_day(day.id)
{
    setObjectName(QStringLiteral("dayForm"));
    setProperty("card", true);
    setAttribute(Qt::WA_DeleteOnClose);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(16, 14, 16, 14);
    form->setVerticalSpacing(10);
    auto* kind = new QComboBox(this);
    kind->setObjectName(QStringLiteral("dayKind"));
    kind->setEditable(true);
    kind->addItems(
        {QString(), tr("practice"), tr("match"), tr("against a machine"), tr("first day after a break"), tr("new grip or kit")});
    kind->setEditText(QString::fromStdString(day.kind));
    connect(kind->lineEdit(), &QLineEdit::editingFinished, this, [this, kind] {
        change(tr("note the kind of practice"),
               [&](store::FilmingDay& d) { d.kind = kind->currentText().trimmed().toStdString(); });
    });
    connect(kind, &QComboBox::activated, kind->lineEdit(), &QLineEdit::editingFinished);
    form->addRow(tr("Kind of practice"), kind);
    auto* note = new QLineEdit(QString::fromStdString(day.note), this);
    note->setMaxLength(1000);
    note->setObjectName(QStringLiteral("dayNote"));
    note->setMinimumWidth(320);
    connect(note, &QLineEdit::editingFinished, this, [this, note] {
        change(tr("note something"), [&](store::FilmingDay& d) { d.note = note->text().trimmed().toStdString(); });
    });
    form->addRow(tr("Note"), note);
    auto* side = new QComboBox(this);
    side->setObjectName(QStringLiteral("daySide"));
    side->addItem(tr("usual side"), QString());
    side->addItem(tr("the right side"), QStringLiteral("right"));
    side->addItem(tr("the left side"), QStringLiteral("left"));
    side->setCurrentIndex(day.side ? (*day.side == Hand::Right ? 1 : 2) : 0);
    side->setToolTip(tr("For one who bats or plays from both sides: the side on this day's films"));
    connect(side, &QComboBox::activated, this, [this, side] {
        change(tr("change the side"),
               [&](store::FilmingDay& d) { d.side = findHand(side->currentData().toString().toStdString()); });
    });
    form->addRow(tr("Plays from"), side);
    auto* pain = new QGridLayout;
    int n = 0;
    for (const auto region : kBodyRegions) {
        const QString word = QString::fromUtf8(wordOf(region).data(), static_cast<qsizetype>(wordOf(region).size()));
        auto* box = new QCheckBox(word, this);
        box->setObjectName(QStringLiteral("pain-") + word);
        box->setChecked(day.pain.count(region) > 0);
        connect(box, &QCheckBox::toggled, this, [this, region](bool on) {
            change(on ? tr("note pain") : tr("take a note of pain back"), [&](store::FilmingDay& d) {
                if (on)
                    d.pain.insert(region);
                else
                    d.pain.erase(region);
            });
        });
        pain->addWidget(box, n / 3, n % 3);
        ++n;
    }
    form->addRow(tr("Pain today"), pain);
    auto* said = new QLabel(tr("With pain the day gives no cue and no drill: stop, and see a licensed clinician."), this);
    said->setProperty("muted", true);
    said->setWordWrap(true);
    form->addRow(said);
    adjustSize();
    const QPoint below = beside->mapToGlobal(QPoint(beside->width() - width(), beside->height() + 4));
    move(std::max(below.x(), beside->window()->mapToGlobal(QPoint(8, 0)).x()), below.y());
    show();
    note->setFocus();
}

template <class Set> void DayForm::change(const QString& text, Set set)
{
    const auto before = m_workspace.library().days().find(m_day);
    if (!before)
        return;
    store::FilmingDay after = *before;
    set(after);
    if (!(after == *before))
        changeRow(m_workspace, EditNote(text, {Change::Subject::Day, m_day.value}), *before, after);
}

} // namespace kestrel::app
