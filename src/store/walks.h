#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <optional>
#include <string>

namespace kestrel::store {

/// The coach's own walk-through of a filming day, as JSON (report/walk.h); what was not changed is proposed anew each time.
class Walks {
public:
    explicit Walks(const Database& database) : m_database(&database) {}

    Expected<std::optional<std::string>> of(DayId) const; ///< empty: nothing was changed
    /// Whether any walk-through, also one that has left, names that file of a voice or picture.
    Expected<bool> names(const std::string& file) const;
    Expected<void> set(DayId, const std::optional<std::string>&);

private:
    const Database* m_database;
};

} // namespace kestrel::store
