#include "app/other_side.h"

#include "core/reading.h"

#include <QCoreApplication>
#include <QFileInfo>

namespace kestrel::app {

namespace {

QString tr(const char* text)
{
    return QCoreApplication::translate("OtherSide", text);
}

} // namespace

std::vector<OtherSideChoice> otherSideChoices(Workspace& workspace, const store::Clip& clip, store::RepetitionId id)
{
    std::vector<OtherSideChoice> choices;
    for (const auto& other : workspace.valueOr(workspace.library().clips(clip.day))) {
        if (other.id == clip.id)
            continue;
        const auto repetitions = workspace.valueOr(workspace.library().repetitions(other.id));
        for (std::size_t i = 0; i < repetitions.size(); ++i) {
            const auto tied = workspace.valueOr(workspace.library().otherSide(repetitions[i].id));
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

std::optional<Repetition> fromOtherSide(Workspace& workspace, store::RepetitionId id)
{
    const auto other = workspace.valueOr(workspace.library().otherSide(id));
    if (!other)
        return std::nullopt;
    auto marking = workspace.library().marking(*other);
    return marking ? std::optional<Repetition>(std::in_place, std::move(*marking)) : std::nullopt;
}

void setOtherSide(Workspace& workspace, store::RepetitionId id, std::optional<store::RepetitionId> other)
{
    const auto before = workspace.valueOr(workspace.library().otherSide(id));
    if (before == other)
        return;
    workspace.edit(
        tr("tie two films of a repetition"), [=](store::Library& l) { return l.setOtherSide(id, other); },
        [=](store::Library& l) { return l.setOtherSide(id, before); });
}

} // namespace kestrel::app
