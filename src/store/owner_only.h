#pragma once

#include <QDir>
#include <QFile>

namespace kestrel::store {

/// Children's names, dates and films are for the owner's eyes alone.
inline constexpr auto kOwnerOnly = QFile::ReadOwner | QFile::WriteOwner;

/// Makes a folder that only its owner may look into; one that is there already stays as it is. False: it cannot be made.
inline bool makeOwnFolder(const QString& folder)
{
    if (QDir(folder).exists())
        return true;
    return QDir().mkpath(folder) && QFile::setPermissions(folder, kOwnerOnly | QFile::ExeOwner);
}

} // namespace kestrel::store
