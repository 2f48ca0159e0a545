#pragma once

#include "store/db/database.h"
#include "store/records.h"

#include <QString>
#include <QVariant>

#include <vector>

namespace kestrel::store {

/// Rows of any tables, parents before children: what a removal takes and an undo gives back.
struct TakenRows {
    struct Row {
        QString table;
        QStringList columns;
        QVariantList values;
        bool operator==(const Row&) const = default;
    };
    std::vector<Row> rows;
    bool operator==(const TakenRows&) const = default;
};

/// The whole of an athlete, a day, a clip or a repetition: its row and every row that belongs to it by a foreign key, found in
/// the database itself, so that no table can be forgotten.
class Archive {
public:
    explicit Archive(const Database& database) : m_database(&database) {}

    Expected<TakenRows> read(const QString& table, std::int64_t id) const; ///< NotFound
    /// Reads and removes.
    Expected<TakenRows> take(const QString& table, std::int64_t id);
    /// Gives back under the same ids.
    Expected<void> restore(const TakenRows&);
    /// The name of a row that holds in every library.
    Expected<std::string> uuid(const QString& table, std::int64_t id) const;

private:
    struct Link {
        QString table, column;
    };
    Expected<std::vector<Link>> childrenOf(const QString& table) const;
    Expected<void> collect(const QString& table, const QString& column, const QVariantList& keys, TakenRows&) const;

    const Database* m_database;
};

} // namespace kestrel::store
