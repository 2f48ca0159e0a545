#include "app/bench/repetition_bar.h"
#include "app/shell/number_field.h"

#include "app/shell/theme.h"

#include <QComboBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPushButton>

namespace kestrel::app {

namespace {

constexpr double kKilometresPerHour = 3.6; // in a metre per second
constexpr int kWidestText = 140;           // pixels, on the button

/// A form that stores each field as it is left.
class RepetitionForm : public QFrame {
public:
    RepetitionForm(Bench& bench, QWidget* parent) : QFrame(parent, Qt::Popup), m_bench(bench)
    {
        setObjectName(QStringLiteral("repetitionForm"));
        setProperty("card", true);
        setAttribute(Qt::WA_DeleteOnClose);
        auto* form = new QFormLayout(this);
        form->setContentsMargins(16, 14, 16, 14);
        const store::RepetitionRow& r = bench.context.repetition();
        addText(form, Bench::tr("Name"), QStringLiteral("name"), r.name, &store::RepetitionRow::name);
        addText(form, Bench::tr("Kind"), QStringLiteral("kind"), r.kind, &store::RepetitionRow::kind,
                Bench::tr("of pitch, serve or shot"));
        auto* live = new QComboBox(this);
        live->setObjectName(QStringLiteral("live"));
        live->addItem(Bench::tr("live"), true);
        live->addItem(Bench::tr("shadow, without a ball"), false);
        live->setCurrentIndex(r.isLive ? 0 : 1);
        connect(live, &QComboBox::activated, this,
                [this, live] { change([&](store::RepetitionRow& after) { after.isLive = live->currentData().toBool(); }); });
        form->addRow(Bench::tr("Live or shadow"), live);
        addText(form, Bench::tr("Outcome"), QStringLiteral("outcome"), r.outcome, &store::RepetitionRow::outcome,
                Bench::tr("where the ball went"));
        auto* speed = new NumberField(this);
        speed->setObjectName(QStringLiteral("ballSpeed"));
        speed->setRange(0, 300);
        speed->setDecimals(1);
        speed->setSuffix(Bench::tr(" km/h"));
        speed->setSpecialValueText(Bench::tr("not measured"));
        speed->setValue(r.ballSpeed.value_or(0) * kKilometresPerHour);
        connect(speed, &QDoubleSpinBox::editingFinished, this, [this, speed] {
            change([&](store::RepetitionRow& after) {
                after.ballSpeed = speed->value() > 0 ? std::optional(speed->value() / kKilometresPerHour) : std::nullopt;
            });
        });
        form->addRow(Bench::tr("Ball speed"), speed);
        addOtherSide(form);
        auto* row = new QHBoxLayout;
        auto* add = new QPushButton(bench.player.loop() ? Bench::tr("New from the loop") : Bench::tr("New from here"), this);
        add->setObjectName(QStringLiteral("addRepetition"));
        add->setToolTip(Bench::tr("Another repetition in this clip (N)"));
        connect(add, &QPushButton::clicked, this, [this] {
            close();
            m_bench.repetitions.add();
        });
        auto* remove = new QPushButton(Bench::tr("Remove"), this);
        remove->setObjectName(QStringLiteral("removeRepetition"));
        remove->setEnabled(bench.context.repetitions().size() > 1);
        connect(remove, &QPushButton::clicked, this, [this] {
            close();
            m_bench.repetitions.remove();
        });
        row->addWidget(add);
        row->addStretch();
        row->addWidget(remove);
        form->addRow(row);
    }

private:
    template <class Change> void change(Change apply)
    {
        store::RepetitionRow after = m_bench.context.repetition();
        apply(after);
        m_bench.repetitions.change(Bench::tr("describe the repetition"), after);
    }

    /// Only where a clip of the day could show the same repetition.
    void addOtherSide(QFormLayout* form)
    {
        const auto choices = m_bench.repetitions.secondCameraChoices();
        if (choices.empty())
            return;
        auto* other = new QComboBox(this);
        other->setObjectName(QStringLiteral("otherSide"));
        other->setToolTip(Bench::tr("Where the same repetition was filmed by a second camera, turns of hips, shoulders and "
                                    "feet are read from both films and need no estimate."));
        other->addItem(Bench::tr("one camera only"));
        for (const auto& c : choices) {
            other->addItem(c.text, QVariant::fromValue(qlonglong(c.repetition.value)));
            if (m_bench.repetitions.secondCamera() == c.repetition)
                other->setCurrentIndex(other->count() - 1);
        }
        connect(other, &QComboBox::activated, this, [this, other](int index) {
            m_bench.repetitions.setSecondCamera(
                index == 0 ? std::nullopt : std::optional(store::RepetitionId(other->currentData().toLongLong())));
        });
        form->addRow(Bench::tr("Filmed at once"), other);
    }

    void addText(QFormLayout* form, const QString& label, const QString& name, const std::string& text,
                 std::string store::RepetitionRow::*field, const QString& hint = {})
    {
        auto* edit = new QLineEdit(QString::fromStdString(text), this);
        edit->setObjectName(name);
        edit->setPlaceholderText(hint);
        connect(edit, &QLineEdit::editingFinished, this, [this, edit, field] {
            change([&](store::RepetitionRow& after) { after.*field = edit->text().trimmed().toStdString(); });
        });
        form->addRow(label, edit);
    }

    Bench& m_bench;
};

} // namespace

RepetitionBar::RepetitionBar(Bench& bench, QWidget* parent) : QWidget(parent), m_bench(bench)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    const auto makeButton = [&](const QString& name, const QString& tip) {
        auto* button = new QToolButton(this);
        button->setObjectName(name);
        button->setToolTip(tip);
        button->setFocusPolicy(Qt::NoFocus);
        row->addWidget(button);
        return button;
    };
    m_clip = makeButton(QStringLiteral("nextClip"), tr("The next clip of the day (C; Shift+C: the one before)"));
    connect(m_clip, &QToolButton::clicked, this, [this] { m_bench.context.stepClip(1); });
    m_previous = makeButton(QStringLiteral("previousRepetition"), tr("The repetition before (Page Up)"));
    m_previous->setProperty("flat", true);
    m_edit = makeButton(QStringLiteral("editRepetition"), tr("What is known about this repetition; new ones (R)"));
    m_next = makeButton(QStringLiteral("nextRepetition"), tr("The next repetition (Page Down)"));
    m_next->setProperty("flat", true);
    connect(m_previous, &QToolButton::clicked, this, [this] { m_bench.context.stepRepetition(-1); });
    connect(m_next, &QToolButton::clicked, this, [this] { m_bench.context.stepRepetition(1); });
    connect(m_edit, &QToolButton::clicked, this, &RepetitionBar::edit);
    connect(&bench.context, &ClipContext::markingChanged, this, &RepetitionBar::refresh);
    connect(&Theme::instance(), &Theme::changed, this, &RepetitionBar::refresh);
    refresh();
}

void RepetitionBar::refresh()
{
    const auto& all = m_bench.context.repetitions();
    std::size_t here = 0;
    while (here < all.size() && all[here].id != m_bench.context.repetition().id)
        ++here;
    m_previous->setIcon(Theme::icon(QStringLiteral("step-back"), colours().ink));
    m_next->setIcon(Theme::icon(QStringLiteral("step-on"), colours().ink));
    m_previous->setVisible(all.size() > 1);
    m_next->setVisible(all.size() > 1);
    m_previous->setEnabled(here > 0);
    m_next->setEnabled(here + 1 < all.size());
    m_edit->setEnabled(!all.empty());
    const auto clips = m_bench.context.clipsOfDay().size();
    m_clip->setVisible(clips > 1);
    m_clip->setText(tr("Clip %1/%2").arg(m_bench.context.clipNumber() + 1).arg(clips));
    const bool hasTwoFilms = !all.empty() && m_bench.repetitions.secondCamera();
    QString text = all.size() > 1 ? tr("Repetition %1 of %2").arg(here + 1).arg(all.size())
                   : hasTwoFilms  ? tr("On two films")
                                  : tr("One repetition");
    if (all.size() > 1 && hasTwoFilms)
        text += tr(", two films");
    if (here < all.size() && !all[here].outcome.empty())
        text += QStringLiteral(" · ") + QString::fromStdString(all[here].outcome).left(18);
    m_edit->setText(m_edit->fontMetrics().elidedText(text, Qt::ElideRight, kWidestText)); // the row has to fit the window
}

void RepetitionBar::edit()
{
    if (m_bench.context.repetitions().empty())
        return;
    auto* form = new RepetitionForm(m_bench, this);
    form->adjustSize();
    form->move(m_edit->mapToGlobal(QPoint(m_edit->width() - form->width(), m_edit->height() + 4)));
    form->show();
    form->setFocus();
}

} // namespace kestrel::app
