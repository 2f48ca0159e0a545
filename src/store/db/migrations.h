#pragma once

#include "store/db/database.h"

#include <QStringList>

#include <vector>

namespace kestrel::store {

/// The statements that lead from version n (the index) to n + 1. Only ever appended to.
const std::vector<QStringList>& migrations();

/// Brings the library to the given version (for tests) or the newest. Errors: WrongVersion for a newer library than
/// this program knows.
Expected<void> migrate(const Database&, int toVersion = static_cast<int>(migrations().size()));

/// Version of the library's tables; 0 for a new file.
Expected<int> schemaVersion(const Database&);

} // namespace kestrel::store
