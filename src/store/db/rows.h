#pragma once

#include "core/base/error.h"
#include "store/db/database.h"

#include <QString>
#include <QUuid>
#include <QVariant>

#include <optional>
#include <string>
#include <vector>

/// What the library's files share to read and write rows.
namespace kestrel::store {

/// Never null: the columns hold texts.
inline QString text(const std::string& s)
{
    return s.empty() ? QStringLiteral("") : QString::fromStdString(s);
}

inline QString text(std::string_view s)
{
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

inline QVariant number(const std::optional<double>& v)
{
    return v ? QVariant(*v) : QVariant(QMetaType::fromType<double>());
}

inline QVariant idOrNull(std::int64_t id)
{
    return id > 0 ? QVariant(static_cast<qlonglong>(id)) : QVariant(QMetaType::fromType<qlonglong>());
}

inline std::string string(const QSqlQuery& q, int column)
{
    return q.value(column).toString().toStdString();
}

/// A word written by a newer program, or damage, falls back to the first choice rather than losing the row.
template <class Find> auto word(const QSqlQuery& q, int column, Find find)
{
    return find(string(q, column)).value_or(typename decltype(find(""))::value_type());
}

template <class Row, class Read> Expected<std::vector<Row>> all(Expected<QSqlQuery> query, Read read)
{
    if (!query)
        return tl::unexpected(query.error());
    std::vector<Row> rows;
    while (query->next())
        rows.push_back(read(*query));
    return rows;
}

template <class Row> Expected<Row> only(Expected<std::vector<Row>> rows, const std::string& what, const std::string& file)
{
    if (!rows)
        return tl::unexpected(rows.error());
    if (rows->empty())
        return fail(ErrorCode::NotFound, "This " + what + " is no longer in the library.", file);
    return rows->front();
}

/// Runs all in one transaction.
template <class Work> Expected<void> inTransaction(const Database& database, Work work)
{
    Transaction transaction(database);
    if (const Expected<void> done = work(); !done)
        return done;
    return transaction.commit();
}

/// For a row that has to be known in every library.
inline QString newUuid()
{
    return QUuid::createUuid().toString(QUuid::WithoutBraces);
}

/// The id of the row that the query inserted.
template <class Id> Expected<void> idOf(const Expected<QSqlQuery>& inserted, Id& id)
{
    if (!inserted)
        return tl::unexpected(inserted.error());
    id = Id(inserted->lastInsertId().toLongLong());
    return {};
}

/// Runs an insertion in a transaction, which sets the id that is given back.
template <class Id, class Insert> Expected<Id> added(const Database& database, Insert insert)
{
    Id id;
    const Expected<void> done = inTransaction(database, [&]() -> Expected<void> { return insert(id); });
    return done ? Expected<Id>(id) : tl::unexpected(done.error());
}

inline Expected<void> nothing(const Expected<QSqlQuery>& q)
{
    if (!q)
        return tl::unexpected(q.error());
    return {};
}

} // namespace kestrel::store
