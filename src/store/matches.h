#pragma once

#include "core/match/match_log.h"
#include "store/db/database.h"
#include "store/records.h"

namespace kestrel::store {

/// A match that was logged.
struct MatchRow {
    MatchId id;
    MatchLog log;
};

/// Matches. They belong to the library, and name their players in words.
class Matches {
public:
    explicit Matches(const Database& database) : m_database(&database) {}

    Expected<std::vector<MatchRow>> all() const;                       ///< latest first
    Expected<std::vector<MatchRow>> on(const std::string& date) const; ///< played on that day, "2026-04-11"
    Expected<MatchRow> find(MatchId) const;                            ///< NotFound
    Expected<MatchId> add(const MatchLog&);
    Expected<void> save(MatchId, const MatchLog&);

private:
    const Database* m_database;
};

} // namespace kestrel::store
