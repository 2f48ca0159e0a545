#include "app/window/settings_form.h"

#include "app/shell/settings.h"

#include <QComboBox>
#include <QFormLayout>
#include <QLabel>

namespace kestrel::app {

namespace {

constexpr int kChoicesMiB[] = {128, 256, 512, 1024, 2048, 4096};

} // namespace

SettingsForm::SettingsForm(Bench& bench, QWidget* beside) : QFrame(beside->window(), Qt::Popup)
{
    setObjectName(QStringLiteral("settings"));
    setProperty("card", true);
    setAttribute(Qt::WA_DeleteOnClose);
    auto* form = new QFormLayout(this);
    form->setContentsMargins(16, 14, 16, 14);
    auto* memory = new QComboBox(this);
    memory->setObjectName(QStringLiteral("filmMemory"));
    memory->addItem(tr("by itself (%1 MiB now)").arg(media::FilmService::defaultCeiling() >> 20), 0);
    for (const int mib : kChoicesMiB)
        memory->addItem(tr("%1 MiB").arg(mib), mib);
    memory->setCurrentIndex(std::max(0, memory->findData(static_cast<int>(Settings::filmMemory().value_or(0) >> 20))));
    connect(memory, &QComboBox::activated, this, [memory] {
        const auto mib = static_cast<std::size_t>(memory->currentData().toInt());
        Settings::setFilmMemory(mib > 0 ? std::optional(mib << 20) : std::nullopt);
        FilmPlayer::setMemory(Settings::filmMemory());
    });
    form->addRow(tr("Memory for pictures of the film"), memory);
    auto* tasks = new QComboBox(this);
    tasks->setObjectName(QStringLiteral("tasks"));
    tasks->addItem(tr("one thing"), 1);
    tasks->addItem(tr("up to two"), 2);
    tasks->addItem(tr("up to three"), 3);
    tasks->setCurrentIndex(tasks->findData(Settings::tasks()));
    connect(tasks, &QComboBox::activated, this, [tasks, &bench] {
        Settings::setTasks(tasks->currentData().toInt());
        bench.review.applySettings();
    });
    auto* note = new QLabel(tr("More keeps more of the film ready for steps in both directions."), this);
    note->setProperty("muted", true);
    form->addRow(note);
    form->addRow(tr("What goes home with a player"), tasks);
    adjustSize();
    const QPoint corner = beside->mapToGlobal(QPoint(beside->width() + 6, beside->height()));
    move(corner - QPoint(0, height()));
    show();
}

} // namespace kestrel::app
