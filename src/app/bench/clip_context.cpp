#include "app/bench/clip_context.h"

#include "app/shell/face_hiding.h"
#include "app/shell/settings.h"

#include <algorithm>

namespace kestrel::app {

ClipContext::ClipContext(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace)
{
    connect(&m_workspace, &Workspace::changed, this, [this](const Change& change) {
        if (change.subject < Change::Subject::Drawings) // what comes after does not change the clip
            reload();
    });
}

void ClipContext::open(store::ClipId id)
{
    m_clip = {};
    m_clip.id = id;
    m_repetition = {};
    reload();
    if (isOpen())
        emit clipChanged();
}

void ClipContext::close()
{
    m_clip = {};
    m_clips.clear();
    m_repetitions.clear();
    m_repetition = {};
    m_marking = {};
    m_pack = nullptr;
    emit clipChanged();
    emit markingChanged();
}

std::string ClipContext::filmPath() const
{
    return m_workspace.library().filmPath(m_clip);
}

void ClipContext::reload()
{
    if (!isOpen())
        return;
    const auto& library = m_workspace.library();
    const auto clip = library.clips().find(m_clip.id);
    if (!clip) // removed in the roster
        return close();
    m_clip = *clip;
    m_day = m_workspace.valueOr(library.days().find(m_clip.day));
    m_athlete = m_workspace.valueOr(library.athletes().find(m_day.athlete));
    m_pack = m_workspace.findPack(m_day.skill);
    m_clips = m_workspace.valueOr(library.clips().of(m_clip.day));
    m_repetitions = m_workspace.valueOr(library.repetitions().of(m_clip.id));
    if (m_repetitions.empty())
        return close();
    const auto same = std::find_if(m_repetitions.begin(), m_repetitions.end(),
                                   [this](const store::RepetitionRow& r) { return r.id == m_repetition.id; });
    m_repetition = same == m_repetitions.end() ? m_repetitions.front() : *same;
    m_marking = m_workspace.valueOr(library.marking(m_repetition.id));
    emit markingChanged();
}

bool ClipContext::isConsentMissing() const
{
    return isOpen() && app::isConsentMissing(m_athlete, m_marking.athlete.age);
}

bool ClipContext::hidesFaces() const
{
    return isOpen() ? app::hidesFaces(m_athlete, m_marking.athlete.age) : Settings::faceHiding() == FaceHiding::Always;
}

std::size_t ClipContext::clipNumber() const
{
    std::size_t n = 0;
    while (n < m_clips.size() && m_clips[n].id != m_clip.id)
        ++n;
    return n;
}

void ClipContext::setRepetition(store::RepetitionId id)
{
    const auto wanted =
        std::find_if(m_repetitions.begin(), m_repetitions.end(), [id](const store::RepetitionRow& r) { return r.id == id; });
    if (wanted == m_repetitions.end() || id == m_repetition.id)
        return;
    m_repetition = *wanted;
    reload();
    emit repetitionChosen();
}

void ClipContext::stepRepetition(int direction)
{
    for (std::size_t i = 0; i < m_repetitions.size(); ++i)
        if (m_repetitions[i].id == m_repetition.id) {
            const auto next = static_cast<std::ptrdiff_t>(i) + direction;
            if (next >= 0 && next < static_cast<std::ptrdiff_t>(m_repetitions.size()))
                setRepetition(m_repetitions[static_cast<std::size_t>(next)].id);
            return;
        }
}

void ClipContext::stepClip(int direction)
{
    if (m_clips.size() < 2) {
        if (isOpen())
            emit message(tr("This is the day's only clip."));
        return;
    }
    const auto count = static_cast<std::ptrdiff_t>(m_clips.size());
    const auto next = (static_cast<std::ptrdiff_t>(clipNumber()) + direction + count) % count;
    open(m_clips[static_cast<std::size_t>(next)].id);
}

} // namespace kestrel::app
