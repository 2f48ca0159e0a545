#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <string>

namespace kestrel::store {

/// What is known of film files by their content, so that a film is indexed once.
class Films {
public:
    explicit Films(const Database& database) : m_database(&database) {}

    /// Empty: nothing.
    Expected<std::optional<KnownFilm>> known(const std::string& contentHash) const;
    Expected<void> setKnown(const std::string& contentHash, const KnownFilm&);

private:
    const Database* m_database;
};

} // namespace kestrel::store
