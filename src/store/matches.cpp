#include "store/matches.h"

#include "store/db/rows.h"

namespace kestrel::store {

namespace {

std::optional<MatchRow> rowIn(const QSqlQuery& q, const std::string& file)
{
    const auto log = parseMatchLog(nlohmann::json::parse(string(q, 1), nullptr, false), file);
    return log ? std::optional(MatchRow{MatchId(q.value(0).toLongLong()), *log}) : std::nullopt;
}

/// Logs that are damaged are left out.
Expected<std::vector<MatchRow>> rowsIn(Expected<QSqlQuery> q, const std::string& file)
{
    if (!q)
        return tl::unexpected(q.error());
    std::vector<MatchRow> rows;
    while (q->next())
        if (auto row = rowIn(*q, file))
            rows.push_back(std::move(*row));
    return rows;
}

} // namespace

Expected<std::vector<MatchRow>> Matches::all() const
{
    return rowsIn(m_database->run(QStringLiteral("SELECT id, content FROM match_log ORDER BY id DESC")), m_database->file());
}

Expected<std::vector<MatchRow>> Matches::on(const std::string& date) const
{
    return rowsIn(m_database->run(QStringLiteral("SELECT id, content FROM match_log WHERE json_valid(content)"
                                                 " AND json_extract(content, '$.date')=? ORDER BY id DESC"),
                                  {text(date)}),
                  m_database->file());
}

Expected<MatchRow> Matches::find(MatchId id) const
{
    auto q = m_database->run(QStringLiteral("SELECT id, content FROM match_log WHERE id=?"), {qlonglong(id.value)});
    if (!q)
        return tl::unexpected(q.error());
    if (q->next())
        if (auto row = rowIn(*q, m_database->file()))
            return std::move(*row);
    return fail(ErrorCode::NotFound, "This match is no longer in the library.", m_database->file());
}

Expected<MatchId> Matches::add(const MatchLog& log)
{
    return added<MatchId>(*m_database, [&](MatchId& id) {
        return idOf(m_database->run(QStringLiteral("INSERT INTO match_log (uuid, content) VALUES (?,?)"),
                                    {newUuid(), text(toJson(log).dump())}),
                    id);
    });
}

Expected<void> Matches::save(MatchId id, const MatchLog& log)
{
    return inTransaction(*m_database, [&] {
        return nothing(m_database->run(QStringLiteral("UPDATE match_log SET content=? WHERE id=?"),
                                       {text(toJson(log).dump()), qlonglong(id.value)}));
    });
}

} // namespace kestrel::store
