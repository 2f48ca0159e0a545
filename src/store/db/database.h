#pragma once

#include "core/base/error.h"

#include <QSqlDatabase>
#include <QSqlQuery>
#include <QString>
#include <QVariant>

#include <functional>
#include <initializer_list>
#include <string>
#include <vector>

namespace kestrel::store {

/// One connection to one SQLite file. Movable; closes itself. To be used on the thread that opened it.
class Database {
public:
    enum class Mode { ReadWrite, ReadOnly };
    /// Errors: CannotOpen, Damaged (or not a database), CannotWrite.
    /// \param mayUse  asked before anything is written, journals included
    static Expected<Database> open(const std::string& file, Mode,
                                   const std::function<Expected<void>(const Database&)>& mayUse = {});

    Database(Database&&) noexcept;
    Database& operator=(Database&&) noexcept;
    ~Database();

    /// Runs one statement with its values bound in order. Errors: ReadOnly, CannotWrite (full disk), Database.
    Expected<QSqlQuery> run(const QString& sql, std::initializer_list<QVariant> values = {}) const;
    /// Runs one statement once for each row. \param columns  of as many values each
    Expected<void> runMany(const QString& sql, const std::vector<QVariantList>& columns) const;
    const std::string& file() const { return m_file; }

    /// Looks through the whole file. Errors: Damaged.
    Expected<void> check() const;

private:
    friend class Transaction;
    Expected<void> connect(Mode, bool isLonely);
    Database(QString connection, std::string file) : m_connection(std::move(connection)), m_file(std::move(file)) {}
    QString m_connection;
    std::string m_file;
    mutable int m_openTransactions = 0;
};

/// All or nothing: what is not committed by the end of the scope is undone. One inside another is part of it.
class Transaction {
public:
    explicit Transaction(const Database&);
    ~Transaction();
    Transaction(const Transaction&) = delete;
    Transaction& operator=(const Transaction&) = delete;

    /// Error of the beginning, if there was one, or of the commit.
    Expected<void> commit();

private:
    const Database& m_database;
    int m_depth;
    Expected<void> m_begun;
    bool m_open = false;
};

} // namespace kestrel::store
