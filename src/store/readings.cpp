#include "store/readings.h"

#include "store/db/rows.h"

namespace kestrel::store {

Expected<std::optional<KeptReadings>> Readings::kept(RepetitionId id) const
{
    return m_database
        ->run(QStringLiteral("SELECT reading_key, readings FROM kept_reading WHERE repetition=?"), {qlonglong(id.value)})
        .map([](QSqlQuery q) {
            return q.next() ? std::optional(KeptReadings{string(q, 0), string(q, 1)}) : std::nullopt;
        });
}

Expected<void> Readings::keep(RepetitionId id, const KeptReadings& kept)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(
            QStringLiteral("INSERT OR REPLACE INTO kept_reading (repetition, reading_key, readings) VALUES (?,?,?)"),
            {qlonglong(id.value), text(kept.key), text(kept.readings)}));
    });
}

} // namespace kestrel::store
