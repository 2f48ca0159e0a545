#include "store/archive.h"

#include "store/db/rows.h"

#include <QSqlRecord>

namespace kestrel::store {

Expected<std::vector<Archive::Link>> Archive::childrenOf(const QString& table) const
{
    return all<Link>(m_database->run(QStringLiteral("SELECT m.name, f.\"from\" FROM sqlite_master m"
                                                    " JOIN pragma_foreign_key_list(m.name) f ON f.\"table\" = ?"
                                                    " WHERE m.type = 'table' ORDER BY m.name"),
                                     {table}),
                     [](const QSqlQuery& q) {
                         return Link{q.value(0).toString(), q.value(1).toString()};
                     });
}

Expected<void> Archive::collect(const QString& table, const QString& column, const QVariantList& keys, TakenRows& into) const
{
    QVariantList ids;
    for (const auto& key : keys) {
        auto rows = m_database->run(QStringLiteral("SELECT * FROM %1 WHERE %2=?").arg(table, column), {key});
        if (!rows)
            return tl::unexpected(rows.error());
        const QSqlRecord header = rows->record();
        QStringList columns;
        for (int i = 0; i < header.count(); ++i)
            columns << header.fieldName(i);
        const int id = header.indexOf(QStringLiteral("id"));
        while (rows->next()) {
            TakenRows::Row row{table, columns, {}};
            for (int i = 0; i < header.count(); ++i)
                row.values << rows->value(i);
            if (id >= 0)
                ids << rows->value(id);
            into.rows.push_back(std::move(row));
        }
    }
    if (ids.isEmpty())
        return {};
    const auto children = childrenOf(table);
    if (!children)
        return tl::unexpected(children.error());
    for (const auto& child : *children)
        if (const auto done = collect(child.table, child.column, ids, into); !done)
            return done;
    return {};
}

Expected<TakenRows> Archive::read(const QString& table, std::int64_t id) const
{
    TakenRows whole;
    if (const auto done = collect(table, QStringLiteral("id"), {qlonglong(id)}, whole); !done)
        return tl::unexpected(done.error());
    if (whole.rows.empty())
        return fail(ErrorCode::NotFound, "This is no longer in the library.", m_database->file());
    return whole;
}

Expected<TakenRows> Archive::take(const QString& table, std::int64_t id)
{
    auto whole = read(table, id);
    if (!whole)
        return whole;
    return inTransaction(
               *m_database,
               [&] { return nothing(m_database->run(QStringLiteral("DELETE FROM %1 WHERE id=?").arg(table), {qlonglong(id)})); })
        .map([&] { return std::move(*whole); });
}

Expected<void> Archive::restore(const TakenRows& taken)
{
    return inTransaction(*m_database, [&]() -> Expected<void> {
        // rows of one table in one statement: marks come in thousands
        for (std::size_t first = 0; first < taken.rows.size();) {
            const auto& head = taken.rows[first];
            std::vector<QVariantList> columns(static_cast<std::size_t>(head.columns.size()));
            std::size_t end = first;
            for (; end < taken.rows.size() && taken.rows[end].table == head.table; ++end)
                for (std::size_t i = 0; i < columns.size(); ++i)
                    columns[i] << taken.rows[end].values[static_cast<qsizetype>(i)];
            const QString places = QStringList(head.columns.size(), QStringLiteral("?")).join(QLatin1Char(','));
            const QString sql =
                QStringLiteral("INSERT INTO %1 (%2) VALUES (%3)").arg(head.table, head.columns.join(QLatin1Char(',')), places);
            if (const auto done = m_database->runMany(sql, columns); !done)
                return done;
            first = end;
        }
        return {};
    });
}

Expected<std::string> Archive::uuid(const QString& table, std::int64_t id) const
{
    return only(all<std::string>(m_database->run(QStringLiteral("SELECT uuid FROM %1 WHERE id=?").arg(table), {qlonglong(id)}),
                                 [](const QSqlQuery& q) { return string(q, 0); }),
                "row", m_database->file());
}

} // namespace kestrel::store
