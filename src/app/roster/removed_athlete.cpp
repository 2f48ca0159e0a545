#include "app/roster/removed_athlete.h"

#include <QFile>

#include <algorithm>
#include <set>

namespace kestrel::app {

namespace {

QStringList ownFilms(Workspace& workspace, store::AthleteId athlete)
{
    const auto& library = workspace.library();
    std::set<std::string> own, others;
    for (const auto& somebody : workspace.valueOr(library.athletes().all()))
        for (const auto& day : workspace.valueOr(library.days().of(somebody.id)))
            for (const auto& clip : workspace.valueOr(library.clips().of(day.id)))
                (somebody.id == athlete ? own : others).insert(library.filmPath(clip));
    QStringList films;
    for (const auto& file : own)
        if (others.count(file) == 0 && QFile::exists(QString::fromStdString(file)))
            films << QString::fromStdString(file);
    return films;
}

} // namespace

std::optional<RemovedAthlete> removeAthlete(Workspace& workspace, store::AthleteId id)
{
    const auto athlete = workspace.library().athletes().find(id);
    if (!athlete)
        return std::nullopt;
    RemovedAthlete removed{QString::fromStdString(athlete->name), ownFilms(workspace, id)};
    auto kept = std::make_shared<store::TakenRows>();
    const auto done = workspace.edit(
        QObject::tr("remove %1").arg(removed.name),
        [=](store::Library& l) -> Expected<void> {
            return l.take(id).map([&](store::TakenRows rows) { *kept = std::move(rows); }).and_then([&] {
                return l.forgetRemoved();
            });
        },
        [=](store::Library& l) { return l.restore(*kept); });
    return done ? std::optional(std::move(removed)) : std::nullopt;
}

Expected<void> deleteFilms(const QStringList& films)
{
    const auto left = std::count_if(films.begin(), films.end(), [](const QString& f) { return !QFile::remove(f); });
    if (left == 0)
        return {};
    return fail(ErrorCode::CannotWrite,
                std::to_string(left) + " of the films could not be deleted; check the folder's permissions.",
                films.front().toStdString());
}

} // namespace kestrel::app
