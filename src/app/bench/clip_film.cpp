#include "app/bench/clip_film.h"

#include "app/workspace/background.h"
#include "app/workspace/row_edits.h"
#include "store/content_hash.h"
#include "store/film_stamp.h"

namespace kestrel::app {

ClipFilm::ClipFilm(Workspace& workspace, ClipContext& context, FilmPlayer& player, QObject* parent)
    : QObject(parent), m_workspace(workspace), m_context(context), m_player(player)
{
    connect(&m_context, &ClipContext::clipChanged, this, &ClipFilm::onClipChanged);
    connect(&m_context, &ClipContext::markingChanged, this, &ClipFilm::onMarkingChanged);
    connect(&m_context, &ClipContext::repetitionChosen, this, [this] { m_player.setFrame(m_context.repetition().first); });
    connect(&m_player, &FilmPlayer::opened, this, &ClipFilm::keepIndex);
}

/// Empty: the film has to be indexed anew, since the file looks different or was never opened.
std::string ClipFilm::knownIndex() const
{
    const auto known = m_workspace.valueOr(m_workspace.library().films().known(m_context.clip().contentHash));
    const auto stamp = store::findFilmStamp(m_context.filmPath());
    const bool isSame = known && stamp && known->bytes == stamp->bytes && known->modified == stamp->modified;
    return isSame ? known->index : std::string();
}

void ClipFilm::onClipChanged()
{
    m_openClip = m_context.clip().id;
    m_openFile = m_context.clip().file;
    if (!m_context.isOpen())
        return m_player.close();
    const auto& clip = m_context.clip();
    m_player.open(QString::fromStdString(m_context.filmPath()), knownIndex(), clip.film.frames, clip.clock);
}

void ClipFilm::onMarkingChanged()
{
    if (!m_context.isOpen() || m_context.clip().id != m_openClip)
        return;
    m_player.setRates(m_context.clip().clock);
    if (m_context.clip().file == m_openFile)
        return;
    m_openFile = m_context.clip().file;
    m_player.openAgain(QString::fromStdString(m_context.filmPath()), knownIndex());
}

/// The index is kept with what the file looked like; a file that looks different since is read again, to see whether it
/// is still the same film.
void ClipFilm::keepIndex(const std::string& indexBytes)
{
    const std::string file = m_context.filmPath();
    const std::string hash = m_context.clip().contentHash;
    const auto stamp = store::findFilmStamp(file);
    const auto known = m_workspace.valueOr(m_workspace.library().films().known(hash));
    if (!stamp || (known && known->bytes == stamp->bytes && known->modified == stamp->modified && known->index == indexBytes))
        return;
    Background::run(
        this, [file](std::stop_token stop) { return store::calcContentHash(file, stop); },
        [this, clip = m_openClip, hash, stamp = *stamp, indexBytes](const Expected<std::string>& now) {
            if (now && *now == hash)
                m_workspace.saveSilently([&](store::Library& l) {
                    return l.films().setKnown(hash, {stamp.bytes, stamp.modified, indexBytes});
                });
            else if (now && m_openClip == clip)
                emit message(tr("This film has changed since it was added. Marks and key positions may not fit any more."));
        });
}

void ClipFilm::relocate(const QString& folder)
{
    m_isSearching = true;
    emit searchingChanged();
    Background::run(
        this,
        [folder = folder.toStdString(), hash = m_context.clip().contentHash](std::stop_token stop) {
            return store::findByContent(folder, hash, stop);
        },
        [this, id = m_openClip](Expected<std::string> found) {
            m_isSearching = false;
            if (!found) {
                emit message(QString::fromStdString(found.error().text()));
            } else if (m_openClip == id) {
                store::Clip after = m_context.clip();
                after.file = m_workspace.library().storedPath(*found);
                changeRow(m_workspace, tr("find the film again"), m_context.clip(), after);
            }
            emit searchingChanged();
        });
}

} // namespace kestrel::app
