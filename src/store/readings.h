#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <string>

namespace kestrel::store {

/// The readings of a repetition as they were last calculated, with the key of everything they depended on: what has not
/// changed need not be read again, and progress over months needs no marks.
struct KeptReadings {
    std::string key;
    std::string readings; ///< JSON
    bool operator==(const KeptReadings&) const = default;
};

class Readings {
public:
    explicit Readings(const Database& database) : m_database(&database) {}

    /// Empty: never calculated.
    Expected<std::optional<KeptReadings>> kept(RepetitionId) const;
    Expected<void> keep(RepetitionId, const KeptReadings&);

private:
    const Database* m_database;
};

} // namespace kestrel::store
