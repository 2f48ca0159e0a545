// A still of the picture stood at on the Bench.

#include "app/bench/bench_overlays.h"
#include "app/bench/bench_view.h"
#include "app/shell/file_dialogs.h"
#include "app/shell/theme.h"
#include "app/workspace/background.h"
#include "look/film_image.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QMenu>
#include <QToolButton>

namespace kestrel::app {

QToolButton* BenchView::makeStillButton()
{
    auto* button = new QToolButton(this);
    button->setObjectName(QStringLiteral("still"));
    button->setText(tr("Still"));
    button->setFocusPolicy(Qt::NoFocus);
    button->setPopupMode(QToolButton::MenuButtonPopup);
    button->setToolTip(m_commands.tip(QStringLiteral("copyStill"), tr("Copy this picture with the chosen reading")));
    auto* menu = new QMenu(button);
    menu->addAction(tr("Copy this picture") + QStringLiteral("\tCtrl+C"), this, &BenchView::copyStill);
    menu->addAction(tr("Save this picture…") + QStringLiteral("\tCtrl+S"), this, &BenchView::saveStill);
    button->setMenu(menu);
    connect(button, &QToolButton::clicked, this, &BenchView::copyStill);
    return button;
}

/// Of the picture stood at; empty, and said, without a film.
std::optional<Still> BenchView::still() const
{
    if (!m_bench.player.isOpen()) {
        emit m_bench.message(tr("There is no film to make a still of."));
        return std::nullopt;
    }
    Still still{m_bench.context.filmPath(), m_bench.player.index(), m_bench.player.frame(), stillOverlays(m_bench), colours()};
    still.hidesFaces = m_bench.context.hidesFaces();
    still.marking = m_bench.context.marking();
    for (const auto& row : m_bench.drawings.all())
        still.marking.drawings.push_back(row.drawing);
    still.repetition = {m_bench.context.repetition().first, m_bench.context.repetition().last};
    if (still.hidesFaces || m_bench.drawings.hidesAnything()) // a strobe's pictures are of the film as it is
        std::erase_if(still.overlays, [](const look::Overlay& o) { return std::holds_alternative<look::CutOutOverlay>(o); });
    return still;
}

void BenchView::copyStill()
{
    const auto wanted = still();
    if (!wanted)
        return;
    Background::run(
        this, [still = *wanted](std::stop_token stop) { return paintStill(still, stop); },
        [this](const Expected<QImage>& image) {
            if (image)
                QGuiApplication::clipboard()->setImage(*image);
            emit m_bench.message(image ? tr("Copied: a picture of %1 x %2.").arg(image->width()).arg(image->height())
                                       : QString::fromStdString(image.error().text()));
        });
}

void BenchView::saveStill()
{
    const auto wanted = still();
    if (!wanted)
        return;
    const QString name =
        QStringLiteral("%1 %2 picture %3.png")
            .arg(QString::fromStdString(m_bench.context.athlete().name), QString::fromStdString(m_bench.context.day().date))
            .arg(wanted->frame.value + 1);
    const QString file = askWhereToSave(this, FilePurpose::Documents, tr("Save this picture"), name, tr("Pictures (*.png)"));
    if (file.isEmpty())
        return;
    Background::run(
        this,
        [still = *wanted, file](std::stop_token stop) {
            return paintStill(still, stop).and_then([&](const QImage& image) {
                return look::saveImage(image, file.toStdString());
            });
        },
        [this, file](const Expected<void>& saved) {
            emit m_bench.message(saved ? tr("Saved %1.").arg(file) : QString::fromStdString(saved.error().text()));
        });
}

} // namespace kestrel::app
