#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <vector>

namespace kestrel::store {

/// Who is filmed.
class Athletes {
public:
    explicit Athletes(const Database& database) : m_database(&database) {}

    Expected<std::vector<Athlete>> all() const; ///< by name
    Expected<Athlete> find(AthleteId) const;    ///< NotFound
    Expected<AthleteId> add(const Athlete&);
    Expected<void> save(const Athlete&);

private:
    Expected<std::vector<Height>> heights(AthleteId) const;
    Expected<void> setHeights(AthleteId, const std::vector<Height>&);

    const Database* m_database;
};

} // namespace kestrel::store
