#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <vector>

namespace kestrel::store {

/// What coaches drew on repetitions.
class Drawings {
public:
    explicit Drawings(const Database& database) : m_database(&database) {}

    /// What is seen on a repetition, in the order it was drawn: its own, and what is shared on its day (isShared). A kind that
    /// this version does not know is left out.
    Expected<std::vector<DrawingRow>> seenOn(RepetitionId) const;
    Expected<DrawingId> add(const DrawingRow&);
    Expected<void> save(const DrawingRow&);

private:
    const Database* m_database;
};

} // namespace kestrel::store
