#pragma once

#include "app/workspace/workspace.h"

#include <QStringList>

namespace kestrel::app {

/// What stays on the disk after an athlete was removed.
struct RemovedAthlete {
    QString name;
    QStringList films; ///< those that are there, and no other clip of the library shows
};

/// Removes an athlete with all that belongs to it: no trace of it stays in the library's file, its journal or its copies. Undo
/// gives it back as long as the window is open. Nothing when that failed.
std::optional<RemovedAthlete> removeAthlete(Workspace&, store::AthleteId);

/// Deletes films for good. Errors: CannotWrite, with how many are left.
Expected<void> deleteFilms(const QStringList& films);

} // namespace kestrel::app
