#include "app/bench/second_camera.h"

#include "core/read/reading.h"

#include <QCoreApplication>
#include <QFileInfo>

namespace kestrel::app {

namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("OtherSide", text);
}

} // namespace

std::vector<SecondCameraChoice> secondCameraChoices(Workspace& workspace, const store::Clip& clip, store::RepetitionId id)
{
    std::vector<SecondCameraChoice> choices;
    for (const auto& other : workspace.valueOr(workspace.library().clips().of(clip.day))) {
        if (other.id == clip.id)
            continue;
        const auto repetitions = workspace.valueOr(workspace.library().repetitions().of(other.id));
        for (std::size_t i = 0; i < repetitions.size(); ++i) {
            const auto tied = workspace.valueOr(workspace.library().repetitions().secondCamera(repetitions[i].id));
            const bool isOurs = tied == id; // one whose view has been changed since can still be untied
            if (!isOurs && (tied || !seeTogether(clip.scene.view, other.scene.view)))
                continue;
            QString text = tr("%1 view, %2")
                               .arg(QString::fromStdString(plainWordsOf(other.scene.view)),
                                    QFileInfo(QString::fromStdString(other.file)).fileName());
            if (repetitions.size() > 1)
                text += tr(", repetition %1").arg(i + 1);
            choices.push_back({repetitions[i].id, text});
        }
    }
    return choices;
}

std::optional<PreparedRepetition> fromSecondCamera(Workspace& workspace, store::RepetitionId id)
{
    const auto other = workspace.valueOr(workspace.library().repetitions().secondCamera(id));
    if (!other)
        return std::nullopt;
    auto marking = workspace.library().marking(*other);
    return marking ? std::optional<PreparedRepetition>(std::in_place, std::move(*marking)) : std::nullopt;
}

void setSecondCamera(Workspace& workspace, store::RepetitionId id, std::optional<store::RepetitionId> other)
{
    const auto before = workspace.valueOr(workspace.library().repetitions().secondCamera(id));
    if (before == other)
        return;
    workspace.edit(
        tr("tie two films of a repetition"), [=](store::Library& l) { return l.repetitions().setSecondCamera(id, other); },
        [=](store::Library& l) { return l.repetitions().setSecondCamera(id, before); });
}

} // namespace kestrel::app
