#include "store/walks.h"

#include "store/db/rows.h"

namespace kestrel::store {

Expected<std::optional<std::string>> Walks::of(DayId id) const
{
    return m_database->run(QStringLiteral("SELECT content FROM walk WHERE day=?"), {qlonglong(id.value)}).map([](QSqlQuery q) {
        return q.next() ? std::optional(string(q, 0)) : std::nullopt;
    });
}

Expected<bool> Walks::names(const std::string& file) const
{
    return m_database
        ->run(QStringLiteral("SELECT EXISTS (SELECT 1 FROM walk WHERE instr(content, ?) > 0) OR EXISTS (SELECT 1 FROM sent"
                             " WHERE kind = 'walk' AND instr(CAST(content AS TEXT), ?) > 0)"),
              {text(file), text(file)})
        .map([](QSqlQuery q) { return q.next() && q.value(0).toBool(); });
}

Expected<void> Walks::set(DayId id, const std::optional<std::string>& content)
{
    return inTransaction(*m_database, [&] {
        return content ? nothing(m_database->run(QStringLiteral("INSERT OR REPLACE INTO walk (day, content) VALUES (?,?)"),
                                                 {qlonglong(id.value), text(*content)}))
                       : nothing(m_database->run(QStringLiteral("DELETE FROM walk WHERE day=?"), {qlonglong(id.value)}));
    });
}

} // namespace kestrel::store
