#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <map>
#include <set>

#include <optional>
#include <string>
#include <vector>

namespace kestrel::store {

/// What went to players and families, as it left.
class Sent {
public:
    explicit Sent(const Database& database) : m_database(&database) {}

    /// Latest first, without their content.
    Expected<std::vector<SentRow>> of(AthleteId) const;
    Expected<SentRow> find(SentId) const; ///< with its content. NotFound
    /// The latest filming day that a page of everybody's left for.
    Expected<std::map<AthleteId, std::string>> lastPages() const;
    Expected<SentId> add(const SentRow&);

private:
    const Database* m_database;
};

} // namespace kestrel::store
