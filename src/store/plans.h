#pragma once

#include "core/plan/plan.h"
#include "store/db/database.h"
#include "store/records.h"

#include <map>
#include <optional>

namespace kestrel::store {

/// Plans of practice. Each change is kept as a version; the last one holds.
class Plans {
public:
    explicit Plans(const Database& database) : m_database(&database) {}

    Expected<std::optional<Plan>> latest(AthleteId) const; ///< empty: none yet
    Expected<std::map<AthleteId, Plan>> latest() const;    ///< of everybody who has one
    Expected<std::vector<Plan>> versions(AthleteId) const; ///< latest first
    Expected<void> add(AthleteId, const Plan&);
    Expected<void> removeLatest(AthleteId); ///< the one before holds again

private:
    const Database* m_database;
};

} // namespace kestrel::store
