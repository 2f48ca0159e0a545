#pragma once

#include "core/base/error.h"

#include <QDate>

#include <optional>
#include <string>
#include <vector>

namespace kestrel::store {

/// The copies of a library's database that are made by themselves: one a day, and one before each change of its form. They lie in
/// the folder "copies" beside it and hold no films.
struct LibraryCopy {
    std::string file;
    QDate date; ///< on which it was made
    bool operator==(const LibraryCopy&) const = default;
};

inline constexpr int kCopiesKept = 7; ///< of the daily ones

/// Newest first.
std::vector<LibraryCopy> libraryCopies(const std::string& folder);

/// Makes today's copy, if there is none yet, and lets the oldest beyond kCopiesKept go. The library may be open.
/// Errors: CannotWrite, Database.
Expected<void> makeDailyCopy(const std::string& folder, const QDate& today);

/// Puts a copy in the place of the library, which must not be open. What stood there stays beside it as "library-damaged-N.db".
/// Errors: CannotWrite.
Expected<void> restoreCopy(const std::string& folder, const std::string& copy);

/// Removes every copy: they would keep what was removed for good.
Expected<void> removeCopies(const std::string& folder);

} // namespace kestrel::store
