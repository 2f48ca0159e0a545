#include "app/workspace/clip_import.h"

#include "app/workspace/day_edits.h"
#include "app/workspace/row_edits.h"
#include "media/film.h"
#include "store/content_hash.h"
#include "store/film_stamp.h"

#include <QFileInfo>

namespace kestrel::app {

namespace {

/// Everything there is to know about a film before it becomes a clip; without the day.
Expected<ClipImport::Looked> lookAt(const std::string& file, std::stop_token stop)
{
    const auto film = media::Film::open(file, {.stop = stop});
    if (!film)
        return tl::unexpected(film.error());
    const auto hash = store::calcContentHash(file, stop);
    if (!hash)
        return tl::unexpected(hash.error());
    store::Clip clip;
    clip.file = file;
    clip.contentHash = *hash;
    clip.film = {{}, film->info().size.width, film->info().size.height, film->info().frames()};
    const double rate = film->info().frameRate > 0 ? film->info().frameRate : 30;
    clip.clock = {rate, rate};
    return ClipImport::Looked{clip, film->indexBytes()};
}

} // namespace

ClipImport::ClipImport(Workspace& workspace, QObject* parent) : QObject(parent), m_workspace(workspace) {}

void ClipImport::add(store::DayId day, const QStringList& files)
{
    if (isRunning() && day.value != m_day.value) {
        emit m_workspace.failed(
            {ErrorCode::BadArgument, "Clips are still being added to another day; wait for them or cancel.", {}, {}});
        return;
    }
    m_day = day;
    m_waiting += files;
    m_total += static_cast<int>(files.size());
    if (m_total == static_cast<int>(files.size()))
        next();
}

void ClipImport::cancel()
{
    m_work.stop();
    m_waiting.clear();
    m_done = m_total = 0;
    emit progress(0, 0, {});
}

void ClipImport::next()
{
    if (m_waiting.isEmpty()) {
        m_done = m_total = 0;
        emit progress(0, 0, {});
        return;
    }
    const QString file = m_waiting.takeFirst();
    emit progress(m_done, m_total, QFileInfo(file).fileName());
    m_work = Background::run(
        this, [file](std::stop_token stop) { return lookAt(file.toStdString(), stop); },
        [this, file](Expected<Looked> looked) { onLooked(file, std::move(looked)); });
}

void ClipImport::onLooked(const QString& file, Expected<Looked> looked)
{
    ++m_done;
    if (!looked) {
        emit m_workspace.failed(looked.error());
    } else if (const auto day = m_workspace.library().days().find(m_day); !day) {
        emit m_workspace.failed(day.error());
    } else if (const auto athlete = m_workspace.library().athletes().find(day->athlete); !athlete) {
        emit m_workspace.failed(athlete.error());
    } else {
        store::Clip clip = looked->clip;
        if (const auto stamp = store::findFilmStamp(file.toStdString()))
            m_workspace.saveSilently([&](store::Library& l) {
                return l.films().setKnown(clip.contentHash, {stamp->bytes, stamp->modified, looked->index});
            });
        clip.day = m_day;
        clip.file = m_workspace.library().storedPath(file.toStdString());
        const Pack* pack = m_workspace.findPack(day->skill);
        setUsualScene(clip, *day, *athlete, pack);
        const std::string variant = pack ? pack->usualVariant() : std::string();
        if (const auto id = addRow(m_workspace, tr("add %1").arg(QFileInfo(file).fileName()), clip, variant); id.isValid())
            emit added(id);
    }
    next();
}

} // namespace kestrel::app
